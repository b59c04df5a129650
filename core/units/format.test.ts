import { describe, expect, it } from 'vitest';
import {
  exactLength,
  exactNumber,
  angleText,
  delayReadings,
  formatLength,
  formatNumber,
  formatSigned,
  formatTemperature,
  lengthText,
  shiftText,
} from './format';

describe('lengths', () => {
  it.each([
    [2.032, '2.03 m', '6′ 8″'],
    [0, '0.00 m', '0′ 0″'],
    [-0.4, '−0.40 m', '−1′ 3 3/4″'],
    [3.3528, '3.35 m', '11′ 0″'],
    [-0.001, '0.00 m', '0′ 0″'],
  ])('%d m on the floor', (value, metric, imperial) => {
    expect(lengthText(value, 'metric')).toBe(metric);
    expect(lengthText(value, 'imperial')).toBe(imperial);
  });

  it('reads to a millimetre or a sixteenth of an inch at the bar', () => {
    expect(lengthText(0.17, 'metric', 'bar')).toBe('17.0 cm');
    expect(lengthText(0.17, 'imperial', 'bar')).toBe('6 11/16 in');
    expect(lengthText(0.0127, 'imperial', 'bar')).toBe('1/2 in');
  });

  it('shows a dash for what is missing, never NaN', () => {
    for (const value of [null, undefined, NaN, Infinity]) {
      expect(formatLength(value, 'metric')).toEqual({ number: '—', unit: '' });
      expect(formatNumber(value, 1)).toBe('—');
    }
    expect(angleText(null)).toBe('—');
    expect(shiftText(null)).toBe('—');
  });
});

describe('other figures', () => {
  it('signs and sides', () => {
    expect(formatSigned(1.84, 1)).toBe('+1.8');
    expect(formatSigned(-0.34, 1)).toBe('−0.3');
    expect(formatSigned(0.01, 1)).toBe('0.0');
    expect(formatNumber(-0.04, 1)).toBe('0.0');
    expect(angleText(95.66)).toBe('95.7°');
    expect(angleText(110)).toBe('110°');
    expect(shiftText(0.634)).toBe('63 % R');
    expect(shiftText(-1)).toBe('100 % L');
    expect(shiftText(0.002)).toBe('centre');
  });

  it('temperature in either system', () => {
    expect(formatTemperature(19, 'metric')).toEqual({ number: '19', unit: '°C' });
    expect(formatTemperature(19, 'imperial')).toEqual({ number: '66', unit: '°F' });
  });

  it('a delay in ms, samples and metres', () => {
    const { samples, metres } = delayReadings(10, 96000, 20);
    expect(samples).toBe(960);
    expect(metres).toBeCloseTo(3.432, 3);
  });
});

describe('what is edited', () => {
  it('is never rounded', () => {
    const text = (m: number, ...rest: [('metric' | 'imperial')?, ('floor' | 'bar')?, number?]) => {
      const { number, unit } = exactLength(m, rest[0] ?? 'metric', rest[1], rest[2]);
      return `${number} ${unit}`.trim();
    };
    expect(text(0.707)).toBe('0.707 m');
    expect(text(2.5)).toBe('2.50 m');
    expect(text(0.4064, 'metric', 'bar')).toBe('40.64 cm');
    expect(text(2.7051, 'imperial')).toBe('8′ 10 1/2″');
    expect(text(-0.707, 'imperial')).toBe('−2′ 3.834646″');
    expect(text(0.17, 'imperial', 'bar')).toBe('6.692913 in');
    expect(text(1 / 3)).toBe('0.333333 m');
    expect(text(1 / 3, 'metric', 'floor', 1)).toBe('0.333 m');
    expect(exactNumber(54.7356, 1, 6)).toBe('54.7356');
    expect(exactNumber(-3, 1, 6)).toBe('−3.0');
    expect(text(NaN)).toBe('—');
  });
});
