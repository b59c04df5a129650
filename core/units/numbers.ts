/** A value held within bounds (min … max, any unit): the nearest where it is outside; NaN stays NaN. */
export const clamp = (value: number, min: number, max: number): number =>
  Math.min(max, Math.max(min, value));

/**
 * Where a continuous function changes its sign between two places, by halving.
 * @param steps how often it is halved, 1 … 100: the answer is right to (high − low)/2^steps
 * @returns a place between them, the lower end where it is 0 there; where the signs are equal, the end at which it stopped
 */
export function zeroBetween(
  of: (value: number) => number,
  low: number,
  high: number,
  steps: number,
): number {
  const atLow = of(low);
  if (atLow === 0) return low;
  let [from, to] = [low, high];
  const below = atLow < 0;
  for (let i = 0; i < steps; i++) {
    const middle = (from + to) / 2;
    if (of(middle) < 0 === below) from = middle;
    else to = middle;
  }
  return (from + to) / 2;
}

const MOST_STEPS = 60;

/**
 * Where a margin, below 0 at the inner end, first is no longer: false position with halving
 * (Illinois). Where it has no value at the outer end, what is beyond the place at which it is lost
 * counts as reached only if the margin comes up before.
 * @param marginAt null where there is no value
 * @param inner the end at which it is below 0; may be above or below the outer one
 * @param tolerance in the unit of the ends, 10⁻¹² … 1: how close together they are at the end
 * @returns a place between the ends; null where it is never reached
 */
export function reachedBetween(
  marginAt: (at: number) => number | null,
  inner: number,
  outer: number,
  tolerance: number,
): number | null {
  let low = inner;
  let high = outer;
  let atLow = marginAt(inner) ?? -1;
  let atHigh = marginAt(outer);
  let reached = atHigh !== null;
  let last = 0;
  for (let i = 0; i < MOST_STEPS && Math.abs(high - low) > tolerance; i++) {
    const straight: number =
      atHigh === null ? NaN : low + ((high - low) * atLow) / (atLow - atHigh);
    // Every third step halves, which bounds the work whatever the curve.
    const next: number =
      i % 3 !== 2 && (straight - low) * (straight - high) < 0 ? straight : (low + high) / 2;
    const value = marginAt(next);
    if (value === null) {
      high = next;
      atHigh = null;
    } else if (value >= 0) {
      reached = true;
      high = next;
      atHigh = value;
      if (last === 1) atLow /= 2;
      last = 1;
    } else {
      low = next;
      atLow = value;
      if (last === -1 && atHigh !== null) atHigh /= 2;
      last = -1;
    }
  }
  return reached ? (low + high) / 2 : null;
}
