import { describe, expect, it } from 'vitest';
import { tapeTicks } from './tape-ticks';

describe('the tape over a bar', () => {
  it('has its zero in the middle and the same figures both ways', () => {
    const ticks = tapeTicks(1000, 0.2, 'metric');
    expect(ticks.map(({ m }) => Math.round(m * 1000))[0]).toBe(-200);
    const figures = ticks.filter(({ figure }) => figure !== null);
    expect(figures.map(({ figure }) => figure)).toEqual([
      '20',
      '15',
      '10',
      '5',
      '0',
      '5',
      '10',
      '15',
      '20',
    ]);
    expect(ticks).toHaveLength(81);
  });

  it('is as fine as there is room, in both units', () => {
    for (const units of ['metric', 'imperial'] as const) {
      for (const scale of [20, 100, 300, 1100, 4000]) {
        const ticks = tapeTicks(scale, 300 / scale, units);
        const figured = ticks.filter(({ figure }) => figure !== null);
        expect(ticks.length).toBeLessThan(125);
        expect(figured.length).toBeLessThan(19);
        expect(figured.length).toBeGreaterThan(2);
        expect(figured.some(({ m, figure }) => m === 0 && figure === '0')).toBe(true);
      }
    }
    const inches = tapeTicks(1000, 0.2, 'imperial').filter(({ figure }) => figure !== null);
    expect(inches.map(({ figure }) => figure).slice(-2)).toEqual(['4', '6']);
  });
});
