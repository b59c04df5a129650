import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { neededReach, standPlans } from './stands';

const player = (id: string, x: number, y: number, widthM = 0) =>
  newSource({ id, name: id, x, y, widthM });
const obstacle = (rest: object) => ({
  id: 'o',
  name: 'Piano',
  kind: 'furniture',
  x: 0,
  y: 0,
  widthM: 2,
  depthM: 0.9,
  heightM: 1,
  turnDeg: 0,
  ...rest,
});
const hall = (rest: object): Session => sessionFrom(rest as Partial<Session>);

describe('the nearest free spot for a stand', () => {
  const at = { x: 0, y: 0 };

  it('is right below where nobody is', () => {
    expect(neededReach(hall({}), at)).toBe(0);
    expect(neededReach(hall({ sources: [player('a', 0, 0.71)] }), at)).toBe(0);
  });

  it('keeps clear of elbows: 0.7 m, and half the width of a wide player', () => {
    expect(neededReach(hall({ sources: [player('a', 0, 0)] }), at)).toBe(0.7);
    expect(neededReach(hall({ sources: [player('a', 0, 0, 1)] }), at)).toBe(1.2);
    expect(neededReach(hall({ sources: [player('a', 0, 0.69)] }), at)).toBe(0.1);
  });

  it('keeps a foot beside what stands on the floor, turned or not, and takes a riser', () => {
    expect(neededReach(hall({ venue: { obstacles: [obstacle({})] } }), at)).toBe(0.7);
    const turned = hall({ venue: { obstacles: [obstacle({ turnDeg: 90, y: 0.9 })] } });
    expect(neededReach(turned, at)).toBe(0.3);
    expect(neededReach(hall({ venue: { obstacles: [obstacle({ kind: 'riser' })] } }), at)).toBe(0);
  });

  it('is none where a crowd stands farther than the longest boom', () => {
    const crowd = Array.from({ length: 15 }, (_, i) =>
      Array.from({ length: 15 }, (__, k) => player(`${i} ${k}`, (i - 7) * 0.6, (k - 7) * 0.6)),
    ).flat();
    expect(neededReach(hall({ sources: crowd }), at)).toBeNull();
    const [plan] = standPlans(
      hall({ sources: crowd, arrays: [newArray({ id: 'm', z: 2 })], kit: { stands: [tall] } }),
    );
    expect(plan).toMatchObject({ reachM: null, stand: null, holdsNm: null, ballastKg: 0 });
    expect(plan?.lacks).toBe('no free spot for a stand within 3.00 m');
  });
});

const stand = (id: string, rest: object = {}) => ({
  id,
  name: `Stand ${id}`,
  count: 1,
  minHeightM: 1,
  maxHeightM: 2,
  reachM: 0,
  baseM: 0.4,
  massKg: 4,
  ...rest,
});
const tall = stand('tall', { maxHeightM: 4, reachM: 1.5, massKg: 6, count: 2 });

describe('stands of the kit', () => {
  const single = { kind: 'single', pattern: 'omni' } as const;
  const plan = (rest: object) => standPlans(hall(rest));

  it('serve the highest array first, the shortest stand that does it', () => {
    const arrays = [
      newArray({ id: 'low', name: 'Low', z: 1.5, technique: single }),
      newArray({ id: 'high', name: 'High', x: 3, z: 1.9, technique: single }),
    ];
    const plans = plan({ arrays, kit: { stands: [tall, stand('short')] } });
    expect(plans.map(({ arrayId, stand: held }) => [arrayId, held?.id])).toEqual([
      ['low', 'tall'],
      ['high', 'short'],
    ]);
  });

  it('carry 0.35 kg a microphone and 0.5 kg a bar, and the boom, over the line between two feet', () => {
    const pair = newArray({ id: 'pair', z: 2.5 });
    const over = { sources: [player('a', pair.x, pair.y)], kit: { stands: [tall] } };
    const [of] = plan({ ...over, arrays: [pair] });
    expect(of?.loadKg).toBeCloseTo(1.2, 12);
    expect(of?.reachM).toBe(0.7);
    // Boom of 0.7 m and 0.42 kg, edge 0.2 m from the column.
    expect(of?.momentNm).toBeCloseTo(9.81 * (1.2 * 0.5 + 0.42 * 0.15), 9);
    expect(of?.holdsNm).toBeCloseTo((6 - 0.42) * 9.81 * 0.2, 9);
    expect(of?.ballastKg).toBe(2);
    const [one] = plan({ ...over, arrays: [newArray({ id: 'one', z: 2.5, technique: single })] });
    expect(one?.loadKg).toBeCloseTo(0.35, 12);
  });

  it('want as much weight on the base as holds twice over, in whole kilograms', () => {
    const light = stand('light', { maxHeightM: 4, reachM: 1.5, baseM: 0.2, massKg: 2 });
    const [of] = plan({
      arrays: [newArray({ id: 'pair', x: 0, y: 0, z: 2.5 })],
      sources: [player('a', 0, 0)],
      kit: { stands: [light] },
    });
    // 2 · (1.2 kg · 0.6 m + 0.42 kg · 0.25 m) against 1.58 kg · 0.1 m: 1.492 / 0.1, rounded up.
    expect(of?.ballastKg).toBe(15);
  });

  it.each([
    [2.6, 'needs 2.60 m up; Stand short reaches 2.00 m up'],
    [0.9, 'needs 0.90 m up; Stand short begins at 1.00 m'],
    [2, ''],
    [1, ''],
  ])('at %s m say why they do not do it', (z, lacks) => {
    const arrays = [newArray({ id: 'a', z, technique: single })];
    expect(plan({ arrays, kit: { stands: [stand('short')] } })[0]?.lacks).toBe(lacks);
  });

  it('say when all are taken, and nothing where the kit has no list of stands', () => {
    const arrays = ['a', 'b'].map((id, i) => newArray({ id, x: i * 3, z: 1.5, technique: single }));
    const lacks = (stands: object[]) => plan({ arrays, kit: { stands } }).map((p) => p.lacks);
    expect(lacks([stand('short')])).toEqual(['', 'all that would do it are taken']);
    expect(lacks([])).toEqual(['', '']);
  });

  it('are not asked for what lies on the floor or is switched off', () => {
    const arrays = [
      newArray({ id: 'floor', z: 0.05, technique: single }),
      newArray({ id: 'off', z: 2, enabled: false, technique: single }),
      newArray({ id: 'up', z: 0.06, technique: single }),
    ];
    expect(plan({ arrays }).map(({ arrayId }) => arrayId)).toEqual(['up']);
  });
});
