import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { HEIGHT, timeAxis } from './over-time';

interface Props {
  points: readonly { s: number; value: number | null }[];
  /** the ends of the scale are the first and the last */
  ticks: readonly [number, ...number[]];
  axis: string;
  stroke: string;
  /** every value as a dot as well */
  dots?: boolean;
}

/** A figure over time, about zero. */
export function TimeChart({ points, ticks, axis, stroke, dots = false }: Props) {
  return (
    <ResponsiveContainer width="100%" height={HEIGHT}>
      <LineChart data={[...points]} margin={MARGIN} accessibilityLayer={false}>
        <CartesianGrid {...GRID} />
        <XAxis {...timeAxis} />
        <YAxis
          domain={[ticks[0], ticks[ticks.length - 1] ?? ticks[0]]}
          ticks={[...ticks]}
          label={axisTitle(axis, 'left')}
          {...AXIS}
        />
        <ReferenceLine y={0} stroke="var(--muted)" />
        <Line
          dataKey="value"
          dot={dots ? { r: 1.2 } : false}
          isAnimationActive={false}
          stroke={stroke}
          strokeWidth={dots ? 1 : 1.5}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
