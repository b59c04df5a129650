import { describe, expect, it } from 'vitest';
import { scaled } from '../fixtures/made';
import { pinkNoise } from '../signal/generate';
import { filterGainDb } from './pair';
import { figureEightSymmetry, pairMatch } from '../fixtures/memory';

const RATE = 48_000;
const SECONDS = 20;
const noise = pinkNoise(SECONDS * RATE, 1);

/** A first-order shelf of some decibels above a frequency. */
function brighter(samples: Float32Array, hz: number, db: number): Float32Array {
  const k = 1 - Math.exp((-2 * Math.PI * hz) / RATE);
  const more = 10 ** (db / 20) - 1;
  let low = 0;
  return samples.map((value) => {
    low += k * (value - low);
    return value + more * (value - low);
  });
}

describe('two microphones in one noise', () => {
  it('that are equal but for a gain want a trim and no filter', () => {
    const match = pairMatch(noise, scaled(noise, 10 ** (-1.3 / 20)), RATE);
    expect(match?.trimDb).toBeCloseTo(1.3, 3);
    expect(match?.rmsDb).toBeLessThan(0.001);
    expect(match?.filters).toEqual([]);
  });

  it('of which one is brighter get a filter that brings them together', () => {
    const match = pairMatch(noise, brighter(noise, 4000, 4), RATE);
    expect(match?.rmsDb).toBeGreaterThan(0.7);
    expect(match?.filters.length).toBeGreaterThan(0);
    expect(match?.filters.length).toBeLessThanOrEqual(3);
    expect(match?.leftDb).toBeLessThan((match?.rmsDb ?? 0) / 2);
    const high = match?.filters.reduce((sum, filter) => sum + filterGainDb(filter, 10_000), 0);
    expect(high).toBeLessThan(-1.5);
  });

  it('in noises of their own differ within what is said', () => {
    const match = pairMatch(noise, pinkNoise(SECONDS * RATE, 2), RATE);
    const outside = match?.bands.filter(({ db, withinDb }) => Math.abs(db) > withinDb) ?? [];
    expect(outside.length).toBeLessThanOrEqual(4);
    expect(match?.bands[0]?.withinDb).toBeGreaterThan(match?.bands.at(-1)?.withinDb ?? 9);
  });

  it('are not judged from silence or from half a second', () => {
    expect(pairMatch(noise, new Float32Array(noise.length), RATE)).toBeNull();
    expect(pairMatch(noise.subarray(0, 20_000), noise.subarray(0, 20_000), RATE)).toBeNull();
  });

  it('filters have their gain where they should', () => {
    const peak = { kind: 'peak', hz: 1000, gainDb: 6, q: 1.4 } as const;
    expect(filterGainDb(peak, 1000)).toBeCloseTo(6, 9);
    expect(filterGainDb(peak, 20)).toBeCloseTo(0, 1);
    const low = { kind: 'low shelf', hz: 1000, gainDb: -4, q: 0.7 } as const;
    expect(filterGainDb(low, 1)).toBeCloseTo(-4, 3);
    expect(filterGainDb(low, 100_000)).toBeCloseTo(0, 3);
    expect(filterGainDb({ ...low, kind: 'high shelf' }, 100_000)).toBeCloseTo(-4, 3);
    expect(filterGainDb({ ...low, kind: 'high shelf' }, 1000)).toBeCloseTo(-2, 1);
  });
});

describe('a figure-eight from both sides', () => {
  const other = pinkNoise(SECONDS * RATE, 4);

  it('that is one is alike, with a deep null', () => {
    const found = figureEightSymmetry(noise, other, scaled(noise, 0.01), RATE);
    expect(found?.rearDb).toBeCloseTo(0, 0);
    expect(Math.abs(found?.a ?? 1)).toBeLessThan(0.03);
    expect(found?.nullDb).toBeCloseTo(-40, 0);
  });

  it('that is weaker behind leans towards the front', () => {
    // A of 0.1 is 0.8 behind.
    const found = figureEightSymmetry(noise, scaled(other, 0.8), null, RATE);
    expect(found?.a).toBeCloseTo(0.1, 1);
    expect(found?.nullDb).toBeNull();
  });
});
