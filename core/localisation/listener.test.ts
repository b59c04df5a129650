import { describe, expect, it } from 'vitest';
import { focusOf, interauralOf, spherePressure } from './listener';
import { plainWaves } from '../fixtures/closed';

describe('a rigid sphere with two ears', () => {
  it('delays as published: 0.38 to 0.41 ms below 500 Hz, 0.30 ms at 3 kHz, for 30°', () => {
    for (const hz of [100, 200, 400]) {
      expect(interauralOf(30, hz).itdMs).toBeGreaterThan(0.375);
      expect(interauralOf(30, hz).itdMs).toBeLessThan(0.415);
    }
    // Within half a period only: a third of a millisecond is one of 3 kHz.
    const high = interauralOf(30, 3000).itdMs;
    expect((high + 1 / 3) % (1 / 3)).toBeCloseTo(0.3, 1);
    expect(interauralOf(-30, 400).itdMs).toBeCloseTo(-interauralOf(30, 400).itdMs, 12);
    expect(interauralOf(0, 2000)).toMatchObject({ itdMs: 0, ildDb: 0 });
  });

  it('is nothing to long waves, and doubles short ones where they meet it', () => {
    expect(Math.hypot(spherePressure(0.3, 20).re, spherePressure(0.3, 20).im)).toBeCloseTo(1, 2);
    const front = spherePressure(1, 12000);
    expect(20 * Math.log10(Math.hypot(front.re, front.im))).toBeGreaterThan(5);
    expect(20 * Math.log10(Math.hypot(front.re, front.im))).toBeLessThan(6.2);
    expect(interauralOf(30, 4000).ildDb).toBeGreaterThan(interauralOf(30, 300).ildDb);
  });
});

describe('the listener by band', () => {
  const of = (db: number, ms: number) => {
    const focus = focusOf(plainWaves(db, ms));
    if (!focus) throw new Error('a sound');
    return focus;
  };

  it.each([
    [3, 0.2],
    [6, 0.4],
    [9, 0.57],
    [12, 0.7],
    [15, 0.8],
  ])('%s dB of level: the median is near what people hear', (db, shift) => {
    expect(Math.abs(of(db, 0).median - shift)).toBeLessThan(0.04);
    expect(of(-db, 0).median).toBeCloseTo(-of(db, 0).median, 9);
  });

  it('time alone: the bands contradict each other, and more than with level', () => {
    const time = of(0, 0.3);
    expect(time.low * 30).toBeCloseTo(0, 0);
    expect(time.middle * 30).toBeGreaterThan(28);
    expect(Math.abs(time.high * 30)).toBeLessThan(10);
    expect(Math.abs(of(0, 1.1).median)).toBeLessThan(0.2);
    expect(time.apart).toBeGreaterThan(2 * of(6, 0).apart);
  });

  it('is of one mind in the middle, and silent where nothing sounds', () => {
    expect(of(0, 0)).toEqual({ low: 0, middle: 0, high: 0, median: 0, apart: 0 });
    expect(focusOf([])).toBeNull();
    expect(focusOf([{ left: 0, right: 0, timeS: 0 }])).toBeNull();
  });
});
