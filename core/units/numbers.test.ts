import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clamp, reachedBetween, zeroBetween } from './numbers';

describe('clamping', () => {
  it('keeps what is inside and gives the nearest bound otherwise', () => {
    expect([clamp(2, 0, 1), clamp(-2, 0, 1), clamp(0.4, 0, 1)]).toEqual([1, 0, 0.4]);
    expect(clamp(Number.NaN, 0, 1)).toBeNaN();
  });
});

describe('the zero between', () => {
  it('is found of rising and falling functions, as exactly as asked', () => {
    expect(zeroBetween((x) => x * x - 2, 0, 2, 50)).toBeCloseTo(Math.SQRT2, 12);
    expect(zeroBetween((x) => 2 - x * x, 0, 2, 50)).toBeCloseTo(Math.SQRT2, 12);
    expect(Math.abs(zeroBetween((x) => x - 0.3, 0, 1, 10) - 0.3)).toBeLessThan(2 ** -10);
  });
});

describe('where a margin is reached', () => {
  const root = fc.double({ min: 0.001, max: 0.999, noNaN: true });

  it('is found to the tolerance, outward and inward, in a few steps', () => {
    fc.assert(
      fc.property(root, fc.double({ min: 0.2, max: 5, noNaN: true }), (at, bend) => {
        let asked = 0;
        const margin = (x: number): number => {
          asked += 1;
          return Math.sign(x - at) * Math.abs(x - at) ** bend;
        };
        expect(Math.abs((reachedBetween(margin, 0, 1, 1e-8) ?? NaN) - at)).toBeLessThan(1e-8);
        expect(asked).toBeLessThan(80);
        const back = reachedBetween((x) => margin(-x), 0, -1, 1e-8) ?? NaN;
        expect(Math.abs(back + at)).toBeLessThan(1e-8);
      }),
    );
    let asked = 0;
    const smooth = (x: number): number => {
      asked += 1;
      return Math.sin(x) - 0.4;
    };
    expect(reachedBetween(smooth, 0, 1, 1e-8)).toBeCloseTo(Math.asin(0.4), 7);
    expect(asked).toBeLessThan(10);
  });

  it('before the place at which it is lost, or never', () => {
    fc.assert(
      fc.property(root, root, (reached, lost) => {
        const margin = (x: number): number | null => (x > lost ? null : x - reached);
        const found = reachedBetween(margin, 0, 1, 1e-9);
        if (lost > reached + 1e-6) expect(found).toBeCloseTo(reached, 7);
        if (lost < reached - 1e-6) expect(found).toBeNull();
      }),
    );
  });

  it('at the ends where it is so already, or not even there', () => {
    expect(reachedBetween(() => 0, 2, 3, 1e-8)).toBe(2);
    expect(reachedBetween(() => 1, 2, 3, 1e-8)).toBe(2);
    expect(reachedBetween(() => -1, 2, 3, 1e-8)).toBe(3);
    expect(reachedBetween(() => null, 2, 3, 1e-8)).toBeNull();
  });
});
