import { sum } from 'd3-array';
import { useMemo, useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { THIRD_OCTAVES_HZ } from '../../../core/acoustics';
import { contextOf, interchannelCorrelation } from '../../../core/analysis';
import { looksSteeply, prepareArray } from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { AXIS, axisTitle, GRID, MARGIN } from '../../charts/axes';
import { ChartFrame } from '../../charts/chart-frame';
import { useSession } from '../../document/use-session';
import { FocusTable } from '../../image-line/focus-table';
import { CheckField, ChoiceField } from '../../parts/fields';
import { PatternsChart } from '../design/patterns-chart';
import { Fan } from './fan';
import { CuePlane, LocalisationChart } from './localisation-charts';
import { SweepChart } from './sweep-chart';

const HEIGHT = 250;

const FREQUENCIES = [31.5, 40, 50, 63, 80, ...THIRD_OCTAVES_HZ.filter((hz) => hz < 6000)];
const SPACIOUS_BELOW_HZ = 200;

function DiffuseChart({ array }: { array: MicArray }) {
  const session = useSession();
  const points = useMemo(() => {
    const { speed } = contextOf(session);
    const ready = prepareArray(array, array.mix.capsules);
    return FREQUENCIES.flatMap((hz) => {
      const found = interchannelCorrelation(ready, hz, speed);
      return found ? [{ hz, correlation: found.real }] : [];
    });
  }, [session, array]);
  if (points.length === 0) return null;
  const low = points.filter(({ hz }) => hz <= SPACIOUS_BELOW_HZ);
  const mean = sum(low, ({ correlation }) => correlation) / low.length;
  const word = mean < 0.4 ? 'spacious' : mean < 0.75 ? 'between' : 'close together';
  return (
    <ChartFrame
      title="Correlation in the reverberant field"
      about={`Below ${SPACIOUS_BELOW_HZ} Hz ${mean.toFixed(2)} on average: ${word} in the bass.`}
      formula="diffuse-field-correlation"
      header={['frequency Hz', 'correlation']}
      rows={points.map(({ hz, correlation }) => [hz, correlation])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="hz"
            type="number"
            scale="log"
            domain={[31.5, 6000]}
            ticks={[50, 100, 200, 500, 1000, 2000, 5000]}
            label={axisTitle('frequency, Hz', 'bottom')}
            {...AXIS}
          />
          <YAxis
            domain={[-1, 1]}
            ticks={[-1, -0.5, 0, 0.5, 1]}
            label={axisTitle('correlation', 'left')}
            {...AXIS}
          />
          <ReferenceLine y={0} stroke="var(--muted)" />
          <Line
            dataKey="correlation"
            dot={false}
            isAnimationActive={false}
            stroke="var(--color-primary)"
            strokeWidth={2}
          />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

/** What a listener's ears make of it, band by band: on demand. */
function Listener({ array }: { array: MicArray }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Listener by band" className="xl:col-span-2">
      <button
        className="btn btn-sm font-normal"
        aria-expanded={open}
        onClick={() => setOpen((known) => !known)}
      >
        Focus of every player, by band
      </button>
      {open && <FocusTable arrayId={array.id} />}
    </section>
  );
}

/** Another array or candidate, whose curves stand beside those of the one shown. */
function useBeside(array: MicArray) {
  const { arrays, candidates } = useSession();
  const [wanted, setWanted] = useState('');
  const others = [
    ...arrays.filter(({ id }) => id !== array.id).map((other) => ({ id: other.id, other })),
    ...candidates.map(({ id, name, array: kept }) => ({ id, other: { ...kept, name } })),
  ];
  const beside = others.find(({ id }) => id === wanted)?.other ?? null;
  return {
    beside,
    field: others.length > 0 && (
      <ChoiceField
        label="Beside it, dashed"
        value={beside ? wanted : ''}
        options={[
          { value: '', label: 'nothing' },
          ...others.map(({ id, other }) => ({ value: id, label: other.name })),
        ]}
        onChange={setWanted}
      />
    ),
  };
}

const MEASURED = ['widthPct', 'unevennessDb'] as const;

/** What the array does, in charts. */
export function ResponsePage({ array }: { array: MicArray }) {
  const { beside, field } = useBeside(array);
  const [curves, setCurves] = useState(false);
  const asCurves = <CheckField label="As curves" value={curves} onChange={setCurves} />;
  // Moved on the plan, an array that looks down only leaves its players.
  const kinds = looksSteeply(array) ? (['height'] as const) : (['distance', 'height'] as const);
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-6 xl:grid-cols-2">
      {curves ? (
        <>
          <div className="xl:col-span-2">{asCurves}</div>
          <LocalisationChart array={array} />
          <CuePlane />
        </>
      ) : (
        <div className="xl:col-span-2">
          <Fan array={array} header={asCurves} />
        </div>
      )}
      <PatternsChart array={array} />
      <DiffuseChart array={array} />
      {field && (
        <div className="xl:col-span-2">
          <div className="w-96">{field}</div>
        </div>
      )}
      {kinds.flatMap((kind) =>
        MEASURED.map((measure) => (
          <SweepChart
            key={kind + measure}
            array={array}
            kind={kind}
            measure={measure}
            beside={beside}
          />
        )),
      )}
      <Listener array={array} />
    </div>
  );
}
