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
import type { MicArray, Session } from '../../../core/session';
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
  /** another layout, swept with it */
  beside: MicArray | null;
}

/** Heights are swept from here to the ceiling, or as high as stands go, m. */
const LOWEST_M = 0.3;
const HIGHEST_M = 8;
const UNDER_CEILING_M = 0.1;

function heightsIn({ venue }: Session): number[] {
  const ceiling = venue.heightM === null ? HIGHEST_M : venue.heightM - UNDER_CEILING_M;
  return range(LOWEST_M, Math.max(LOWEST_M + 0.1, Math.min(HIGHEST_M, ceiling)));
}

/** Width or evenness as the array is moved along its aim, or raised and lowered. */
export function SweepChart({ array, kind, measure, beside }: SweepProps) {
  const session = useSession();
  const { figures } = useFigures();
  const now = kind === 'distance' ? (figures?.ensemble?.distanceM ?? null) : array.z;
  const rested = useSettled(session, 150);
  const swept = useMemo(() => {
    const values = kind === 'distance' ? range(0.4, 12) : heightsIn(rested);
    const sweep = kind === 'distance' ? distanceSweep : heightSweep;
    const other = new Map(
      (beside ? sweep(rested, beside, values) : []).map((point) => [point.valueM, point]),
    );
    return sweep(rested, array, values).map((point) => ({
      ...point,
      besideWidthPct: other.get(point.valueM)?.widthPct ?? null,
      besideUnevennessDb: other.get(point.valueM)?.unevennessDb ?? null,
    }));
  }, [rested, array, beside, kind]);
  if (swept.length === 0) return null;
  const besideKey = measure === 'widthPct' ? 'besideWidthPct' : 'besideUnevennessDb';
  const { name, unit, stroke } = MEASURES[measure];
  const along = kind === 'distance' ? 'distance from the ensemble’s middle, m' : 'height, m';
  return (
    <ChartFrame
      title={`${kind === 'distance' ? 'Closer or farther' : 'Lower or higher'}: ${name}`}
      header={
        beside
          ? [along, `${array.name}, ${unit}`, `${beside.name}, ${unit}`]
          : [along, `${name} ${unit}`]
      }
      rows={swept.map((point) => [
        point.valueM,
        point[measure],
        ...(beside ? [point[besideKey]] : []),
      ])}
    >
      <ResponsiveContainer width="100%" height={170}>
        <LineChart data={swept} margin={MARGIN} accessibilityLayer={false}>
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
          {beside && (
            <Line
              dataKey={besideKey}
              dot={false}
              isAnimationActive={false}
              stroke={stroke}
              strokeWidth={2}
              strokeDasharray="6 4"
            />
          )}
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}
