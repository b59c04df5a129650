import { describe, expect, it } from 'vitest';
import { isoLines } from './iso-lines';
import { farField, recordingAngles } from './recording-angle';
import { prepareArray } from './prepared-array';
import { tradeMap } from './trade-map';

const spacingsM = Array.from({ length: 61 }, (_, i) => i / 100);
const anglesDeg = Array.from({ length: 181 }, (_, i) => i);
const map = tradeMap('cardioid', spacingsM, anglesDeg, 343.2);

describe('lines of one recording angle', () => {
  it.each([40, 50, 70])('every pair on the line of ±%i° has that recording angle', (level) => {
    const lines = isoLines(map.halfDeg.traded ?? [], spacingsM.length, level);
    expect(lines.length).toBeGreaterThan(0);
    for (const { column, row } of lines.flat()) {
      // With little spacing the angle bends within one column of the map.
      if (column < 12) continue;
      const technique = {
        kind: 'pair' as const,
        pattern: 'cardioid' as const,
        spacingM: column / 100,
        includedAngleDeg: row,
      };
      const ready = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
      const half = recordingAngles(ready, farField(ready, 343.2)).traded?.halfDeg;
      expect(Math.abs((half ?? 0) - level)).toBeLessThan(0.5);
    }
  });

  it('stay inside the grid, and end at its border', () => {
    const lines = isoLines([10, 20, 30, 10, 20, 30, 10, 20, 30], 3, 15);
    expect(lines).toHaveLength(1);
    for (const { column, row } of lines[0] ?? []) {
      expect(column).toBeCloseTo(0.5, 12);
      expect(row).toBeGreaterThanOrEqual(0);
      expect(row).toBeLessThanOrEqual(2);
    }
  });

  it('end where the angle begins never to be reached, and never run along that border', () => {
    expect(isoLines([0, 0, 0, 0], 2, 90)).toEqual([]);
    expect(isoLines([30, 30, 30, 30], 2, 90)).toEqual([]);
    expect(isoLines([30, 0, 30, 0, 30, 0], 2, 90)).toEqual([]);
    const lines = isoLines([80, 100, 120, 0, 80, 100, 120, 0, 80, 100, 0, 0], 4, 110);
    for (const { column } of lines.flat()) expect(column).toBeCloseTo(1.5, 9);
    expect(lines.flat().length).toBeGreaterThan(0);
  });

  it('refuse values that fill no grid', () => {
    expect(() => isoLines([1, 2, 3], 2, 10)).toThrow('allowed: a multiple of 2');
  });
});
