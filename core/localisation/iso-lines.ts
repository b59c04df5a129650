import { contours } from 'd3-contour';

/** A point between the columns and rows of a grid: 0 is the first, 1 the second. */
export interface GridPoint {
  column: number;
  row: number;
}

/** Stands for “not reached” where lines are drawn: beyond every angle, degrees. */
const BEYOND_DEG = 185;

/**
 * Where half recording angles over a grid have one size (marching squares).
 * @param halves half angle at [row · columns + column], degrees; 0 stands for “not reached”
 * @param columns how many, 2 or more; the rows follow from the length
 * @param levelDeg the size, above 0 and below 185°
 * @returns each line as its points; a line that leaves the grid ends at its border
 * @throws RangeError where the values do not fill the rows
 */
export function isoLines(
  halves: ArrayLike<number>,
  columns: number,
  levelDeg: number,
): GridPoint[][] {
  const rows = halves.length / columns;
  if (!Number.isInteger(rows)) {
    throw new RangeError(`${halves.length} values; allowed: a multiple of ${columns}`);
  }
  const values = Array.from(halves, (half) => (half > 0 ? half : BEYOND_DEG));
  const shape = contours().size([columns, rows]).thresholds([levelDeg])(values)[0];
  // A point lies between two places of the grid: both must have an angle.
  const isReached = (x: number, y: number): boolean =>
    [Math.floor(y), Math.ceil(y)].every((row) =>
      [Math.floor(x), Math.ceil(x)].every((column) => {
        const half = halves[row * columns + column];
        return half === undefined || half > 0;
      }),
    );
  const lines: GridPoint[][] = [];
  for (const ring of shape?.coordinates.flat() ?? []) {
    let line: GridPoint[] = [];
    const close = () => {
      if (line.length > 1) lines.push(line);
      line = [];
    };
    // Rings run along the border where they leave the grid, and along the places where the angle is
    // never reached: those parts are no line.
    for (const [x = 0, y = 0] of ring) {
      const border = x <= 0 || y <= 0 || x >= columns || y >= rows;
      if (border || !isReached(x - 0.5, y - 0.5)) close();
      else line.push({ column: x - 0.5, row: y - 0.5 });
    }
    close();
  }
  return lines;
}
