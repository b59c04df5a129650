import { describe, expect, it } from 'vitest';
import { coverageAdvice, storage } from '../planning';
import { violations } from '../ensembles';
import { forWhomText } from '../prepare/for-whom';
import { sessionFrom } from '../session';
import { bestCentreFill, reflectionsAtArray, solvedAndRanked } from '.';
import { usualDraws } from './tolerance';

type Plain = Record<string, unknown>;
const OMNIS = { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 };

describe('the best level of a centre', () => {
  const point = (gainDb: number, imageWidthPct: number, largestGapPct: number) => ({
    gainDb,
    imageWidthPct,
    largestGapPct,
  });

  it('is the lowest of those that close the hole within 1 %', () => {
    expect(bestCentreFill([point(-12, 100, 30), point(-9, 95, 29.1)])?.gainDb).toBe(-12);
    expect(bestCentreFill([point(-12, 100, 30), point(-9, 95, 28.9)])?.gainDb).toBe(-9);
    expect(bestCentreFill([])).toBeNull();
  });

  it('keeps three quarters of the fullest picture', () => {
    expect(bestCentreFill([point(-12, 100, 30), point(-3, 75, 5)])?.gainDb).toBe(-3);
    expect(bestCentreFill([point(-12, 100, 30), point(-3, 74.9, 5)])?.gainDb).toBe(-12);
  });
});

describe('as many draws as a wait allows', () => {
  it('fewer for many players or capsules, never under 200 or over 10,000', () => {
    expect([usualDraws(24, 2), usualDraws(60, 2), usualDraws(60, 5)]).toEqual([10000, 5000, 2000]);
    expect([usualDraws(500, 12), usualDraws(0, 0)]).toEqual([200, 10000]);
  });
});

describe('the array’s reflections', () => {
  const heard = (widthM: number, technique: Plain = OMNIS) => {
    const session = sessionFrom({
      venue: { widthM: 12, depthM: 20, heightM: 8, origin: { x: 6, y: 10 }, rt60S: 1.5 },
      sources: [{ id: 'p', x: 1, y: 3, z: 1, widthM, facingDeg: 180 }],
      arrays: [{ id: 'm', role: 'main', x: 0, y: 0, z: 2, technique }],
    });
    const [array] = session.arrays;
    const [source] = session.sources;
    return array && source ? reflectionsAtArray(session, array, source) : [];
  };

  it('are sorted by level, and against the direct sound of the whole width', () => {
    const levels = heard(0).map(({ levelDb }) => levelDb);
    expect(levels).toEqual([...levels].sort((a, b) => b - a));
    expect(levels[0]).toBeLessThan(0);
    const floor = heard(0).find(({ surfaces }) => surfaces.join() === 'floor');
    // Both omnis: direct √(10 + 1), over the floor √(10 + 9), by energy over two capsules.
    const energy = (dz: number) =>
      [-0.25, 0.25].reduce((sum, dx) => sum + 1 / ((1 - dx) ** 2 + 9 + dz ** 2), 0);
    expect(floor?.levelDb).toBeLessThanOrEqual(10 * Math.log10(energy(3) / energy(1)) + 1e-9);
    expect(heard(4)[0]?.levelDb).not.toBeCloseTo(levels[0] ?? NaN, 3);
  });
});

describe('for whom', () => {
  const named = (count: number, change: Plain = {}) => {
    const session = sessionFrom({
      sources: Array.from({ length: count }, (_, i) => ({
        id: `p${i}`,
        name: `Player ${i}`,
        x: i - 1,
        y: 3,
        z: 1,
      })),
      arrays: [{ id: 'm', name: 'M', role: 'main', x: 0, y: 0, z: 2, technique: OMNIS, ...change }],
    });
    const [array] = session.arrays;
    return array ? forWhomText(array, session.sources, 343) : '';
  };
  const some = (sources: string[]) => ({ for: { kind: 'some', sources } });

  it('is everybody, or up to three names, or two and how many more', () => {
    expect(named(3)).toBe('everybody');
    expect(named(5, some(['p0', 'p1', 'p2', 'p3', 'p4']))).toBe('everybody');
    expect(named(1, some(['p0']))).toBe('Player 0');
    expect(named(5, some(['p0', 'p1', 'p2']))).toBe('Player 0, Player 1, Player 2');
    expect(named(6, some(['p0', 'p1', 'p2', 'p4']))).toBe('Player 0, Player 1 and 2 more');
  });
});

describe('how many microphones a player is worth', () => {
  const advice = (widthM: number, y: number) =>
    coverageAdvice(
      sessionFrom({
        sources: [
          { id: 'p', x: 0, y, z: 2, widthM },
          { id: 'q', x: 2, y: 3, z: 1 },
        ],
        arrays: [{ id: 'm', role: 'main', x: 0, y: 0, z: 2, technique: OMNIS }],
      }),
    )[0]?.advice;

  it('two from 0.9 m or 20° on', () => {
    expect([advice(0.9, 9), advice(0.89, 9)]).toEqual(['stereo', 'mono']);
    // 0.7 m wide is 20.5° at 1.94 m and 19.5° at 2.04 m.
    expect([advice(0.7, 1.94), advice(0.7, 2.04)]).toEqual(['stereo', 'mono']);
  });
});

describe('sight between two players', () => {
  it('is not blocked by who stands right beside one of them', () => {
    const blocked = (y: number) =>
      violations(
        sessionFrom({
          sources: [
            {
              id: 'a',
              name: 'A',
              x: 0,
              y: 0,
              z: 1.2,
              constraints: [{ kind: 'sees', sourceId: 'b' }],
            },
            { id: 'b', name: 'B', x: 0, y: 10, z: 1.2 },
            { id: 'c', name: 'C', x: 0.05, y, z: 1.2 },
          ],
        }),
      ).length;
    expect([blocked(0.1), blocked(0.21), blocked(5), blocked(9.79), blocked(9.9)]).toEqual([
      0, 1, 1, 1, 0,
    ]);
  });
});

describe('storage', () => {
  it('is tracks × rate × bytes × time, and says when a file passes 4 GiB', () => {
    const { bytes, passes4GiBAfterMin, singlePasses4GiBAfterMin } = storage(8, 96000, 24, 2);
    expect(bytes).toBe(8 * 96000 * 3 * 7200);
    expect(passes4GiBAfterMin).toBeCloseTo((4 * 1024 ** 3) / (8 * 96000 * 3) / 60, 9);
    // One track of it does not within two hours, but within five.
    expect(singlePasses4GiBAfterMin).toBeNull();
    const { singlePasses4GiBAfterMin: later } = storage(8, 96000, 24, 5);
    expect(later).toBeCloseTo((4 * 1024 ** 3) / (96000 * 3) / 60, 9);
  });
});

describe('ways to a wanted recording angle', () => {
  const solved = (sources: Plain[]) => {
    const session = sessionFrom({
      sources,
      arrays: [{ id: 'm', role: 'main', x: 0, y: 0, z: 2, technique: OMNIS }],
    });
    const [array] = session.arrays;
    if (!array) throw new Error('an array');
    const wanted = {
      halfDeg: 45,
      model: 'consensus' as const,
      distanceM: null,
      heightM: 0,
      speed: 343,
    };
    const steps = solvedAndRanked(session, array, wanted);
    for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value;
  };

  it('are ranked by the brief, in customary ranges, without broken images', () => {
    const found = solved([-2, -1, 0, 1, 2].map((x, i) => ({ id: `p${i}`, x, y: 3, z: 1 })));
    expect(found.length).toBeGreaterThan(10);
    const scores = found.map(({ score }) => score);
    expect(scores).toEqual([...scores].sort((a, b) => b - a));
    expect(Math.min(...scores)).toBeGreaterThan(0);
    for (const { technique, leastDeg, mostDeg } of found) {
      expect(leastDeg).toBeLessThanOrEqual(45.01);
      expect(mostDeg).toBeGreaterThanOrEqual(44.99);
      if (technique.kind !== 'pair' || technique.spacingM === 0) continue;
      const [least, most] = technique.includedAngleDeg > 0 ? [0.1, 0.45] : [0.3, 2];
      expect(technique.spacingM).toBeGreaterThanOrEqual(least);
      expect(technique.spacingM).toBeLessThanOrEqual(most);
    }
  });

  it('without players come in the order in which the models agree', () => {
    const spreads = solved([]).map(({ leastDeg, mostDeg }) => mostDeg - leastDeg);
    expect(spreads).toEqual([...spreads].sort((a, b) => a - b));
  });
});
