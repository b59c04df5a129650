import { memo, useState } from 'react';
import type { Group } from '../parts/groups';
import { useSize } from '../parts/use-size';
import { useStore } from 'zustand';
import type { BandResult } from '../../core/analysis';
import { panelStore } from '../view/panels';
import { useLifted } from '../figures/use-lifted';
import { Aside, NoteHead, NoteSpread } from './note-head';
import { LevelColumn, useSwelling } from './levels';
import { setSolo } from '../audio/actions';
import { listeningStore } from '../audio/listening';
import { crowdedHeads, labelsOf, type HeadPlace, type Stave } from './notes';

interface Props {
  staves: readonly Stave[];
  litIds: ReadonlySet<string>;
  /** wanted places, met or not */
  wanted: readonly BandResult[];
  /** where a candidate puts each player */
  ghosts: ReadonlyMap<string, number>;
}

interface Layer {
  staves: readonly Stave[];
  at: (shift: number) => number;
  pitch: number;
}

/** Wanted places as light fields behind the line; a missed one is dashed and crossed out. */
function Bands({ staves, at, pitch, wanted }: Layer & { wanted: readonly BandResult[] }) {
  const byId = new Map(wanted.map((band) => [band.sourceId, band]));
  return staves.map(({ notes }, index) =>
    notes.map(({ id, name }) => {
      const band = byId.get(id);
      if (!band) return null;
      const [x0, x1] = [at(band.fromPct / 100), at(band.toPct / 100)];
      const y = TOP + pitch * (index + 0.5);
      const colour = band.met ? 'var(--color-primary)' : 'var(--color-error)';
      const half = Math.max(4, pitch / 2 - 1);
      return (
        <g key={id}>
          <rect
            x={x0}
            width={Math.max(2, x1 - x0)}
            y={y - half}
            height={half * 2}
            fill={colour}
            fillOpacity={0.13}
            stroke={band.met ? 'none' : colour}
            strokeDasharray="3 3"
          />
          {!band.met && (
            <path
              d={`M${x0 + 3} ${y - half + 3}l5 5m0 -5l-5 5`}
              stroke={colour}
              strokeWidth={1.6}
            />
          )}
          <title>
            {name}: {band.met ? 'in its wanted place' : 'not in its wanted place'}
          </title>
        </g>
      );
    }),
  );
}

function Ghosts({ staves, at, pitch, ghosts }: Layer & Pick<Props, 'ghosts'>) {
  const half = Math.min(7, pitch / 2 - 1);
  return staves.map(({ notes, group }, index) =>
    notes.map(({ id }) => {
      const shift = ghosts.get(id);
      return shift === undefined ? null : (
        <ellipse
          key={id}
          cx={at(shift)}
          cy={TOP + pitch * (index + 0.5)}
          rx={half + 4}
          ry={half + 2}
          fill="none"
          stroke={group.hue}
          strokeDasharray="2 2"
          strokeWidth={1.3}
          className="pointer-events-none"
        />
      );
    }),
  );
}

const LABELS = 118;
const RIGHT = 104;
/** Players without a stable image stand so far right of the line, behind its loudspeaker, px. */
const ASIDE = 54;
const TOP = 12;
const FOOT = 20;
const TICKS = [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1];

function Loudspeaker({
  x,
  y,
  height,
  side,
}: {
  x: number;
  y: number;
  height: number;
  side: 'L' | 'R';
}) {
  const s = side === 'L' ? 1 : -1;
  return (
    <g>
      <path
        d={`M${x} ${y} l${-12 * s} -4 v${height + 8} l${12 * s} -4 z`}
        fill="var(--color-base-content)"
      />
      <text
        x={x - 24 * s}
        y={y + height / 2 + 5}
        textAnchor="middle"
        fontWeight={700}
        fontSize={14}
        fill="currentColor"
      >
        {side}
      </text>
      <LevelColumn x={x - 40 * s} y={y} height={height} side={side} />
    </g>
  );
}

interface FrameProps {
  groups: readonly Group[];
  x0: number;
  x1: number;
  pitch: number;
}

/** On a short line only every second or fourth tick is named. */
const roomFor = (tick: number, widthPx: number): boolean => {
  const step = widthPx >= 340 ? 0.25 : widthPx >= 180 ? 0.5 : 1;
  return Number.isInteger(tick / step);
};

/** The scale at the foot: it stays however far the lines are scrolled. */
function Scale({ x0, x1, width }: { x0: number; x1: number; width: number }) {
  const unit = useStore(panelStore, (state) => state.imageLineUnit);
  return (
    <svg
      width={width}
      height={FOOT}
      aria-hidden="true"
      data-scale
      className="bg-base-200 sticky bottom-0 block"
    >
      {TICKS.filter((tick) => roomFor(tick, x1 - x0)).map((tick) => (
        <text
          key={tick}
          x={x0 + ((tick + 1) / 2) * (x1 - x0)}
          y={FOOT - 5}
          textAnchor="middle"
          fontSize={12}
          fill="var(--muted)"
        >
          {tick === 0
            ? 'centre'
            : unit === 'percent'
              ? Math.abs(tick) * 100
              : `${Math.abs(tick) * 30}°`}
        </text>
      ))}
    </svg>
  );
}

/** Ticks, lines and names of the stave: they stand still while the notes move. */
const StaveFrame = memo(function StaveFrame({ groups, x0, x1, pitch }: FrameProps) {
  const soloIds = useStore(listeningStore, (state) => state.soloIds);
  const at = (shift: number) => x0 + ((shift + 1) / 2) * (x1 - x0);
  const bottom = TOP + pitch * Math.max(1, groups.length);
  return (
    <>
      {TICKS.map((tick) => (
        <g key={tick}>
          <line
            x1={at(tick)}
            x2={at(tick)}
            y1={TOP - 4}
            y2={bottom}
            stroke={tick === 0 ? 'var(--muted)' : 'var(--hairline)'}
            strokeDasharray={tick === 0 ? undefined : '2 3'}
          />
        </g>
      ))}
      {groups.map((group, index) => {
        const y = TOP + pitch * (index + 0.5);
        const alone = soloIds !== null && group.members.every((id) => soloIds.includes(id));
        return (
          <g
            key={group.name}
            className="cursor-pointer"
            onClick={() => setSolo(alone ? null : group.members)}
          >
            <title>{alone ? 'Everybody is heard again' : `${group.name} alone is heard`}</title>
            <rect x={12} width={x1 - 12} y={y - pitch / 2} height={pitch} fill="transparent" />
            <line x1={x0} x2={x1} y1={y} y2={y} stroke="var(--muted)" strokeOpacity={0.55} />
            <text
              x={16}
              y={y + 4}
              fontSize={Math.min(12.5, pitch)}
              fontWeight={600}
              fill={group.hue}
              textDecoration={alone ? 'underline' : undefined}
            >
              {group.name.length > 15 ? `${group.name.slice(0, 14)}…` : group.name}
            </text>
          </g>
        );
      })}
    </>
  );
});

interface NotesProps extends Pick<Props, 'staves' | 'litIds'> {
  x0: number;
  x1: number;
  pitch: number;
  crowded: readonly ReadonlyMap<string, HeadPlace>[];
  lifted: ReadonlySet<string>;
  /** those of the players that are dragged, or all others */
  held: boolean;
}

const OWN_PLACE: HeadPlace = { dx: 0, small: false };

/** Bars and heads of the players, all bars below all heads. */
function Notes({ staves, x0, x1, pitch, crowded, lifted, litIds, held }: NotesProps) {
  const shown = staves.flatMap(({ notes }, index) =>
    notes
      .filter(({ id }) => lifted.has(id) === held)
      .map((note) => ({
        place: { note, x0, x1, y: TOP + pitch * (index + 0.5), pitch },
        at: crowded[index]?.get(note.id) ?? OWN_PLACE,
      })),
  );
  return (
    <>
      {shown.map(({ place }) => (
        <NoteSpread key={place.note.id} {...place} />
      ))}
      {shown.map(({ place, at }) => (
        <NoteHead key={place.note.id} {...place} lit={litIds.has(place.note.id)} {...at} />
      ))}
    </>
  );
}

/** Names of the pieces of a set, above and below their heads so that none covers another. */
function Labels({ staves, x0, x1, pitch }: Pick<NotesProps, 'staves' | 'x0' | 'x1' | 'pitch'>) {
  return staves.map((stave, index) =>
    labelsOf(stave, x1 - x0).map(({ id, label, px, below }) => (
      <text
        key={id}
        x={x0 + px}
        y={TOP + pitch * (index + 0.5) + (below ? 20 : -13)}
        textAnchor="middle"
        fontSize={11}
        fontWeight={600}
        fill={stave.group.hue}
        className="pointer-events-none"
      >
        {label}
      </text>
    )),
  );
}

/** A line takes so much height; one whose heads have names above and below them takes more, px. */
const PITCH = 24;
const NAMED_PITCH = 44;
const LEAST_PITCH = 21;

/** As high as so many lines need, scale included, px. */
export const neededHeight = (staves: readonly Stave[]): number =>
  TOP +
  FOOT +
  staves.reduce(
    (sum, { notes }) =>
      sum + (notes.some(({ badge }) => badge.label !== '') ? NAMED_PITCH : LEAST_PITCH),
    0,
  );

/** The lanes, the same objects for as long as they are the same sections: their frame stands still. */
function useStable(staves: readonly Stave[]): readonly Group[] {
  const [known, setKnown] = useState<readonly Group[]>([]);
  const groups = staves.map(({ group }) => group);
  const same =
    known.length === groups.length &&
    groups.every(
      ({ name, hue, members }, i) =>
        known[i]?.name === name &&
        known[i].hue === hue &&
        known[i].members.join() === members.join(),
    );
  if (same) return known;
  setKnown(groups);
  return groups;
}

/** The reproduced stage as a stave: one line a section, between two loudspeakers. */
export function ImageLineDrawing({ staves, litIds, wanted, ghosts }: Props) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const groups = useStable(staves);
  const lines = Math.max(1, staves.length);
  const named = staves.some((stave) => stave.notes.some(({ badge }) => badge.label !== ''));
  const most = named ? NAMED_PITCH : PITCH;
  const pitch = Math.max(11, Math.min(most, (height - TOP - FOOT) / lines));
  const x0 = LABELS + 34;
  const x1 = Math.max(x0 + 100, width - RIGHT);
  const drawn = Math.max(height - FOOT, TOP + pitch * lines);
  const at = (shift: number) => x0 + ((shift + 1) / 2) * (x1 - x0);
  const crowded = staves.map((stave) => crowdedHeads(stave, x1 - x0, Math.min(17, pitch)));
  const lifted = useLifted();
  const held = lifted.size > 0;
  useSwelling(box);
  const layer = { staves, x0, x1, pitch, crowded, lifted, litIds };
  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto"
      tabIndex={-1}
    >
      {width > 0 && (
        <svg width={width} height={drawn} aria-hidden="true" className="block">
          <StaveFrame groups={groups} x0={x0} x1={x1} pitch={pitch} />
          <Bands staves={staves} at={at} pitch={pitch} wanted={wanted} />
          <Ghosts staves={staves} at={at} pitch={pitch} ghosts={ghosts} />
          <Loudspeaker x={x0} y={TOP} height={pitch * lines} side="L" />
          <Loudspeaker x={x1} y={TOP} height={pitch * lines} side="R" />
          <Labels {...layer} />
          {staves.map((stave, index) => (
            <Aside
              key={stave.group.name}
              stave={stave}
              x={x1 + ASIDE}
              y={TOP + pitch * (index + 0.5)}
              room={RIGHT - ASIDE - 10}
            />
          ))}
          <Notes {...layer} held={false} />
        </svg>
      )}
      {width > 0 && held && (
        // What follows the hand stands in a layer of its own, so that only it is painted again.
        <svg
          width={width}
          height={drawn}
          aria-hidden="true"
          className="pointer-events-none absolute inset-0 will-change-transform"
        >
          <Notes {...layer} held />
        </svg>
      )}
      {width > 0 && <Scale x0={x0} x1={x1} width={width} />}
    </div>
  );
}
