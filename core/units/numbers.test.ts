import { describe, expect, it } from 'vitest';
import { clamp, zeroBetween } from './numbers';

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
