import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Pattern } from '../acoustics';
import type { Technique } from '../arrays';
import { speedOfSound } from '../units';
import { prepareArray } from './prepared-array';
import { modelsFor } from './models';
import { placeOf } from './placed';
import {
  centreSlopes,
  farField,
  halfAngle,
  inPlace,
  recordingAngles,
  surelyNarrower,
} from './recording-angle';

const c = speedOfSound(20);

function prepared(technique: Technique) {
  return prepareArray({ x: 0, y: 0, z: 2, aimDeg: 0, tiltDeg: 0, technique });
}

function pair(pattern: Extract<Technique, { kind: 'pair' }>['pattern'], cm: number, deg: number) {
  return prepared({ kind: 'pair', pattern, spacingM: cm / 100, includedAngleDeg: deg });
}

describe('far-field half recording angles at 20 °C', () => {
  it.each([
    ['cardioid', 17, 110, 47.8, 43.8, 56.5],
    ['cardioid', 30, 90, 40.8, 35.2, 46.4],
    ['cardioid', 20, 90, 51.0, 45.6, 59.8],
    ['cardioid', 0, 90, 89.0, 98.0, 95.2],
    ['figure-eight', 0, 90, 34.9, 37.8, 37.0],
    ['omni', 50, 0, 50.3, 49.0, 43.4],
    ['omni', 100, 0, 22.6, 22.2, 20.1],
  ] as const)('%s %i cm %i°', (pattern, cm, deg, tradedDeg, addedDeg, twoSlopeDeg) => {
    const array = pair(pattern, cm, deg);
    const angles = recordingAngles(array, farField(array, c));
    expect(Math.abs((angles.traded?.halfDeg ?? NaN) - tradedDeg)).toBeLessThanOrEqual(0.1);
    expect(Math.abs((angles.added?.halfDeg ?? NaN) - addedDeg)).toBeLessThanOrEqual(0.1);
    expect(Math.abs((angles['two-slope']?.halfDeg ?? NaN) - twoSlopeDeg)).toBeLessThanOrEqual(0.1);
  });

  it('is not reached by omnis 20 cm apart, and says how wide it gets', () => {
    const array = pair('omni', 20, 0);
    const angles = recordingAngles(array, farField(array, c));
    for (const model of ['traded', 'added', 'two-slope'] as const) {
      expect(angles[model]?.halfDeg).toBeNull();
      expect(angles[model]?.widest.atDeg).toBe(90);
    }
    // 0.2 m / c = 0.5828 ms at 90°: two slopes give 2/3 + (0.5828 − 0.5)·2/3.
    expect(angles['two-slope']?.widest.shift).toBeCloseTo(2 / 3 + ((200 / c - 0.5) * 2) / 3, 6);
  });
});

describe('the consensus of the three models, far field at 20 °C: 100 % and 75 %', () => {
  it.each([
    ['cardioid', 17, 110, 47.8, 32.7],
    ['cardioid', 30, 90, 40.8, 26.1],
    ['cardioid', 20, 90, 51.0, 33.7],
    ['cardioid', 21, 100, 46.6, 31.1],
    ['cardioid', 0, 90, 95.2, 68.1],
    ['cardioid', 0, 120, 76.3, 51.8],
    ['figure-eight', 0, 90, 37.0, 27.5],
    ['omni', 40, 0, 70.7, 29.7],
    ['omni', 50, 0, 49.0, 23.3],
    ['omni', 100, 0, 22.2, 11.4],
    ['subcardioid', 30, 90, 60.0, 32.6],
    ['supercardioid', 17, 110, 37.5, 26.8],
  ] as const)('%s %i cm %i°', (pattern, cm, deg, fullDeg, threeQuartersDeg) => {
    const array = pair(pattern, cm, deg);
    const { consensus } = recordingAngles(array, farField(array, c));
    expect(Math.abs((consensus?.halfDeg ?? NaN) - fullDeg)).toBeLessThanOrEqual(0.1);
    expect(Math.abs((consensus?.half75Deg ?? NaN) - threeQuartersDeg)).toBeLessThanOrEqual(0.1);
  });
});

describe('recording angle', () => {
  it('gives the tangent law for coincident arrays only', () => {
    const coincident = pair('figure-eight', 0, 90);
    expect(recordingAngles(coincident, farField(coincident, c)).tangent?.halfDeg).toBeCloseTo(
      45,
      2,
    );
    const spaced = pair('cardioid', 17, 110);
    expect(recordingAngles(spaced, farField(spaced, c)).tangent).toBeUndefined();
  });

  it('keeps the 75 % angle inside the 100 % angle', () => {
    const array = pair('cardioid', 17, 110);
    const { traded } = recordingAngles(array, farField(array, c));
    expect(traded?.half75Deg).toBeGreaterThan(20);
    expect(traded?.half75Deg).toBeLessThan(traded?.halfDeg ?? 0);
  });

  it('in place tends to the far-field angle with distance, for every 100 m tenfold closer', () => {
    const array = pair('cardioid', 17, 110);
    const far = recordingAngles(array, farField(array, c)).traded?.halfDeg ?? NaN;
    const gap = (distance: number) =>
      Math.abs(
        (recordingAngles(array, inPlace(array, distance, 2, c)).traded?.halfDeg ?? NaN) - far,
      );
    expect(gap(150)).toBeLessThan(0.1);
    expect(gap(15)).toBeLessThan(0.7);
    expect(gap(1.5)).toBeGreaterThan(gap(15));
  });

  it('mid-side with a figure-eight mid is the crossed figure-eights turned by 45°', () => {
    const ms = prepared({
      kind: 'mid-side',
      midPattern: 'figure-eight',
      sideGainDb: 0,
      sidePositive: 'left',
    });
    const angles = recordingAngles(ms, farField(ms, c));
    expect(angles.traded?.halfDeg).toBeCloseTo(34.9, 1);
    expect(angles['two-slope']?.halfDeg).toBeCloseTo(37, 1);
  });

  it('centre slope of spaced omnis follows from the time slope', () => {
    const array = pair('omni', 50, 0);
    const slopes = centreSlopes(array, farField(array, c));
    const msPerDegree = ((0.5 / c) * 1000 * Math.PI) / 180;
    expect(slopes.added).toBeCloseTo(1.3 * msPerDegree, 6);
    expect(slopes['two-slope']).toBeCloseTo((4 / 3) * msPerDegree, 6);
    expect(slopes.traded).toBeCloseTo(msPerDegree / 0.018 / 30, 3);
  });

  it('reports a pair at one point and one direction as never leaving the centre', () => {
    const array = pair('cardioid', 0, 0);
    const { traded } = recordingAngles(array, farField(array, c));
    expect(traded).toEqual({
      halfDeg: null,
      half75Deg: null,
      widest: { shift: 0, atDeg: 0 },
    });
  });
});

describe('the search outward', () => {
  it('leaves out only what no model makes as wide as the level', () => {
    const cue = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    const narrow = fc.tuple(cue(15), cue(1.12), fc.constantFrom(0.5, 0.6, 0.75, 0.9, 1));
    fc.assert(
      fc.property(narrow, ([icldDb, ictdMs, level]) => {
        const share = Math.abs(icldDb) / 15 + Math.abs(ictdMs) / 1.12;
        if (share >= (level >= 1 ? 0.73 : 0.4 * level)) return;
        for (const model of modelsFor(true)) {
          expect(Math.abs(model.shift(icldDb, ictdMs))).toBeLessThan(level);
        }
      }),
      { numRuns: 3000 },
    );
  });
});

describe('what a scan may pass over', () => {
  it('is nowhere as wide as the level, in any model, with the cues together or opposed', () => {
    const share = fc.double({ min: 0, max: 0.9999, noNaN: true });
    const part = fc.double({ min: -1, max: 1, noNaN: true });
    for (const level of [0.5, 0.6, 0.75, 0.9, 1]) {
      for (const model of modelsFor(true)) {
        const most = surelyNarrower(model, level);
        expect(most).toBeGreaterThan(0);
        fc.assert(
          fc.property(share, part, (of, byLevel) => {
            const icldDb = 15 * most * of * byLevel;
            const ictdMs = 1.12 * most * of * (1 - Math.abs(byLevel));
            expect(model.margin(icldDb, ictdMs, level)).toBeLessThan(0);
            expect(model.margin(icldDb, -ictdMs, level)).toBeLessThan(0);
          }),
          { numRuns: 2000 },
        );
      }
    }
  });
});

describe('a scan of every model at once', () => {
  const metres = fc.double({ min: 0, max: 1.5, noNaN: true });
  const patterns = fc.constantFrom<Pattern>('omni', 'omni', 'cardioid', 'figure-eight', 0.7);
  const degrees = fc.integer({ min: 0, max: 360 });

  it('finds for each, near and far, what a look at every degree finds', () => {
    fc.assert(
      fc.property(patterns, metres, degrees, (pattern, spacingM, includedAngleDeg) => {
        const array = prepared({ kind: 'pair', pattern, spacingM, includedAngleDeg });
        for (const cuesAt of [farField(array, c), inPlace(array, 3.7, 1.2, c)]) {
          const angles = recordingAngles(array, cuesAt);
          for (const model of modelsFor(array.coincident)) {
            const found = angles[model.id];
            const alone = halfAngle(cuesAt, model, 1);
            if (alone === null) expect(found?.halfDeg).toBeNull();
            else expect(found?.halfDeg).toBeCloseTo(alone, 6);
            if (!found || alone !== null) continue;
            const cues = cuesAt(found.widest.atDeg);
            const shift = cues && !cues.antiphase ? Math.abs(placeOf(cues, model)) : 0;
            expect(found.widest.shift).toBeCloseTo(found.widest.atDeg === 0 ? 0 : shift, 9);
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it('looks at two omnis from the aim to the side only: behind they hear the same', () => {
    for (const spacingM of [0.1, 0.3]) {
      const array = prepared({ kind: 'pair', pattern: 'omni', spacingM, includedAngleDeg: 50 });
      for (const cuesAt of [farField(array, c), inPlace(array, 2, 0.9, c)]) {
        let farthest = 0;
        recordingAngles(array, (deg, into) => {
          farthest = Math.max(farthest, Math.abs(deg));
          return cuesAt(deg, into);
        });
        expect(farthest).toBe(90);
        for (const deg of [91, 120, 179]) {
          const [behind, before] = [cuesAt(deg), cuesAt(180 - deg)];
          expect(behind?.icldDb).toBeCloseTo(before?.icldDb ?? NaN, 9);
          expect(behind?.ictdMs).toBeCloseTo(before?.ictdMs ?? NaN, 9);
        }
      }
    }
  });
});
