import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { azimuthFrom, edgesAt, type SourceFigures } from '../../../core/analysis';
import {
  crowdingOf,
  leadingModel,
  modelsIn,
  prepareArray,
  speakingModel,
  type ModelId,
} from '../../../core/localisation';
import type { MicArray, Source } from '../../../core/session';
import { ChartFrame } from '../../charts/chart-frame';
import { useSession } from '../../document/use-session';
import { useFigures } from '../../figures/figures';
import { useGrouping, type Badge } from '../../parts/groups';
import { useSize } from '../../parts/use-size';
import { choiceStore, hover, select } from '../../view/choice';
import {
  lineY,
  onArc,
  onLine,
  ribbon,
  thread,
  threadsOf,
  type FanFrame,
  type Thread,
} from './fan-shapes';
import { FanScale } from './fan-scale';
import { crowdingText, degreesText, placeText } from './fan-words';
import { useCurve } from './use-curve';

const HEIGHT = 340;

interface Player {
  id: string;
  name: string;
  badge: Badge | undefined;
  hue: string;
  deg: number;
  shift: number | null;
  left: number;
  right: number;
  /** directions of both ends of a wide one */
  edgesDeg: readonly [number, number] | null;
}

function usePlayers(array: MicArray, model: ModelId): Player[] {
  const { sources } = useSession();
  const { bySource } = useFigures();
  const { badges } = useGrouping(sources);
  const ready = useMemo(() => prepareArray(array, array.mix.capsules), [array]);
  const edges = (source: Source): [number, number] | null => {
    if (source.widthM === 0) return null;
    const [left, right] = edgesAt(ready, source);
    return [azimuthFrom(ready, left), azimuthFrom(ready, right)];
  };
  return sources.flatMap((source) => {
    const figures: SourceFigures | undefined = bySource.get(source.id);
    if (!figures || figures.atCapsule) return [];
    const place = figures.image?.[model];
    const badge = badges.get(source.id);
    return [
      {
        id: source.id,
        name: source.name,
        badge,
        hue: badge?.group.hue ?? 'var(--muted)',
        deg: figures.azimuthDeg,
        shift: place?.shift ?? null,
        left: place?.left ?? 0,
        right: place?.right ?? 0,
        edgesDeg: edges(source),
      },
    ];
  });
}

/** A thread for every ten degrees; those without a place end in a cross where they begin. */
function Ruler({ frame, threads }: { frame: FanFrame; threads: readonly Thread[] }) {
  return (
    <g fill="none" stroke="var(--muted)">
      {threads.map(({ deg, shift, atLoudspeaker }) => {
        if (shift === null) {
          const { x, y } = onArc(frame, deg, -8);
          return (
            <path
              key={deg}
              d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`}
              stroke="var(--color-error)"
              strokeWidth={1.2}
            />
          );
        }
        return (
          <path
            key={deg}
            d={thread(frame, deg, shift)}
            strokeWidth={0.8}
            strokeDasharray={atLoudspeaker ? '2 4' : undefined}
          />
        );
      })}
    </g>
  );
}

/** Nearer to each other than this, heads are small and without their numbers, px. */
const CLOSE_PX = 15;

function Players({ frame, players }: { frame: FanFrame; players: readonly Player[] }) {
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  const sorted = [...players].sort((a, b) => (a.shift ?? 0) - (b.shift ?? 0));
  const close = new Set<string>();
  sorted.forEach(({ id, shift }, i) => {
    const next = sorted[i + 1];
    if (!next || shift === null || next.shift === null) return;
    const gap = onLine(frame, next.shift).x - onLine(frame, shift).x;
    if (gap < CLOSE_PX) [id, next.id].forEach((one) => close.add(one));
  });
  // The one under the hand is drawn last, over all others.
  const drawn = [...players].sort((a, b) => Number(a.id === hovered) - Number(b.id === hovered));
  return drawn.map((player) => (
    <PlayerThread
      key={player.id}
      frame={frame}
      player={player}
      lit={player.id === hovered}
      small={close.has(player.id)}
    />
  ));
}

function PlayerThread(props: { frame: FanFrame; player: Player; lit: boolean; small: boolean }) {
  const { frame, player, lit, small } = props;
  const { id, name, hue, deg, shift, left, right, edgesDeg, badge } = player;
  const top = onArc(frame, deg);
  const handlers = {
    onPointerEnter: () => hover(id),
    onPointerLeave: () => hover(null),
    onClick: () => select({ kind: 'source', id }),
    className: 'cursor-pointer',
  };
  const words = `${name}: ${degreesText(deg)} ${shift === null ? 'has no stable place' : `is heard at ${placeText(shift)}`}`;
  if (shift === null) {
    const { x, y } = onArc(frame, deg, -10);
    return (
      <g {...handlers} stroke={hue}>
        <circle cx={x} cy={y} r={11} fill="transparent" stroke="none" />
        <path d={`M${x - 5} ${y - 5}l10 10m0 -10l-10 10`} strokeWidth={2.2} />
        <title>{words}</title>
        {lit && <Words x={x} y={y + 24} text={words} />}
      </g>
    );
  }
  const foot = onLine(frame, shift);
  const path = thread(frame, deg, shift);
  const r = small ? 4 : 7;
  return (
    <g {...handlers}>
      {edgesDeg && (
        <path
          d={ribbon(frame, edgesDeg, [left, right])}
          fill={hue}
          fillOpacity={lit ? 0.25 : 0.12}
          stroke={hue}
          strokeOpacity={0.6}
          strokeWidth={0.8}
        />
      )}
      <path d={path} fill="none" stroke="transparent" strokeWidth={10} />
      <path d={path} fill="none" stroke={hue} strokeWidth={lit ? 3.2 : 1.8} />
      <circle cx={top.x} cy={top.y} r={3.2} fill={hue} />
      <g transform={`translate(${foot.x} ${foot.y})`}>
        <circle r={12} fill="transparent" />
        <ellipse
          rx={r + 2}
          ry={r}
          transform="rotate(-14)"
          fill={hue}
          stroke="var(--color-base-100)"
        />
        {!small && (
          <text
            textAnchor="middle"
            y={3.9}
            fontSize={10.5}
            fontWeight={700}
            fill="var(--color-base-100)"
          >
            {badge?.number}
          </text>
        )}
      </g>
      <title>{words}</title>
      {lit && <Words x={frame.width / 2} y={lineY(frame) - 40} text={words} />}
    </g>
  );
}

function Words({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize={13}
      fontWeight={600}
      fill="var(--color-base-content)"
      stroke="var(--color-base-100)"
      strokeWidth={5}
      paintOrder="stroke"
      className="pointer-events-none"
    >
      {text}
    </text>
  );
}

/** Which model the threads hang in: a slider through all that may speak of this array. */
function ModelSlider(props: {
  models: readonly { id: ModelId; name: string }[];
  value: ModelId;
  onChange: (model: ModelId) => void;
}) {
  const { models, value, onChange } = props;
  const index = models.findIndex(({ id }) => id === value);
  return (
    <div className="flex items-center gap-3">
      <input
        type="range"
        className="range range-xs w-36"
        aria-label="Model of the threads"
        aria-valuetext={models[index]?.name}
        min={0}
        max={models.length - 1}
        step={1}
        value={index}
        onChange={(event) => {
          const chosen = models[Number(event.currentTarget.value)];
          if (chosen) onChange(chosen.id);
        }}
      />
      <span className="w-56 font-semibold whitespace-nowrap">{models[index]?.name}</span>
    </div>
  );
}

/** The directions of the hall above, where they are heard below, a thread for each. */
export function Fan({ array, header }: { array: MicArray; header: React.ReactNode }) {
  const { settings, sources } = useSession();
  const { figures, bySource } = useFigures();
  const [box, { width }] = useSize<HTMLDivElement>();
  const behind = sources.some(({ id }) => Math.abs(bySource.get(id)?.azimuthDeg ?? 0) > 90);
  const limitDeg = behind ? 180 : 90;
  const curve = useCurve(array, limitDeg, 10);
  const models = modelsIn(settings).filter(({ id }) =>
    curve.some(({ shift }) => shift[id] !== undefined),
  );
  const leading = leadingModel(figures?.farField ?? null, settings.model);
  const [wanted, setWanted] = useState<ModelId | null>(null);
  const model = models.find(({ id }) => id === (wanted ?? leading))?.id ?? leading;
  const players = usePlayers(array, model);
  const half = (figures?.inPlace ?? figures?.farField)?.[model]?.halfDeg ?? null;
  const frame: FanFrame = { width, height: HEIGHT, limitDeg };
  const speaking = speakingModel(settings, false);
  return (
    <ChartFrame
      title="Where the hall is heard"
      about={`The hall above, as ${array.name} sees it; the image line below; a thread for every 10° and every player.`}
      formula="recording-angle"
      header={['source angle °', ...models.map(({ name }) => `${name} %`)]}
      rows={curve.map(({ sourceDeg, shift }) => [
        sourceDeg,
        ...models.map(({ id }) => (shift[id] === undefined ? null : (shift[id] ?? 0) * 100)),
      ])}
    >
      <p role="status" aria-label="Evenness" className="pt-1 text-[15px] font-semibold">
        {crowdingText(crowdingOf(curve, model))}
      </p>
      <div className="flex flex-wrap items-center gap-x-6 pt-1">
        {models.length > 1 && <ModelSlider models={models} value={model} onChange={setWanted} />}
        {model !== leading && (
          <span className="text-muted">the image line goes by {speaking.name}</span>
        )}
        <span className="flex-1" />
        {header}
      </div>
      <div ref={box} style={{ height: HEIGHT }}>
        {width > 0 && (
          <svg
            width={width}
            height={HEIGHT}
            className="block"
            role="group"
            aria-label="Fan: directions of the hall and where they are heard; the same figures stand in the table"
          >
            <FanScale frame={frame} halfDeg={half} />
            <Ruler frame={frame} threads={threadsOf(curve, model)} />
            <Players frame={frame} players={players} />
          </svg>
        )}
      </div>
    </ChartFrame>
  );
}
