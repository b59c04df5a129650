import { describe, expect, it } from 'vitest';
import { builtEffects, builtFigures, builtSession } from '../rig';
import { setUpTolerance, usualTolerances } from '../analysis/tolerance';
import { arrayFigures } from '../analysis/array-figures';
import { shiftIn } from '../localisation/leading';
import { contextOf } from '../prepare/context';
import { sessionFrom, type MicArray, type Session } from '../session';
import { matchesFor, matchOfArray, matchText } from './matches';

const PAIR_1 = { name: 'pair 1', on: '2026-11-10', trimDb: -0.6, leftDb: 0.3, filters: [] };
const PAIR_2 = { name: 'pair 2', on: '2026-11-12', trimDb: 0.4, leftDb: 0.1, filters: [] };

const withMatches = (matches: object[], count = 2, pair = '') =>
  sessionFrom({
    sources: [{ id: 'c', name: 'Viol', x: 0.4, y: 3, z: 1.1 }],
    arrays: [
      {
        id: 'main',
        name: 'Main',
        y: 0,
        z: 2.5,
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
        equipment: { pair },
      },
    ],
    kit: { microphones: [{ id: 'k', name: 'Small ones', patterns: ['cardioid'], count, matches }] },
  });

const images = (session: Session, array: MicArray) =>
  arrayFigures(array, session.sources, contextOf(session)).sources.map((of) =>
    shiftIn(of, session.settings.model),
  );

const found = (session: ReturnType<typeof withMatches>) => {
  const [array] = session.arrays;
  if (!array) throw new Error('an array is expected');
  return { array, match: matchOfArray(session, array)?.match.name ?? null };
};

describe('measured pairs', () => {
  it('two microphones are their pair, of four it has to be said which', () => {
    expect(found(withMatches([PAIR_2])).match).toBe('pair 2');
    expect(found(withMatches([PAIR_2], 4)).match).toBeNull();
    expect(found(withMatches([PAIR_1, PAIR_2], 4)).match).toBeNull();
    expect(found(withMatches([PAIR_1, PAIR_2], 4, 'pair 1')).match).toBe('pair 1');
    expect(found(withMatches([], 2)).match).toBeNull();
    // One that is not kept any more is none, and the array asks again.
    expect(found(withMatches([PAIR_1, PAIR_2], 4, 'pair 9')).match).toBeNull();
  });

  it('of one pair measured twice the later counts', () => {
    const session = withMatches([PAIR_2, { ...PAIR_2, on: '2026-11-20', trimDb: 0.9 }], 2);
    const { array } = found(session);
    expect(matchOfArray(session, array)?.match.trimDb).toBe(0.9);
    expect(matchesFor(session, array)).toHaveLength(2);
  });

  it('reads as it is spoken of', () => {
    const [first] = withMatches([PAIR_2]).kit.microphones[0]?.matches ?? [];
    if (!first) throw new Error('a match is expected');
    expect(matchText(first)).toBe('pair 2: right +0.4 dB, 12 Nov 2026, then within 0.1 dB');
    expect(matchText({ ...first, name: '', on: 'spring' })).toMatch(
      /^pair: right \+0.4 dB, spring/,
    );
  });

  it('a kept match narrows what a set-up is off by, by no more than gains can be set', () => {
    const plain = withMatches([]);
    const [kept, rough] = [withMatches([PAIR_2]), withMatches([{ ...PAIR_2, leftDb: 3 }])];
    const db = (of: typeof plain) => usualTolerances(of, found(of).array).sensitivityDb;
    expect(db(plain)).toBe(1);
    expect(db(kept)).toBe(0.2);
    expect(db(rough)).toBe(1);
    const width = (of: typeof plain) => {
      const image = setUpTolerance(of, found(of).array).images['c'];
      return (image?.high ?? NaN) - (image?.low ?? NaN);
    };
    expect(width(kept)).toBeLessThan(0.8 * width(plain));
  });

  it('as built, a right microphone that is louder pulls the picture to the right', () => {
    const session = withMatches([PAIR_2]);
    const built = (value: number) => ({
      ...session,
      rig: { ...session.rig, asBuilt: [{ arrayId: 'main', field: 'rightDb' as const, value }] },
    });
    const imageOf = (value: number) => {
      const [array] = builtSession(built(value)).arrays;
      if (!array) throw new Error('an array is expected');
      return images(session, array)[0] ?? NaN;
    };
    expect(imageOf(0)).toBeCloseTo(images(session, found(session).array)[0] ?? NaN, 12);
    expect(imageOf(2)).toBeGreaterThan(imageOf(0) + 0.05);
    expect(imageOf(-2)).toBeLessThan(imageOf(0) - 0.05);
    // Trimmed to 0.2 dB it is an error to be 0.4 dB off, without a match it is usual.
    const outside = (of: typeof session) =>
      builtFigures(of).find(({ field }) => field === 'rightDb')?.outside;
    expect(outside(built(-0.4))).toBe(true);
    expect(outside({ ...built(-0.4), kit: withMatches([]).kit })).toBe(false);
    expect(builtEffects(built(2))[0]?.worstPct).toBeGreaterThan(5);
  });
});
