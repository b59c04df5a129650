import { useMemo } from 'react';
import { placesByBand, type ImageStep } from '../../core/audio/measure/stereo';
import { formatNumber } from '../../core/units';
import { ChartFrame } from '../charts/chart-frame';
import { COLUMNS, hzText } from './over-time';
import { TimeChart } from './time-chart';

const percent = (shift: number): number => Math.round(100 * shift);
export const sideText = (shift: number): string =>
  Math.abs(shift) < 0.03
    ? 'in the middle'
    : `${formatNumber(Math.abs(100 * shift), 0)} % ${shift < 0 ? 'left' : 'right'}`;

/** Where whoever plays stands, over time and in each octave. */
export function Images({ images }: { images: readonly ImageStep[] }) {
  const told = images.filter(({ all }) => all !== null);
  const places = useMemo(() => placesByBand(images), [images]);
  const points = useMemo(() => {
    const each = Math.max(1, Math.ceil(images.length / COLUMNS));
    return images
      .filter((_, i) => i % each === 0)
      .map(({ atS, all }) => ({ s: atS, value: all ? percent(all.shift) : null }));
  }, [images]);
  if (told.length < 3) {
    return (
      <p role="status" className="text-muted text-[12.5px]">
        No place can be told there: it needs a passage of a second and more in which one player is
        alone.
      </p>
    );
  }
  return (
    <>
      <ChartFrame
        title="Image over time"
        about="−100 % left, +100 % right loudspeaker: by the consensus of the models, from level and delay. Of one player alone; of several it is whoever leads."
        header={['time s', 'place %']}
        rows={points.map(({ s, value }) => [s, value])}
      >
        <TimeChart
          points={points}
          ticks={[-100, -50, 0, 50, 100]}
          axis="place, %"
          stroke="var(--color-base-content)"
          dots
        />
      </ChartFrame>
      <ChartFrame
        title="Image by octave"
        about="Half of the time it lies within the stroke. From the level of each octave and the delay of all of it."
        header={['frequency Hz', 'from %', 'middle %', 'to %']}
        rows={places.map(({ hz, low, middle, high }) => [
          hz,
          percent(low),
          percent(middle),
          percent(high),
        ])}
      >
        <svg
          viewBox="0 0 460 190"
          className="w-full max-w-[460px]"
          role="img"
          aria-label="Image by octave"
        >
          {[-1, -0.5, 0, 0.5, 1].map((at) => (
            <g key={at}>
              <line
                x1={250 + at * 195}
                x2={250 + at * 195}
                y1={8}
                y2={168}
                stroke="var(--hairline)"
              />
              <text
                x={250 + at * 195}
                y={184}
                textAnchor="middle"
                fontSize={11.5}
                fill="var(--muted)"
              >
                {at === 0
                  ? 'middle'
                  : `${formatNumber(Math.abs(at * 100), 0)} % ${at < 0 ? 'left' : 'right'}`}
              </text>
            </g>
          ))}
          {places.map(({ hz, low, middle, high }, i) => {
            const y = 18 + (i * 150) / Math.max(1, places.length);
            return (
              <g key={hz}>
                <text x={46} y={y + 4} textAnchor="end" fontSize={11.5} fill="var(--muted)">
                  {hzText(hz)}
                </text>
                <line
                  x1={250 + low * 195}
                  x2={250 + high * 195}
                  y1={y}
                  y2={y}
                  stroke="var(--color-primary)"
                  strokeWidth={3}
                  strokeLinecap="round"
                />
                <circle cx={250 + middle * 195} cy={y} r={3.5} fill="var(--color-base-content)" />
              </g>
            );
          })}
        </svg>
      </ChartFrame>
    </>
  );
}
