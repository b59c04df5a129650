import { describe, expect, it } from 'vitest';
import type { PairTechnique } from '../arrays/technique';
import { demoSession } from '../demo';
import { sessionFrom, type MicArray, type Session } from '../session';
import {
  asPair,
  judgePicture,
  nearestFit,
  pairFields,
  type FieldRow,
  type PictureVerdict,
} from './pair-fields';
import { customaryStretches } from './recommend';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const cardioids: PairTechnique = {
  kind: 'pair',
  pattern: 'cardioid',
  spacingM: 0.17,
  includedAngleDeg: 110,
};

function whole(steps: Generator<number, FieldRow[], undefined>): FieldRow[] {
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value;
}

/** Players on an arc of 4 m about a pair at the origin, 1.2 m below it. */
function onArc(
  degrees: readonly number[],
  intent: object = {},
): { session: Session; array: MicArray } {
  const session = sessionFrom({
    brief: { intent },
    venue: { temperatureC: 20 },
    sources: degrees.map((deg, i) => ({
      id: `p${i}`,
      name: `Player ${i}`,
      x: 4 * Math.sin((deg * Math.PI) / 180),
      y: 4 * Math.cos((deg * Math.PI) / 180),
      z: 1.2,
    })),
    arrays: [{ name: 'Pair', x: 0, y: 0, z: 1.2, technique: cardioids }],
  });
  const [array] = session.arrays;
  if (!array) throw new Error('a session with a pair');
  return { session, array };
}
const verdict = (degrees: readonly number[], pair: Partial<PairTechnique> = {}, intent = {}) => {
  const { session, array } = onArc(degrees, intent);
  const technique = { ...cardioids, ...pair };
  return judgePicture(
    session,
    asPair(array, technique, technique.spacingM, technique.includedAngleDeg),
  );
};

describe('the picture of a pair', () => {
  it('names the graver first, and whom it is due to', () => {
    // This pair holds ±48° in the far field, ±50° where the players are.
    expect(verdict([-40, -15, 15, 40])).toMatchObject({ verdict: 'fits', ids: [] });
    expect(verdict([-40, 0, 75])).toMatchObject({ verdict: 'crowded', ids: ['p2'] });
    expect(verdict([-40, 38, 40])).toMatchObject({ verdict: 'hole' });
    expect(verdict([-10, 0, 10])).toMatchObject({ verdict: 'narrow' });
    const eights = { pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 } as const;
    expect(verdict([-20, 0, 70], eights)).toMatchObject({ verdict: 'broken', ids: ['p2'] });
    expect(verdict([0, 170], eights)).toMatchObject({ verdict: 'broken', ids: ['p1'] });
  });

  it('goes by the wishes of the brief', () => {
    expect(verdict([-10, 0, 10], {}, { imageWidthPct: 30 }).verdict).toBe('fits');
    expect(verdict([-40, -15, 15, 40], {}, { imageWidthPct: 30 }).verdict).toBe('wide');
    const band = (fromPct: number, toPct: number) => ({
      bands: [{ sourceId: 'p0', fromPct, toPct }],
    });
    expect(verdict([-10, 0, 10], {}, band(-40, -10)).verdict).toBe('fits');
    const missed = verdict([-10, 0, 10], {}, band(-90, -60));
    expect(missed).toMatchObject({ verdict: 'elsewhere', ids: ['p0'] });
  });

  it('has nothing to say of one who is a point, and of a wide one alone its width', () => {
    expect(verdict([0])).toMatchObject({ verdict: 'fits', widthPct: 0 });
    const { session, array } = onArc([0]);
    const wide = (widthM: number) => ({
      ...session,
      sources: session.sources.map((source) => ({ ...source, widthM })),
    });
    expect(judgePicture(wide(0.3), array).verdict).toBe('narrow');
    expect(judgePicture(wide(3), array).verdict).toBe('fits');
    expect(judgePicture(wide(8), array).verdict).toBe('wide');
    expect(judgePicture({ ...session, sources: [] }, array).verdict).toBe('fits');
  });
});

describe('the fields of a pair', () => {
  const { session, array } = onArc([-40, -22, -8, 10, 24, 40]);
  const angles = [0, 30, 60, 90, 120, 150, 180];
  const rows = whole(pairFields(session, array, cardioids, 0.6, angles));

  it('says at every point what the pair there makes of the picture', () => {
    expect(rows.map(({ includedAngleDeg }) => includedAngleDeg)).toEqual(angles);
    const found = new Set<PictureVerdict>();
    for (const { includedAngleDeg, runs } of rows) {
      expect([runs[0]?.fromM, runs.at(-1)?.toM]).toEqual([0, 0.6]);
      for (const [i, { verdict: said, fromM, toM }] of runs.entries()) {
        expect(toM).toBeGreaterThan(fromM);
        if (i > 0) expect(fromM).toBe(runs[i - 1]?.toM);
        // Within a run, off its edges by more than they are found to.
        for (const share of [0.25, 0.5, 0.75]) {
          const spacingM = fromM + (toM - fromM) * share;
          const there = asPair(array, cardioids, spacingM, includedAngleDeg);
          expect(judgePicture(session, there).verdict).toBe(said);
        }
        found.add(said);
      }
    }
    expect([...found].sort()).toEqual(['crowded', 'fits', 'narrow']);
  });

  it('finds the nearest pair that fits, which is itself where it does', () => {
    const from = (spacingM: number, includedAngleDeg: number) => {
      const pair = { ...cardioids, spacingM, includedAngleDeg };
      return nearestFit(session, asPair(array, pair, spacingM, includedAngleDeg), pair, rows, 0.6);
    };
    expect(from(0.17, 110)).toEqual({ spacingM: 0.17, includedAngleDeg: 110 });
    for (const [m, deg] of [
      [0.5, 170],
      [0, 20],
      [0.6, 0],
    ] as const) {
      const found = from(m, deg);
      if (!found) throw new Error('something fits');
      const there = asPair(array, cardioids, found.spacingM, found.includedAngleDeg);
      expect(judgePicture(session, there).verdict).toBe('fits');
    }
    const alone = onArc([-80, 80], { imageWidthPct: 10 });
    const none = whole(pairFields(alone.session, alone.array, cardioids, 0.6, [90, 180]));
    expect(nearestFit(alone.session, alone.array, cardioids, none, 0.6)).toBeNull();
  });

  it('refuses what is no bar and no angle', () => {
    const of = (mostM: number, deg: number) =>
      whole(pairFields(demo, array, cardioids, mostM, [deg]));
    expect(() => of(0.009, 90)).toThrow(RangeError);
    expect(() => of(51, 90)).toThrow(RangeError);
    expect(() => of(0.5, 361)).toThrow(RangeError);
    expect(() => of(0.5, -1)).toThrow(RangeError);
  });
});

describe('customary stretches', () => {
  it('are those of the pattern', () => {
    const names = (pattern: Parameters<typeof customaryStretches>[0]) =>
      customaryStretches(pattern).map(({ name }) => name);
    expect(names('cardioid')).toEqual(['coincident', 'near-coincident']);
    expect(names('subcardioid')).toEqual(['coincident', 'near-coincident', 'spaced']);
    expect(names('omni')).toEqual(['spaced']);
    expect(names('figure-eight')).toEqual(['coincident']);
    expect(names(0.43)).toEqual([]);
  });
});
