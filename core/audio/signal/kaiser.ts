/** Modified Bessel function of the first kind, order 0. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/**
 * The window of Kaiser, 1 in its middle.
 * @param x −1 … 1 from end to end; 0 beyond
 * @param beta 0 … 16: how far what it lets through beside falls, 8 for −80 dB, 10 for −100 dB
 * Source: J. F. Kaiser, "Nonrecursive digital filter design using the I0-sinh window function" (1974).
 */
export function kaiser(x: number, beta: number): number {
  const inside = 1 - x * x;
  return inside < 0 ? 0 : bessel(beta * Math.sqrt(inside)) / bessel(beta);
}

/** sin πx / πx. @param x −10000 … 10000 samples */
export const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
