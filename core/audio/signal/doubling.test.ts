import { describe, expect, it } from 'vitest';
import { BESIDE_QUARTER, fourfold } from './doubling';

describe('a wave from a quarter of the rate', () => {
  // Parts of the whole rate: a tenth of it is 0.4 of the quarter.
  it.each([0, 0.001, 0.02, 0.0713, 0.0999])('of %f of the rate is the wave itself', (part) => {
    const wave = (i: number): number => Math.cos(2 * Math.PI * part * i + 1);
    for (const frames of [1, 2, 3, 401, 1000]) {
      const quarter = Float32Array.from(
        { length: Math.ceil(frames / 4) + 2 * BESIDE_QUARTER },
        (_, i) => wave(4 * (i - BESIDE_QUARTER)),
      );
      const whole = fourfold(quarter, frames);
      expect(whole).toHaveLength(frames);
      const worst = whole.reduce((most, value, i) => Math.max(most, Math.abs(value - wave(i))), 0);
      expect(20 * Math.log10(worst)).toBeLessThan(-94);
    }
  });

  it('of nothing is nothing', () => {
    expect(fourfold(new Float32Array(0), 0)).toHaveLength(0);
    expect(fourfold(new Float32Array(0), 5).every((value) => value === 0)).toBe(true);
  });
});
