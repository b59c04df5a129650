import { describe, expect, it } from 'vitest';
import { speedOfSound } from '../units';
import {
  fretAt,
  fretFromBridge,
  inequality,
  overheadPositions,
  overStrings,
  pairOverLine,
} from '.';

describe('over strings', () => {
  it('three heights apart is 10 dB of spill', () => {
    const of = overStrings(0.25, 0.75);
    expect(of.leastM).toBeCloseTo(0.75, 12);
    expect(of.ratio).toBeCloseTo(3, 12);
    expect(of.spillDb).toBeCloseTo(-10, 9);
    expect(overStrings(0.3, 0.3).spillDb).toBeCloseTo(-3.0103, 4);
    expect(() => overStrings(0, 1)).toThrow('heightM');
    expect(() => overStrings(1, 21)).toThrow('spacingM');
  });

  it('the twelfth fret halves a string', () => {
    expect(fretFromBridge(0.65, 0)).toBe(0.65);
    expect(fretFromBridge(0.65, 12)).toBeCloseTo(0.325, 12);
    expect(fretFromBridge(0.65, 5)).toBeCloseTo(0.65 * 0.749_153_5, 6);
    expect(() => fretFromBridge(0.65, 31)).toThrow('fret');
    expect(() => fretFromBridge(4, 1)).toThrow('scaleM');
    // There and back, and nothing beyond nut and bridge.
    for (const fret of [0, 1, 5, 12, 24.5]) {
      expect(fretAt(0.65, fretFromBridge(0.65, fret))).toBeCloseTo(fret, 9);
    }
    expect(fretAt(0.65, 0.66)).toBeNull();
    expect(fretAt(0.65, 0)).toBeNull();
    expect(() => fretAt(0.65, NaN)).toThrow('fromBridgeM');
    expect(() => fretAt(0.09, 0.05)).toThrow('scaleM');
  });
});

describe('overheads with two anchors', () => {
  const anchor = { x: 0.2, y: 1, z: 0.7 };
  const other = { x: -0.3, y: 1.6, z: 0.5 };
  const numbers = { right: -0.6, back: 0.1, up: 1.1, sideUp: 0.3, sideBack: 0 };

  it('one over and one at the side are equally far from both', () => {
    const found = overheadPositions({ form: 'over-side', anchor, other, ...numbers });
    if (!found.ok) throw new Error(found.message);
    const { first, second } = found.value;
    expect(second.z).toBeCloseTo(1, 9);
    for (const point of [anchor, other]) {
      expect(inequality(point, first, second, speedOfSound(20)).differenceMm).toBeCloseTo(0, 6);
    }
    const side = (p: { x: number; y: number }) =>
      (other.x - anchor.x) * (p.y - anchor.y) - (other.y - anchor.y) * (p.x - anchor.x);
    expect(side(first) * side(second)).toBeLessThan(0);
  });

  it('says why where no such point is at that height', () => {
    const high = overheadPositions({ form: 'over-side', anchor, other, ...numbers, sideUp: 9 });
    expect(high).toMatchObject({ ok: false });
  });

  it('a pair above the line of both has them in its middle', () => {
    const found = pairOverLine(anchor, other, 0.5, 1.2);
    if (!found.ok) throw new Error(found.message);
    const { x, y, z, aimDeg, tiltDeg } = found.value;
    expect([x, y, z, tiltDeg]).toEqual([-0.05, 1.3, 1.8, -90]);
    // Its bar lies across the line: the aim follows it.
    const along = (Math.atan2(other.x - anchor.x, other.y - anchor.y) * 180) / Math.PI;
    expect(aimDeg).toBeCloseTo(along, 9);
    expect(pairOverLine(anchor, { ...anchor, z: 2 }, 0.5, 1)).toMatchObject({ ok: false });
  });
});
