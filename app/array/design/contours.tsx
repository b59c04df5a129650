import { useMemo } from 'react';
import type { Pattern } from '../../../core/acoustics';
import { FALLBACK_MODEL, isoLines, type ModelId } from '../../../core/localisation';
import { speedOfSound } from '../../../core/units';
import { useSession } from '../../document/use-session';
import { useTask } from '../../workers/use-task';
import type { Scales } from './fields-drawing';

const COLUMNS = 121;
const ROWS = 91;
const LEVELS_DEG = [15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 110];

interface IsoLine {
  level: number;
  path: string;
  label: { x: number; y: number } | null;
}

/** One iso-line as a path; its label stands in the middle of its longest run. */
function isoLine(
  halves: Float32Array,
  level: number,
  { spacingsM, anglesDeg }: { spacingsM: number[]; anglesDeg: number[] },
  { toX, toY }: Scales,
): IsoLine {
  const [stepM = 0, stepDeg = 0] = [spacingsM[1], anglesDeg[1]];
  const runs = isoLines(halves, COLUMNS, level).map((line) =>
    line.map(({ column, row }) => ({ x: toX(column * stepM), y: toY(row * stepDeg) })),
  );
  const path = runs
    .map((run) => `M${run.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`)
    .join('');
  const [longest = []] = [...runs].sort((a, b) => b.length - a.length);
  return { level, path, label: longest[Math.floor(longest.length / 2)] ?? null };
}

/** Lines of equal recording angle over the fields, for distant sources. */
export function Contours(props: {
  pattern: Pattern;
  mostM: number;
  mostDeg: number;
  model: ModelId;
  scales: Scales;
}) {
  const { pattern, mostM, mostDeg, model, scales } = props;
  const speed = speedOfSound(useSession().venue.temperatureC);
  const ask = useMemo(
    () => ({
      pattern,
      spacingsM: Array.from({ length: COLUMNS }, (_, i) => (mostM * i) / (COLUMNS - 1)),
      anglesDeg: Array.from({ length: ROWS }, (_, i) => (mostDeg * i) / (ROWS - 1)),
      speed,
    }),
    [pattern, mostM, mostDeg, speed],
  );
  const map = useTask('tradeMap', ask);
  const halves = map.value?.halfDeg[model === 'own' ? FALLBACK_MODEL : model];
  const lines = useMemo(
    () => (halves ? LEVELS_DEG.map((level) => isoLine(halves, level, ask, scales)) : []),
    [halves, ask, scales],
  );
  return (
    <g aria-label="Contours of equal recording angle">
      {lines.map(({ level, path, label }) => (
        <g key={level}>
          <path d={path} fill="none" stroke="var(--color-base-content)" strokeWidth={0.8} />
          {label && (
            <text
              x={label.x}
              y={label.y + 4}
              textAnchor="middle"
              fontSize={11.5}
              fill="var(--color-base-content)"
              stroke="var(--color-base-100)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              ±{level}°
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
