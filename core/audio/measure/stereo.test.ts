import { describe, expect, it } from 'vitest';
import { chosenChannels } from '../chosen';
import { scaled, soundOf } from '../fixtures/made';
import { delayed, pinkNoise, whiteNoise } from '../signal/generate';
import { shiftsOf } from '../../localisation/models';
import { imagesOf, placesByBand, stereoOf } from './stereo';
import { curvesOf } from './curves';
import { heldSamples } from '../fixtures/memory';

const RATE = 48_000;
const LENGTH = 6 * RATE;
const noise = scaled(pinkNoise(LENGTH, 1), 0.1);

describe('some channels of a recording', () => {
  it('are those, in the order that is asked for, one of them twice as well', async () => {
    const planes = [0.1, 0.2, 0.3].map((v) => new Float32Array(100).fill(v));
    const some = chosenChannels(await soundOf(planes, RATE), [2, 0, 2]);
    expect(some.info.format.channels).toBe(3);
    const held = await heldSamples(some, 0, 1);
    expect(held.map((plane) => Number(plane[50]?.toFixed(4)))).toEqual([0.3, 0.1, 0.3]);
    expect(() => chosenChannels(some, [3])).toThrow(RangeError);
  });
});

describe('a stereo pair', () => {
  it('has its image where the models put level and delay, in every octave', async () => {
    const right = scaled(delayed(noise, 12), 0.5);
    const sound = await soundOf([noise, right], RATE);
    const images = imagesOf(await curvesOf(sound, { from: 0, to: LENGTH }));
    const [expected = 0] = shiftsOf(false, -6.02, -0.25);
    expect(expected).toBeLessThan(-0.5);
    const told = images.filter(({ all }) => all !== null);
    expect(told.length).toBeGreaterThan(10);
    for (const { all } of told) expect(all?.shift).toBeCloseTo(expected, 1);
    const places = placesByBand(images);
    expect(places.map(({ hz }) => hz)).toContain(1000);
    for (const { hz, middle } of places.filter((of) => of.hz >= 250)) {
      expect([hz, Math.abs(middle - expected) < 0.06]).toEqual([hz, true]);
    }
  });

  it('says where mono loses most, and leaves pauses out', async () => {
    const turned = noise.map((v, i) => {
      if (i < 2 * RATE) return v;
      // A pause, in which only noise of the cables is left, which is turned over altogether.
      return i < 3 * RATE ? -v * 1e-4 : i < 4 * RATE ? -0.5 * v : v;
    });
    const first = noise.map((v, i) => (i >= 2 * RATE && i < 3 * RATE ? v * 1e-4 : v));
    const sound = await soundOf([first, turned], RATE);
    const { worstMono, points, bands, images } = await stereoOf(
      sound,
      [0, 1],
      { from: 0, to: LENGTH },
      500,
    );
    // (1 − 0.5)² against 1 + 0.5².
    expect(worstMono?.db).toBeCloseTo(10 * Math.log10(0.25 / 1.25), 1);
    expect(worstMono?.fromS).toBeGreaterThanOrEqual(2.9);
    expect(worstMono?.toS).toBeLessThanOrEqual(4.1);
    expect(points.length).toBeLessThanOrEqual(1000);
    expect(bands?.monoLoss.length).toBe(31);
    // Turned over, it has no place.
    expect(images[8]?.all).toBeNull();
    expect(images[2]?.all?.shift).toBeCloseTo(0, 1);
  });

  it('of silence, and of channels that share nothing, has no place', async () => {
    const silence = new Float32Array(LENGTH);
    const still = await stereoOf(
      await soundOf([silence, silence], RATE),
      [0, 1],
      { from: 0, to: LENGTH },
      100,
    );
    expect(still.worstMono).toBeNull();
    expect(still.images.every(({ all }) => all === null)).toBe(true);
    const apart = await soundOf([noise, scaled(whiteNoise(LENGTH, 4), 0.1)], RATE);
    const { images } = await stereoOf(apart, [0, 1], { from: 0, to: LENGTH }, 100);
    expect(placesByBand(images)).toEqual([]);
  });
});
