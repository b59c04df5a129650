import {
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { HEIGHT, hzText } from './over-time';

interface Props {
  title: string;
  about: string;
  header: readonly string[];
  /** what the table says where it is more than the bars do */
  rows?: readonly (readonly number[])[];
  values: readonly { hz: number; value: number | null }[];
  domain: [number, number];
  ticks: number[];
  axis: string;
  /** whether a bar is drawn as a fault */
  bad: (value: number) => boolean;
}

/** A figure of each band as a bar from zero. */
export function BandBars({ title, about, header, rows, values, domain, ticks, axis, bad }: Props) {
  const points = values.map(({ hz, value }) => ({ name: hzText(hz), hz, value }));
  return (
    <ChartFrame
      title={title}
      about={about}
      header={header}
      rows={rows ?? values.map(({ hz, value }) => [hz, value])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <BarChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} vertical={false} />
          <XAxis
            dataKey="name"
            label={axisTitle('frequency, Hz', 'bottom')}
            {...AXIS}
            interval={points.length > 12 ? 2 : 0}
          />
          <YAxis
            domain={domain}
            allowDataOverflow
            ticks={ticks}
            label={axisTitle(axis, 'left')}
            {...AXIS}
          />
          <ReferenceLine y={0} stroke="var(--muted)" />
          <Bar dataKey="value" isAnimationActive={false}>
            {points.map(({ hz, value }) => (
              <Cell
                key={hz}
                fill={value !== null && bad(value) ? 'var(--color-error)' : 'var(--color-primary)'}
              />
            ))}
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
