import type { Session } from '../session/schema';
import { formatNumber } from '../units/format';
import { CUSTOMARY_WIDTH_PCT, wantedOf } from './criteria';
import { namesOf } from './findings/finding';
import type { PictureJudgement, PictureVerdict } from './pair-fields';

/** A verdict on a picture in a word or two, as it stands in its field. */
export const VERDICT_WORDS: Readonly<Record<PictureVerdict, string>> = {
  broken: 'no stable place',
  crowded: 'crowded',
  hole: 'hole',
  elsewhere: 'not where wanted',
  narrow: 'narrow',
  wide: 'too wide',
  fits: 'fits',
};

const pct = (value: number | null): string => `${formatNumber(value ?? 0, 0)} %`;

/**
 * A judgement in a sentence, with its figure or its players.
 * @param players how many it is about, 0 … 500
 */
export function pictureText(
  session: Session,
  judgement: PictureJudgement,
  players: number,
): string {
  const { verdict, ids, widthPct, gapPct } = judgement;
  const names = namesOf(
    session,
    ids.map((id) => ({ id })),
  );
  const who = names.includes(' and ') ? names : names.replace(/, ([^,]*)$/, ' and $1');
  const one = ids.length === 1;
  const { imageWidthPct } = session.brief.intent;
  const usual = players > 1 ? CUSTOMARY_WIDTH_PCT : wantedOf(session, 1).widthPct;
  const measure =
    imageWidthPct === null
      ? `customary ${usual.min === 0 ? `is up to` : `are ${usual.min} to`} ${usual.max} %`
      : `${imageWidthPct} % is wanted`;
  if (players === 0) return 'Nobody plays yet: there is no picture to judge.';
  switch (verdict) {
    case 'broken':
      return `${who} ${one ? 'has' : 'have'} no stable place: in antiphase, or turned left for right.`;
    case 'crowded':
      return `Crowded: ${who} ${one ? 'is' : 'are'} heard at a loudspeaker.`;
    case 'hole':
      return `A hole: ${pct(gapPct)} of the base lie empty between neighbours.`;
    case 'elsewhere':
      return `${who} ${one ? 'is' : 'are'} not where wanted.`;
    case 'narrow':
      return `Narrow: the picture is ${pct(widthPct)} wide, ${measure}.`;
    case 'wide':
      return `Too wide: the picture is ${pct(widthPct)} wide, ${measure}.`;
    case 'fits':
      return widthPct === 0
        ? 'It fits: one point has no width to judge.'
        : `It fits: the picture is ${pct(widthPct)} wide${players > 2 ? `, its largest gap ${pct(gapPct)}` : ''}.`;
  }
}
