import { useMemo } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { distanceSweep, heightSweep } from '../../../core/analysis';
import type { MicArray } from '../../../core/session';
import { AXIS, axisTitle, GRID, MARGIN } from '../../charts/axes';
import { ChartFrame } from '../../charts/chart-frame';
import { useSettled } from '../../figures/use-settled';
import { useFigures } from '../../figures/figures';
import { useSession } from '../../document/use-session';

const SWEEP_STEPS = 40;
const range = (from: number, to: number) =>
  Array.from({ length: SWEEP_STEPS + 1 }, (_, i) => from + ((to - from) * i) / SWEEP_STEPS);

const MEASURES = {
  widthPct: { name: 'width of the picture', unit: '%', stroke: 'var(--color-base-content)' },
  unevennessDb: { name: 'loudest against softest', unit: 'dB', stroke: 'var(--hue-3)' },
} as const;

interface SweepProps {
  array: MicArray;
  kind: 'distance' | 'height';
  measure: keyof typeof MEASURES;
}

/** Width or evenness as the array is moved along its aim, or raised and lowered. */
export function SweepChart({ array, kind, measure }: SweepProps) {
  const session = useSession();
  const { figures } = useFigures();
  const now = kind === 'distance' ? (figures?.ensemble?.distanceM ?? null) : array.z;
  const rested = useSettled(session, 150);
  const points = useMemo(
    () =>
      kind === 'distance'
        ? distanceSweep(rested, array, range(0.4, 12))
        : heightSweep(rested, array, range(0.3, 5)),
    [rested, array, kind],
  );
  if (points.length === 0) return null;
  const { name, unit, stroke } = MEASURES[measure];
  const along = kind === 'distance' ? 'distance from the ensemble’s middle, m' : 'height, m';
  return (
    <ChartFrame
      title={`${kind === 'distance' ? 'Closer or farther' : 'Lower or higher'}: ${name}`}
      header={[along, `${name} ${unit}`]}
      rows={points.map((point) => [point.valueM, point[measure]])}
    >
      <ResponsiveContainer width="100%" height={170}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="valueM"
            type="number"
            domain={['dataMin', 'dataMax']}
            tickFormatter={(m: number) => m.toFixed(1)}
            label={axisTitle(along, 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={measure === 'widthPct' ? [0, 100] : [0, 'auto']}
            tickCount={5}
            label={axisTitle(unit, 'left')}
            {...AXIS}
          />
          {now !== null && (
            <ReferenceLine x={now} stroke="var(--color-primary)" strokeDasharray="4 3" />
          )}
          <Line
            dataKey={measure}
            dot={false}
            isAnimationActive={false}
            stroke={stroke}
            strokeWidth={2}
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
