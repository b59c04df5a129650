import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OUTLINES, outlineOf } from './outlines';
import {
  boxAround,
  centroid,
  clippedTo,
  distanceToOutline,
  insidePolygon,
  outlineProblems,
  polygonArea,
  signedArea,
  turnedRectangle,
  type PlanPoint,
} from './polygon';

const at = (...pairs: [number, number][]): PlanPoint[] => pairs.map(([x, y]) => ({ x, y }));
const L = at([0, 0], [6, 0], [6, 5], [10, 5], [10, 10], [0, 10]);

describe('polygons', () => {
  it('have the areas and centres of closed forms', () => {
    expect(polygonArea(L)).toBe(80);
    expect(centroid(L).area).toBe(80);
    // Two rectangles: 6 × 10 about (3, 5) and 4 × 5 about (8, 7.5).
    expect(centroid(L).centre.x).toBeCloseTo((60 * 3 + 20 * 8) / 80, 12);
    expect(centroid(L).centre.y).toBeCloseTo((60 * 5 + 20 * 7.5) / 80, 12);
    const octagon = outlineOf('octagon', 12, 12);
    // 8 · a² · tan 22.5°, corners to the millimetre.
    expect(polygonArea(octagon)).toBeCloseTo(8 * 36 * Math.tan(Math.PI / 8), 2);
    expect(signedArea([...L].reverse())).toBe(-80);
  });

  it('hold what is in them, and what is on their walls', () => {
    expect(insidePolygon({ x: 3, y: 3 }, L)).toBe(true);
    expect(insidePolygon({ x: 8, y: 3 }, L)).toBe(false);
    expect(insidePolygon({ x: 6, y: 2 }, L)).toBe(true);
    expect(distanceToOutline({ x: 8, y: 3 }, L)).toBe(2);
    expect(distanceToOutline({ x: 3, y: 5 }, L)).toBe(3);
  });

  it('are as large in two parts as whole, wherever they are cut', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...OUTLINES),
        fc.double({ min: -5, max: 25, noNaN: true }),
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        (name, limit, angle) => {
          const outline = outlineOf(name, 14, 20);
          const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
          const parts =
            polygonArea(clippedTo(outline, { nx, ny, limit })) +
            polygonArea(clippedTo(outline, { nx: -nx, ny: -ny, limit: -limit }));
          expect(parts).toBeCloseTo(polygonArea(outline), 6);
        },
      ),
      { seed: 11, numRuns: 300 },
    );
  });

  it('turn to the right as obstacles do', () => {
    const [first] = turnedRectangle({ x: 1, y: 2 }, 4, 2, 90);
    // The left front corner (−2, −1) turned to the right by 90° is (−1, 2).
    expect(first?.x).toBeCloseTo(0, 12);
    expect(first?.y).toBeCloseTo(4, 12);
  });
});

describe('an outline of a hall', () => {
  it.each(OUTLINES)('%s is one in every size, and fills its box', (name) => {
    for (const [w, d] of [
      [0.5, 200],
      [3, 3],
      [12, 20],
      [200, 200],
    ] as const) {
      const outline = outlineOf(name, w, d);
      const box = boxAround(outline);
      expect([box?.minX, box?.minY]).toEqual([0, 0]);
      expect(box?.maxX).toBeCloseTo(w, 9);
      expect(box?.maxY).toBeCloseTo(d, 9);
      if (w >= 3) expect(outlineProblems(outline)).toEqual([]);
      expect(signedArea(outline)).toBeGreaterThan(0);
    }
  });

  it.each([
    ['too few', at([0, 0], [3, 0]), null, '2 corners; allowed: 3 to 40'],
    [
      'too many',
      Array.from({ length: 41 }, (_, i) => ({
        x: 20 * Math.cos((i * 2 * Math.PI) / 41),
        y: 20 * Math.sin((i * 2 * Math.PI) / 41),
      })),
      null,
      '41 corners',
    ],
    ['a double corner', at([0, 0], [5, 0], [5, 0.02], [5, 5]), 1, 'corner 2 is less than 5 cm'],
    ['a needle', at([0, 0], [10, 0], [0, 0.3]), 1, 'the walls at corner 2 make a needle of 1.7°'],
    ['there and back', at([0, 0], [5, 0], [2, 0], [2, 5]), 1, 'corner 2 make a needle of 0°'],
    [
      'crossing itself',
      at([0, 0], [5, 5], [5, 0], [0, 5]),
      2,
      'the wall from corner 1 to 2 and the one from corner 3 to 4 cross',
    ],
    [
      'touching itself',
      at([0, 0], [6, 0], [6, 6], [3, 0], [0, 6]),
      2,
      'the wall from corner 1 to 2 and the one from corner 3 to 4 touch',
    ],
    ['tiny', at([0, 0], [0.5, 0], [0.5, 0.5], [0, 0.5]), null, 'enclose 0.25 m²'],
  ] as [string, PlanPoint[], number | null, string][])(
    '%s is refused, with the corner',
    (_, corners, corner, words) => {
      const [problem] = outlineProblems(corners);
      expect(problem?.corner).toBe(corner);
      expect(problem?.message).toContain(words);
    },
  );

  it('may have a corner in a straight wall, and forty', () => {
    expect(outlineProblems(at([0, 0], [3, 0], [6, 0], [6, 6], [0, 6]))).toEqual([]);
    const round = Array.from({ length: 40 }, (_, i) => ({
      x: 20 + 20 * Math.cos((i * 2 * Math.PI) / 40),
      y: 20 + 20 * Math.sin((i * 2 * Math.PI) / 40),
    }));
    expect(outlineProblems(round)).toEqual([]);
  });

  it('never throws, whatever the corners', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: fc.oneof(fc.integer({ min: 0, max: 6 }), fc.double({ min: -300, max: 300 })),
            y: fc.oneof(fc.integer({ min: 0, max: 6 }), fc.double({ min: -300, max: 300 })),
          }),
          { maxLength: 45 },
        ),
        (corners) => {
          for (const { message } of outlineProblems(corners)) expect(message).toContain('allowed');
        },
      ),
      { seed: 5, numRuns: 400 },
    );
  });
});
