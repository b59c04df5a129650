import { fieldKey } from '../../view/validity';
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
import { bestCentreFill, centreFillSweep } from '../../../core/analysis';
import { stripsOf } from '../../../core/arrays';
import { modelOf } from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { formatNumber, formatSigned } from '../../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../../charts/axes';
import { ChartFrame } from '../../charts/chart-frame';
import { QuantityField } from '../../parts/quantity-field';
import { levelKind } from '../../parts/quantity-kinds';
import { useSettled } from '../../figures/use-settled';
import { edit, undo } from '../../document/session-store';
import { changeStrip } from '../../document/edits';
import { notify } from '../../view/notices';
import { useSession } from '../../document/use-session';

const CENTRE = 'C';
const GAINS_DB = Array.from({ length: 37 }, (_, i) => i - 30);

const centreIndex = ({ technique }: MicArray): number =>
  technique.kind === 'custom' ? technique.capsules.findIndex(({ label }) => label === CENTRE) : -1;

/** Sets the centre microphone's gain in the mix; the other strips stay as they are. */
const setCentre = (array: MicArray, index: number, gainDb: number): void =>
  void edit(changeStrip(array.id, index, { gainDb }));

/** A centre microphone against the hole in the middle: its level swept. */
export function CentreFill({ array }: { array: MicArray }) {
  const session = useSession();
  const rested = useSettled(session, 150);
  const points = useMemo(() => centreFillSweep(rested, array, CENTRE, GAINS_DB), [rested, array]);
  const index = centreIndex(array);
  if (index < 0) return null;
  const present = stripsOf(array.technique, array.mix.capsules)[index]?.gainDb ?? 0;
  const [now] = centreFillSweep(session, array, CENTRE, [present]);
  const best = bestCentreFill(points, now ?? null);
  return (
    <div className="grid grid-cols-[18rem_1fr] gap-x-10 pt-4">
      <div>
        <h2 className="pb-1 text-[14px]">Centre microphone against the hole</h2>
        <QuantityField
          label="Centre against the sides"
          fieldKey={fieldKey('array', array.id, 'centreGain')}
          kind={levelKind('gainDb')}
          value={present}
          onCommit={(gainDb) => gainDb !== null && setCentre(array, index, gainDb)}
        />
        <p className="py-2" role="status" aria-label="Centre fill">
          {now
            ? `Now: largest gap ${formatNumber(now.largestGapPct, 0)} %, image width ${formatNumber(now.imageWidthPct, 0)} %.`
            : 'No players yet, so there is no gap to close.'}{' '}
          {now && !best && 'No level of the centre does better.'}
          {best &&
            `Better at ${formatSigned(best.gainDb, 0)} dB: gap ${formatNumber(best.largestGapPct, 0)} %, image width ${formatNumber(best.imageWidthPct, 0)} %.`}
          {best?.skipped &&
            ` The smallest gap, ${formatNumber(best.skipped.largestGapPct, 0)} % at ${formatSigned(best.skipped.gainDb, 0)} dB, would leave a picture of ${formatNumber(best.skipped.imageWidthPct, 0)} % only.`}
        </p>
        {best && best.gainDb !== present && (
          <button
            className="btn btn-sm"
            onClick={() => {
              setCentre(array, index, best.gainDb);
              notify(`Centre at ${formatSigned(best.gainDb, 0)} dB.`, {
                label: 'Undo',
                run: () => void undo(),
              });
            }}
          >
            Set it to {formatSigned(best.gainDb, 0)} dB
          </button>
        )}
        <p className="text-muted pt-2 text-[12.5px]">
          An estimate of the three summed, after {modelOf(session.settings).name}. A louder centre
          closes the gap and narrows the rest: proposed is the least gap that leaves three quarters
          of the fullest picture.
        </p>
      </div>
      {points.length > 0 && (
        <ChartFrame
          title="Gap and image width by the centre’s level"
          header={['centre dB', 'largest gap %', 'image width %']}
          rows={points.map(({ gainDb, largestGapPct, imageWidthPct }) => [
            gainDb,
            largestGapPct,
            imageWidthPct,
          ])}
        >
          <ResponsiveContainer width="100%" height={190}>
            <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
              <CartesianGrid {...GRID} />
              <XAxis
                dataKey="gainDb"
                type="number"
                domain={[-30, 6]}
                ticks={[-30, -24, -18, -12, -6, 0, 6]}
                label={axisTitle('centre against the sides, dB', 'bottom')}
                {...AXIS}
              />
              <YAxis
                domain={[0, 100]}
                ticks={[0, 25, 50, 75, 100]}
                label={axisTitle('%', 'left')}
                {...AXIS}
              />
              <ReferenceLine x={present} stroke="var(--color-primary)" strokeDasharray="4 3" />
              <Line
                dataKey="largestGapPct"
                dot={false}
                isAnimationActive={false}
                stroke="var(--color-base-content)"
                strokeWidth={2.2}
              />
              <Line
                dataKey="imageWidthPct"
                dot={false}
                isAnimationActive={false}
                stroke="var(--hue-3)"
                strokeDasharray="6 3"
                strokeWidth={2}
              />
            </LineChart>
          </ResponsiveContainer>
          <p className="text-muted pl-12 text-[12px]">solid: largest gap · dashed: image width</p>
        </ChartFrame>
      )}
    </div>
  );
}
