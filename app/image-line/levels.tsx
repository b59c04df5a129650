import { useEffect, useRef, type RefObject } from 'react';
import { formatNumber } from '../../core/units';
import { onHeard } from '../audio/listening';

const LEAST_DB = -60;
/** A head is so much larger at the loudest. */
const SWELLS = 0.55;
const SOFTEST_DB = -62;
const LOUDEST_DB = -18;
/** A column falls so many dB with each telling, 30 a second. */
const FALLS_DB = 1.2;

const toDb = (amplitude: number): number => 20 * Math.log10(Math.max(amplitude, 1e-9));

/** What one loudspeaker is given, as a column of ink with its figure; the limiter is a line that is touched. */
export function LevelColumn(props: { x: number; y: number; height: number; side: 'L' | 'R' }) {
  const { x, y, height, side } = props;
  const ink = useRef<SVGRectElement>(null);
  const line = useRef<SVGLineElement>(null);
  const figure = useRef<SVGTextElement>(null);
  useEffect(() => {
    let held = LEAST_DB;
    return onHeard((heard) => {
      const now = heard ? toDb(heard.levels.peaks[side === 'L' ? 0 : 1]) : LEAST_DB;
      held = Math.max(LEAST_DB, now, held - FALLS_DB);
      const share = heard ? 1 - held / LEAST_DB : 0;
      ink.current?.setAttribute('y', `${y + height * (1 - share)}`);
      ink.current?.setAttribute('height', `${height * share}`);
      const touched = heard !== null && heard.levels.limited < 0.999;
      line.current?.setAttribute('stroke-width', touched ? '3' : heard ? '1' : '0');
      if (figure.current) {
        figure.current.textContent =
          heard && held > LEAST_DB ? formatNumber(Math.round(held), 0) : '';
      }
    });
  }, [y, height, side]);
  return (
    <g>
      <rect
        ref={ink}
        x={x - 2.5}
        width={5}
        y={y + height}
        height={0}
        fill="var(--color-base-content)"
      />
      <line
        ref={line}
        x1={x - 6}
        x2={x + 6}
        y1={y + 1}
        y2={y + 1}
        stroke="var(--color-base-content)"
        strokeWidth={0}
      />
      <text ref={figure} x={x} y={y - 3} textAnchor="middle" fontSize={11} fill="var(--muted)" />
    </g>
  );
}

/** Heads swell as their players sound: past all rendering, thirty times a second. */
export function useSwelling(box: RefObject<HTMLElement | null>): void {
  useEffect(
    () =>
      onHeard((heard) => {
        for (const head of box.current?.querySelectorAll<SVGGElement>('[data-note]') ?? []) {
          const power = heard?.byPlayer.get(head.dataset.note ?? '') ?? 0;
          const share = (toDb(Math.sqrt(power)) - SOFTEST_DB) / (LOUDEST_DB - SOFTEST_DB);
          const size = 1 + SWELLS * Math.min(1, Math.max(0, heard ? share : 0));
          head.style.setProperty('--swell', size.toFixed(2));
        }
      }),
    [box],
  );
}
