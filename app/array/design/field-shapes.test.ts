import { describe, expect, it } from 'vitest';
import type { FieldRow } from '../../../core/analysis';
import { fieldShapes } from './field-shapes';

const row = (includedAngleDeg: number, edgeM: number | null): FieldRow => ({
  includedAngleDeg,
  runs:
    edgeM === null
      ? [{ verdict: 'crowded', fromM: 0, toM: 1 }]
      : [
          { verdict: 'fits', fromM: 0, toM: edgeM },
          { verdict: 'crowded', fromM: edgeM, toM: 1 },
        ],
});
const shapes = (rows: FieldRow[]) =>
  fieldShapes(
    rows,
    (m) => m * 100,
    (deg) => 180 - deg,
  );

/** Area of all parts of a path, px². */
function area(path: string): number {
  return path
    .split('Z')
    .filter((part) => part !== '')
    .reduce((sum, part) => {
      const points = part
        .slice(1)
        .split('L')
        .map((pair) => pair.split(' ').map(Number));
      const doubled = points.reduce((twice, [x = 0, y = 0], i) => {
        const [nextX = 0, nextY = 0] = points[(i + 1) % points.length] ?? [];
        return twice + x * nextY - nextX * y;
      }, 0);
      return sum + Math.abs(doubled) / 2;
    }, 0);
}

describe('areas of the fields', () => {
  it('join the edges of rows and cover the whole ground once', () => {
    const found = shapes([row(0, 0.2), row(10, 0.4), row(20, 0.4)]);
    const of = (verdict: string) => area(found.find((one) => one.verdict === verdict)?.path ?? '');
    expect(of('fits')).toBeCloseTo(10 * 30 + 10 * 40, 6);
    expect(of('fits') + of('crowded')).toBeCloseTo(20 * 100, 6);
  });

  it('begin and end half way between two rows', () => {
    const found = shapes([row(0, 0.5), row(10, null)]);
    expect(area(found[0]?.path ?? '')).toBeCloseTo(5 * 50, 6);
    expect(area(found[1]?.path ?? '')).toBeCloseTo(5 * 50 + 5 * 100, 6);
  });

  it('have their word in the middle of where they are widest', () => {
    const rows = [0, 10, 20, 30, 40].map((deg) => row(deg, deg === 0 ? 0.1 : 0.6));
    const fits = shapes(rows).find(({ verdict }) => verdict === 'fits');
    expect(fits?.label).toMatchObject({ x: 30, widthPx: 60, heightPx: 30 });
    expect(fits?.label.y).toBeLessThanOrEqual(160);
    expect(fits?.label.y).toBeGreaterThanOrEqual(150);
    expect(fieldShapes([], Number, Number)).toEqual([]);
  });
});
