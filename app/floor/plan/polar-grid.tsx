import { memo } from 'react';
import { cosDeg, lengthText, sinDeg, type UnitSystem } from '../../../core/units';

interface Props {
  /** the active array, px */
  x: number;
  y: number;
  aimDeg: number;
  scale: number;
  reach: number;
  units: UnitSystem;
}

const METRIC_STEPS = [0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50];
const FOOT = 0.3048;
const IMPERIAL_STEPS = [0.5, 1, 2, 5, 10, 20, 50, 100].map((feet) => feet * FOOT);
const CLOSEST_PX = 56;
const SPOKE_DEG = 10;

/** Rings of distance and spokes of angle around the array: what matters is ruled from there. */
export const PolarGrid = memo(function PolarGrid({ x, y, aimDeg, scale, reach, units }: Props) {
  const steps = units === 'metric' ? METRIC_STEPS : IMPERIAL_STEPS;
  const step = steps.find((size) => size * scale >= CLOSEST_PX) ?? steps[steps.length - 1] ?? 1;
  const rings = Array.from(
    { length: Math.min(80, Math.ceil(reach / (step * scale))) },
    (_, i) => i + 1,
  );
  const spokes = Array.from({ length: 360 / SPOKE_DEG }, (_, i) => i * SPOKE_DEG);
  const inner = step * scale;
  return (
    <g aria-hidden="true">
      {rings.map((ring) => (
        <circle
          key={ring}
          cx={x}
          cy={y}
          r={ring * step * scale}
          fill="none"
          stroke="var(--hairline)"
          strokeWidth={ring % 5 === 0 ? 1.6 : 1}
        />
      ))}
      {spokes.map((angle) => {
        const [dx, dy] = [sinDeg(aimDeg + angle), -cosDeg(aimDeg + angle)];
        return (
          <line
            key={angle}
            x1={x + dx * inner}
            y1={y + dy * inner}
            x2={x + dx * reach}
            y2={y + dy * reach}
            stroke="var(--hairline)"
            strokeWidth={angle % 30 === 0 ? 1.2 : 0.7}
          />
        );
      })}
      {rings.map((ring) => (
        <text
          key={ring}
          x={x + sinDeg(aimDeg) * ring * step * scale + 4}
          y={y - cosDeg(aimDeg) * ring * step * scale - 4}
          fontSize={11.5}
          fill="var(--muted)"
        >
          {lengthText(ring * step, units)
            .replace(/\.00 m/, ' m')
            .replace(/(\.\d)0 m/, '$1 m')
            .replace(/ 0″/, '')}
        </text>
      ))}
    </g>
  );
});
