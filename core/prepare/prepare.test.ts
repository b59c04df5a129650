import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { nearArrivals, prepareArray } from '../localisation';
import { arrivalsAt, readyArray } from './arrays';
import { remembered } from '../units/remember';
import { settledOn } from './settle';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const [array] = demo.arrays;
const [source] = demo.sources;
if (!array || !source) throw new Error('the demo has an array and players');

describe('the preparation', () => {
  it('is made once for an object, and anew for another with the same content', () => {
    let made = 0;
    const count = remembered((_key: object) => (made += 1));
    const key = {};
    expect([count(key), count(key), count({}), made]).toEqual([1, 1, 2, 2]);
    expect(readyArray(array)).toBe(readyArray(array));
    expect(readyArray({ ...array })).not.toBe(readyArray(array));
    expect(readyArray({ ...array })).toEqual(prepareArray(array, array.mix.capsules));
  });

  it('has the arrivals of one source at one array, and others for another air', () => {
    const cold = arrivalsAt(array, source, 331);
    expect(cold).toEqual(nearArrivals(readyArray(array), source, 331));
    expect(arrivalsAt(array, source, 331)).toBe(cold);
    const warm = arrivalsAt(array, source, 343);
    expect(warm?.[0]?.timeS).toBeLessThan(cold?.[0]?.timeS ?? 0);
    const moved = { ...source, x: source.x + 1 };
    expect(arrivalsAt(array, moved, 343)).not.toEqual(warm);
    const at = readyArray(array).capsules[0]?.position ?? { x: 0, y: 0, z: 0 };
    expect(arrivalsAt(array, { ...source, ...at }, 343)).toBeNull();
  });
});

describe('a session that came as a copy', () => {
  it('has the very players and arrays of the one before, but for what changed', () => {
    const copy = structuredClone(demo);
    const [first] = copy.sources;
    if (first) first.x += 1;
    const settled = settledOn(demo, copy);
    expect(settled).toEqual(copy);
    expect(settled.sources[0]).not.toBe(demo.sources[0]);
    expect(settled.sources[1]).toBe(demo.sources[1]);
    expect(settled.arrays).toBe(demo.arrays);
    expect(settled.venue).toBe(demo.venue);
    expect(settledOn(demo, { ...copy, id: 'other' }).sources[1]).not.toBe(demo.sources[1]);
    expect(settledOn(null, copy)).toBe(copy);
  });
});
