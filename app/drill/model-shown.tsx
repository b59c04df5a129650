import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { curvesWithSpread } from '../../core/drill';
import { MODELS } from '../../core/localisation';
import type { OwnModelData } from '../../core/session';
import { formatNumber } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN, modelLine } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';

type Cue = 'level' | 'time';

const POINTS = 36;
const MOST = { level: 18, time: 1.2 } as const;
const OTHERS = MODELS.filter(({ levelOnly }) => !levelOnly);

function rowsOf(model: OwnModelData, cue: Cue) {
  const { middle, low, high } = curvesWithSpread(model);
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const x = (MOST[cue] * i) / POINTS;
    const shifts = OTHERS.map(({ id, shift }) => [
      id,
      100 * (cue === 'level' ? shift(x, 0) : shift(0, x)),
    ]);
    return {
      x,
      yours: 100 * middle[cue](x),
      spread: [100 * low[cue](x), 100 * high[cue](x)] as [number, number],
      ...(Object.fromEntries(shifts) as Record<string, number>),
    };
  });
}

interface Props {
  model: OwnModelData;
  cue: Cue;
}

/** A listener's curve with where it lies nine times of ten, beside those of everybody. */
export function OwnCurve({ model, cue }: Props) {
  const rows = rowsOf(model, cue);
  const unit = cue === 'level' ? 'dB' : 'ms';
  return (
    <ChartFrame
      title={cue === 'level' ? 'Level alone' : 'Time alone'}
      about="Strong: yours; the field: where it lies nine times of ten; thin: the other models."
      formula="a-listeners-own-model"
      header={[
        `difference ${unit}`,
        'yours %',
        'from %',
        'to %',
        ...OTHERS.map(({ name }) => `${name} %`),
      ]}
      rows={rows.map((row) => [
        row.x,
        row.yours,
        ...row.spread,
        ...OTHERS.map(({ id }) => (row as unknown as Record<string, number>)[id] ?? null),
      ])}
    >
      <ResponsiveContainer width="100%" height={230}>
        <ComposedChart data={rows} margin={MARGIN}>
          <CartesianGrid {...GRID} />
          <XAxis
            type="number"
            dataKey="x"
            domain={[0, MOST[cue]]}
            ticks={cue === 'level' ? [0, 3, 6, 9, 12, 15, 18] : [0, 0.2, 0.4, 0.6, 0.8, 1, 1.2]}
            label={axisTitle(
              `right ${cue === 'level' ? 'louder' : 'earlier'} by, ${unit}`,
              'bottom',
            )}
            {...AXIS}
          />
          <YAxis
            type="number"
            domain={[0, 100]}
            ticks={[0, 25, 50, 75, 100]}
            label={axisTitle('image, %', 'left')}
            {...AXIS}
          />
          <Area
            dataKey="spread"
            stroke="none"
            fill="var(--hue-1)"
            fillOpacity={0.2}
            isAnimationActive={false}
          />
          {OTHERS.map(({ id }, i) => (
            <Line
              key={id}
              dataKey={id}
              dot={false}
              isAnimationActive={false}
              {...modelLine(i)}
              strokeWidth={1}
            />
          ))}
          <Line
            dataKey="yours"
            dot={false}
            isAnimationActive={false}
            stroke="var(--hue-1)"
            strokeWidth={2.6}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

/** What a model is made of, and how far it may be believed. */
export function modelText(model: OwnModelData): string {
  const widest = Math.max(
    ...[...model.levelSpread, ...model.timeSpread].map(([low, high]) => (high - low) / 2),
  );
  const side =
    Math.abs(model.side) < 0.02
      ? ''
      : ` Everything was heard ${formatNumber(100 * Math.abs(model.side), 0)} % too far ${model.side < 0 ? 'left' : 'right'}: that is the seat or the loudspeakers, and is left out.`;
  return `${model.answers} answers through ${model.through}, scattered by ±${formatNumber(100 * model.scatter, 0)} % of the half base. Of such answers about 3 % on average and about 11 % at the worst point may be claimed; at the knots at most ±${formatNumber(100 * widest, 0)} % here, nine times of ten.${side}`;
}
