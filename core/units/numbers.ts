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
