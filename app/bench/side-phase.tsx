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
import { sidePhase } from '../../core/recorded';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { HEIGHT, hzText } from './over-time';

/** What a high-pass of the side does to it, so that it is not set blindly. */
export function PhaseChart({ hz }: { hz: number }) {
  const points = useMemo(
    () => sidePhase(hz).map((point) => ({ ...point, name: hzText(point.hz) })),
    [hz],
  );
  const from = points.find(({ phaseDeg }) => phaseDeg < 30);
  return (
    <ChartFrame
      title="The side against the mid"
      about={`Left and right get the same filter and stay mirror images. Below ${from ? hzText(from.hz) : '2k'} Hz the side is more than 30° ahead of the mid: low sounds at the sides are less sharp there, and the lowest come from the middle.`}
      header={['frequency Hz', 'side dB', 'side ahead by °']}
      rows={points.map((point) => [point.hz, point.gainDb, point.phaseDeg])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="hz"
            type="number"
            scale="log"
            domain={[20, 2000]}
            ticks={[20, 50, 100, 200, 500, 1000, 2000]}
            label={axisTitle('frequency, Hz', 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={[0, 180]}
            ticks={[0, 90, 180]}
            label={axisTitle('side ahead, °', 'left')}
            {...AXIS}
          />
          <ReferenceLine x={hz} stroke="var(--color-primary)" strokeDasharray="4 3" />
          <Line
            dataKey="phaseDeg"
            dot={false}
            isAnimationActive={false}
            stroke="var(--color-base-content)"
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
