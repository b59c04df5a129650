import type { FieldRow, PictureVerdict } from '../../../core/analysis';

/** The ground that one verdict has on the drawing. */
export interface FieldShape {
  verdict: PictureVerdict;
  /** SVG path, px */
  path: string;
  /** the middle of its widest stretch, and how wide and high there is room for a word, px */
  label: { x: number; y: number; widthPx: number; heightPx: number };
}

interface Widest {
  row: number;
  fromM: number;
  toM: number;
}

const sameOrder = (a: FieldRow, b: FieldRow): boolean =>
  a.runs.length === b.runs.length &&
  a.runs.every(({ verdict }, i) => verdict === b.runs[i]?.verdict);

/**
 * Rows of stretches as areas: edges of rows that follow each other are joined, and where a field
 * begins or ends between two rows it does so half way.
 * @param rows by ascending angle
 */
export function fieldShapes(
  rows: readonly FieldRow[],
  toX: (spacingM: number) => number,
  toY: (deg: number) => number,
): FieldShape[] {
  const paths = new Map<PictureVerdict, string[]>();
  const widest = new Map<PictureVerdict, Widest>();
  const quad = (verdict: PictureVerdict, points: readonly (readonly [number, number])[]): void => {
    const text = points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L');
    paths.set(verdict, [...(paths.get(verdict) ?? []), `M${text}Z`]);
  };
  const band = (low: FieldRow, high: FieldRow, fromDeg: number, toDeg: number): void => {
    low.runs.forEach((run, i) => {
      const over = high.runs[i] ?? run;
      quad(run.verdict, [
        [toX(run.fromM), toY(fromDeg)],
        [toX(run.toM), toY(fromDeg)],
        [toX(over.toM), toY(toDeg)],
        [toX(over.fromM), toY(toDeg)],
      ]);
    });
  };
  rows.forEach((row, index) => {
    for (const { verdict, fromM, toM } of row.runs) {
      const known = widest.get(verdict);
      if (!known || toM - fromM > known.toM - known.fromM) {
        widest.set(verdict, { row: index, fromM, toM });
      }
    }
    const next = rows[index + 1];
    if (!next) return;
    const [low, high] = [row.includedAngleDeg, next.includedAngleDeg];
    if (sameOrder(row, next)) return band(row, next, low, high);
    band(row, row, low, (low + high) / 2);
    band(next, next, (low + high) / 2, high);
  });
  return [...paths].map(([verdict, parts]) => {
    const at = middleOfBody(rows, verdict, widest.get(verdict));
    const [left, right] = [toX(at.fromM), toX(at.toM)];
    const step = Math.abs(
      toY(rows[1]?.includedAngleDeg ?? 0) - toY(rows[0]?.includedAngleDeg ?? 0),
    );
    return {
      verdict,
      path: parts.join(''),
      label: {
        x: (left + right) / 2,
        y: toY(rows[at.row]?.includedAngleDeg ?? 0),
        widthPx: right - left,
        heightPx: at.rows * step,
      },
    };
  });
}

/** The row in the middle of those in which a field is at least half as wide as at its widest. */
function middleOfBody(
  rows: readonly FieldRow[],
  verdict: PictureVerdict,
  widest: Widest | undefined,
): Widest & { rows: number } {
  const most = widest ?? { row: 0, fromM: 0, toM: 0 };
  const body = rows.flatMap(({ runs }, row) => {
    const wide = runs
      .filter((run) => run.verdict === verdict)
      .reduce<Widest | null>(
        (best, { fromM, toM }) =>
          !best || toM - fromM > best.toM - best.fromM ? { row, fromM, toM } : best,
        null,
      );
    return wide && wide.toM - wide.fromM >= (most.toM - most.fromM) / 2 ? [wide] : [];
  });
  // Of several bodies the one that holds the widest row.
  const start = body.findIndex(({ row }) => row === most.row);
  let [low, high] = [start, start];
  while (low > 0 && body[low - 1]?.row === (body[low]?.row ?? 0) - 1) low--;
  while (high < body.length - 1 && body[high + 1]?.row === (body[high]?.row ?? 0) + 1) high++;
  const middle = body[Math.round((low + high) / 2)] ?? most;
  return { ...middle, rows: Math.max(1, high - low) };
}
