import { describe, expect, it } from 'vitest';
import { plus, scaled, soundOf } from '../fixtures/made';
import { delayed, pinkNoise, whiteNoise } from '../signal/generate';
import { curvesOf, delayMatrix, stereoPoints } from './curves';

const RATE = 48_000;
const SECONDS = 6;
const LENGTH = SECONDS * RATE;
const whole = { from: 0, to: LENGTH };
const first = scaled(whiteNoise(LENGTH, 1), 0.1);

describe('curves over time', () => {
  it('tell loudness, likeness, lean and levels where they are', async () => {
    const half = LENGTH / 2;
    // The second half: turned over in the second channel, and 6 dB softer there.
    const second = first.map((x, i) => (i < half ? x : -x / 2));
    const found = await curvesOf(await soundOf([first, second], RATE), whole);
    const at = (s: number): number => Math.round(s / found.stepS);
    expect(found.correlation[at(1)]).toBeCloseTo(1, 5);
    expect(found.correlation[at(5)]).toBeCloseTo(-1, 5);
    expect(found.leanDb[at(1)]).toBeCloseTo(0, 5);
    expect(found.leanDb[at(5)]).toBeCloseTo(6.02, 2);
    expect(found.momentary.slice(0, 3)).toEqual([null, null, null]);
    expect(found.shortTerm[28]).toBeNull();
    expect((found.momentary[at(1)] ?? 0) - (found.momentary[at(5)] ?? 0)).toBeCloseTo(2.04, 0);
    const octave = (c: number, s: number): number =>
      found.bands[c]?.find(({ hz }) => hz === 1000)?.db[at(s)] ?? NaN;
    expect(octave(0, 1) - octave(1, 5)).toBeGreaterThan(3);
    expect(octave(0, 1) - octave(1, 5)).toBeLessThan(9);
  });

  it('of silence are nothing, and of a part begin with it', async () => {
    const silence = new Float32Array(LENGTH);
    const sound = await soundOf([silence, silence], RATE);
    const found = await curvesOf(sound, { from: RATE, to: 4 * RATE });
    expect(found.fromS).toBe(1);
    expect(found.correlation).toHaveLength(30);
    for (const list of [found.correlation, found.leanDb, found.momentary, found.shortTerm]) {
      expect(list.every((value) => value === null)).toBe(true);
    }
  });

  it('have points in between: up what is shared, to the left what the left has more of', async () => {
    const sound = await soundOf([first, scaled(first, 0.5)], RATE);
    const points = await stereoPoints(sound, whole, [0, 1], 1000);
    expect(points.length / 2).toBeLessThanOrEqual(1000);
    expect(points.length / 2).toBeGreaterThan(900);
    for (let i = 0; i < points.length; i += 2) {
      expect((points[i] ?? 0) / (points[i + 1] ?? 1)).toBeCloseTo(-1 / 3, 4);
    }
  });
});

describe('every pair of channels', () => {
  it('has its delay and verdict; the farthest is named, and what is unlike is not told', async () => {
    const late = scaled(delayed(first, 96), -0.5);
    const other = scaled(pinkNoise(LENGTH, 9), 0.2);
    const mixed = plus(scaled(delayed(first, 4800), 0.3), scaled(whiteNoise(LENGTH, 7), 0.1));
    const sound = await soundOf([first, late, other, mixed, new Float32Array(LENGTH)], RATE);
    const found = await delayMatrix(sound, whole, [0, 1, 2, 3, 4], 200);
    const of = (a: number, b: number) =>
      found.pairs.find((pair) => pair.first === a && pair.second === b);
    expect(of(0, 1)?.delay).toMatchObject({ verdict: 'certain', polarity: -1 });
    expect(of(0, 1)?.delay?.delayMs).toBeCloseTo(2, 3);
    expect(of(0, 2)?.delay).toMatchObject({ verdict: 'cannot be told', delayMs: null });
    expect(of(0, 3)?.delay?.delayMs).toBeCloseTo(100, 2);
    expect(of(1, 3)?.delay?.delayMs).toBeCloseTo(98, 2);
    expect(of(0, 4)?.delay).toBeNull();
    expect(found.farthest).toMatchObject({ first: 0, second: 3 });
    const curve = of(0, 1)?.curve;
    const lag = Math.round((2 - (curve?.fromMs ?? 0)) / (curve?.stepMs ?? 1));
    expect(curve?.values[lag]).toBeLessThan(-0.9);
  });

  it('are sixteen channels at most', async () => {
    const sound = await soundOf([first], RATE);
    const many = Array.from({ length: 17 }, (_, c) => c);
    await expect(delayMatrix(sound, whole, many, 10)).rejects.toThrow(RangeError);
  });
});
