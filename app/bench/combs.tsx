import { useMemo } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { combCurve, type SpotOption } from '../../core/recorded';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { HEIGHT } from './over-time';

const HZ = Array.from({ length: 240 }, (_, i) => 20 * 10 ** ((3 * i) / 239));
const STROKES: Readonly<Record<SpotOption['kind'], { stroke: string; strokeDasharray: string }>> = {
  keep: { stroke: 'var(--color-base-content)', strokeDasharray: 'none' },
  align: { stroke: 'var(--color-primary)', strokeDasharray: 'none' },
  behind: { stroke: 'var(--muted)', strokeDasharray: '5 3' },
};

/** The combs of what can be done, before anything is. */
export function Combs({
  options,
  levelDb,
  name,
}: {
  options: readonly SpotOption[];
  levelDb: number;
  name: string;
}) {
  const points = useMemo(() => {
    const curves = options.map(({ apartMs }) => combCurve(apartMs, levelDb, HZ));
    return HZ.map((hz, i) => ({
      hz,
      ...Object.fromEntries(options.map(({ kind }, k) => [kind, curves[k]?.[i] ?? null])),
    }));
  }, [options, levelDb]);
  return (
    <ChartFrame
      title={`Combs of ${name}`}
      about="Of the player’s direct sound where spot and main array meet in one loudspeaker: the plain line as recorded, the coloured one aligned, the dashed one behind. The room fills the dips."
      header={['frequency Hz', 'left so dB', 'aligned dB', 'behind dB']}
      rows={HZ.map((hz, i) => [
        hz,
        ...options.map(({ apartMs }) => combCurve(apartMs, levelDb, [HZ[i] ?? hz])[0] ?? null),
      ])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="hz"
            type="number"
            scale="log"
            domain={[20, 20_000]}
            ticks={[20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000]}
            tickFormatter={(hz: number) => (hz < 1000 ? `${hz}` : `${hz / 1000}k`)}
            label={axisTitle('frequency, Hz', 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={[-24, 6]}
            ticks={[-24, -18, -12, -6, 0, 6]}
            allowDataOverflow
            label={axisTitle('dB of both', 'left')}
            {...AXIS}
          />
          {options.map(({ kind }) => (
            <Line
              key={kind}
              dataKey={kind}
              dot={false}
              isAnimationActive={false}
              {...STROKES[kind]}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
