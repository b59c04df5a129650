import { describe, expect, it } from 'vitest';
import { scaled, soundOf } from '../fixtures/made';
import { delayed, whiteNoise } from '../signal/generate';
import { MEASURABLE, passesOf } from './meters';
import { measureTake } from './take';

const RATE = 48_000;
const noise = scaled(whiteNoise(3 * RATE, 1), 0.1);

describe('a take of many channels', () => {
  it('is read once up to sixteen, and more often beyond: everything that is asked, once', () => {
    expect(passesOf(MEASURABLE, 16, 0)).toHaveLength(1);
    const passes = passesOf(MEASURABLE, 40, 3);
    expect(passes[0]).toMatchObject({ what: ['levels', 'bands', 'identity'], whole: true });
    // Of each part, every channel once.
    for (const part of [...MEASURABLE, 'onsets'] as const) {
      if (part === 'decay' || part === 'delays') continue;
      const of = passes.filter(({ what }) => what.includes(part));
      const read = of.flatMap(({ only }) => only ?? Array.from({ length: 40 }, (_, c) => c));
      expect(read).toEqual(Array.from({ length: 40 }, (_, c) => c));
    }
    const pairs = passes.flatMap((pass) => pass.pairs);
    expect(pairs).toEqual(Array.from({ length: 40 }, (_, c) => [3, c]));
    for (const { only, pairs: some } of passes) {
      if (only && some.length > 0) expect(new Set(only)).toEqual(new Set(some.flat()));
    }
    expect(passesOf(['levels'], 64, 0)).toHaveLength(1);
  });

  it('has the figures of each of its channels, whatever pass they are from', async () => {
    // Each a little later and softer than the one before; against one in the middle.
    const planes = Array.from({ length: 20 }, (_, c) => scaled(delayed(noise, 10 * c), 0.95 ** c));
    const sound = await soundOf(planes, RATE);
    const found = await measureTake(sound, { against: 7 });
    const alone = await measureTake(await soundOf([planes[18] as Float32Array], RATE));
    expect(found.delays).toHaveLength(19);
    for (const { channel, whole } of found.delays ?? []) {
      expect(whole?.delayMs).toBeCloseTo(((channel - 7) * 10) / 48, 3);
      expect(whole?.levelDb).toBeCloseTo(20 * Math.log10(0.95) * (channel - 7), 1);
    }
    expect(found.seconds).toBe(3);
    const [one, other] = [found.channels?.[18], alone.channels?.[0]];
    expect(one?.rmsDb).toBeCloseTo(other?.rmsDb ?? NaN, 9);
    expect(one).toEqual({ ...other, rmsDb: one?.rmsDb, offset: one?.offset });
    expect(found.hum?.[18]).toEqual(alone.hum?.[0]);
    expect(found.resonances?.[18]).toEqual(alone.resonances?.[0]);
    expect(found.decay?.[18]).toEqual(alone.decay?.[0]);
    expect(found.identity?.same.length).toBe(0);
  });
});
