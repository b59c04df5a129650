import type { Figure } from '../../core/verdict';
import { formatNumber } from '../../core/units';
import { ChartFrame } from '../charts/chart-frame';
import { sideText } from './images';

/** The drawing, units of its own. */
const [WIDE, LEFT, RIGHT, ROW, TOP, MARK] = [640, 130, 560, 24, 16, 5.5];
/** Names longer than this are cut. */
const LONGEST = 18;

const xOf = (shift: number): number => LEFT + ((shift + 1) / 2) * (RIGHT - LEFT);
const cut = (name: string): string =>
  name.length > LONGEST ? `${name.slice(0, LONGEST - 1)}…` : name;

/** Where each stands between the loudspeakers: planned open, measured filled, one line each. */
export function VerdictLine({ images }: { images: readonly Figure[] }) {
  const high = TOP + images.length * ROW + 24;
  return (
    <ChartFrame
      title="On the image line"
      about="Open: planned. Filled: measured, with two deviations either way."
      header={['who', 'planned %', 'measured %', 'within %', 'apart %']}
      rows={images.map(({ placeName, planned, measured, within }) => [
        placeName,
        Math.round(100 * planned),
        Math.round(100 * measured),
        Math.round(200 * within),
        Math.round(100 * (measured - planned)),
      ])}
    >
      <svg
        viewBox={`0 0 ${WIDE} ${high}`}
        className="w-full"
        role="img"
        aria-label={images
          .map(
            ({ placeName, planned, measured }) =>
              `${placeName}: planned ${sideText(planned)}, measured ${sideText(measured)}`,
          )
          .join('; ')}
      >
        {[-1, -0.5, 0, 0.5, 1].map((shift) => (
          <g key={shift}>
            <line
              x1={xOf(shift)}
              x2={xOf(shift)}
              y1={TOP - 6}
              y2={high - 22}
              stroke="var(--hairline)"
              strokeDasharray={shift === 0 ? undefined : '2 3'}
            />
            <text x={xOf(shift)} y={high - 8} textAnchor="middle" fontSize="11" fill="var(--muted)">
              {shift === 0 ? 'centre' : Math.abs(100 * shift)}
            </text>
          </g>
        ))}
        {images.map(({ placeId, placeName, planned, measured, within, agreement }, i) => {
          const y = TOP + (i + 0.5) * ROW;
          const off = agreement === 'departs';
          const colour = off ? 'var(--color-error)' : 'var(--color-base-content)';
          const ends = [measured - 2 * within, measured + 2 * within].map((at) =>
            xOf(Math.max(-1, Math.min(1, at))),
          ) as [number, number];
          return (
            <g key={`${placeId} ${i}`}>
              <title>{`${placeName}: planned ${sideText(planned)}, measured ${sideText(measured)}`}</title>
              <text x={LEFT - 12} y={y + 4} textAnchor="end" fontSize="12" fill="currentColor">
                {cut(placeName)}
              </text>
              <line x1={LEFT} x2={RIGHT} y1={y} y2={y} stroke="var(--hairline)" />
              <line x1={ends[0]} x2={ends[1]} y1={y} y2={y} stroke={colour} strokeWidth="2" />
              <circle
                cx={xOf(planned)}
                cy={y}
                r={MARK + 1.5}
                fill="none"
                stroke="var(--color-base-content)"
                strokeWidth="1.5"
              />
              <circle cx={xOf(measured)} cy={y} r={MARK - 1} fill={colour} />
              <text x={RIGHT + 14} y={y + 4} fontSize="12" fill={colour}>
                {agreement === 'cannot be told'
                  ? 'cannot be told'
                  : `${formatNumber(Math.abs(100 * (measured - planned)), 0)} %${off ? ' off' : ''}`}
              </text>
            </g>
          );
        })}
      </svg>
    </ChartFrame>
  );
}
