import { describe, expect, it } from 'vitest';
import { prepareArray } from '../localisation';
import { newArray, newSource, type MicArray } from '../session';
import { arrayFigures, capsuleFigures, contextOf, sourceFigures } from '.';
import { sessionFrom } from '../session';

const pair = newArray({
  id: 'm',
  x: 0,
  y: 0,
  z: 1,
  technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 90 },
});
const hall = sessionFrom({
  venue: { widthM: 10, depthM: 20, heightM: 8, rt60S: 2, temperatureC: 20 },
});
const context = contextOf(hall);
const at = (x: number, y: number, change: object = {}) =>
  newSource({ id: 's', name: 'S', x, y, z: 1, levelDb: 90, q: 2, ...change });
const figures = (array: MicArray, source: ReturnType<typeof at>) =>
  sourceFigures(prepareArray(array, array.mix.capsules), source, context);

describe('the figures of one source', () => {
  it('are those of plain geometry', () => {
    const of = figures(pair, at(3, 4, { z: 1 }));
    expect(of.distanceM).toBeCloseTo(5, 12);
    expect(of.planDistanceM).toBeCloseTo(5, 12);
    expect(of.azimuthDeg).toBeCloseTo((Math.atan2(3, 4) * 180) / Math.PI, 9);
    expect(of.elevationDeg).toBeCloseTo(0, 9);
    expect(figures(pair, at(0, 4, { z: 5 })).elevationDeg).toBeCloseTo(45, 9);
    expect(figures({ ...pair, aimDeg: 30 }, at(0, 4)).azimuthDeg).toBeCloseTo(-30, 9);
    const [l, r] = [Math.hypot(3.1, 4), Math.hypot(2.9, 4)];
    const speed = 331.3 * Math.sqrt(1 + 20 / 273.15);
    expect(of.ictdMs).toBeCloseTo(((l - r) / speed) * 1000, 9);
    const gain = (dx: number, distance: number, turn: number) =>
      (0.5 + 0.5 * ((dx * Math.sin(turn) + 4 * Math.cos(turn)) / distance)) / distance;
    const [left, right] = [gain(3.1, l, -Math.PI / 4), gain(2.9, r, Math.PI / 4)];
    expect(of.icldDb).toBeCloseTo(20 * Math.log10(right / left), 9);
    expect(of.levelAtArrayDb).toBeCloseTo(
      90 + 10 * Math.log10((left * left + right * right) / 2),
      9,
    );
    // Critical distance for Q = 1: 0.057·√(V/RT); the ratio by the mean of both channels.
    const rc2 = 0.057 ** 2 * (1600 / 2);
    expect(of.directToReverberantDb).toBeCloseTo(
      10 * Math.log10((2 * ((left * left + right * right) / 2) * rc2) / (1 / 3)),
      6,
    );
  });

  it('are none within a centimetre of a capsule, and only the room’s are missing without a hall', () => {
    const on = figures(pair, at(-0.1, 0.005));
    expect(on).toMatchObject({
      atCapsule: true,
      icldDb: null,
      ictdMs: null,
      image: null,
      mono: null,
    });
    expect(figures(pair, at(-0.1, 0.011)).atCapsule).toBe(false);
    const bare = sourceFigures(prepareArray(pair), at(1, 4), contextOf(sessionFrom({})));
    expect(bare.directToReverberantDb).toBeNull();
    expect(bare.icldDb).not.toBeNull();
  });

  it('are reversed where the image is on the other side than the player, beyond half a degree', () => {
    const eights = {
      ...pair,
      technique: { ...pair.technique, pattern: 'figure-eight', spacingM: 0 },
    } as MicArray;
    expect(figures(eights, at(1, 4)).reversed).toBe(false);
    // Behind: both lobes inverted, left and right swapped.
    expect(figures(eights, at(1, -4)).reversed).toBe(true);
    expect(figures(eights, at(0.001, -4)).reversed).toBe(false);
    expect(figures(eights, at(4, 0.1)).antiphase).toBe(true);
    expect(figures(eights, at(4, 0.1)).reversed).toBe(false);
    // With omnis apart time alone tells the sides, before and behind.
    const omnis = {
      ...pair,
      technique: { ...pair.technique, pattern: 'omni', includedAngleDeg: 0 },
    } as MicArray;
    for (const y of [4, -4]) expect(figures(omnis, at(2, y)).reversed).toBe(false);
    const lobe = newArray({
      technique: { kind: 'mid-side', midPattern: 'cardioid', sideGainDb: 0, sidePositive: 'right' },
    });
    expect(figures({ ...lobe, x: 0, y: 0, z: 1 }, at(2, 4)).reversed).toBe(true);
  });

  it('widen with the source, and a wide one turned end-on does not', () => {
    const image = (change: object) => figures(pair, at(0, 4, change)).image?.traded;
    const wide = image({ widthM: 2, facingDeg: 180 });
    expect(wide?.left).toBeLessThan(-0.2);
    expect(wide?.right).toBeCloseTo(-(wide?.left ?? 0), 9);
    expect(wide?.shift).toBeCloseTo(0, 9);
    const endOn = image({ widthM: 2, facingDeg: 90 });
    expect(endOn?.right).toBeCloseTo(endOn?.left ?? NaN, 9);
  });
});

describe('one source at each capsule', () => {
  it('has its own distance, time, level and ratio', () => {
    const array = prepareArray(pair);
    const [left, right] = capsuleFigures(array, at(3, 4), context) ?? [];
    expect([left?.label, right?.label]).toEqual(['L', 'R']);
    expect(left?.distanceM).toBeCloseTo(Math.hypot(3.1, 4), 9);
    expect(right?.arrivalMs).toBeCloseTo((Math.hypot(2.9, 4) / context.speed) * 1000, 9);
    expect(right?.levelDb).toBeGreaterThan(left?.levelDb ?? Infinity);
    expect(capsuleFigures(array, at(-0.1, 0), context)).toBeNull();
  });
});

describe('the ensemble as an array sees it', () => {
  const of = (...places: [number, number][]) =>
    arrayFigures(
      pair,
      places.map(([x, y], i) => at(x, y, { id: `s${i}` })),
      context,
    );

  it('subtends the smallest arc, also across the line behind', () => {
    expect(of([-4, 4], [4, 4]).ensemble?.angleDeg).toBeCloseTo(90, 9);
    expect(of([-1, -4], [1, -4]).ensemble?.angleDeg).toBeCloseTo(
      2 * ((Math.atan2(1, 4) * 180) / Math.PI),
      9,
    );
    expect(of([0, 4]).ensemble?.angleDeg).toBeCloseTo(0, 9);
    expect(of().ensemble).toBeNull();
    expect(of([3, 4], [0, 3]).ensemble?.distanceM).toBeCloseTo(4, 9);
  });

  it('leans to the side that is louder, and not where both are alike', () => {
    expect(of([-2, 4], [2, 4]).balanceDb).toBeCloseTo(0, 9);
    expect(of([2, 4]).balanceDb).toBeGreaterThan(1);
    expect(of([-2, 4]).balanceDb).toBeCloseTo(-(of([2, 4]).balanceDb ?? NaN), 9);
    expect(of().balanceDb).toBeNull();
  });

  it('computes what it knows already no second time, and the same', () => {
    const sources = [at(-2, 4, { id: 'a' }), at(2, 4, { id: 'b' })];
    const once = arrayFigures(pair, sources, context);
    const again = arrayFigures(pair, [...sources], context);
    expect(again.sources[0]).toBe(once.sources[0]);
    const warm = { ...context, speed: context.speed + 5 };
    expect(arrayFigures(pair, sources, warm).sources[0]).not.toEqual(once.sources[0]);
    expect(arrayFigures(pair, sources, context)).toEqual(once);
  });
});
