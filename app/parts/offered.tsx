import { useMemo, useState } from 'react';
import {
  isSameHall,
  offersFor,
  marksBeside,
  marksOf,
  markTitle,
  withHall,
  withMark,
  type HallCard,
  type KnownMark,
  type Offer,
  type Placed,
} from '../../core/recall';
import { midReverberationTime } from '../../core/analysis';
import { formatNumber, lengthText } from '../../core/units';
import { newId } from '../document/new-id';
import { takeOver } from '../document/take-over';
import { sessionStore } from '../document/session-store';
import { usePlan, useSession } from '../document/use-session';
import { useLibrary } from '../keeping/library-read';
import { notify } from '../view/notices';
import { select } from '../view/choice';

/** Marks of other sessions that fit the hall and the instruments of this one. */
function useOffers(besideOwn: boolean): { offers: Offer[]; busy: boolean } {
  const plan = usePlan();
  const { id, title, marks } = useSession();
  const { overview } = useLibrary();
  const offers = useMemo(() => {
    if (!overview) return [];
    const own = besideOwn ? marksOf({ id, title, marks }) : [];
    return offersFor(plan, marksBeside(overview.marks, own), new Date().toISOString());
  }, [plan, overview, besideOwn, id, title, marks]);
  return { offers, busy: overview === null };
}

/** Puts up what stood at a mark, as one step that can be taken back. */
export function putUp(known: KnownMark, placed: Placed, instead: string | null): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  if (!placed.ok) return notify(placed.message);
  const put = withMark(session, known, placed, instead, newId());
  if (!put) {
    return notify('Nobody noted what stood there: choose which array is to be moved to the place.');
  }
  const title = put.session.arrays.find(({ id }) => id === put.arrayId)?.name ?? '';
  takeOver(
    `${title} stands at the mark “${markTitle(known)}”${placed.notes.length > 0 ? `. ${placed.notes.join(' ')}` : '.'}`,
    put.session,
  );
  select({ kind: 'array', id: put.arrayId });
}

interface PutUpProps {
  known: KnownMark;
  placed: Placed;
  /** what it is called for those who hear the page */
  label: string;
}

/** "Put it up", beside the others or in the place of one. */
export function PutUp({ known, placed, label }: PutUpProps) {
  const { arrays } = usePlan();
  const own = known.mark.array !== null;
  const [chosen, setChosen] = useState('');
  const instead = chosen || (own ? '' : (arrays[0]?.id ?? ''));
  return (
    <span className="flex flex-wrap items-center gap-2">
      <button
        className="btn btn-sm btn-primary"
        disabled={!placed.ok || (!own && instead === '')}
        aria-label={`Put up ${label}`}
        onClick={() => putUp(known, placed, instead === '' ? null : instead)}
      >
        Put it up
      </button>
      {arrays.length > 0 && (
        <select
          aria-label={`What goes to ${label}`}
          className="select select-sm w-auto max-w-52"
          value={instead}
          onChange={(event) => setChosen(event.currentTarget.value)}
        >
          {own && <option value="">as an array of its own</option>}
          {arrays.map(({ id, name }) => (
            <option key={id} value={id}>
              {own ? `in the place of ${name}` : `move ${name} there`}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}

/** The hall as another session has it, where this one has only its name. */
function useKnownHall(): HallCard['measuredBy'] {
  const { id, venue } = usePlan();
  const { overview } = useLibrary();
  const bare = venue.origin === null || venue.widthM === null || venue.depthM === null;
  const found = overview?.halls.find(({ name }) => isSameHall(name, venue.name))?.measuredBy;
  return bare && found && found.id !== id ? found : null;
}

function KnownHall({ from }: { from: NonNullable<HallCard['measuredBy']> }) {
  const plan = usePlan();
  const { settings } = plan;
  const { widthM, depthM, heightM, rt60S } = from.venue;
  const seconds = midReverberationTime(rt60S);
  const size = [widthM, depthM, heightM]
    .map((m) => (m === null ? '?' : lengthText(m, settings.units)))
    .join(' × ');
  return (
    <p className="border-hairline flex flex-wrap items-center gap-x-6 gap-y-2 border-b py-2">
      <span className="min-w-0 max-w-[72ch] flex-1">
        The hall as it was for “{from.title}”: {size}
        {seconds === null ? '' : `, ${formatNumber(seconds, 1)} s`}, with its surfaces, stage and
        tape points.
      </span>
      <button
        className="btn btn-sm btn-primary"
        onClick={() =>
          takeOver(`The hall is as it was for “${from.title}”.`, withHall(plan, from.venue, newId))
        }
      >
        Take the hall
      </button>
    </p>
  );
}

const MOST = 3;

interface OfferedProps {
  /** leads to all marks; left out where they are on the page */
  more?: () => void;
  /** those that this session has itself by now are left out: they stand beside */
  besideOwn?: boolean;
}

/** What worked here before, first of all. Nothing where nothing is known. */
export function Offered({ more, besideOwn = false }: OfferedProps) {
  const { offers } = useOffers(besideOwn);
  const [all, setAll] = useState(false);
  const hall = useKnownHall();
  if (offers.length === 0 && !hall) return null;
  const shown = all ? offers : offers.slice(0, MOST);
  return (
    <section aria-label="What worked here before" className="no-print pb-4">
      <h2 className="pb-1 text-[15px]">
        {hall || offers.some(({ same }) => same !== 'instrument')
          ? 'You have been here before'
          : 'You have recorded this instrument before'}
      </h2>
      {hall && <KnownHall from={hall} />}
      <ol>
        {shown.map((offer) => {
          const { known, placed, words, poor } = offer;
          return (
            <li
              key={`${known.session.id} ${known.key}`}
              aria-label={markTitle(known)}
              className="border-hairline flex flex-wrap items-start justify-between gap-x-6 gap-y-2 border-b py-2"
            >
              <div className="min-w-0 max-w-[72ch] flex-1">
                <p>
                  <span className="font-semibold">{markTitle(known)}</span>
                  {poor && <span className="text-warning"> did not work</span>}
                  <span className="text-muted"> · {known.session.title}</span>
                </p>
                <p>{words}</p>
                {known.mark.text !== '' && <p className="text-muted">“{known.mark.text}”</p>}
                {placed.ok ? (
                  placed.notes.map((note) => (
                    <p key={note} className="text-warning">
                      {note}
                    </p>
                  ))
                ) : (
                  <p className="text-muted">{placed.message}</p>
                )}
              </div>
              {!poor && <PutUp known={known} placed={placed} label={markTitle(known)} />}
            </li>
          );
        })}
      </ol>
      {offers.length > MOST && !all && (
        <button className="btn btn-sm btn-ghost" onClick={() => (more ? more() : setAll(true))}>
          {offers.length - MOST} more
        </button>
      )}
    </section>
  );
}
