import { memo, type FocusEvent, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import type { Venue } from '../../../core/session';
import { type Selection, choiceStore, isSelected } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { focused, nudge, type BindMark } from './use-mark-drag';
import type { Projection } from '../../../paper/projection';

interface Props {
  venue: Venue;
  view: Projection;
  bind: BindMark;
}

/** What every mark of the venue answers to: drag, arrow keys, focus. */
function handlers(mark: Selection, bind: BindMark) {
  return {
    ...bind(mark),
    role: 'button',
    tabIndex: 0,
    className: 'grab touch-none',
    onFocus: (event: FocusEvent<Element>) => focused(mark, event),
    onKeyDown: (event: KeyboardEvent) => nudge(mark, event),
  };
}

const FILLS = {
  column: 'var(--muted)',
  wall: 'var(--muted)',
  riser: 'none',
  balcony: 'none',
  'organ case': 'var(--muted)',
  furniture: 'none',
} as const;

/** Columns, walls, risers and furniture, turned as they stand. */
export const ObstacleMarks = memo(function ObstacleMarks({ venue, view, bind }: Props) {
  const selected = useStore(choiceStore, (state) => state.selected);
  return venue.obstacles.map((obstacle) => {
    const { id, name, kind, x, y, widthM, depthM, turnDeg } = obstacle;
    const chosen = isSelected(selected, 'obstacle', id);
    const [w, h] = [widthM * view.scale, depthM * view.scale];
    return (
      <g
        key={id}
        {...handlers({ kind: 'obstacle', id }, bind)}
        aria-label={`${name}, ${kind}`}
        aria-pressed={chosen}
        transform={`translate(${view.toX(x)} ${view.toY(y)}) rotate(${turnDeg})`}
      >
        <rect
          x={-w / 2}
          y={-h / 2}
          width={w}
          height={h}
          fill={FILLS[kind] === 'none' ? 'transparent' : FILLS[kind]}
          fillOpacity={0.35}
          stroke={chosen ? 'var(--color-primary)' : 'var(--muted)'}
          strokeWidth={chosen ? 2 : 1.3}
          strokeDasharray={kind === 'riser' || kind === 'balcony' ? '6 3' : undefined}
        />
        {w > name.length * 6.5 && h > 16 && (
          <text textAnchor="middle" y={4} fontSize={11.5} fill="var(--muted)">
            {name}
          </text>
        )}
      </g>
    );
  });
});

/** A handle at the middle of the first row of each block of seats. */
export const SeatMarks = memo(function SeatMarks({ venue, view, bind }: Props) {
  const selected = useStore(choiceStore, (state) => state.selected);
  const shown = useStore(toolStore, (state) => state.layers.seats);
  if (!shown) return null;
  return venue.seats.map(({ id, name, x, y, columns, rows }) => {
    const chosen = isSelected(selected, 'seats', id);
    return (
      <g
        key={id}
        {...handlers({ kind: 'seats', id }, bind)}
        aria-label={`${name}, ${rows} rows of ${columns} seats`}
        aria-pressed={chosen}
        transform={`translate(${view.toX(x)} ${view.toY(y)})`}
      >
        <rect
          x={-22}
          y={-16}
          width={44}
          height={15}
          rx={2}
          fill="var(--color-base-100)"
          stroke={chosen ? 'var(--color-primary)' : 'var(--muted)'}
          strokeWidth={chosen ? 2 : 1}
        />
        <text textAnchor="middle" y={-4.5} fontSize={11} fill="var(--muted)">
          {columns * rows}
        </text>
      </g>
    );
  });
});

/** The points that tapes are held to. */
export const DatumMarks = memo(function DatumMarks({ venue, view, bind }: Props) {
  const selected = useStore(choiceStore, (state) => state.selected);
  return venue.datumPoints.map(({ id, name, x, y }) => {
    const chosen = isSelected(selected, 'datum', id);
    const ink = chosen ? 'var(--color-primary)' : 'var(--color-base-content)';
    return (
      <g
        key={id}
        {...handlers({ kind: 'datum', id }, bind)}
        aria-label={`tape point ${name}`}
        aria-pressed={chosen}
        transform={`translate(${view.toX(x)} ${view.toY(y)})`}
        stroke={ink}
      >
        <circle r={12} fill="transparent" stroke="none" />
        <circle r={5} fill="none" />
        <path d="M-8 0H8M0 -8V8" />
        <text y={-11} textAnchor="middle" fontSize={12} fill="var(--muted)" stroke="none">
          tape {name}
        </text>
      </g>
    );
  });
});
