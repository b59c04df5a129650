/** Nearer to another one than this there is no room for somebody, m. */
const ROOM_M = 0.6;
/** Seats of a usual ensemble: so far apart, from so far before the front edge on, m. */
const [APART_M, FIRST_Y_M] = [0.9, 2.5];
const [COLUMNS, ROWS] = [9, 20];

/**
 * The next spot on a floor where nobody is: in the middle first, then to both sides in turn, row by row.
 * @param taken places of others, m
 * @returns m; the first spot of all where every one is taken
 */
export function freeSpot(taken: readonly { x: number; y: number }[]): { x: number; y: number } {
  for (let row = 0; row < ROWS; row++) {
    for (let column = 0; column < COLUMNS; column++) {
      const step = column % 2 === 0 ? column / 2 : -(column + 1) / 2;
      const spot = { x: step * APART_M, y: FIRST_Y_M + row * APART_M };
      if (taken.every(({ x, y }) => Math.hypot(x - spot.x, y - spot.y) >= ROOM_M)) return spot;
    }
  }
  return { x: 0, y: FIRST_Y_M };
}
