import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crosses, nearestOnStretch, outsideOf, seenFrom } from './geometry';
import { distance, planDistance, vec } from './vector';

const metres = fc.double({ min: -20, max: 20, noNaN: true });
const point = fc.record({ x: metres, y: metres, z: metres });

describe('the nearest place on a stretch', () => {
  it('is the foot of the perpendicular, or an end', () => {
    expect(nearestOnStretch(vec(1, 2, 0), vec(0, 0, 0), vec(4, 0, 0))).toEqual({
      fraction: 0.25,
      distanceM: 2,
    });
    expect(nearestOnStretch(vec(-3, 4, 0), vec(0, 0, 0), vec(4, 0, 0))).toEqual({
      fraction: 0,
      distanceM: 5,
    });
    expect(nearestOnStretch(vec(7, 0, 4), vec(0, 0, 0), vec(4, 0, 0)).distanceM).toBe(5);
    expect(nearestOnStretch(vec(0, 3, 4), vec(0, 0, 0), vec(0, 0, 0)).distanceM).toBe(5);
  });

  it('is nearer than any other place on it', () => {
    fc.assert(
      fc.property(point, point, point, fc.double({ min: 0, max: 1, noNaN: true }), (p, a, b, t) => {
        const other = vec(a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z));
        expect(nearestOnStretch(p, a, b).distanceM).toBeLessThanOrEqual(distance(p, other) + 1e-9);
      }),
      { seed: 11 },
    );
  });
});

describe('a turned rectangle', () => {
  const piano = { x: 2, y: 3, turnDeg: 90, widthM: 1.5, depthM: 2.7 };

  it('turned by a quarter clockwise has its width along the depth of the hall', () => {
    // What is 1 m upstage of its centre lies along its own −x.
    expect(seenFrom(piano, { x: 2, y: 4 }).x).toBeCloseTo(-1, 12);
    expect(seenFrom(piano, { x: 3, y: 3 }).y).toBeCloseTo(1, 12);
    expect(outsideOf(piano, { x: 2, y: 3.7 })).toEqual({ x: 0, y: 0 });
    expect(outsideOf(piano, { x: 2, y: 4 }).x).toBeCloseTo(0.25, 12);
    expect(outsideOf(piano, { x: 4, y: 3 }).y).toBeCloseTo(0.65, 12);
  });

  it('keeps distances from its centre', () => {
    fc.assert(
      fc.property(point, fc.double({ min: -180, max: 180, noNaN: true }), (p, turnDeg) => {
        const { x, y } = seenFrom({ ...piano, turnDeg }, p);
        expect(Math.hypot(x, y)).toBeCloseTo(planDistance(p, piano), 9);
      }),
      { seed: 12 },
    );
  });

  it('is crossed by what goes through it, not by what ends before or passes beside', () => {
    expect(crosses({ x: 2, y: 0 }, { x: 2, y: 6 }, piano)).toBe(true);
    expect(crosses({ x: 2, y: 0 }, { x: 2, y: 2.2 }, piano)).toBe(false);
    expect(crosses({ x: 0, y: 3.76 }, { x: 4, y: 3.76 }, piano)).toBe(false);
    expect(crosses({ x: 0, y: 3.74 }, { x: 4, y: 3.74 }, piano)).toBe(true);
    expect(crosses({ x: 2, y: 3 }, { x: 2, y: 3 }, piano)).toBe(true);
  });
});
