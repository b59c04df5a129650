import { describe, expect, it } from 'vitest';
import { stageFigures } from './stage';

const point = (shift: number) => ({ left: shift, right: shift, shift });

describe('stage figures', () => {
  it('image width, gap and pile-up of three points', () => {
    expect(stageFigures([point(1), point(-0.5), point(0.1)])).toEqual({
      imageWidthPct: 75,
      largestGapPct: 45,
      atSpeakersPct: expect.closeTo(100 / 3, 9) as number,
    });
  });

  it('wide images close gaps, also one that covers its neighbours', () => {
    const figures = stageFigures([
      { left: -0.8, right: 0.6, shift: 0 },
      point(-0.5),
      { left: 0.5, right: 0.9, shift: 0.7 },
    ]);
    expect(figures?.largestGapPct).toBe(0);
    expect(figures?.imageWidthPct).toBeCloseTo(85, 10);
  });

  it('is null without images', () => {
    expect(stageFigures([])).toBeNull();
  });
});
