import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { arrayFigures } from './array-figures';
import { contextOf } from '../prepare/context';
import { holdingOf, holdingText } from './holding';

describe('what an array holds', () => {
  it('is its recording angle where the players are, against the outermost of them', () => {
    const demo = demoSession('2026-11-23T12:00:00.000Z');
    const [array] = demo.arrays;
    if (!array) throw new Error('the demo has a main pair');
    const figures = arrayFigures(array, demo.sources, contextOf(demo));
    const { halfDeg, neededDeg } = holdingOf(figures, 'consensus');
    expect(halfDeg).toBe(figures.inPlace?.consensus?.halfDeg);
    expect(neededDeg).toBe(Math.max(...figures.own.map((of) => Math.abs(of.azimuthDeg))));
    const none = arrayFigures(array, [], contextOf(demo));
    expect(holdingOf(none, 'consensus').neededDeg).toBeNull();
  });

  it('is one sentence', () => {
    expect(holdingText({ halfDeg: 48, neededDeg: 50 })).toBe(
      'Holds ±48°, the players need ±50°: 2° short.',
    );
    expect(holdingText({ halfDeg: 51.4, neededDeg: 50 })).toContain('1.4° to spare');
    expect(holdingText({ halfDeg: null, neededDeg: 50 })).toContain('No direction reaches');
    expect(holdingText({ halfDeg: 48, neededDeg: null })).toContain('nobody plays yet');
    expect(holdingText({ halfDeg: 48, neededDeg: 0 })).toContain('straight ahead');
  });
});
