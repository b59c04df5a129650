import {
  ageText,
  bestSpotText,
  completenessOf,
  completenessText,
  LISTENING_HEAD,
  listeningRows,
  listeningSpots,
  marksOf,
  markTitle,
  measuredText,
  ratingText,
} from '../core/recall';
import type { Session } from '../core/session';
import type { ReportModel } from './measurement-report';

/** What worked in a hall, on paper: marks, listening spots, and what is missing. @param now ISO 8601 */
export function recallReport(session: Session, now: string): ReportModel {
  const { units } = session.settings;
  const known = marksOf(session);
  const marks = known.filter(({ mark }) => mark.use === 'microphones');
  const spots = listeningSpots(known);
  const complete = completenessOf(session);
  return {
    title: session.title,
    facts: [session.venue.name, session.brief.date].filter(Boolean).join(' · '),
    sentences: [...(spots.length > 0 ? [bestSpotText(spots)] : []), completenessText(complete)],
    tables: [
      ...(marks.length > 0
        ? [
            {
              title: 'Marks',
              head: ['Mark', 'For', 'Rating', 'Measured', 'Said of it'],
              rows: marks.map((one) => [
                markTitle(one),
                one.mark.instrument || 'the whole',
                [ratingText(one.mark.rating), one.mark.by, ageText(one.since, now)]
                  .filter(Boolean)
                  .join(', '),
                measuredText(one.mark, units),
                [one.mark.text, one.mark.tags.join(', ')].filter(Boolean).join('; '),
              ]),
            },
          ]
        : []),
      ...(spots.length > 0
        ? [{ title: 'Listening spots', head: [...LISTENING_HEAD], rows: listeningRows(spots) }]
        : []),
      ...(complete.missing.length > 0
        ? [
            {
              title: 'What is missing',
              head: ['Of', 'What', 'Why'],
              rows: complete.missing.map(({ subject, what, need }) => [subject, what, need]),
            },
          ]
        : []),
    ],
  };
}
