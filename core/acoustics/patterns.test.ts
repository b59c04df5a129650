import { describe, expect, it } from 'vitest';
import { cosDeg } from '../units/guard';
import {
  distanceFactor,
  NAMED_PATTERNS,
  nullAngleDeg,
  patternNameOf,
  patternAOf,
  randomEnergyEfficiency,
  sensitivity,
} from './patterns';

describe('named patterns', () => {
  it.each([
    ['omni', 1, 1, 1, 0, null],
    ['subcardioid', 0.75, 0.583, 1.31, 2.3, null],
    ['cardioid', 0.5, 0.333, 1.73, 4.8, 180],
    ['supercardioid', 0.366, 0.268, 1.93, 5.7, 125.3],
    ['hypercardioid', 0.25, 0.25, 2, 6, 109.5],
    ['figure-eight', 0, 0.333, 1.73, 4.8, 90],
  ] as const)('%s', (name, patternA, ree, factor, index, nullAngle) => {
    expect(NAMED_PATTERNS[name]).toBe(patternA);
    expect(randomEnergyEfficiency(patternA)).toBeCloseTo(ree, 3);
    expect(distanceFactor(patternA)).toBeCloseTo(factor, 2);
    expect(20 * Math.log10(distanceFactor(patternA))).toBeCloseTo(index, 1);
    const found = nullAngleDeg(patternA);
    if (nullAngle === null) expect(found).toBeNull();
    else expect(found).toBeCloseTo(nullAngle, 1);
  });

  it('random energy efficiency is the mean of s² over the sphere', () => {
    for (const patternA of [0, 0.2, 0.5, 0.81, 1]) {
      let sum = 0;
      const steps = 4000;
      for (let i = 0; i < steps; i++) {
        const cosine = -1 + (2 * (i + 0.5)) / steps;
        sum += sensitivity(patternA, cosine) ** 2;
      }
      expect(randomEnergyEfficiency(patternA)).toBeCloseTo(sum / steps, 6);
    }
  });

  it('turns polarity behind the null', () => {
    const angle = nullAngleDeg(0.366) ?? 0;
    expect(sensitivity(0.366, cosDeg(angle - 1))).toBeGreaterThan(0);
    expect(sensitivity(0.366, cosDeg(angle + 1))).toBeLessThan(0);
  });

  it('takes a name or a number and refuses a number outside 0 to 1', () => {
    expect(patternAOf('cardioid')).toBe(0.5);
    expect(patternAOf(0.42)).toBe(0.42);
    expect(patternNameOf(0.25)).toBe('hypercardioid');
    expect(patternNameOf(0.42)).toBeNull();
    expect(() => patternAOf(1.2)).toThrow('pattern is 1.2; allowed: 0 to 1');
  });
});
