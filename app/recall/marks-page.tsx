import { useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import {
  againstText,
  ageText,
  markTitle,
  marksOf,
  measuredText,
  placedInHall,
  ratingText,
  tapesText,
  type KnownMark,
} from '../../core/recall';
import { takesOf } from '../../core/soundcheck';
import { amend, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { usePicture } from '../keeping/use-picture';
import { downloadJson, downloadTable } from '../keeping/tables';
import { Offered, PutUp } from '../parts/offered';
import { notify, notifyFailure } from '../view/notices';
import { recallReport } from '../../paper/recall-report';
import { exportReport } from '../keeping/exports';
import { chooseFiles } from '../keeping/files';
import type { Mark } from '../../core/session';
import { SaidField } from '../parts/said-field';
import { HallPlan } from './hall-plan';
import { picturesOf, tagsOf } from './marks';
import { NewMark } from './new-mark';

/** A photograph of a mark, as it is kept. */
function Picture({ id, of }: { id: string; of: string }) {
  const { blobs } = useSession();
  const address = usePicture(blobs, id);
  return address === null ? null : (
    <a href={address} target="_blank" rel="noreferrer">
      <img src={address} alt={`Photograph of ${of}`} className="border-hairline h-24 border" />
    </a>
  );
}

const ORIGIN_WORDS = {
  hand: 'measured by hand',
  plan: 'as planned',
  'as built': 'as built',
  option: 'of an option',
  sweep: 'of a sweep',
} as const;

/** One picture more of a mark: what was said before stays readable. */
async function addPictures(mark: Mark, files: readonly File[]): Promise<void> {
  const pictures = await picturesOf(files);
  if (pictures.length === 0) return;
  const photographs = [...mark.photographs, ...pictures.map(({ id }) => id)].slice(0, 20);
  amend('marks', mark.id, { photographs }, pictures);
}

/** What is said of a mark: each can be said anew, and what was said before stays readable. */
function SaidOf({ mark }: { mark: Mark }) {
  return (
    <div className="grid max-w-3xl grid-cols-2 gap-x-6 max-md:grid-cols-1">
      <SaidField
        label="Called"
        value={mark.name}
        most={200}
        onSay={(name) => amend('marks', mark.id, { name })}
      />
      <SaidField
        label="Tags"
        value={mark.tags.join(', ')}
        most={600}
        onSay={(text) =>
          amend('marks', mark.id, {
            tags: tagsOf(text),
          })
        }
      />
      <SaidField
        label="Said of it"
        value={mark.text}
        most={5000}
        onSay={(text) => amend('marks', mark.id, { text })}
      />
      <label className="flex items-baseline gap-2 py-0.5">
        <span className="text-muted w-24 shrink-0">Rating</span>
        <select
          className="select select-sm w-auto"
          value={mark.rating ?? ''}
          onChange={(event) => {
            const { value } = event.currentTarget;
            amend('marks', mark.id, { rating: value === '' ? null : Number(value) });
          }}
        >
          <option value="">not rated</option>
          {[5, 4, 3, 2, 1, 0].map((stars) => (
            <option key={stars} value={stars}>
              {stars} of 5
            </option>
          ))}
          {mark.rating !== null && !Number.isInteger(mark.rating) && (
            <option value={mark.rating}>{ratingText(mark.rating)}</option>
          )}
        </select>
      </label>
    </div>
  );
}

function Row({ known, looked }: { known: KnownMark; looked: boolean }) {
  const session = useSession();
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (looked) row.current?.scrollIntoView({ block: 'center' });
  }, [looked]);
  const { settings, venue } = session;
  const { mark, since } = known;
  const title = markTitle(known);
  const placed = placedInHall(mark, venue, settings.units);
  const here = placed.ok ? tapesText(venue, placed, settings.units) : '';
  const then = measuredText(mark, settings.units);
  // Without the side of the tapes, which was not noted.
  const plainly = here.replace(/ \([a-z ]+\)/, '');
  const proof = takesOf(session).find(({ history: all }) => all.some(({ id }) => id === mark.take));
  return (
    <li
      ref={row}
      aria-label={title}
      aria-current={looked ? true : undefined}
      className={`border-hairline border-b py-3 ${looked ? 'border-l-primary border-l-4 pl-3' : ''}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="text-[15px] font-semibold">{title}</h3>
        <span>{ratingText(mark.rating)}</span>
        <span className="text-muted">
          {[
            ORIGIN_WORDS[mark.made],
            mark.instrument,
            mark.by,
            ageText(since, new Date().toISOString()),
            proof ? `proved by take ${proof.take.number}` : '',
          ]
            .filter((part) => part !== '')
            .join(' · ')}
        </span>
      </div>
      <p>
        {placed.ok ? `${here}.` : placed.message}
        {then !== '' && then !== plainly && <span className="text-muted"> Then {then}.</span>}
      </p>
      {mark.against && (
        <p className="text-muted">
          Against {mark.against.name}: {againstText(mark.against, settings.units)}.
        </p>
      )}
      {placed.ok &&
        placed.notes.map((note) => (
          <p key={note} className="text-warning">
            {note}
          </p>
        ))}
      {mark.photographs.length > 0 && (
        <div className="flex flex-wrap gap-2 py-1">
          {mark.photographs.map((id) => (
            <Picture key={id} id={id} of={title} />
          ))}
        </div>
      )}
      <SaidOf mark={mark} />
      <div className="flex flex-wrap items-center gap-3 pt-1">
        <PutUp known={known} placed={placed} label={title} />
        <button
          className="btn btn-ghost btn-sm"
          onClick={() =>
            void chooseFiles('image/*')
              .then((files) => addPictures(mark, files))
              .catch(notifyFailure)
          }
        >
          Add a photograph<span className="sr-only"> to {title}</span>
        </button>
        <button
          className="btn btn-ghost btn-sm"
          onClick={() => {
            strike('marks', mark.id);
            notify(`${title} is struck; it stays readable in the session file.`);
          }}
        >
          Strike<span className="sr-only"> {title}</span>
        </button>
      </div>
    </li>
  );
}

export const MARKS_HEAD = [
  ...['Mark', 'Hall', 'Instrument', 'Rating', 'Measured', 'x (m)', 'y (m)', 'z (m)'],
  ...['Tags', 'By', 'At', 'Said of it'],
] as const;

const rowsOf = (marks: readonly KnownMark[], units: 'metric' | 'imperial') =>
  marks.map((known) => {
    const { mark, since } = known;
    return [
      markTitle(known),
      mark.hall,
      mark.instrument,
      mark.rating,
      measuredText(mark, units),
      mark.x,
      mark.y,
      mark.z,
      mark.tags.join(', '),
      mark.by,
      since.slice(0, 10),
      mark.text,
    ];
  });

/** So many marks are shown at once, the latest. */
const MOST_SHOWN = 40;

/** Good places: what is offered here, what this session marked, and a new one. */
export function MarksPage() {
  const session = useSession();
  const [params] = useSearchParams();
  const looked = params.get('mark');
  const marks = useMemo(
    () => marksOf(session).filter(({ mark }) => mark.use === 'microphones'),
    [session],
  );
  const [all, setAll] = useState(false);
  // The one that is looked at is among them.
  const shown = all
    ? marks
    : marks.filter(({ key }, i) => i >= marks.length - MOST_SHOWN || key === looked);
  const { venue, settings } = session;
  const spots = marks.flatMap((known) => {
    const placed = placedInHall(known.mark, venue, settings.units);
    return placed.ok
      ? [
          {
            key: known.key,
            x: placed.x,
            y: placed.y,
            use: 'microphones' as const,
            label: `${markTitle(known)}, ${ratingText(known.mark.rating)}`,
            text: markTitle(known).slice(0, 18),
            strong: known.key === looked || (known.mark.rating ?? 0) >= 4,
            weak: known.mark.rating !== null && known.mark.rating <= 2,
          },
        ]
      : [];
  });
  const name = `${session.title} marks`;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] gap-x-8 max-lg:grid-cols-1">
      <div className="min-w-0">
        <Offered besideOwn />
        <section aria-label="Marks of this session">
          <div className="flex flex-wrap items-baseline gap-3">
            <h2 className="text-[15px]">Marks of this session</h2>
            {marks.length > 0 && (
              <span className="no-print flex gap-2">
                <button
                  className="btn btn-xs"
                  onClick={() =>
                    void downloadTable(name, MARKS_HEAD, rowsOf(marks, settings.units))
                  }
                >
                  CSV
                </button>
                <button
                  className="btn btn-xs"
                  onClick={() => downloadJson(name, MARKS_HEAD, rowsOf(marks, settings.units))}
                >
                  JSON
                </button>
                <button
                  className="btn btn-xs"
                  onClick={() =>
                    void exportReport(
                      recallReport(session, new Date().toISOString()),
                      'a4',
                      'marks',
                    ).catch(notifyFailure)
                  }
                >
                  PDF
                </button>
                <button className="btn btn-xs" onClick={() => print()}>
                  Print
                </button>
              </span>
            )}
          </div>
          {marks.length === 0 ? (
            <p className="text-muted max-w-[64ch] py-2">
              None yet. A mark says where something stood and how good that was, measured from what
              does not move; in the next session of the same hall, or with the same instrument, it
              is offered first.
            </p>
          ) : (
            <>
              <HallPlan
                venue={venue}
                spots={spots}
                players={session.sources}
                label={`Marks on the plan of ${venue.name || 'the hall'}`}
                className="my-2"
                room={{ wide: 620, high: 260 }}
              />
              <ol>
                {shown.map((known) => (
                  <Row key={known.key} known={known} looked={known.key === looked} />
                ))}
              </ol>
              {marks.length > shown.length && (
                <button className="btn btn-sm" onClick={() => setAll(true)}>
                  Show all {marks.length} marks
                </button>
              )}
            </>
          )}
        </section>
      </div>
      <aside className="no-print max-lg:pt-4">
        <NewMark />
      </aside>
    </div>
  );
}
