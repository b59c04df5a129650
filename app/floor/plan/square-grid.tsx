import { memo } from 'react';
import { lengthText, type UnitSystem } from '../../../core/units';
import type { Projection } from '../../../paper/projection';

interface Props {
  width: number;
  height: number;
  view: Projection;
  units: UnitSystem;
}

const FOOT = 0.3048;
const METRIC_STEPS = [0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50];
const IMPERIAL_STEPS = [0.5, 1, 2, 5, 10, 20, 50, 100].map((feet) => feet * FOOT);
const CLOSEST_PX = 44;

/** Every multiple of a step between two bounds. */
function lines(from: number, to: number, step: number): number[] {
  const first = Math.ceil(from / step);
  const count = Math.max(0, Math.floor(to / step) - first + 1);
  return Array.from({ length: Math.min(count, 400) }, (_, i) => (first + i) * step);
}

/** Squares from the datum, for those who set out by the floor's own lines. */
export const SquareGrid = memo(function SquareGrid({ width, height, view, units }: Props) {
  const steps = units === 'metric' ? METRIC_STEPS : IMPERIAL_STEPS;
  const step = steps.find((size) => size * view.scale >= CLOSEST_PX) ?? 50;
  const stroke = (value: number) => (Math.abs(value) < 1e-9 ? 'var(--muted)' : 'var(--hairline)');
  return (
    <g aria-hidden="true">
      {lines(view.fromX(0), view.fromX(width), step).map((x) => (
        <line key={x} x1={view.toX(x)} x2={view.toX(x)} y1={0} y2={height} stroke={stroke(x)} />
      ))}
      {lines(view.fromY(height), view.fromY(0), step).map((y) => (
        <g key={y}>
          <line y1={view.toY(y)} y2={view.toY(y)} x1={0} x2={width} stroke={stroke(y)} />
          <text x={4} y={view.toY(y) - 3} fontSize={11.5} fill="var(--muted)">
            {lengthText(y, units)}
          </text>
        </g>
      ))}
    </g>
  );
});
