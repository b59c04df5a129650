import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { speedOfSound } from '../units';
import { prepareArray } from './prepared-array';
import { localisationCurve } from './curve';
import { farField, recordingAngles } from './recording-angle';
import { MODELS } from './models';
import { halfAngleOf, solveParameter, solveRecordingAngle, type Wanted } from './solve';
import { tradeMap } from './trade-map';

const c = speedOfSound(20);
const far = (halfDeg: number): Wanted => ({
  halfDeg,
  model: 'traded',
  distanceM: null,
  heightM: 0,
  speed: c,
});

const pairOf = (pattern: number, spacingM: number, includedAngleDeg: number) =>
  prepareArray({
    x: 0,
    y: 0,
    z: 0,
    aimDeg: 0,
    tiltDeg: 0,
    technique: { kind: 'pair', pattern, spacingM, includedAngleDeg },
  });

describe('time needed', () => {
  it.each(MODELS.map((model) => [model.id, model] as const))(
    '%s: just enough time brings the image to the level, a little less does not',
    (_id, model) => {
      const db = fc.double({ min: 0, max: 12, noNaN: true });
      fc.assert(
        fc.property(db, fc.constantFrom(0.4, 0.75, 1), (icld, level) => {
          const time = model.timeNeeded(icld, level);
          if (time === null || time <= 0.001) return;
          expect(model.shift(icld, time + 1e-6)).toBeGreaterThanOrEqual(level - 1e-9);
          expect(model.shift(icld, time - 1e-3)).toBeLessThan(level);
        }),
      );
    },
  );
});

describe('trade map', () => {
  const spacings = [0, 0.05, 0.1, 0.17, 0.2, 0.3, 0.5, 0.8];
  const angles = [0, 60, 90, 110, 130, 180];

  it.each([1, 0.5, 0.366, 0.25, 0])(
    'A %d: every cell is the searched recording angle',
    (patternA) => {
      const map = tradeMap(patternA, spacings, angles, c);
      angles.forEach((included, row) => {
        spacings.forEach((spacing, column) => {
          const array = pairOf(patternA, spacing, included);
          const exact = recordingAngles(array, farField(array, c));
          for (const id of ['traded', 'added', 'two-slope'] as const) {
            const cell = map.halfDeg[id]?.[row * spacings.length + column] ?? NaN;
            expect(Math.abs(cell - (exact[id]?.halfDeg ?? 0))).toBeLessThan(0.06);
          }
        });
      });
    },
  );
});

describe('inverse', () => {
  it('finds the spacing of the pair whose angle was asked for', () => {
    const at = (spacingM: number) =>
      ({ kind: 'pair', pattern: 'cardioid', spacingM, includedAngleDeg: 110 }) as const;
    expect(solveParameter(at, 0.05, 0.6, far(halfAngleOf(at(0.17), far(45))))).toBeCloseTo(0.17, 4);
    expect(solveParameter(at, 0.05, 0.6, far(170))).toBeNull();
  });

  it('every solution has the wanted angle, far and in place', () => {
    for (const wanted of [far(50), { ...far(45), distanceM: 4, heightM: -1.5 }]) {
      const solutions = solveRecordingAngle(wanted);
      expect(solutions.length).toBeGreaterThan(12);
      for (const { technique } of solutions) {
        expect(Math.abs(halfAngleOf(technique, wanted) - wanted.halfDeg)).toBeLessThan(0.05);
      }
      const kinds = new Set(solutions.map(({ solvedFor }) => solvedFor));
      expect([...kinds].sort()).toEqual(['included angle', 'side level', 'spacing']);
    }
  });

  it('with the tangent law offers coincident arrays only', () => {
    const solutions = solveRecordingAngle({ ...far(60), model: 'tangent' });
    expect(solutions.length).toBeGreaterThan(2);
    expect(solutions.some(({ solvedFor }) => solvedFor === 'spacing')).toBe(false);
  });

  it('refuses an angle outside its range', () => {
    const at = (spacingM: number) =>
      ({ kind: 'pair', pattern: 'omni', spacingM, includedAngleDeg: 0 }) as const;
    expect(() => solveParameter(at, 0, 1, far(200))).toThrow('halfDeg is 200; allowed: 5 to 175 °');
  });
});

describe('localisation curve', () => {
  it('is odd, without points in antiphase', () => {
    const array = pairOf(0, 0, 90);
    const curve = localisationCurve(array, farField(array, c), 60, 5);
    expect(curve).toHaveLength(25);
    expect(curve[0]?.shift.traded).toBeUndefined();
    const [left, right] = [
      curve.find((p) => p.sourceDeg === -20),
      curve.find((p) => p.sourceDeg === 20),
    ];
    expect(left?.shift.traded).toBeCloseTo(-(right?.shift.traded ?? NaN), 9);
  });
});
