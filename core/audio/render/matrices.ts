/** Real and imaginary parts in turn, row by row. */
export type Matrix = Float64Array;

/**
 * Complex lower triangle of a Hermitian matrix.
 * @param n rows, 1 … 200
 */
export function cholesky(matrix: Matrix, n: number): Matrix {
  const out = new Float64Array(2 * n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let [re, im] = [matrix[2 * (i * n + j)] as number, matrix[2 * (i * n + j) + 1] as number];
      for (let k = 0; k < j; k++) {
        const [a, b] = [2 * (i * n + k), 2 * (j * n + k)];
        const [ar, ai] = [out[a] as number, out[a + 1] as number];
        const [br, bi] = [out[b] as number, out[b + 1] as number];
        re -= ar * br + ai * bi;
        im -= ai * br - ar * bi;
      }
      const at = 2 * (i * n + j);
      if (i === j) {
        // Capsules in one place leave nothing over: no less than rounding.
        out[at] = Math.sqrt(Math.max(re, 1e-9 * (matrix[2 * (i * n + i)] as number) + 1e-300));
      } else {
        const root = out[2 * (j * n + j)] as number;
        out[at] = re / root;
        out[at + 1] = im / root;
      }
    }
  }
  return out;
}

/**
 * T with T·Ĉ·T* = C, for the lower triangles of both: T = L·L̂⁻¹.
 * @param n rows, 1 … 200
 */
export function turnInto(wanted: Matrix, found: Matrix, n: number): Matrix {
  const out = new Float64Array(2 * n * n);
  for (let i = 0; i < n; i++) {
    // Row of T times L̂ is the row of L: from the last column back.
    for (let j = i; j >= 0; j--) {
      const at = 2 * (i * n + j);
      let [re, im] = [wanted[at] as number, wanted[at + 1] as number];
      for (let k = j + 1; k <= i; k++) {
        const [t, l] = [2 * (i * n + k), 2 * (k * n + j)];
        const [tr, ti] = [out[t] as number, out[t + 1] as number];
        const [lr, li] = [found[l] as number, found[l + 1] as number];
        re -= tr * lr - ti * li;
        im -= tr * li + ti * lr;
      }
      const root = found[2 * (j * n + j)] as number;
      out[at] = re / root;
      out[at + 1] = im / root;
    }
  }
  return out;
}
