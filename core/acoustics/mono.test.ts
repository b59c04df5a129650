import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { averageCosine, monoSum } from './mono';

describe('mono sum', () => {
  it('has its first notch at 1/(2τ)', () => {
    expect(monoSum(1, 1, 0.5).firstNotchHz).toBeCloseTo(1000, 6);
    expect(monoSum(1, 1, -0.5).firstNotchHz).toBeCloseTo(1000, 6);
  });

  it('in antiphase the first notch above zero is at 1/τ', () => {
    expect(monoSum(1, -1, 0.5).firstNotchHz).toBeCloseTo(2000, 6);
  });

  it('has a comb as deep as the level difference allows', () => {
    expect(monoSum(1, 0.5, 1).combDb).toBeCloseTo(20 * Math.log10(3), 6);
    expect(monoSum(1, 1, 1).combDb).toBe(60);
  });

  it('has no comb without a time difference: +3 dB, or nothing left in antiphase', () => {
    const same = monoSum(1, 1, 0);
    expect(same).toMatchObject({ firstNotchHz: null, combDb: 0 });
    expect(same.sumDb).toBeCloseTo(3.0103, 4);
    expect(monoSum(1, -1, 0).sumDb).toBe(-120);
  });

  it('averages to the power sum for long delays', () => {
    expect(Math.abs(monoSum(1, 1, 30).sumDb)).toBeLessThan(0.15);
  });

  it('one silent channel changes nothing', () => {
    expect(monoSum(1, 0, 0.7)).toEqual({ firstNotchHz: null, combDb: 0, sumDb: 0 });
    expect(monoSum(0, 0, 0.7)).toEqual({ firstNotchHz: null, combDb: 0, sumDb: 0 });
  });
});

describe('the mean of a comb over third octaves', () => {
  it('is found in its table as it is reckoned, to 10⁻⁷', () => {
    const edges = Array.from({ length: 22 }, (_, i) => 1000 * 10 ** ((i - 10.5) / 10));
    const plain = (tauS: number): number => {
      let sum = 0;
      for (let i = 0; i < 21; i++) {
        const [low, high] = [edges[i] ?? 0, edges[i + 1] ?? 0];
        const turn = 2 * Math.PI * tauS;
        sum += (Math.sin(turn * high) - Math.sin(turn * low)) / (turn * (high - low)) / 21;
      }
      return sum;
    };
    fc.assert(
      fc.property(fc.double({ min: 1e-7, max: 0.006, noNaN: true }), (tauS) => {
        expect(Math.abs(averageCosine(tauS) - plain(tauS))).toBeLessThan(1e-7);
      }),
    );
    expect(averageCosine(0)).toBe(1);
  });
});
