import { describe, expect, it } from 'vitest';
import { PATTERN_NAMES } from '../acoustics';
import { demoSessions } from '../demo';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { arraySummary, patternWhatIf, withPattern } from './summary';

const hall = { widthM: 10, depthM: 20, heightM: 10, rt60S: 2 };
const row = [-2, -1, 0, 1, 2].map((x) => newSource({ id: `p${x}`, x, y: 3, z: 1.2 }));
const array = newArray({
  id: 'm',
  z: 2,
  technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
});
const session = (change: Partial<Session> = {}): Session => ({
  ...sessionFrom({ venue: hall }),
  sources: row,
  arrays: [array],
  ...change,
});

describe('an array in few figures', () => {
  it('the row is as wide as its outer images, and no wider than the base', () => {
    const { widthPct, imageWidthPct, broken, microphones } = arraySummary(session(), array);
    expect(widthPct).toBeGreaterThan(50);
    expect(widthPct).toBeLessThanOrEqual(100);
    expect(imageWidthPct).toBeGreaterThan(0);
    expect(broken).toBe(0);
    expect(microphones).toBe(2);
  });

  it('reach of cardioids: √3 times an omni’s, and in metres by the critical distance', () => {
    const summary = arraySummary(session(), array);
    expect(summary.reach).toBeCloseTo(Math.sqrt(3), 9);
    // 0.057·√(2000 m³ / 2 s) = 1.8025 m for an omni.
    expect(summary.reachM).toBeCloseTo(1.8025 * Math.sqrt(3), 3);
  });

  it('without a hall there is no figure of the room, and without players none of the picture', () => {
    const bare = session({ venue: sessionFrom({}).venue });
    expect(arraySummary(bare, array)).toMatchObject({ directToReverberantDb: null, reachM: null });
    expect(arraySummary(session({ sources: [] }), array)).toMatchObject({
      widthPct: null,
      imageWidthPct: null,
      worstMonoDb: null,
      worstMonoId: null,
      directToReverberantDb: null,
    });
  });

  it('an arrangement without microphones yet has no figure that is not a number', () => {
    const none = newArray({ id: 'n', technique: { kind: 'custom', capsules: [] } });
    const summary = arraySummary(session(), none);
    expect(summary).toMatchObject({ microphones: 0, reach: 1, lowCorrelation: null });
    expect(Object.values(summary)).not.toContain(NaN);
  });

  it('counts the wanted places that are met', () => {
    const wanted = session();
    wanted.brief.intent.bands = [
      { sourceId: 'p0', fromPct: -20, toPct: 20 },
      { sourceId: 'p2', fromPct: -100, toPct: -50 },
    ];
    expect(arraySummary(wanted, array)).toMatchObject({ bands: 2, bandsMet: 1 });
  });

  it('names the player whose mono sum is worst', () => {
    const antiphase = newSource({ id: 'behind', x: 3, y: 0, z: 2 });
    const eights = newArray({
      ...array,
      technique: { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
    });
    const summary = arraySummary(session({ sources: [...row, antiphase] }), eights);
    expect(summary.worstMonoId).toBe('behind');
    expect(summary.worstMonoDb).toBeLessThan(-20);
    expect(summary.broken).toBe(1);
  });

  it('has a value for every array of the demo sessions', () => {
    for (const demo of demoSessions('2026-01-01T00:00:00.000Z')) {
      for (const entry of demo.arrays) {
        const { reach, microphones } = arraySummary(demo, entry);
        expect(reach).toBeGreaterThanOrEqual(1);
        expect(reach).toBeLessThanOrEqual(2);
        expect(microphones).toBeGreaterThan(0);
      }
    }
  });
});

describe('every pattern of a switchable microphone', () => {
  const list = patternWhatIf(session(), array, PATTERN_NAMES);

  it('a narrower pattern widens the picture and reaches farther, up to the hypercardioid', () => {
    const upTo = list.slice(0, 5);
    expect(upTo.map(({ pattern }) => pattern)).toEqual(PATTERN_NAMES.slice(0, 5));
    upTo.slice(1).forEach(({ summary, distanceFactor }, i) => {
      expect(summary.widthPct).toBeGreaterThanOrEqual(upTo[i]?.summary.widthPct ?? NaN);
      expect(distanceFactor).toBeGreaterThan(upTo[i]?.distanceFactor ?? NaN);
    });
    expect(upTo[4]?.distanceFactor).toBeCloseTo(2, 9);
  });

  it('leaves bar, place and mix alone', () => {
    for (const { array: switched, pattern } of list) {
      expect(switched).toEqual({ ...array, technique: { ...array.technique, pattern } });
    }
  });

  it('of mid-side only the mid is switched, of a free arrangement every microphone', () => {
    const midSide = {
      kind: 'mid-side',
      midPattern: 'cardioid',
      sideGainDb: 0,
      sidePositive: 'left',
    } as const;
    expect(withPattern(midSide, 'omni')).toEqual({ ...midSide, midPattern: 'omni' });
    const capsule = { label: 'L', dx: 0, dy: 0, dz: 0, azimuthDeg: 0, elevationDeg: 0 };
    const custom = { kind: 'custom' as const, capsules: [{ ...capsule, pattern: 0.4 }] };
    expect(withPattern(custom, 'omni').capsules).toEqual([{ ...capsule, pattern: 'omni' }]);
  });
});
