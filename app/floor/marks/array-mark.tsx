import { memo, type KeyboardEvent } from 'react';
import { placeCapsules } from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import type { Projection } from '../../../paper/projection';
import { focused, nudge, type BindMark } from './use-mark-drag';

interface Props {
  array: MicArray;
  active: boolean;
  /** it rules the floor, and others could */
  rules: boolean;
  selected: boolean;
  projection: Projection;
  caption: string;
  bind: BindMark;
}

const CAPSULE_PX = 15;
/** Bars too small to see at this zoom are drawn at least this wide; the caption has the figures. */
const LEAST_BAR_PX = 22;

/** Where the rings and spokes begin: four ticks around the array. */
function RulerTicks() {
  return (
    <g stroke="var(--color-primary)" strokeWidth={1.6}>
      {[45, 135, 225, 315].map((deg) => (
        <line key={deg} x1={17} x2={23} transform={`rotate(${deg})`} />
      ))}
    </g>
  );
}

/** An array on the plan: its bar, each capsule along its axis, L and R in letters. */
export const ArrayMark = memo(function ArrayMark(props: Props) {
  const { array, active, rules, selected, projection, caption, bind } = props;
  const { toX, toY, scale } = projection;
  const x = toX(array.x);
  const y = toY(array.y);
  const capsules = placeCapsules(array).map(({ label, position, axis }) => ({
    label,
    dx: (position.x - array.x) * scale,
    dy: -(position.y - array.y) * scale,
    ax: axis.x,
    ay: -axis.y,
  }));
  const span = Math.max(...capsules.map(({ dx, dy }) => Math.hypot(dx, dy)), 0) * 2;
  const grow = span > 0.5 && span < LEAST_BAR_PX ? LEAST_BAR_PX / span : 1;
  const ink = active ? 'var(--color-base-content)' : 'var(--muted)';
  const off = !array.enabled;
  const mark = { kind: 'array' as const, id: array.id };
  const spread = span * grow > 4;
  return (
    <g>
      <g
        {...bind(mark)}
        role="button"
        tabIndex={0}
        aria-label={`${caption}${off ? ', switched off' : ''}${rules ? ', the floor is ruled from it' : ''}`}
        aria-pressed={selected}
        data-array={array.id}
        className="grab touch-none"
        transform={`translate(${x} ${y})`}
        opacity={off ? 0.45 : 1}
        onFocus={(event) => focused(mark, event)}
        onKeyDown={(event: KeyboardEvent) => nudge(mark, event)}
      >
        <circle r={24} fill="transparent" />
        {rules && <RulerTicks />}
        {selected && (
          <circle
            r={25}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={1.8}
            strokeDasharray="3 3"
          />
        )}
        {spread && capsules.length > 1 && (
          <polyline
            points={capsules.map(({ dx, dy }) => `${dx * grow},${dy * grow}`).join(' ')}
            fill="none"
            stroke={ink}
            strokeWidth={2.5}
          />
        )}
        {capsules.map(({ label, dx, dy, ax, ay }, index) => {
          const [cx, cy] = [dx * grow, dy * grow];
          return (
            <g key={`${label}-${index}`}>
              <line
                x1={cx}
                y1={cy}
                x2={cx + ax * CAPSULE_PX}
                y2={cy + ay * CAPSULE_PX}
                stroke={ink}
                strokeWidth={4.5}
                strokeLinecap="round"
              />
              <text
                x={cx + ax * (CAPSULE_PX + 11)}
                y={cy + ay * (CAPSULE_PX + 11) + 4}
                textAnchor="middle"
                fontSize={12}
                fontWeight={700}
                fill={ink}
              >
                {label}
              </text>
            </g>
          );
        })}
      </g>
    </g>
  );
});
