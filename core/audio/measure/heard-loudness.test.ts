import { describe, expect, it } from 'vitest';
import { soundOf } from '../fixtures/made';
import { makeSignal } from '../signal/generate';
import { heardLoudness } from './heard-loudness';
import { measureTake } from './take';

const RATE = 48_000;
const noise = (seed: number, seconds = 4) =>
  makeSignal('pink', { sampleRateHz: RATE, seconds, seed, levelDb: -20 })[0] ?? new Float32Array();
const [LEFT, RIGHT] = [
  { left: 1, right: 0 },
  { left: 0, right: 1 },
];
const MIDDLE = { left: 1, right: 1 };

describe('loudness of what is heard of a recording', () => {
  it('of two channels is the integrated loudness of the recording', async () => {
    const sound = await soundOf([noise(1), noise(2)], RATE);
    const { loudness } = await measureTake(sound, { what: ['levels'] });
    expect(await heardLoudness(sound, [LEFT, RIGHT], {})).toBeCloseTo(loudness?.integrated ?? 0, 6);
  });

  it('of one channel in both loudspeakers is 3.01 dB above that of it alone', async () => {
    const sound = await soundOf([noise(1), noise(2)], RATE);
    const alone = (await heardLoudness(sound, [LEFT], {})) ?? 0;
    expect(await heardLoudness(sound, [MIDDLE], {})).toBeCloseTo(alone + 3.0103, 3);
    expect(await heardLoudness(sound, [{ left: 0, right: 0 }, MIDDLE], {})).not.toBeNull();
  });

  it('of a channel and its likeness turned over is nothing, and none of what is not heard', async () => {
    const one = noise(3);
    const sound = await soundOf([one, one.map((x) => -x)], RATE);
    expect(await heardLoudness(sound, [MIDDLE, MIDDLE], {})).toBeNull();
    expect(await heardLoudness(sound, [], {})).toBeNull();
    // Later by a whole sample they no longer cancel.
    expect(await heardLoudness(sound, [MIDDLE, MIDDLE], { shiftMs: [0, 1] })).not.toBeNull();
  });

  it('of a long one is that of parts of it, and tells how far it is', async () => {
    const low = 8000;
    const frames = 900 * low;
    const plane = new Float32Array(frames);
    for (let i = 0; i < frames; i++) plane[i] = 0.1 * Math.sin((2 * Math.PI * 997 * i) / low);
    const sound = await soundOf([plane], low);
    const told: number[] = [];
    const found = await heardLoudness(sound, [LEFT], {}, { progress: (at) => told.push(at) });
    // A sine of −20 dB peak at 997 Hz in one channel: −23.0 LUFS (ITU-R BS.1770).
    expect(found).toBeCloseTo(-23.01, 1);
    expect(told.at(-1)).toBeCloseTo(1, 6);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
  });
});
