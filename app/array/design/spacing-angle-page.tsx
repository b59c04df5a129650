import { useDrag } from '@use-gesture/react';
import { useMemo, type KeyboardEvent } from 'react';
import { STANDARDS } from '../../../core/arrays';
import { patternAOf, type Pattern } from '../../../core/acoustics';
import {
  farField,
  isoLines,
  prepareArray,
  recordingAngles,
  speakingModel,
} from '../../../core/localisation';
import type { MicArray, SessionTechnique } from '../../../core/session';
import { clamp, angleText, formatNumber, lengthText, speedOfSound } from '../../../core/units';
import { ChartFrame } from '../../charts/chart-frame';
import { Readout } from '../../parts/fields';
import { patternWords } from '../../parts/technique-text';
import { useSize } from '../../parts/use-size';
import { setTechnique, withTechnique } from '../../document/edits';
import { useFigures } from '../../figures/figures';
import { useSessionGesture } from '../../document/use-session-gesture';
import { useSession } from '../../document/use-session';
import { useTask } from '../../workers/use-task';

type Pair = Extract<SessionTechnique, { kind: 'pair' }>;

const COLUMNS = 121;
const ROWS = 91;
const MOST_DEG = 180;
const LEVELS_DEG = [15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 110];
const PAD = { left: 52, right: 16, top: 10, bottom: 38 };

interface Grid {
  spacingsM: number[];
  anglesDeg: number[];
}

/** Spacings up to a width that holds the present pair with room to move. */
function gridFor(pattern: Pattern, spacingM: number): Grid {
  const wide = patternAOf(pattern) > 0.9 ? 1.2 : 0.6;
  const most = spacingM > wide ? Math.ceil(spacingM * 1.5) : wide;
  return {
    spacingsM: Array.from({ length: COLUMNS }, (_, i) => (most * i) / (COLUMNS - 1)),
    anglesDeg: Array.from({ length: ROWS }, (_, i) => (MOST_DEG * i) / (ROWS - 1)),
  };
}

interface Scales {
  toX: (spacingM: number) => number;
  toY: (deg: number) => number;
  fromX: (px: number) => number;
  fromY: (py: number) => number;
}

function scalesOf(mostM: number, width: number, height: number): Scales {
  const w = width - PAD.left - PAD.right;
  const h = height - PAD.top - PAD.bottom;
  return {
    toX: (m) => PAD.left + (m / mostM) * w,
    toY: (deg) => PAD.top + h - (deg / MOST_DEG) * h,
    fromX: (px) => ((px - PAD.left) / w) * mostM,
    fromY: (py) => ((PAD.top + h - py) / h) * MOST_DEG,
  };
}

interface IsoLine {
  level: number;
  path: string;
  label: { x: number; y: number } | null;
}

/** One iso-line as a path; its label stands in the middle of its longest run. */
function isoLine(
  halves: Float32Array,
  level: number,
  grid: Grid,
  scales: Scales,
  /** where along its longest run the label stands, 0 … 1 */
  at = 0.5,
): IsoLine {
  const [stepM = 0, stepDeg = 0] = [grid.spacingsM[1], grid.anglesDeg[1]];
  const runs = isoLines(halves, COLUMNS, level).map((line) =>
    line.map(({ column, row }) => ({
      x: scales.toX(column * stepM),
      y: scales.toY(row * stepDeg),
    })),
  );
  const path = runs
    .map((run) => `M${run.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`)
    .join('');
  const [longest = []] = [...runs].sort((a, b) => b.length - a.length);
  return { level, path, label: longest[Math.floor(longest.length * at)] ?? null };
}

interface MapProps {
  array: MicArray;
  pair: Pair;
  grid: Grid;
  halves: Float32Array;
  /** half of the angle that the ensemble subtends, or null */
  wantedDeg: number | null;
}

function TradeDrawing({ array, pair, grid, halves, wantedDeg }: MapProps) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const height = 400;
  const most = grid.spacingsM[COLUMNS - 1] ?? 1;
  const { units } = useSession().settings;
  const scales = useMemo(() => scalesOf(most, width, height), [most, width]);
  const gesture = useSessionGesture();
  const lines = useMemo(
    () => (width > 0 ? LEVELS_DEG.map((level) => isoLine(halves, level, grid, scales)) : []),
    [halves, grid, scales, width],
  );
  const wanted = useMemo(
    () => (width > 0 && wantedDeg !== null ? isoLine(halves, wantedDeg, grid, scales, 0.22) : null),
    [halves, wantedDeg, grid, scales, width],
  );
  const at = (spacingM: number, deg: number): SessionTechnique => ({
    ...pair,
    spacingM: Math.round(clamp(spacingM, 0, most) * 1000) / 1000,
    includedAngleDeg: Math.round(clamp(deg, 0, MOST_DEG) * 10) / 10,
  });
  const bind = useDrag(
    ({ first, last, canceled, event, tap, xy: [clientX, clientY] }) => {
      if (tap) return;
      const frame = box.current?.getBoundingClientRect();
      const technique = at(
        scales.fromX(clientX - (frame?.left ?? 0)),
        scales.fromY(clientY - (frame?.top ?? 0)),
      );
      gesture.step({ first, last, canceled, event }, withTechnique(array, technique));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  function onKeyDown(event: KeyboardEvent) {
    const step = {
      ArrowLeft: [-0.001, 0],
      ArrowRight: [0.001, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const size = event.shiftKey ? 10 : 1;
    setTechnique(
      array,
      at(pair.spacingM + (step[0] ?? 0) * size, pair.includedAngleDeg + (step[1] ?? 0) * size),
    );
  }
  const ticksM = Array.from({ length: 7 }, (_, i) => (most * i) / 6);
  const [px, py] = [scales.toX(pair.spacingM), scales.toY(pair.includedAngleDeg)];
  return (
    <div ref={box} style={{ height }} className="touch-none">
      {width > 0 && (
        <svg width={width} height={height} className="block">
          {ticksM.map((m, i) => (
            <g key={m}>
              <line
                x1={scales.toX(m)}
                x2={scales.toX(m)}
                y1={PAD.top}
                y2={height - PAD.bottom}
                stroke="var(--hairline)"
              />
              <text
                x={scales.toX(m)}
                y={height - PAD.bottom + 16}
                textAnchor={i === ticksM.length - 1 ? 'end' : 'middle'}
                fontSize={11.5}
                fill="var(--muted)"
              >
                {lengthText(m, units, 'bar')}
              </text>
            </g>
          ))}
          {[0, 30, 60, 90, 120, 150, 180].map((deg) => (
            <g key={deg}>
              <line
                x1={PAD.left}
                x2={width - PAD.right}
                y1={scales.toY(deg)}
                y2={scales.toY(deg)}
                stroke="var(--hairline)"
              />
              <text
                x={PAD.left - 8}
                y={scales.toY(deg) + 4}
                textAnchor="end"
                fontSize={11.5}
                fill="var(--muted)"
              >
                {deg}°
              </text>
            </g>
          ))}
          <text
            x={(PAD.left + width) / 2}
            y={height - 4}
            textAnchor="middle"
            fontSize={12}
            fill="var(--muted)"
          >
            spacing of the capsules
          </text>
          <text
            transform={`translate(12 ${height / 2}) rotate(-90)`}
            textAnchor="middle"
            fontSize={12}
            fill="var(--muted)"
          >
            included angle
          </text>
          {lines.map(({ level, path, label }) => (
            <g key={level}>
              <path d={path} fill="none" stroke="var(--muted)" strokeWidth={1} />
              {label && (
                <text
                  x={label.x}
                  y={label.y + 4}
                  textAnchor="middle"
                  fontSize={11.5}
                  fill="var(--muted)"
                  stroke="var(--color-base-100)"
                  strokeWidth={4}
                  paintOrder="stroke"
                >
                  ±{level}°
                </text>
              )}
            </g>
          ))}
          {wanted && (
            <g>
              <path d={wanted.path} fill="none" stroke="var(--color-primary)" strokeWidth={2.6} />
              {wanted.label && (
                <text
                  x={wanted.label.x}
                  y={wanted.label.y - 6}
                  textAnchor="middle"
                  fontSize={12.5}
                  fontWeight={700}
                  fill="var(--color-primary)"
                  stroke="var(--color-base-100)"
                  strokeWidth={4}
                  paintOrder="stroke"
                >
                  the ensemble, ±{formatNumber(wantedDeg, 0)}°
                </text>
              )}
            </g>
          )}
          {STANDARDS.filter(
            ({ pattern, spacingM }) =>
              patternAOf(pattern) === patternAOf(pair.pattern) && spacingM <= most,
          ).map(({ name, spacingM, includedAngleDeg }) => (
            <g
              key={name}
              transform={`translate(${scales.toX(spacingM)} ${scales.toY(includedAngleDeg)})`}
            >
              <path d="M-4 0H4M0 -4V4" stroke="var(--color-base-content)" strokeWidth={1.5} />
              <text x={6} y={-4} fontSize={11.5} fill="var(--color-base-content)">
                {name}
              </text>
            </g>
          ))}
          <g
            {...bind()}
            role="slider"
            tabIndex={0}
            aria-label="The present pair on the map"
            aria-valuenow={pair.includedAngleDeg}
            aria-valuetext={`spacing ${lengthText(pair.spacingM, units, 'bar')}, included angle ${angleText(pair.includedAngleDeg)}`}
            aria-valuemin={0}
            aria-valuemax={MOST_DEG}
            onKeyDown={onKeyDown}
            className="grab touch-none"
            transform={`translate(${px} ${py})`}
          >
            <circle r={16} fill="transparent" />
            <circle
              r={8}
              fill="var(--color-primary)"
              stroke="var(--color-base-100)"
              strokeWidth={2}
            />
          </g>
        </svg>
      )}
    </div>
  );
}

/** Spacing against angle for the pattern: which pairs have which recording angle. */
export function SpacingAnglePage({ array }: { array: MicArray }) {
  const { settings, venue } = useSession();
  const { figures } = useFigures();
  const pair = array.technique.kind === 'pair' ? array.technique : null;
  const pattern = pair?.pattern ?? 'cardioid';
  const widest = pair && pair.spacingM > 0.6 ? pair.spacingM : 0;
  // The grid follows the pattern and, beyond its usual width, the spacing in coarse steps.
  const coarse = Math.ceil(widest * 2) / 2;
  const grid = useMemo(() => gridFor(pattern, coarse), [pattern, coarse]);
  const speed = speedOfSound(venue.temperatureC);
  const { spacingsM, anglesDeg } = grid;
  const ask = useMemo(
    () => ({ pattern, spacingsM, anglesDeg, speed }),
    [pattern, spacingsM, anglesDeg, speed],
  );
  const map = useTask('tradeMap', ask);
  const model = speakingModel(settings.model, false).id;
  const halves = map.value?.halfDeg[model];
  if (!pair) {
    return (
      <p className="text-muted">
        The map is for pairs of equal microphones: choose a spaced, near-coincident or coincident
        technique. Mid-side has its crossed equivalent on its own page.
      </p>
    );
  }
  const wantedDeg = figures?.ensemble ? figures.ensemble.angleDeg / 2 : null;
  const ready = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique: pair });
  const now = recordingAngles(ready, farField(ready, speed))[model]?.halfDeg ?? null;
  const rows = halves
    ? grid.anglesDeg.flatMap((deg, row) =>
        grid.spacingsM.flatMap((m, column) => {
          if (row % 10 > 0 || column % 10 > 0) return [];
          const half = halves[row * COLUMNS + column] ?? 0;
          return [[m, deg, half > 0 ? half : null]];
        }),
      )
    : [];
  return (
    <ChartFrame
      title="Spacing against angle"
      about={`${patternWords(pair.pattern)}s, distant sources, ${model} model. Every point on one line has the same recording angle; drag the point, or move it with the arrow keys.`}
      formula="recording-angle"
      header={['spacing m', 'included angle °', 'half recording angle °']}
      rows={rows}
    >
      <div className="flex gap-8 pb-1">
        <div className="w-64">
          <Readout
            label="Recording angle there"
            number={now === null ? 'not reached' : `±${angleText(now)}`}
          />
        </div>
        <div className="w-64">
          <Readout
            label="Half of the ensemble’s angle"
            number={wantedDeg === null ? '—' : `±${angleText(wantedDeg)}`}
          />
        </div>
        {map.busy && <p className="text-muted">computing …</p>}
        {map.error !== null && <p role="alert">{map.error}</p>}
      </div>
      {halves && (
        <TradeDrawing array={array} pair={pair} grid={grid} halves={halves} wantedDeg={wantedDeg} />
      )}
    </ChartFrame>
  );
}
