import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import {
  ageText,
  NOT_NARROWED,
  placedInHall,
  ratingText,
  type Facets,
  type HallCard,
  type Narrowed,
} from '../../core/recall';
import { useSession } from '../document/use-session';
import { forgetLibrary, readLibraryAnew, useLibrary } from '../keeping/library-read';
import { Offered } from '../parts/offered';
import type { Tasks } from '../workers/tasks';
import { useTask } from '../workers/use-task';
import { HallPlan, type PlanSpot } from './hall-plan';
import { addressOf, Hits } from './hits';

const MOST = 40;
const TECHNIQUES: Readonly<Record<string, string>> = {
  'figure-eights': 'crossed figure-eights (Blumlein)',
  custom: 'tree or free arrangement',
};

interface NarrowProps {
  facets: Facets;
  narrowed: Narrowed;
  narrow: (change: Partial<Narrowed>) => void;
}

/** What a search is narrowed to. */
const Narrow = memo(function Narrow({ facets, narrowed, narrow }: NarrowProps) {
  const choice = (
    label: string,
    field: 'kind' | 'hall' | 'instrument' | 'array',
    values: readonly string[],
    words: Readonly<Record<string, string>> = {},
  ) => (
    <label className="flex flex-col">
      <span className="text-muted text-[12.5px]">{label}</span>
      <select
        className="select select-sm w-36"
        value={narrowed[field]}
        onChange={(event) => narrow({ [field]: event.currentTarget.value })}
      >
        <option value="">any</option>
        {[...new Set([...values, ...(narrowed[field] === '' ? [] : [narrowed[field]])])].map(
          (value) => (
            <option key={value} value={value}>
              {words[value] ?? value}
            </option>
          ),
        )}
      </select>
    </label>
  );
  const day = (label: string, field: 'from' | 'to') => (
    <label className="flex flex-col">
      <span className="text-muted text-[12.5px]">{label}</span>
      <input
        type="date"
        min="1900-01-01"
        max="2999-12-31"
        className="input input-sm w-36"
        value={narrowed[field]}
        onChange={(event) => narrow({ [field]: event.currentTarget.value })}
      />
    </label>
  );
  return (
    <div className="flex flex-wrap items-end gap-3 pb-3">
      {choice('What', 'kind', facets.kinds)}
      {choice('Hall', 'hall', facets.halls)}
      {choice('Instrument', 'instrument', facets.instruments)}
      {choice('Array', 'array', facets.arrays, TECHNIQUES)}
      <label className="flex flex-col">
        <span className="text-muted text-[12.5px]">Rated at least</span>
        <select
          className="select select-sm w-24"
          value={narrowed.leastRating ?? ''}
          onChange={(event) => {
            const { value } = event.currentTarget;
            narrow({ leastRating: value === '' ? null : Number(value) });
          }}
        >
          <option value="">any</option>
          {[1, 2, 3, 4, 5].map((rating) => (
            <option key={rating} value={rating}>
              {rating} of 5
            </option>
          ))}
        </select>
      </label>
      {day('From', 'from')}
      {day('To', 'to')}
    </div>
  );
});

/** The marks of a hall in the frame of its newest plan; those that cannot be placed are left out. */
const spotsOf = ({ venue, marks }: HallCard): PlanSpot[] =>
  marks.flatMap(({ key, mark }): PlanSpot[] => {
    const placed = placedInHall(mark, venue, 'metric');
    return placed.ok
      ? [
          {
            key,
            x: placed.x,
            y: placed.y,
            use: mark.use,
            label: `${mark.name || mark.array?.name || 'Mark'}, ${ratingText(mark.rating)}`,
            strong: (mark.rating ?? 0) >= 4,
            weak: mark.rating !== null && mark.rating <= 2,
          },
        ]
      : [];
  });

/** A hall in the drawer: its plan, when one was there last, and what worked. */
function Card({ hall, open }: { hall: HallCard; open: () => void }) {
  const best = Math.max(...hall.marks.map(({ mark }) => mark.rating ?? -1));
  const count = hall.sessions.length;
  return (
    <li className="border-hairline border">
      <button
        className="hover:bg-base-200 flex h-full w-full cursor-pointer flex-col p-3 text-left"
        onClick={open}
      >
        <HallPlan
          venue={hall.venue}
          spots={spotsOf(hall)}
          label={`Plan of ${hall.name}`}
          className="mx-auto my-1"
          room={{ wide: 190, high: 128 }}
          small
        />
        <span className="pt-2 font-semibold">{hall.name}</span>
        <span className="text-muted text-[12.5px]">
          {count} {count === 1 ? 'session' : 'sessions'},{' '}
          {ageText(hall.at, new Date().toISOString())}
        </span>
        <span className="text-muted text-[12.5px]">
          {hall.marks.length === 0
            ? 'no marks yet'
            : `${hall.marks.length} ${hall.marks.length === 1 ? 'mark' : 'marks'}${best >= 0 ? `, best ${ratingText(best)}` : ''}`}
        </span>
      </button>
    </li>
  );
}

/** What to do first where there is no hall with a name. */
const NothingYet = () => (
  <div className="border-hairline mb-4 border-2 border-dashed px-8 py-8 max-md:px-4">
    <h2 className="text-[16px]">Have I been here, and what worked?</h2>
    <p className="text-muted max-w-[64ch] pt-2">
      Halls stand here as plans with their marks, once a session says under Brief, The hall, what
      its hall is called. A mark is made on the page Marks: of an array as it is planned or as it
      was built, of a kept option, or by two tapes. In the next session of the same hall it is
      offered first.
    </p>
  </div>
);

const isNarrowed = (narrowed: Narrowed): boolean =>
  (Object.keys(NOT_NARROWED) as (keyof Narrowed)[]).some(
    (field) => narrowed[field] !== NOT_NARROWED[field],
  );

/** Asks the library; where what it knew is gone, it is read anew. */
function useSearch(ask: Tasks['librarySearch']['ask'] | null) {
  const state = useTask('librarySearch', ask);
  const { error } = state;
  useEffect(() => {
    if (error === null) return;
    forgetLibrary();
    void readLibraryAnew();
  }, [error]);
  return state;
}

/** Everything that was ever said, found as one types; before that the halls, newest first. */
export function FindPage() {
  const session = useSession();
  const { overview, reading, failure } = useLibrary();
  const [, setParams] = useSearchParams();
  const navigate = useNavigate();
  const [query, setQuery] = useState('');
  const [narrowed, setNarrowed] = useState<Narrowed>(NOT_NARROWED);
  const narrow = useCallback(
    (change: Partial<Narrowed>) => setNarrowed((known) => ({ ...known, ...change })),
    [],
  );
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus({ preventScroll: true }), []);
  const asked = query.trim() !== '' || isNarrowed(narrowed);
  const ask = useMemo(
    () => (overview && asked ? { query, narrowed, most: MOST } : null),
    [overview, asked, query, narrowed],
  );
  const { value: found, busy, error } = useSearch(ask);
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 pb-3">
        <input
          ref={field}
          type="search"
          aria-label="Find"
          className="input w-full max-w-xl"
          placeholder="Hall, player, instrument, array, note, mark …"
          value={query}
          onChange={(event) => setQuery(event.currentTarget.value)}
          onKeyDown={(event) => {
            const [first] = found?.hits ?? [];
            if (event.key === 'Enter' && asked && !busy && first) {
              void navigate(addressOf(first.doc, session.id));
            }
            if (event.key !== 'Escape') return;
            setQuery('');
            setNarrowed(NOT_NARROWED);
          }}
        />
        {asked && (
          <button
            className="btn btn-sm btn-ghost"
            onClick={() => {
              setQuery('');
              setNarrowed(NOT_NARROWED);
              field.current?.focus();
            }}
          >
            Show the halls
          </button>
        )}
      </div>
      {overview && <Narrow facets={overview.facets} narrowed={narrowed} narrow={narrow} />}
      {failure !== null && (
        <p role="alert" className="text-error pb-2">
          The library cannot be read: {failure}.
        </p>
      )}
      {error !== null && (
        <p role="alert" className="text-error pb-2">
          The search stopped ({error}); the sessions are read anew.
        </p>
      )}
      {reading !== null && (
        <p role="status" className="text-muted pb-2">
          Reading the sessions: {Math.round(100 * reading)} %
        </p>
      )}
      {overview && overview.unread.length > 0 && (
        <p className="text-warning pb-2">
          Not read, because damaged: {overview.unread.slice(0, 5).join(', ')}
          {overview.unread.length > 5 ? ' and others' : ''}.
        </p>
      )}
      {asked && found && (
        <>
          <p role="status" aria-label="How many" aria-busy={busy} className="text-muted pb-1">
            {found.count === 0
              ? 'Nothing has all of these words. One word less finds more.'
              : found.count > found.hits.length
                ? `${found.count} found; the first ${found.hits.length} of them, the best first.`
                : `${found.count} found.`}
          </p>
          <Hits hits={found.hits} />
        </>
      )}
      {!asked && (
        <>
          <Offered more={() => setParams({ page: 'marks' })} />
          {overview && overview.halls.length === 0 && <NothingYet />}
          {overview && overview.halls.length > 0 && (
            <ul
              aria-label="Halls"
              className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-4"
            >
              {overview.halls.map((hall) => (
                <Card
                  key={hall.name}
                  hall={hall}
                  open={() => setNarrowed({ ...NOT_NARROWED, hall: hall.name })}
                />
              ))}
            </ul>
          )}
          {overview && overview.halls.length > 0 && session.venue.name === '' && (
            <p className="text-muted pt-3">
              This session does not say yet in which hall it is: name it under Brief, The job, as
              Venue, and what worked there is offered.
            </p>
          )}
        </>
      )}
    </>
  );
}
