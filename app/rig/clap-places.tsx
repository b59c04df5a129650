import { Footprints, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { clapLayout } from '../../core/claps/layout';
import { twoTapes, whereTapesMeet } from '../../core/rig';
import type { MicArray, Session } from '../../core/session';
import { lengthText } from '../../core/units';
import { editSaying } from '../document/edits';
import { edit } from '../document/session-store';
import { settle } from '../document/things';
import { useSession } from '../document/use-session';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';

type Clap = Session['rig']['claps'][number];

const settled = ({ x, y }: { x: number; y: number }) => ({ x: settle(x), y: settle(y) });

const MOST_CLAPS = 60;
/** The drawing, units of its own, and room about what is on it, m. */
const [WIDE, HIGH, AROUND_M] = [420, 260, 1];

/** Where to clap, seen from above. */
function ClapMap({ array, claps }: { array: MicArray; claps: readonly Clap[] }) {
  const { sources } = useSession();
  const all = [array, ...claps, ...sources];
  const [left, right] = [
    Math.min(...all.map(({ x }) => x)) - AROUND_M,
    Math.max(...all.map(({ x }) => x)) + AROUND_M,
  ];
  const [front, back] = [
    Math.min(...all.map(({ y }) => y)) - AROUND_M,
    Math.max(...all.map(({ y }) => y)) + AROUND_M,
  ];
  const scale = Math.min(WIDE / (right - left), HIGH / (back - front));
  const [dx, dy] = [(WIDE - scale * (right - left)) / 2, (HIGH - scale * (back - front)) / 2];
  const at = ({ x, y }: { x: number; y: number }): [number, number] => [
    dx + scale * (x - left),
    HIGH - dy - scale * (y - front),
  ];
  const [ax, ay] = at(array);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full"
      role="img"
      aria-label={`${claps.length} places for claps about ${array.name}, seen from above`}
    >
      {sources.map((source) => {
        const [x, y] = at(source);
        return <circle key={source.id} cx={x} cy={y} r="4" fill="var(--hairline)" />;
      })}
      {claps.map((clap, i) => {
        const [x, y] = at(clap);
        return (
          <g key={i}>
            <line x1={ax} y1={ay} x2={x} y2={y} stroke="var(--hairline)" strokeDasharray="2 3" />
            <circle
              cx={x}
              cy={y}
              r="10"
              fill="var(--color-base-100)"
              stroke="var(--color-base-content)"
              strokeWidth="1.5"
            />
            <text x={x} y={y + 4} textAnchor="middle" fontSize="12" fill="currentColor">
              {i + 1}
            </text>
          </g>
        );
      })}
      <g transform={`translate(${ax} ${ay}) rotate(${array.aimDeg})`}>
        <path d="M-7 5L0 -9L7 5Z" fill="var(--color-primary)" />
      </g>
    </svg>
  );
}

const setClap = (index: number, change: Partial<Clap>): void => {
  edit((draft) => {
    const clap = draft.rig.claps[index];
    if (clap) draft.rig.claps[index] = { ...clap, ...change };
  });
};

/** One place: its two tapes, either of which may be what the tape really says. */
function ClapRow({ clap, index }: { clap: Clap; index: number }) {
  const { venue, settings } = useSession();
  const { units } = settings;
  const [first, second] = venue.datumPoints;
  const kind = lengthKind('widthM', units);
  const tapes = first && second ? twoTapes(clap, first, second) : null;
  const meet = (lengths: readonly [number, number]) =>
    first && second ? whereTapesMeet(first, second, lengths, clap) : null;
  const field = (name: string, value: number, lengths: (m: number) => [number, number]) => (
    <QuantityField
      bare
      label={`Clap ${index + 1}, tape from ${name}`}
      fieldKey={fieldKey('claps', String(index), name)}
      kind={kind}
      value={value}
      check={(m) => (meet(lengths(m)) ? null : 'The two tapes do not meet there.')}
      onCommit={(m) => {
        const place = m === null ? null : meet(lengths(m));
        if (place) setClap(index, settled(place));
      }}
    />
  );
  return (
    <li className="border-hairline flex flex-wrap items-center gap-x-3 gap-y-1 border-b py-1">
      <span className="w-6 text-right font-semibold">{index + 1}</span>
      <input
        className="input input-sm min-w-40 flex-1"
        aria-label={`Clap ${index + 1}, name`}
        maxLength={200}
        value={clap.name}
        onChange={(event) => setClap(index, { name: event.currentTarget.value })}
      />
      <button
        className="btn btn-ghost btn-sm btn-square"
        aria-label={`Remove clap ${index + 1}`}
        onClick={() =>
          editSaying(
            `Clap ${index + 1} is removed.`,
            (draft) => void draft.rig.claps.splice(index, 1),
          )
        }
      >
        <Trash2 size={15} />
      </button>
      {tapes && first && second ? (
        <div className="flex w-full flex-wrap items-center gap-x-3 pl-9 text-[12.5px]">
          <span className="text-muted">{first.name}</span>
          <span className="w-24">
            {field(first.name, tapes.fromFirstM, (m) => [m, tapes.fromSecondM])}
          </span>
          <span className="text-muted">{second.name}</span>
          <span className="w-24">
            {field(second.name, tapes.fromSecondM, (m) => [tapes.fromFirstM, m])}
          </span>
          <span className="text-muted">
            {tapes.side} · held at {lengthText(clap.z, units)}
          </span>
        </div>
      ) : (
        <span className="text-muted w-full pl-9 text-[12.5px]">
          Two tape points are missing: give them on the Brief.
        </span>
      )}
    </li>
  );
}

/** Where to clap so that the rig can be read from a take, as a list to be walked. */
export function ClapPlaces({ arrays }: { arrays: readonly MicArray[] }) {
  const session = useSession();
  const { claps } = session.rig;
  const mains = arrays.filter(({ role }) => role === 'main');
  const [arrayId, setArrayId] = useState('');
  const array = arrays.find(({ id }) => id === arrayId) ?? mains[0] ?? arrays[0];
  if (!array) return null;
  const layOut = (count: 4 | 6): void => {
    const laid = clapLayout(session, array, count).map(({ name, at }): Clap => ({
      name,
      ...settled(at),
      z: at.z,
    }));
    editSaying(
      `${laid.length} places for claps about ${array.name}.`,
      (draft) => void (draft.rig.claps = laid),
    );
  };
  return (
    <section aria-label="Claps" className="pb-5">
      <h2 className="text-[16px]">Claps</h2>
      <p className="text-muted pb-2">
        Three claps with a compact clicker at each of these places, held at chest height, a second
        and more of silence between the places; the floor cleared, and nobody’s ears near. The take
        on Bench, Claps, then says how the pair really stands.
      </p>
      <div className="no-print flex flex-wrap items-center gap-2 pb-2">
        {arrays.length > 1 && (
          <select
            aria-label="Claps about"
            className="select select-sm w-auto max-w-44"
            value={array.id}
            onChange={(event) => setArrayId(event.currentTarget.value)}
          >
            {arrays.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )}
        <button className="btn btn-sm" onClick={() => layOut(6)}>
          <Footprints size={14} /> Lay out six
        </button>
        <button className="btn btn-sm font-normal" onClick={() => layOut(4)}>
          Lay out four
        </button>
        <button
          className="btn btn-sm font-normal"
          disabled={claps.length >= MOST_CLAPS}
          onClick={() =>
            edit(
              (draft) =>
                void draft.rig.claps.push({
                  ...settled({ x: array.x, y: array.y + 2 }),
                  ...{ name: `Place ${claps.length + 1}`, z: 1.3 },
                }),
            )
          }
        >
          Add one
        </button>
      </div>
      {claps.length > 0 && (
        <>
          <ClapMap array={array} claps={claps} />
          <ol aria-label="Places for claps">
            {claps.map((clap, i) => (
              <ClapRow key={i} clap={clap} index={i} />
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
