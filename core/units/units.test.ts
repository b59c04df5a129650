import { describe, expect, it } from 'vitest';
import { acosDeg, amplitudeDb, inRange, powerDb, wrapDeg } from './guard';
import { speedOfSound } from './sound';
import { cross, dot, length, vec } from './vector';

describe('speed of sound', () => {
  it('is 343.2 m/s at 20 °C and 331.3 m/s at 0 °C', () => {
    expect(speedOfSound(20)).toBeCloseTo(343.21, 2);
    expect(speedOfSound(0)).toBe(331.3);
  });

  it('refuses what is outside its range, naming value and range', () => {
    expect(() => speedOfSound(51)).toThrow('temperatureC is 51; allowed: -20 to 50 °C');
    expect(() => speedOfSound(NaN)).toThrow(RangeError);
  });
});

describe('guards', () => {
  it('keep rounding from making a NaN', () => {
    expect(acosDeg(1 + 1e-12)).toBe(0);
    expect(acosDeg(-1 - 1e-12)).toBe(180);
    expect(amplitudeDb(0)).toBe(-120);
    expect(powerDb(0)).toBe(-120);
    expect(amplitudeDb(-0.5)).toBeCloseTo(-6.0206, 4);
  });

  it('fold angles into (−180, 180]', () => {
    expect([180, -180, 190, -190, 540, 0].map(wrapDeg)).toEqual([180, 180, -170, 170, 180, 0]);
  });

  it('let NaN fail a range check', () => {
    expect(() => inRange('fraction', NaN, 0, 1)).toThrow('fraction is NaN; allowed: 0 to 1');
    expect(inRange('fraction', 1, 0, 1)).toBe(1);
  });
});

describe('vectors', () => {
  it('cross product is perpendicular to both, right × forward is up', () => {
    expect(cross(vec(1, 0, 0), vec(0, 1, 0))).toEqual(vec(0, 0, 1));
    const [a, b] = [vec(1, 2, -3), vec(-2, 0.5, 4)];
    expect(dot(cross(a, b), a)).toBeCloseTo(0, 12);
    expect(length(vec(2, 3, 6))).toBe(7);
  });
});
