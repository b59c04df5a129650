import { memo, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { planCorners } from '../../../core/hall';
import type { Venue } from '../../../core/session';
import { lengthText, planDistance, type UnitSystem } from '../../../core/units';
import type { Projection } from '../../../paper/projection';
import { addCornerAfter } from '../../document/hall-shape';
import { choiceStore, isSelected } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { focused, nudge, type BindMark } from './use-mark-drag';

interface Props {
  venue: Venue;
  view: Projection;
  units: UnitSystem;
  bind: BindMark;
}

interface Spot {
  x: number;
  y: number;
}

/** Walls shorter than this on the screen have no room for a mark, px. */
const LEAST_PX = 56;

/** A press on it makes a corner in the middle of the wall. */
function WallMark({ from, to, index, view, units }: WallProps) {
  const [x, y] = [view.toX((from.x + to.x) / 2), view.toY((from.y + to.y) / 2)];
  const long = planDistance(from, to);
  const label = `Wall ${index + 1}, ${lengthText(long, units)}: add a corner in its middle`;
  const add = () => addCornerAfter(index);
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={label}
      className="cursor-copy"
      onClick={add}
      onKeyDown={(event: KeyboardEvent) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        event.stopPropagation();
        add();
      }}
      transform={`translate(${x} ${y})`}
    >
      <title>{label}</title>
      <circle r={14} fill="transparent" />
      <circle r={7} fill="var(--color-base-100)" stroke="var(--muted)" />
      <path d="M-3.5 0H3.5M0 -3.5V3.5" stroke="var(--muted)" />
      {long * view.scale > 2 * LEAST_PX && (
        <text y={-12} textAnchor="middle" fontSize={11.5} fill="var(--color-base-content)">
          {index + 1} · {lengthText(long, units)}
        </text>
      )}
    </g>
  );
}

interface WallProps extends Pick<Props, 'view' | 'units'> {
  from: Spot;
  to: Spot;
  index: number;
}

/** The corners of the hall, to be dragged, while its walls are worked on. */
export const CornerMarks = memo(function CornerMarks({ venue, view, units, bind }: Props) {
  const selected = useStore(choiceStore, (state) => state.selected);
  const shown = useStore(toolStore, (state) => state.tool === 'corners');
  const corners = shown ? planCorners(venue) : null;
  if (!corners) return null;
  return (
    <>
      {corners.map((from, index) => {
        const to = corners[(index + 1) % corners.length] ?? from;
        if (planDistance(from, to) * view.scale < LEAST_PX) return null;
        return <WallMark key={index} {...{ from, to, index, view, units }} />;
      })}
      {corners.map(({ x, y }, index) => {
        const mark = { kind: 'corner' as const, id: `${index}` };
        const chosen = isSelected(selected, 'corner', mark.id);
        return (
          <g
            key={index}
            {...bind(mark)}
            role="button"
            tabIndex={0}
            className="grab touch-none"
            aria-label={`Corner ${index + 1} of the hall`}
            aria-pressed={chosen}
            onFocus={(event) => focused(mark, event)}
            onKeyDown={(event: KeyboardEvent) => nudge(mark, event)}
            transform={`translate(${view.toX(x)} ${view.toY(y)})`}
          >
            <circle r={16} fill="transparent" />
            <rect
              x={-7}
              y={-7}
              width={14}
              height={14}
              fill={chosen ? 'var(--color-primary)' : 'var(--color-base-100)'}
              stroke={chosen ? 'var(--color-primary)' : 'var(--color-base-content)'}
              strokeWidth={1.6}
            />
            <text
              y={4}
              textAnchor="middle"
              fontSize={10.5}
              fontWeight={600}
              fill={chosen ? 'var(--color-primary-content)' : 'var(--color-base-content)'}
            >
              {index + 1}
            </text>
          </g>
        );
      })}
    </>
  );
});

/** What is traced so far, from its first corner on. */
export function TraceLine({ view }: { view: Projection }) {
  const trace = useStore(toolStore, (state) => state.trace);
  if (trace.length === 0) return null;
  const points = trace.map(({ x, y }) => `${view.toX(x)} ${view.toY(y)}`);
  return (
    <g className="pointer-events-none">
      <path
        d={`M${points.join('L')}`}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={2}
        strokeDasharray="6 4"
      />
      {trace.map(({ x, y }, i) => (
        <circle
          key={i}
          cx={view.toX(x)}
          cy={view.toY(y)}
          r={i === 0 ? 7 : 4}
          fill={i === 0 ? 'var(--color-base-100)' : 'var(--color-primary)'}
          stroke="var(--color-primary)"
          strokeWidth={2}
        />
      ))}
    </g>
  );
}
