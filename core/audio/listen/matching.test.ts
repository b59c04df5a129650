import { describe, expect, it } from 'vitest';
import { isSameTrim, LOUDNESS, trimDbOf, trimLike } from './matching';

describe('one loudness', () => {
  it('is come to by the difference, and what is nearly silent stays so', () => {
    expect(trimDbOf(LOUDNESS)).toBe(0);
    expect(trimDbOf(-26)).toBe(6);
    expect(trimDbOf(-3)).toBe(-17);
    expect(trimDbOf(-60)).toBe(40);
    expect(trimDbOf(-61)).toBe(40);
    expect(trimDbOf(null)).toBeNull();
    expect(trimDbOf(-Infinity)).toBeNull();
  });

  it('of two holds whatever the trim of the one is', () => {
    // 6 dB softer needs twice the amplitude, to 0.2 %.
    expect(trimLike(0.5, -20, -26.0206)).toBeCloseTo(1, 5);
    expect(trimLike(0.25, -30, -30)).toBe(0.25);
    expect(isSameTrim(1, 1.0009)).toBe(true);
    expect(isSameTrim(1, 1.002)).toBe(false);
  });
});
