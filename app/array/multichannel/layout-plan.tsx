import { isHeight, type MultichannelLayout } from '../../../core/arrays';
import { cosDeg, sinDeg } from '../../../core/units';

const SIZE = 220;
const MARGIN = 34;
const AIM = 16;

/** A larger array from above, upstage at the top: each microphone and where it looks. */
export function LayoutPlan({ layout }: { layout: MultichannelLayout }) {
  const reach = Math.max(0.1, ...layout.capsules.map(({ dx, dy }) => Math.hypot(dx, dy)));
  const scale = (SIZE / 2 - MARGIN) / reach;
  const at = (value: number): number => SIZE / 2 + value * scale;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="mb-2 h-[220px] w-[220px]"
      role="img"
      aria-label="The array from above"
    >
      <line x1={SIZE / 2} x2={SIZE / 2} y1={8} y2={SIZE - 8} stroke="var(--hairline)" />
      <line x1={8} x2={SIZE - 8} y1={SIZE / 2} y2={SIZE / 2} stroke="var(--hairline)" />
      {layout.capsules.map(({ label, dx, dy, azimuthDeg, elevationDeg }, i) => {
        const [x, y] = [at(dx), at(-dy)];
        const high = isHeight(label);
        const flat = AIM * cosDeg(elevationDeg);
        const [right, ahead] = [sinDeg(azimuthDeg), cosDeg(azimuthDeg)];
        // The height layer stands over the ring: its names are on the inner side.
        const off = high ? -22 : 24;
        return (
          <g key={`${label}${i}`}>
            <line
              x1={x}
              y1={y}
              x2={x + flat * right}
              y2={y - flat * ahead}
              stroke="currentColor"
              strokeWidth={1.5}
            />
            <circle
              cx={x}
              cy={y}
              r={high ? 6 : 3.5}
              fill={high ? 'none' : 'currentColor'}
              stroke="currentColor"
              strokeWidth={1.5}
            />
            <text
              x={x + off * right}
              y={y - off * ahead + 4}
              textAnchor="middle"
              fontSize={11}
              fill="currentColor"
            >
              {label}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
