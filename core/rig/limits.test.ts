import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../session';
import { cableUses, clashes, neededReach, standPlans, twoTapes } from '.';

type Plain = Record<string, unknown>;
const at = (id: string, x: number, y: number, z: number, rest: Plain = {}): Plain => ({
  id,
  name: `Mic ${id}`,
  role: 'spot',
  x,
  y,
  z,
  technique: { kind: 'single', pattern: 'cardioid' },
  ...rest,
});

describe('a wide player', () => {
  it('is kept clear of along its whole width, a point only around itself', () => {
    const close = (widthM: number) =>
      clashes(
        sessionFrom({
          sources: [{ id: 'p', name: 'P', x: 0, y: 3, z: 1, widthM, facingDeg: 180 }],
          arrays: [at('s', 1, 3, 1.1, { role: 'main' })],
          rig: { clearanceM: 0.3 },
        }),
      );
    expect(close(0)).toEqual([]);
    const [clash] = close(2);
    expect(clash?.distanceM).toBeCloseTo(0.1, 9);
    expect(clash?.leastM).toBe(0.3);
  });

  it('is in the way of a stand by half its width', () => {
    const beside = (widthM: number) =>
      neededReach(
        sessionFrom({
          sources: [{ id: 'p', name: 'P', x: 4.5, y: 3, z: 1, widthM, facingDeg: 180 }],
        }),
        { x: 0, y: 3 },
      );
    expect(beside(0)).toBe(0);
    expect(beside(9)).toBeGreaterThan(0.3);
  });
});

describe('a stand', () => {
  const plan = (stand: Plain) =>
    standPlans(
      sessionFrom({
        arrays: [at('a', 0, 0, 2.5), at('b', 2, 0, 2)],
        kit: {
          stands: [{ id: 's', name: 'S', minHeightM: 0.5, maxHeightM: 3, reachM: 2, ...stand }],
        },
      }),
    );

  it('that is used up is lacking for the next, and needs no ballast where it holds', () => {
    const [first, second] = plan({ count: 1, massKg: 20, baseM: 1 });
    expect(first?.stand?.id).toBe('s');
    expect(first?.ballastKg).toBe(0);
    expect(second?.stand).toBeNull();
    expect(second).toMatchObject({ ballastKg: 0, momentNm: 0, holdsNm: null });
    expect(second?.lacks).not.toBe('');
    expect(plan({ count: 2, massKg: 20, baseM: 1 })[1]?.stand?.id).toBe('s');
  });
});

describe('a cable folded in three', () => {
  it('is for two spots of two players, not for two of one', () => {
    const uses = (sources: Plain[]) =>
      cableUses(sessionFrom({ sources, arrays: [at('s', -1, 2.5, 1), at('t', 1, 2.5, 1)] })).filter(
        ({ folds }) => folds === 3,
      );
    const two = [
      { id: 'p', name: 'P', x: -1, y: 3, z: 1 },
      { id: 'q', name: 'Q', x: 1, y: 3, z: 1 },
    ];
    const [use, more] = uses(two);
    expect(more).toBeUndefined();
    expect(use).toMatchObject({ what: 'Mic s to Mic t', cableM: 2 });
    expect(use?.foldedM).toBeCloseTo(2 / 3, 12);
    expect(uses(two.slice(0, 1))).toEqual([]);
    expect(uses([])).toEqual([]);
  });
});

describe('two tapes', () => {
  it('say on which side of their line the point lies, along the stage and up it', () => {
    const side = (x: number, y: number, to: { x: number; y: number }) =>
      twoTapes({ x, y }, { x: 0, y: 0 }, to).side;
    const right = { x: 4, y: 0 };
    expect([side(1, 2, right), side(1, -2, right)]).toEqual(['upstage', 'downstage']);
    expect([side(1, 2, { x: -4, y: 0 }), side(2, 0, right)]).toEqual(['upstage', 'on the line']);
    const up = { x: 0, y: 4 };
    expect([side(-1, 2, up), side(1, 2, up)]).toEqual(['house left', 'house right']);
    expect([side(-1, -2, { x: 0, y: -4 }), side(1, -2, { x: 0, y: -4 })]).toEqual([
      'house left',
      'house right',
    ]);
    // As far along as up: the stage's line decides.
    expect(side(0, 2, { x: 3, y: 3 })).toBe('upstage');
  });
});
