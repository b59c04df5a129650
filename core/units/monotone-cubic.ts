/**
 * Slopes at the knots of a monotone cubic, so that what rises at the knots rises between them.
 * Source: F. N. Fritsch & J. Butland, SIAM J. Sci. Stat. Comput. 5 (1984); the ends after the usual
 * three-point rule, held to the same sign and to three times the first slope.
 * @param x ascending, two or more
 * @param y one for each
 */
export function monotoneSlopes(x: readonly number[], y: readonly number[]): number[] {
  const n = x.length;
  const width = (i: number): number => (x[i + 1] ?? 0) - (x[i] ?? 0);
  const rise = (i: number): number => ((y[i + 1] ?? 0) - (y[i] ?? 0)) / width(i);
  if (n === 2) return [rise(0), rise(0)];
  const end = (near: number, far: number): number => {
    const [h0, h1, d0, d1] = [width(near), width(far), rise(near), rise(far)];
    const slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
    if (slope * d0 <= 0) return 0;
    return d0 * d1 < 0 && Math.abs(slope) > 3 * Math.abs(d0) ? 3 * d0 : slope;
  };
  return Array.from({ length: n }, (_, i) => {
    if (i === 0) return end(0, 1);
    if (i === n - 1) return end(n - 2, n - 3);
    const [h0, h1, d0, d1] = [width(i - 1), width(i), rise(i - 1), rise(i)];
    if (d0 * d1 <= 0) return 0;
    const [w0, w1] = [2 * h1 + h0, h1 + 2 * h0];
    return (w0 + w1) / (w0 / d0 + w1 / d1);
  });
}

/** A monotone cubic through knots, flat beyond the first and the last. */
export function monotoneCubic(x: readonly number[], y: readonly number[]): (at: number) => number {
  const slopes = monotoneSlopes(x, y);
  const last = x.length - 1;
  return (at) => {
    if (at <= (x[0] ?? 0)) return y[0] ?? 0;
    if (at >= (x[last] ?? 0)) return y[last] ?? 0;
    let i = 0;
    while (at >= (x[i + 1] ?? Infinity)) i += 1;
    const width = (x[i + 1] ?? 0) - (x[i] ?? 0);
    const t = (at - (x[i] ?? 0)) / width;
    const [t2, t3] = [t * t, t * t * t];
    return (
      (2 * t3 - 3 * t2 + 1) * (y[i] ?? 0) +
      (t3 - 2 * t2 + t) * width * (slopes[i] ?? 0) +
      (3 * t2 - 2 * t3) * (y[i + 1] ?? 0) +
      (t3 - t2) * width * (slopes[i + 1] ?? 0)
    );
  };
}
