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

const MOST_STEPS = 100;

/**
 * Where a margin, below 0 at the inner end, first is no longer. Where it has no value at the outer
 * end, what is beyond the place at which it is lost counts as reached only if the margin comes up
 * before.
 * @param marginAt null where there is no value
 * @param inner the end at which it is below 0; may be above or below the outer one
 * @param tolerance in the unit of the ends, 10⁻¹² … 1: how close together they are at the end
 * @returns a place between the ends: the inner one where it is reached there already, the outer one
 *   where not even there; null where it is never reached
 * Source: T. R. Chandrupatla, Adv. Eng. Software 28 (1997): inverse quadratic interpolation where
 * it is safe, else halving.
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
  if (atLow >= 0) return inner;
  // Where the outer end has no value, halving finds one that has, or where it is lost.
  while (atHigh === null) {
    if (Math.abs(high - low) <= tolerance) return null;
    const middle = (low + high) / 2;
    const value = marginAt(middle);
    if (value === null || value >= 0) [high, atHigh] = [middle, value];
    else [low, atLow] = [middle, value];
  }
  if (atHigh < 0) return outer;
  // The latest place, one on the other side of the zero, and the one before.
  let a = high;
  let atA = atHigh;
  let b = low;
  let atB = atLow;
  let t = atA / (atA - atB);
  for (let i = 0; i < MOST_STEPS && Math.abs(b - a) > tolerance; i++) {
    const least = tolerance / 2 / Math.abs(b - a);
    const x = a + Math.min(1 - least, Math.max(least, t)) * (b - a);
    const value = marginAt(x) ?? 0;
    let c = a;
    let atC = atA;
    if (value >= 0 !== atA >= 0) {
      c = b;
      atC = atB;
      b = a;
      atB = atA;
    }
    a = x;
    atA = value;
    const xi = (a - b) / (c - b);
    const phi = (atA - atB) / (atC - atB);
    t =
      phi * phi < xi && (1 - phi) * (1 - phi) < 1 - xi
        ? (atA / (atB - atA)) * (atC / (atB - atC)) +
          (((c - a) / (b - a)) * atA * atB) / ((atC - atA) * (atC - atB))
        : 0.5;
  }
  return (a + b) / 2;
}
