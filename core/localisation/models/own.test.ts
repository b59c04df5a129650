import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrayFigures, contextOf, mixFigures } from '../../analysis';
import { demoSession } from '../../demo';
import { readSession, type Session } from '../../session';
import { monotoneCubic, monotoneSlopes } from '../../units/monotone-cubic';
import { leadingModel, modelOf, modelsIn, speakingModel } from '../leading';
import { levelForAngle } from './traded';
import { modelsFor, ownModel, ownModelOf, shiftsOf, type OwnShape } from '.';

const SHAPE: OwnShape = {
  levels: [0.3, 0.52, 0.71, 0.88, 1],
  times: [0.2, 0.48, 0.74, 0.93, 1],
  joining: 1.1,
};
const spread = (shifts: readonly number[]) =>
  shifts.map((shift): [number, number] => [Math.max(0, shift - 0.05), Math.min(1, shift + 0.05)]);
const OWN = {
  ...{ name: 'Attic', by: 'Wenna', at: '2026-12-01T10:00:00Z', through: 'loudspeakers' },
  ...SHAPE,
  ...{ levelSpread: spread(SHAPE.levels), timeSpread: spread(SHAPE.times) },
  ...{ joiningSpread: [0.9, 1.4], side: 0.01, scatter: 0.1, answers: 120 },
};

const level = fc.double({ min: -40, max: 40, noNaN: true });
const time = fc.double({ min: -4, max: 4, noNaN: true });

describe('a listener’s own model', () => {
  const own = ownModelOf(SHAPE);

  it('is odd, bounded, rises with either cue, and its margin says how wide it is', () => {
    fc.assert(
      fc.property(level, time, fc.double({ min: 0, max: 10, noNaN: true }), (db, ms, more) => {
        const here = own.shift(db, ms);
        expect(Math.abs(here)).toBeLessThanOrEqual(1);
        expect(own.shift(-db, -ms)).toBeCloseTo(-here, 9);
        expect(own.shift(db + more, ms)).toBeGreaterThanOrEqual(here - 1e-9);
        expect(own.shift(db, ms + more / 5)).toBeGreaterThanOrEqual(here - 1e-9);
        for (const size of [0.3, 0.75, 1]) {
          if (Math.abs(Math.abs(here) - size) > 1e-9) {
            expect(own.margin(db, ms, size) >= 0).toBe(Math.abs(here) >= size);
          }
        }
      }),
    );
  });

  it('goes through its knots, and the least time brings the image just there', () => {
    expect(own.shift(6, 0)).toBeCloseTo(0.52, 12);
    expect(own.shift(0, -0.6)).toBeCloseTo(-0.74, 12);
    expect(own.shift(100, 0)).toBe(1);
    const ms = own.timeNeeded(3, 0.75) ?? NaN;
    expect(own.shift(3, ms)).toBeCloseTo(0.75, 6);
    expect(own.shift(3, ms - 0.01)).toBeLessThan(0.75);
    expect(own.timeNeeded(-30, 0.5)).toBeNull();
  });

  it('refuses shifts that fall, too few of them, or a joining beyond its range', () => {
    expect(() => ownModelOf({ ...SHAPE, levels: [0.3, 0.2, 0.5, 0.7, 1] })).toThrow(RangeError);
    expect(() => ownModelOf({ ...SHAPE, times: [0.5, 1] })).toThrow(/2 shifts; allowed: 5/);
    expect(() => ownModelOf({ ...SHAPE, levels: [0.3, 0.5, 0.7, 0.9, 1.1] })).toThrow(RangeError);
    expect(() => ownModelOf({ ...SHAPE, joining: 3.1 })).toThrow(RangeError);
  });

  it('stands beside the others and leaves theirs as they are; the consensus is of the three', () => {
    const plain = shiftsOf(false, 5, 0.2);
    const withIt = shiftsOf(false, 5, 0.2, SHAPE);
    expect(withIt.slice(0, -1)).toEqual(plain);
    expect(withIt.at(-1)).toBe(ownModel(SHAPE).shift(5, 0.2));
    expect(modelsFor(true, SHAPE).map(({ id }) => id)).toEqual([
      ...modelsFor(true).map(({ id }) => id),
      'own',
    ]);
    expect(modelsIn({ own: SHAPE }).at(-1)?.id).toBe('own');
  });
});

describe('in a session', () => {
  const demo = demoSession('2026-11-30T12:00:00Z');
  const read = (settings: object): ReturnType<typeof readSession> =>
    readSession({ ...demo, settings: { ...demo.settings, ...settings } });
  const sessionWith = (settings: object): Session => {
    const found = read(settings);
    if (!found.ok) throw new Error(JSON.stringify(found.problems));
    return found.session;
  };

  it('is a figure of every player and angle beside the others, and changes none of theirs', () => {
    const session = sessionWith({ own: OWN });
    const [array] = session.arrays;
    if (!array) throw new Error('the demo has an array');
    const [before, after] = [demo, session].map((one) =>
      arrayFigures(array, one.sources, contextOf(one)),
    );
    if (!before || !after) throw new Error('both have figures');
    const own = ownModel(OWN);
    after.sources.forEach((figures, i) => {
      const { own: mine, ...others } = figures.image ?? {};
      expect(others).toEqual(before.sources[i]?.image);
      if (figures.icldDb !== null && figures.ictdMs !== null && session.sources[i]?.widthM === 0) {
        expect(mine?.shift).toBeCloseTo(own.shift(figures.icldDb, figures.ictdMs), 12);
      }
    });
    const { own: angle, ...angles } = after.farField;
    expect(angles).toEqual(before.farField);
    expect(angle?.half75Deg).toBeGreaterThan(5);
    expect(after.stage.own).toBeDefined();
    expect(after.centreSlope.own).toBeGreaterThan(0);
    const [player] = session.sources;
    expect(player && mixFigures(session, player)?.image?.own).toBeDefined();
  });

  it('leads where it is named, and gives way to the consensus where it is not there', () => {
    const session = sessionWith({ own: OWN, model: 'own' });
    expect(speakingModel(session.settings, false).id).toBe('own');
    expect(leadingModel({ own: 1, consensus: 2 }, 'own')).toBe('own');
    const without = read({ own: null, model: 'own' });
    expect(without).toMatchObject({ ok: true, ownMissing: true });
    if (!without.ok) return;
    expect(without.session.settings.model).toBe('consensus');
    expect(modelOf({ model: 'own', own: null }).id).toBe('consensus');
    expect(read({ own: OWN })).not.toHaveProperty('ownMissing');
  });

  it('that is none is refused, and the field is named', () => {
    const bad: [object, string][] = [
      [{ ...OWN, levels: [0.3, 0.2, 0.5, 0.7, 1] }, 'settings.own.levels'],
      [{ ...OWN, times: [0, 0.2, 0.5, 0.7, 1] }, 'settings.own.times'],
      [{ ...OWN, levelSpread: [[0.4, 0.2]] }, 'settings.own.levelSpread'],
      [{ ...OWN, joining: 9 }, 'settings.own.joining'],
      [{ ...OWN, through: 'wall' }, 'settings.own.through'],
    ];
    for (const [own, path] of bad) {
      const found = read({ own });
      expect(
        found.ok ? [] : found.problems.map((problem) => problem.path.slice(0, path.length)),
      ).toContain(path);
    }
  });
});

describe('a monotone cubic', () => {
  it('has the slopes of the data that the traded cues are made of', () => {
    const slopes = monotoneSlopes([0, 10, 20, 30], [0, 2.5, 5.5, 15]);
    [0.225, 3 / 11, 0.456, 1.275].forEach((slope, i) => expect(slopes[i]).toBeCloseTo(slope, 9));
    const curve = monotoneCubic([0, 10, 20, 30], [0, 2.5, 5.5, 15]);
    for (const deg of [3, 10, 17, 26]) expect(curve(deg)).toBeCloseTo(levelForAngle(deg), 9);
    expect(monotoneCubic([0, 1], [0, 2])(0.25)).toBeCloseTo(0.5, 12);
  });
});
