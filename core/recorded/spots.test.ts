import { describe, expect, it } from 'vitest';
import { pair, player } from '../fixtures/parts';
import { sessionFrom } from '../session';
import { combCurve, combOf, layersOf, layerShares, plannedLevelDb, spotOptions } from './spots';

const session = sessionFrom({
  id: 's',
  sources: [player('v', 'viola', 2, 4), player('o', 'oboe', -2, 4)],
  arrays: [
    { id: 'main', name: 'Main', technique: pair('cardioid', 0.2, 110), x: 0, y: 0, z: 2.5 },
    {
      id: 'spot',
      name: 'Viola spot',
      role: 'spot',
      technique: { kind: 'single', pattern: 'cardioid' },
      ...{ x: 1.8, y: 3.2, z: 1.6, tiltDeg: -20 },
    },
  ],
});
const binding = [1, 2, 3];

describe('layers of a recording', () => {
  it('are the main array and the spots that are bound, with whom they are for', () => {
    const { main, spots } = layersOf(session, binding);
    expect(main?.channels).toEqual([0, 1]);
    expect(spots.map(({ array, channels, player: of }) => [array.id, channels, of?.id])).toEqual([
      ['spot', [2], 'v'],
    ]);
    expect(layersOf(session, [null, null, 3]).main).toBeNull();
    expect(layersOf(session, [1, 2, null]).spots).toEqual([]);
  });

  it('share the power of the mix; mono of two equal alike ones gains 3 dB', () => {
    const rmsDb = [-20, -20, -20];
    const found = layerShares(session, binding, {
      rmsDb,
      correlations: [{ first: 0, second: 1, value: 1 }],
    });
    expect(found.map(({ sharePct }) => sharePct)).toEqual([
      expect.closeTo(200 / 3, 6),
      expect.closeTo(100 / 3, 6),
    ]);
    expect(found[0]?.monoDb).toBeCloseTo(3.01, 2);
    expect(found[1]?.monoDb).toBeNull();
    const turned = layerShares(session, binding, {
      rmsDb,
      correlations: [{ first: 0, second: 1, value: -1 }],
    });
    expect(turned[0]?.monoDb).toBeLessThan(-50);
    expect(layerShares(session, binding, { rmsDb: [null, null, null], correlations: [] })).toEqual(
      [],
    );
  });
});

describe('the comb of a spot', () => {
  it('dips first at half of one over the time, as deep as the levels are near', () => {
    expect(combOf(-4.1, 0).firstDipHz).toBeCloseTo(121.95, 2);
    expect(combOf(-4.1, 0).rippleDb).toBe(60);
    // 6 dB below: (1 + ½) / (1 − ½) is 9.5 dB.
    expect(combOf(1, -6.0206).rippleDb).toBeCloseTo(9.54, 2);
    expect(combOf(1, 6.0206).rippleDb).toBeCloseTo(9.54, 2);
    expect(combOf(0, -6).firstDipHz).toBeNull();
    const [at0 = 0, dip = 0, peak = 0] = combCurve(1, -6.0206, [1e-3, 500, 1000]);
    expect(at0 - dip).toBeCloseTo(9.54, 1);
    expect(peak).toBeCloseTo(at0, 1);
    // Teeth that are closer than the ear tells apart are their mean: the power of both.
    expect(Math.abs(combCurve(20, 0, [18_000])[0] ?? 9)).toBeLessThan(0.3);
    expect(() => combOf(2001, 0)).toThrow(RangeError);
  });
});

describe('what can be done with a spot', () => {
  const [track] = layersOf(session, binding).spots;
  if (!track) throw new Error('no spot');

  it('is to leave it, align it, or put it behind; behind it pulls least', () => {
    const [keep, align, behind] = spotOptions(session, track, -6.3, 0, 10);
    expect([keep?.laterMs, align?.laterMs, behind?.laterMs]).toEqual([0, 6.3, 16.3]);
    expect([keep?.apartMs, align?.apartMs]).toEqual([-6.3, 0]);
    expect(behind?.apartMs).toBeCloseTo(10, 9);
    const pulls = [keep, align, behind].map((option) => option?.image?.pullPct ?? NaN);
    expect(pulls[0]).toBeGreaterThan(pulls[2] ?? NaN);
    // In the middle by its pan, the spot pulls its player inwards as long as it comes first.
    expect(keep?.image?.shift).toBeLessThan(behind?.image?.shift ?? NaN);
    expect(align?.comb.firstDipHz).toBeNull();
    expect(() => spotOptions(session, track, -6.3, 0, 4.9)).toThrow(RangeError);
    expect(() => spotOptions(session, track, -6.3, 0, 20.1)).toThrow(RangeError);
  });

  it('is weighed by the level that the plan mixes it with', () => {
    const level = plannedLevelDb(session, track) ?? NaN;
    const louder = {
      ...session,
      arrays: session.arrays.map((array) =>
        array.id === 'spot' ? { ...array, mix: { ...array.mix, faderDb: -6 } } : array,
      ),
    };
    const [softer] = layersOf(louder, binding).spots;
    expect(level).toBeGreaterThan(0);
    expect(plannedLevelDb(louder, softer ?? track)).toBeCloseTo(level - 6, 6);
    expect(plannedLevelDb(session, { ...track, player: null })).toBeNull();
  });

  it('has no place where it is for nobody', () => {
    const [keep] = spotOptions(session, { ...track, player: null }, -6.3, 0, 10);
    expect(keep?.image).toBeNull();
  });
});
