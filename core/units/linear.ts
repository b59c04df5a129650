/**
 * Solves a system of linear equations by elimination.
 * @param matrix n rows of n, any size that fits the memory
 * @param right n figures
 * @returns null where it is singular
 */
export function solved(
  matrix: readonly (readonly number[])[],
  right: readonly number[],
): number[] | null {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i] ?? 0]);
  for (let i = 0; i < n; i++) {
    let best = i;
    for (let j = i + 1; j < n; j++) {
      if (Math.abs(rows[j]?.[i] ?? 0) > Math.abs(rows[best]?.[i] ?? 0)) best = j;
    }
    const pivot = rows[best];
    const here = rows[i];
    if (!pivot || !here || Math.abs(pivot[i] ?? 0) < 1e-12) return null;
    [rows[i], rows[best]] = [pivot, here];
    for (let j = i + 1; j < n; j++) {
      const row = rows[j];
      if (!row) continue;
      const factor = (row[i] ?? 0) / (pivot[i] ?? 1);
      if (factor !== 0)
        for (let k = i; k <= n; k++) row[k] = (row[k] ?? 0) - factor * (pivot[k] ?? 0);
    }
  }
  const out = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    const row = rows[i] ?? [];
    let sum = row[n] ?? 0;
    for (let k = i + 1; k < n; k++) sum -= (row[k] ?? 0) * (out[k] ?? 0);
    out[i] = sum / (row[i] ?? 1);
  }
  return out;
}
