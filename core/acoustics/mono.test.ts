import { describe, expect, it } from 'vitest';
import { monoSum } from './mono';

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
