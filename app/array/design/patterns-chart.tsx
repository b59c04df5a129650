import { sensitivity } from '../../../core/acoustics';
import { prepareArray, type PreparedArray } from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { cosDeg, sinDeg } from '../../../core/units';
import { ChartFrame } from '../../charts/chart-frame';

const RADIUS = 100;
const STEP_DEG = 3;
const DEGREES = Array.from({ length: 360 / STEP_DEG }, (_, i) => -180 + i * STEP_DEG);

/** Each capsule, and the two buses' sum and difference, over the level plane, far field. */
function responses(ready: PreparedArray) {
  return DEGREES.map((deg) => {
    const capsules = ready.plane.map(({ patternA, axisRight, axisForward }) =>
      sensitivity(patternA, sinDeg(deg) * axisRight + cosDeg(deg) * axisForward),
    );
    let left = 0;
    let right = 0;
    capsules.forEach((gain, i) => {
      left += gain * (ready.routes[i]?.left ?? 0);
      right += gain * (ready.routes[i]?.right ?? 0);
    });
    return { deg, capsules, sum: (left + right) / 2, difference: (left - right) / 2 };
  });
}

function path(values: readonly number[], most: number): string {
  const points = values.map((value, i) => {
    const r = (Math.abs(value) / most) * RADIUS;
    const deg = DEGREES[i] ?? 0;
    return `${(sinDeg(deg) * r).toFixed(1)} ${(-cosDeg(deg) * r).toFixed(1)}`;
  });
  return `M${points.join('L')}Z`;
}

const HUES = ['var(--hue-2)', 'var(--hue-3)', 'var(--hue-1)', 'var(--hue-4)', 'var(--hue-0)'];

/** Polar patterns: every capsule, and what both channels make together and against each other. */
export function PatternsChart({ array }: { array: MicArray }) {
  const ready = prepareArray(array, array.mix.capsules);
  const list = responses(ready);
  const most = Math.max(
    ...list.flatMap(({ capsules, sum, difference }) => [
      ...capsules.map(Math.abs),
      Math.abs(sum),
      Math.abs(difference),
    ]),
    1e-6,
  );
  const labels = ready.capsules.map(({ label }) => label);
  const lines = [
    ...labels.slice(0, 12).map((label, i) => ({
      name: label,
      values: list.map(({ capsules }) => capsules[i] ?? 0),
      stroke: HUES[i % HUES.length],
      dash: i >= HUES.length ? '2 3' : undefined,
      width: 1.4,
    })),
    {
      name: 'sum, mono',
      values: list.map(({ sum }) => sum),
      stroke: 'var(--color-base-content)',
      dash: undefined,
      width: 2,
    },
    {
      name: 'difference',
      values: list.map(({ difference }) => difference),
      stroke: 'var(--color-base-content)',
      dash: '5 4',
      width: 1.4,
    },
  ];
  return (
    <ChartFrame
      title="Patterns, sum and difference"
      about={
        ready.coincident
          ? 'Seen from above, linear. The sum is what mono hears from each direction.'
          : 'Seen from above, linear, at frequencies where the spacing does not count yet.'
      }
      formula="patterns"
      header={['angle °', ...lines.map(({ name }) => name)]}
      rows={list.map(({ deg, capsules, sum, difference }) => [
        deg,
        ...capsules.slice(0, 12),
        sum,
        difference,
      ])}
    >
      <svg viewBox="-190 -125 380 250" height={250} className="w-full">
        {[0.25, 0.5, 0.75, 1].map((fraction) => (
          <circle key={fraction} r={fraction * RADIUS} fill="none" stroke="var(--hairline)" />
        ))}
        {[0, 45, 90, 135].map((deg) => (
          <line
            key={deg}
            x1={-sinDeg(deg) * RADIUS}
            y1={cosDeg(deg) * RADIUS}
            x2={sinDeg(deg) * RADIUS}
            y2={-cosDeg(deg) * RADIUS}
            stroke="var(--hairline)"
          />
        ))}
        {lines.map(({ name, values, stroke, dash, width }) => (
          <path
            key={name}
            d={path(values, most)}
            fill="none"
            stroke={stroke}
            strokeDasharray={dash}
            strokeWidth={width}
          />
        ))}
        {[0, 90, 180, -90].map((deg) => (
          <text
            key={deg}
            x={sinDeg(deg) * (RADIUS + 16)}
            y={-cosDeg(deg) * (RADIUS + 14) + 4}
            textAnchor="middle"
            fontSize={11.5}
            fill="var(--muted)"
          >
            {Math.abs(deg)}°
          </text>
        ))}
      </svg>
      <ul className="flex flex-wrap gap-x-4 pl-4 text-[12px]" aria-label="Patterns">
        {lines.map(({ name, stroke, dash, width }) => (
          <li key={name} className="flex items-center gap-1.5">
            <svg width={24} height={8} aria-hidden="true">
              <line
                x2={24}
                y1={4}
                y2={4}
                stroke={stroke}
                strokeDasharray={dash}
                strokeWidth={width + 0.5}
              />
            </svg>
            {name}
          </li>
        ))}
      </ul>
    </ChartFrame>
  );
}
