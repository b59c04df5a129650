import { useMemo } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { useStore } from 'zustand';
import type { SourceFigures } from '../../../core/analysis';
import {
  MODELS,
  type LocalisationModel,
  modelsIn,
  shiftIn,
  speakingModel,
  type ModelId,
} from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { AXIS, axisTitle, GRID, MARGIN, modelLine } from '../../charts/axes';
import { ChartFrame } from '../../charts/chart-frame';
import { useSession } from '../../document/use-session';
import { useFigures } from '../../figures/figures';
import { useGrouping } from '../../parts/groups';
import { choiceStore, hover, select } from '../../view/choice';
import { useCurve } from './use-curve';

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

export function LocalisationChart({ array }: { array: MicArray }) {
  const session = useSession();
  const { figures } = useFigures();
  const { settings } = session;
  const { model } = settings;
  const curve = useCurve(array, 90, 2);
  const models = modelsIn(settings).filter(({ id }) =>
    curve.some(({ shift }) => shift[id] !== undefined),
  );
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
      about={`Players on the curve of ${figures?.ensemble ? 'their own distance and height' : 'distant sources'}; strong: the model that leads.`}
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
              {...lineOf(id)}
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
      <Legend models={models} />
    </ChartFrame>
  );
}

/** Of everybody's models in their order, and after them the listener's own. */
function lineOf(id: ModelId) {
  const place = MODELS.findIndex((one) => one.id === id);
  return modelLine(place < 0 ? MODELS.length : place);
}

function Legend({ models }: { models: readonly LocalisationModel[] }) {
  return (
    <ul className="flex gap-4 pl-12 text-[12px]" aria-label="Lines">
      {models.map(({ id, name }) => (
        <li key={id} className="flex items-center gap-1.5">
          <svg width={26} height={8} aria-hidden="true">
            <line x2={26} y1={4} y2={4} strokeWidth={2} {...lineOf(id)} />
          </svg>
          {name}
        </li>
      ))}
    </ul>
  );
}

const LEVELS = [0.25, 0.5, 0.75, 1] as const;

export function CuePlane() {
  const session = useSession();
  const { figures } = useFigures();
  const model = speakingModel(session.settings, false);
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
