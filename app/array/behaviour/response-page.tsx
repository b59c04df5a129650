import { sum } from 'd3-array';
import { looksSteeply, shiftIn, speakingModel } from '../../../core/localisation';
import { useMemo, useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ComposedChart,
  XAxis,
  YAxis,
} from 'recharts';
import { THIRD_OCTAVES_HZ } from '../../../core/acoustics';
import {
  contextOf,
  interchannelCorrelation,
  isApart,
  type SourceFigures,
} from '../../../core/analysis';
import {
  inPlace,
  localisationCurve,
  farField,
  prepareArray,
  modelById,
  MODELS,
  type ModelId,
} from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { AXIS, axisTitle, GRID, MARGIN, MODEL_LINES } from '../../charts/axes';
import { ChartFrame } from '../../charts/chart-frame';
import { ChoiceField } from '../../parts/fields';
import { useGrouping } from '../../parts/groups';
import { useFigures } from '../../figures/figures';
import { choiceStore, hover, select } from '../../view/choice';
import { FocusTable } from '../../image-line/focus-table';
import { useSession } from '../../document/use-session';
import { useStore } from 'zustand';
import { PatternsChart } from '../design/patterns-chart';
import { SweepChart } from './sweep-chart';

const HEIGHT = 250;

interface PlayerPoint {
  id: string;
  name: string;
  hue: string;
  x: number;
  y: number;
}

/** Players as points on a chart: hover and click answer as everywhere. */
function PlayerDot(props: { cx?: number; cy?: number; payload?: PlayerPoint }) {
  const { cx = 0, cy = 0, payload } = props;
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  if (!payload) return null;
  const lit = hovered === payload.id;
  return (
    <g
      onPointerEnter={() => hover(payload.id)}
      onPointerLeave={() => hover(null)}
      onClick={() => select({ kind: 'source', id: payload.id })}
      className="cursor-pointer"
    >
      <circle cx={cx} cy={cy} r={9} fill="transparent" />
      <circle
        cx={cx}
        cy={cy}
        r={lit ? 6.5 : 4.5}
        fill={payload.hue}
        stroke="var(--color-base-100)"
      />
      {lit && (
        <text x={cx} y={cy - 10} textAnchor="middle" fontSize={12} fill="var(--color-base-content)">
          {payload.name}
        </text>
      )}
    </g>
  );
}

function usePlayers(at: (figures: SourceFigures) => { x: number; y: number } | null) {
  const session = useSession();
  const { bySource } = useFigures();
  const { badges } = useGrouping(session.sources);
  return session.sources.flatMap((source) => {
    const figures = bySource.get(source.id);
    const place = figures && at(figures);
    const hue = badges.get(source.id)?.group.hue ?? 'var(--muted)';
    return place ? [{ id: source.id, name: source.name, hue, ...place }] : [];
  });
}

const shiftOf = (figures: SourceFigures, model: ModelId) => shiftIn(figures, model);

function LocalisationChart({ array }: { array: MicArray }) {
  const session = useSession();
  const { figures } = useFigures();
  const { model } = session.settings;
  const ensemble = figures?.ensemble;
  const curve = useMemo(() => {
    const { speed } = contextOf(session);
    const ready = prepareArray(array, array.mix.capsules);
    const real = ensemble && isApart(ready, ensemble);
    const cues = real
      ? inPlace(ready, ensemble.distanceM, ensemble.heightM, speed)
      : farField(ready, speed);
    return localisationCurve(ready, cues, 90, 2);
  }, [session, array, ensemble]);
  const models = MODELS.filter(({ id }) => curve.some(({ shift }) => shift[id] !== undefined));
  const data = curve.map(({ sourceDeg, shift }) => ({
    deg: sourceDeg,
    ...Object.fromEntries(
      models.map(({ id }) => [id, shift[id] === undefined ? null : (shift[id] ?? 0) * 100]),
    ),
  }));
  const players = usePlayers((source) => {
    const shift = shiftOf(source, model);
    return shift === null ? null : { x: source.azimuthDeg, y: shift * 100 };
  });
  return (
    <ChartFrame
      title="Where a source appears"
      about={`Players on the curve of ${ensemble ? 'their own distance and height' : 'distant sources'}; strong: the model that leads.`}
      formula="recording-angle"
      header={['source angle °', ...models.map(({ name }) => `${name} %`)]}
      rows={curve.map(({ sourceDeg, shift }) => [
        sourceDeg,
        ...models.map(({ id }) => (shift[id] === undefined ? null : (shift[id] ?? 0) * 100)),
      ])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <ComposedChart data={data} margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="deg"
            type="number"
            domain={[-90, 90]}
            ticks={[-90, -60, -30, 0, 30, 60, 90]}
            label={axisTitle('source angle, °', 'bottom')}
            {...AXIS}
          />
          <YAxis
            type="number"
            domain={[-100, 100]}
            ticks={[-100, -75, -50, 0, 50, 75, 100]}
            label={axisTitle('image, %', 'left')}
            {...AXIS}
          />
          {[-75, 75].map((y) => (
            <ReferenceLine key={y} y={y} stroke="var(--muted)" strokeDasharray="4 4" />
          ))}
          {models.map(({ id }) => (
            <Line
              key={id}
              dataKey={id}
              dot={false}
              isAnimationActive={false}
              {...MODEL_LINES[id]}
              strokeWidth={id === model ? 2.4 : 1.2}
            />
          ))}
          <Scatter
            data={players.map((player) => ({ ...player, deg: player.x }))}
            dataKey="y"
            isAnimationActive={false}
            shape={<PlayerDot />}
          />
        </ComposedChart>
      </ResponsiveContainer>
      <Legend models={models.map(({ id }) => id)} />
    </ChartFrame>
  );
}

function Legend({ models }: { models: readonly ModelId[] }) {
  return (
    <ul className="flex gap-4 pl-12 text-[12px]" aria-label="Lines">
      {models.map((id) => (
        <li key={id} className="flex items-center gap-1.5">
          <svg width={26} height={8} aria-hidden="true">
            <line x2={26} y1={4} y2={4} strokeWidth={2} {...MODEL_LINES[id]} />
          </svg>
          {modelById(id).name}
        </li>
      ))}
    </ul>
  );
}

const LEVELS = [0.25, 0.5, 0.75, 1] as const;

function CuePlane() {
  const session = useSession();
  const { figures } = useFigures();
  const model = speakingModel(session.settings.model, false);
  const { lines, most } = useMemo(() => {
    const cues = figures?.sources.flatMap(({ icldDb, ictdMs }) =>
      icldDb === null || ictdMs === null ? [] : [{ icldDb, ictdMs }],
    );
    const mostDb = Math.min(40, Math.max(18, ...(cues ?? []).map((c) => Math.abs(c.icldDb) + 2)));
    const mostMs = Math.min(
      20,
      Math.max(1.4, ...(cues ?? []).map((c) => Math.abs(c.ictdMs) * 1.1)),
    );
    const steps = Array.from({ length: 81 }, (_, i) => -mostDb + (i * mostDb) / 40);
    return {
      most: { db: mostDb, ms: mostMs },
      lines: LEVELS.flatMap((level) =>
        [1, -1].map((side) => ({
          name: `${level * 100} % ${side > 0 ? 'R' : 'L'}`,
          level,
          points: steps.flatMap((db) => {
            const ms = model.timeNeeded(db * side, level);
            const at = ms === null ? null : ms * side;
            return at === null || Math.abs(at) > mostMs ? [] : [{ ms: at, db }];
          }),
        })),
      ),
    };
  }, [figures, model]);
  const players = usePlayers(({ icldDb, ictdMs, antiphase }) =>
    icldDb === null || ictdMs === null || antiphase ? null : { x: ictdMs, y: icldDb },
  );
  return (
    <ChartFrame
      title="Level and time differences"
      about={`Lines of equal image after ${model.name}: 25, 50, 75 and, strong, 100 %.`}
      formula="models-from-cues-to-a-place"
      header={['player', 'time difference ms', 'level difference dB']}
      rows={players.map(({ name, x, y }) => [name, x, y])}
    >
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <ComposedChart margin={MARGIN} accessibilityLayer={false}>
          <CartesianGrid {...GRID} />
          <XAxis
            dataKey="ms"
            type="number"
            domain={[-most.ms, most.ms]}
            tickFormatter={(ms: number) => ms.toFixed(1)}
            label={axisTitle('right earlier by, ms', 'bottom')}
            allowDuplicatedCategory={false}
            {...AXIS}
          />
          <YAxis
            dataKey="db"
            type="number"
            domain={[-most.db, most.db]}
            tickFormatter={(db: number) => db.toFixed(0)}
            label={axisTitle('right louder by, dB', 'left')}
            {...AXIS}
          />
          {lines.map(({ name, level, points }) => (
            <Line
              key={name}
              data={points}
              dataKey="db"
              dot={false}
              isAnimationActive={false}
              stroke="var(--muted)"
              strokeWidth={level === 1 ? 2 : 1}
              strokeDasharray={level === 1 ? 'none' : '4 3'}
            />
          ))}
          <Scatter
            data={players.map((player) => ({ ...player, ms: player.x, db: player.y }))}
            dataKey="db"
            isAnimationActive={false}
            shape={<PlayerDot />}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

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
  // Moved on the plan, an array that looks down only leaves its players.
  const kinds = looksSteeply(array) ? (['height'] as const) : (['distance', 'height'] as const);
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-6 xl:grid-cols-2">
      <LocalisationChart array={array} />
      <CuePlane />
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
