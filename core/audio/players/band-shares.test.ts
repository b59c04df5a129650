import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { bandShares } from './band-shares';

const RATE = 48_000;
const noise = (length: number, seed = 1): Float32Array => {
  const random = seededRandom(seed);
  return Float32Array.from({ length }, () => random() - 0.5);
};
const power = (samples: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += (samples[i] ?? 0) ** 2;
  return sum;
};

describe('one performance parted among places', () => {
  const loop = noise(96_000);
  const shares = bandShares(loop, RATE, 3);

  it('is the performance again where all of it comes together, round its end as well', () => {
    let worst = 0;
    for (let i = 0; i < loop.length; i++) {
      const sum = shares.reduce((all, share) => all + (share[i] ?? 0), 0) / Math.sqrt(3);
      worst = Math.max(worst, Math.abs(sum - (loop[i] ?? 0)));
    }
    expect(worst).toBeLessThan(1e-5);
  });

  it('has the power of the whole at each of three places, and next to nothing in common', () => {
    const whole = power(loop);
    for (const share of shares) expect(10 * Math.log10(power(share) / whole)).toBeCloseTo(0, 0);
    for (const [i, a] of shares.entries()) {
      for (const b of shares.slice(i + 1)) {
        const common = a.reduce((sum, value, k) => sum + value * (b[k] ?? 0), 0);
        expect(Math.abs(common) / whole).toBeLessThan(0.12);
      }
    }
  });

  it('is told by its length, not by where it was begun', () => {
    const turned = Float32Array.from(loop, (_, i) => loop[(i + 1000) % loop.length] ?? 0);
    const [first] = bandShares(turned, RATE, 3);
    const [other] = shares;
    for (const i of [0, 17, 50_000, 90_000]) {
      expect(first?.[i]).toBeCloseTo(other?.[(i + 1000) % loop.length] ?? NaN, 5);
    }
  });
});
