import { formatNumber, type UnitSystem } from '../../../core/units';

/** A mark on the tape, from the middle of the bar, m; the long ones have a figure. */
export interface TapeTick {
  m: number;
  figure: string | null;
}

const INCH_M = 0.0254;
const STEPS: Readonly<Record<UnitSystem, readonly number[]>> = {
  metric: [0.001, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10],
  imperial: [0.125, 0.25, 0.5, 1, 2, 3, 6, 12, 24, 60, 120, 240].map((inches) => inches * INCH_M),
};
/** Marks stand no closer than this, figures no closer than that, px. */
const MARK_PX = 5;
const FIGURE_PX = 34;

/**
 * Marks of a tape that has its zero in the middle of the bar and runs both ways from there.
 * @param scale px for a metre
 * @param halfM so far to each side
 */
export function tapeTicks(scale: number, halfM: number, units: UnitSystem): TapeTick[] {
  const steps = STEPS[units];
  const most = steps[steps.length - 1] ?? 1;
  const mark = steps.find((step) => step * scale >= MARK_PX) ?? most;
  const figured = steps.find((step) => step * scale >= FIGURE_PX && isMultiple(step, mark)) ?? most;
  const count = Math.floor(halfM / mark + 1e-9);
  return Array.from({ length: 2 * count + 1 }, (_, i) => {
    const m = (i - count) * mark;
    const away = Math.abs(m);
    const number = units === 'metric' ? away * 100 : away / INCH_M;
    return {
      m,
      figure: isMultiple(away, figured) ? formatNumber(number, 1).replace(/\.0$/, '') : null,
    };
  });
}

const isMultiple = (value: number, of: number): boolean =>
  Math.abs(value / of - Math.round(value / of)) < 1e-6;
