import { expect, it } from 'vitest';
import { freeSpot } from './free-spot';

it('is in the middle first, then left and right in turn, then in the row behind', () => {
  const taken: { x: number; y: number }[] = [];
  for (let i = 0; i < 10; i++) taken.push(freeSpot(taken));
  const places = taken.map(({ x, y }) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10]);
  expect(places).toEqual([
    [0, 2.5],
    [-0.9, 2.5],
    [0.9, 2.5],
    [-1.8, 2.5],
    [1.8, 2.5],
    [-2.7, 2.5],
    [2.7, 2.5],
    [-3.6, 2.5],
    [3.6, 2.5],
    [0, 3.4],
  ]);
});

it('is never within 0.6 m of anybody, and the first one where all are taken', () => {
  const taken = [{ x: 0.5, y: 2.5 }];
  for (let i = 0; i < 179; i++) {
    const spot = freeSpot(taken);
    if (spot.x === 0 && spot.y === 2.5) break;
    for (const { x, y } of taken) {
      expect(Math.hypot(x - spot.x, y - spot.y)).toBeGreaterThanOrEqual(0.6);
    }
    taken.push(spot);
  }
  expect(freeSpot(taken)).toEqual({ x: 0, y: 2.5 });
});
