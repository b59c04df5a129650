import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { threeMicTree } from '../arrays/layouts';
import { imageIn } from '../localisation';
import { sessionFrom } from '../session';
import type { Session } from '../session';
import { arrayFigures, contextOf, echoLimit, mixFigures } from '.';

type Plain = Record<string, unknown>;

const ORTF = { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 };
const OMNI = { kind: 'single', pattern: 'omni' };
const strip = (change: Plain = {}) => ({ pan: 0, gainDb: 0, polarity: 1, delayMs: 0, ...change });
const main = { id: 'm', name: 'Main pair', role: 'main', x: 0, y: 0, z: 2.5, technique: ORTF };
const spot = (change: Plain = {}) => ({
  id: 's',
  name: 'Oboe spot',
  role: 'spot',
  x: -1.5,
  y: 2.5,
  z: 1.2,
  technique: OMNI,
  mix: { faderDb: 0, capsules: [strip({ pan: 1, delayMs: 12 })] },
  ...change,
});
const rear = (change: Plain = {}) => ({
  id: 'r',
  name: 'Rear pair',
  role: 'ambience',
  x: 0,
  y: -16,
  z: 3,
  technique: { kind: 'pair', pattern: 'omni', spacingM: 1.2, includedAngleDeg: 0 },
  mix: { faderDb: 12, capsules: [] },
  ...change,
});
const oboe = { id: 'o', name: 'Oboe', kind: 'oboe', x: -1.5, y: 3, z: 1.1 };
const withArrays = (arrays: Plain[], sources: Plain[] = [oboe]): Session =>
  sessionFrom({ sources, arrays });
const first = (session: Session) => {
  const [source] = session.sources;
  const found = source && mixFigures(session, source);
  if (!found) throw new Error('no figures');
  return found;
};
const place = (session: Session): number => imageIn(first(session), 'consensus')?.shift ?? NaN;

describe('the whole mix', () => {
  it('of one pair is that pair, in every model, with both ends of a wide player', () => {
    const spot = fc.record({
      x: fc.double({ min: -6, max: 6, noNaN: true }),
      y: fc.double({ min: 0.5, max: 9, noNaN: true }),
      widthM: fc.constantFrom(0, 0.8, 3),
    });
    fc.assert(
      fc.property(spot, (at) => {
        const session = withArrays([main], [{ ...oboe, ...at }]);
        const [array] = session.arrays;
        const [alone] = array
          ? arrayFigures(array, session.sources, contextOf(session)).sources
          : [];
        const mixed = first(session);
        expect(mixed.image).toEqual(alone?.image);
        expect(mixed.icldDb).toBe(alone?.icldDb);
        expect(mixed.ictdMs).toBe(alone?.ictdMs);
        expect(mixed.pulls).toEqual([{ arrayId: 'm', name: 'Main pair', pct: 100 }]);
      }),
    );
  });

  it('is the same in whatever order the arrays stand', () => {
    const all = [main, spot(), rear()];
    const there = first(withArrays(all));
    const back = first(withArrays([...all].reverse()));
    expect(back.pulls.map(({ arrayId }) => arrayId)).toEqual(there.pulls.map((p) => p.arrayId));
    for (const [i, { pct }] of there.pulls.entries()) {
      expect(back.pulls[i]?.pct).toBeCloseTo(pct, 9);
    }
    expect(place(withArrays([...all].reverse()))).toBeCloseTo(place(withArrays(all)), 9);
    expect(there.pulls.reduce((sum, { pct }) => sum + pct, 0)).toBeCloseTo(100, 9);
  });

  it('a louder spot pulls more, to its own side, and a muted one not at all', () => {
    const at = (faderDb: number) =>
      withArrays([main, spot({ mix: { faderDb, capsules: [strip({ pan: 1, delayMs: 12 })] } })]);
    const places = [-40, -20, -10, 0, 10].map((db) => place(at(db)));
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(places[0]).toBeCloseTo(place(withArrays([main])), 2);
    expect(first(at(10)).pulls[0]?.name).toBe('Oboe spot');
    const muted = spot({ mix: { faderDb: 10, mute: true, capsules: [strip({ pan: 1 })] } });
    expect(first(withArrays([main, muted])).pulls).toHaveLength(1);
  });

  it('a spot 15 ms late needs 10 dB more to pull half', () => {
    // Both hear the player at the same distance; the pair holds two capsules' energy.
    const pair = { ...main, technique: { ...ORTF, pattern: 'omni', spacingM: 0.01 }, z: 1.1, y: 1 };
    const same = spot({ x: -1.5, y: 3 - Math.hypot(1.5, 2), z: 1.1 });
    const at = (faderDb: number) =>
      first(
        withArrays([pair, { ...same, mix: { faderDb, capsules: [strip({ delayMs: 15 })] } }]),
      ).pulls.find(({ arrayId }) => arrayId === 's')?.pct ?? NaN;
    // The louder it is, the less the earlier one counts: 0.99 of it here.
    const held = 1 - 0.9 / (1 + 0.001 * 10 ** 1);
    expect(at(13)).toBeCloseTo((100 * 9.98 * held) / (1 + 9.98 * held), 0);
    expect(at(3)).toBeCloseTo(100 / 11, 0);
  });

  it('moves by less than 2 % with a step of 1 mm, 1 µs or 0.1 dB', () => {
    const tree = {
      ...main,
      id: 't',
      name: 'Tree',
      y: -1,
      technique: { kind: 'custom', capsules: threeMicTree(1.6, 0.9, 'omni').capsules },
    };
    const numbers = fc.record({
      x: fc.double({ min: -5, max: 5, noNaN: true }),
      y: fc.double({ min: 1, max: 8, noNaN: true }),
      faderDb: fc.double({ min: -20, max: 10, noNaN: true }),
      delayMs: fc.double({ min: 0, max: 40, noNaN: true }),
    });
    type Numbers = { x: number; y: number; faderDb: number; delayMs: number };
    const at = ({ x, y, faderDb, delayMs }: Numbers) =>
      place(
        withArrays(
          [
            main,
            tree,
            spot({ mix: { faderDb, capsules: [strip({ pan: 0.6, delayMs })] }, x: -1.5, y: 0.5 }),
          ],
          [{ ...oboe, x, y }],
        ),
      );
    fc.assert(
      fc.property(numbers, (from) => {
        const here = at(from);
        for (const step of [
          { x: from.x + 0.001 },
          { y: from.y + 0.001 },
          { faderDb: from.faderDb + 0.1 },
          { delayMs: from.delayMs + 0.001 },
        ]) {
          expect(Math.abs(at({ ...from, ...step }) - here)).toBeLessThan(0.02);
        }
      }),
    );
  });

  it('has no figure for a player at a capsule, and none where nothing is heard', () => {
    const session = withArrays([main, spot({ x: oboe.x, y: oboe.y, z: oboe.z })]);
    const [source] = session.sources;
    expect(source && mixFigures(session, source)).toBeNull();
    expect(source && mixFigures({ ...session, arrays: [] }, source)).toBeNull();
  });

  it('says how much is in antiphase', () => {
    const inverted = {
      ...main,
      mix: { capsules: [strip({ pan: -1, polarity: -1 }), strip({ pan: 1 })] },
    };
    const alone = first(withArrays([inverted]));
    expect(alone.antiphase).toBe(true);
    expect(alone.image).toBeNull();
    expect(alone.antiphasePct).toBe(100);
    const helped = first(
      withArrays([inverted, spot({ mix: { faderDb: 12, capsules: [strip()] } })]),
    );
    expect(helped.antiphase).toBe(false);
    expect(helped.antiphasePct).toBeGreaterThan(0.01);
    expect(helped.antiphasePct).toBeLessThan(20);
  });
});

describe('an echo', () => {
  const late = (kind: string, change: Plain = {}) =>
    first(withArrays([main, rear(change)], [{ ...oboe, kind }])).echoes;

  it('is borne by its kind of sound: 30 ms struck, 50 ms sung, 80 ms blown', () => {
    const kinds = ['timpani', 'guitar', 'grand piano', 'soprano', 'oboe', 'cello', 'chest organ'];
    expect(kinds.map((kind) => echoLimit({ kind }).ms)).toEqual([30, 30, 30, 50, 80, 80, 80]);
    expect(echoLimit({ kind: 'glass bowls' })).toEqual({
      ms: 30,
      of: 'percussive sounds; its kind is not known',
    });
  });

  it('is named with its delay and level, by what was there before', () => {
    const [echo, more] = late('timpani');
    expect(more).toBeUndefined();
    expect(echo).toMatchObject({ arrayId: 'r', name: 'Rear pair' });
    const speed = 343.2;
    const far = Math.hypot(1.5 - 0.6, 19, 1.9);
    const near = Math.hypot(1.5 - 0.085, 3, 1.4);
    expect(echo?.delayMs).toBeCloseTo(((far - near) / speed) * 1000, 1);
    expect(echo?.levelDb).toBeGreaterThan(-10);
    expect(late('oboe')).toEqual([]);
    expect(late('timpani', { mix: { faderDb: 0, capsules: [] } })).toEqual([]);
    // 30 ms and 10.3 m: nearer than that the same pair is room, not echo.
    expect(late('timpani', { y: -5, mix: { faderDb: 12, capsules: [] } })).toEqual([]);
  });
});
