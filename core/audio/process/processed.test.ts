import { describe, expect, it } from 'vitest';
import { scaled, soundOf } from '../fixtures/made';
import { whiteNoise } from '../signal/generate';
import { type Sound } from '../sound';
import { processedSound } from './processed';
import { resampledSound } from './resampled';
import { heldSamples } from '../fixtures/memory';

const RATE = 48_000;
const LENGTH = RATE;
const noise = (seed: number): Float32Array => scaled(whiteNoise(LENGTH, seed), 0.1);
const all = (sound: Sound) => heldSamples(sound, 0, 100);

function farthest(a: Float32Array | undefined, b: ArrayLike<number>, from = 0, to = b.length) {
  let most = 0;
  for (let i = from; i < to; i++) most = Math.max(most, Math.abs((a?.[i] ?? NaN) - (b[i] ?? NaN)));
  return most;
}

const sine = (hz: number, rate: number, length: number): Float32Array =>
  Float32Array.from({ length }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

describe('a recording with something done to it', () => {
  it('is as it was where nothing is done', async () => {
    const planes = [noise(1), noise(2)];
    const found = await all(processedSound(await soundOf(planes, RATE), {}));
    planes.forEach((plane, c) => expect(farthest(found[c], plane)).toBe(0));
  });

  it.each([0, 5, -7, 0.37, -120.5])('is later by %f samples, and nothing else', async (late) => {
    const sound = await soundOf([sine(3000, RATE, LENGTH), noise(2)], RATE);
    const found = await all(processedSound(sound, { shiftMs: [(late / RATE) * 1000] }));
    const wanted = Float32Array.from({ length: LENGTH }, (_, i) =>
      Math.sin((2 * Math.PI * 3000 * (i - late)) / RATE),
    );
    expect(farthest(found[0], wanted, 500, LENGTH - 500)).toBeLessThan(2e-4);
    expect(found[0]).toHaveLength(LENGTH);
  });

  it('has gains, and signs, and a fold-down with names', async () => {
    const [a, b] = [noise(1), noise(2)];
    const processed = processedSound(await soundOf([a, b], RATE), {
      gainDb: [-6.0206, 0],
      inverted: [false, true],
      fold: [{ name: 'Mono', gains: [1, 0.5] }],
    });
    expect(processed.info.channelNames).toEqual(['Mono']);
    const [mono] = await all(processed);
    const wanted = a.map((x, i) => 0.5 * x - 0.5 * (b[i] ?? 0));
    expect(farthest(mono, wanted)).toBeLessThan(1e-5);
  });

  it('decodes mid and side by one side: what is filtered there stays opposite', async () => {
    const [mid, side] = [noise(3), noise(4)];
    const sound = await soundOf([mid, side], RATE);
    const decode = { mid: 0, side: 1, sideDb: 6.0206, sideHighPassHz: 100 };
    const [l, r] = await all(processedSound(sound, { decode }));
    const sum = l?.map((x, i) => (x + (r?.[i] ?? 0)) / 2);
    expect(farthest(sum, mid)).toBeLessThan(1e-6);
    const none = { ...decode, sideHighPassHz: null };
    const [plain] = await all(processedSound(sound, { decode: none }));
    expect(
      farthest(
        plain,
        mid.map((x, i) => x + 2 * (side[i] ?? 0)),
      ),
    ).toBeLessThan(1e-5);
    expect(processedSound(sound, { decode }).info.channelNames).toEqual(['L', 'R']);
  });

  it('filters as it says, and a stretch of it is a part of the whole', async () => {
    const tone = sine(100, RATE, LENGTH);
    const sound = await soundOf([tone], RATE);
    const filter = { kind: 'high-pass', hz: 100, gainDb: 0, q: Math.SQRT1_2 } as const;
    const processed = processedSound(sound, { filters: [{ channel: 0, filter }] });
    const [whole] = await all(processed);
    const top = whole?.subarray(LENGTH / 2).reduce((most, x) => Math.max(most, x), 0) ?? 0;
    expect(20 * Math.log10(top)).toBeCloseTo(-3.01, 1);
    const [part] = await heldSamples(processed, 0.6, 0.2);
    expect(farthest(part, whole?.subarray(0.6 * RATE, 0.8 * RATE) ?? [])).toBeLessThan(1e-5);
    for (const [kind, hz, db] of [
      ['peak', 100, 6],
      ['low shelf', 1000, -4],
      ['high shelf', 20, 5],
    ] as const) {
      const setting = { channel: 0, filter: { kind, hz, gainDb: db, q: 0.7 } };
      const [out] = await all(processedSound(sound, { filters: [setting] }));
      const most = out?.subarray(LENGTH / 2).reduce((top2, x) => Math.max(top2, x), 0) ?? 0;
      expect(Math.abs(20 * Math.log10(most) - db)).toBeLessThan(0.35);
    }
  });

  it('refuses what is out of range by its name', async () => {
    const sound = await soundOf([noise(1)], RATE);
    expect(() => processedSound(sound, { shiftMs: [2001] })).toThrow(/shiftMs/);
    expect(() => processedSound(sound, { gainDb: [61] })).toThrow(/gainDb/);
    const filter = { kind: 'peak', hz: 24_000, gainDb: 0, q: 1 } as const;
    expect(() => processedSound(sound, { filters: [{ channel: 0, filter }] })).toThrow(/hz/);
    expect(() => resampledSound(sound, 999)).toThrow(/sampleRateHz/);
  });
});

describe('another rate', () => {
  it.each([
    [44_100, 48_000],
    [48_000, 44_100],
    [96_000, 44_100],
    [44_100, 96_000],
    [48_000, 47_999],
  ])('from %i to %i Hz keeps a tone to −90 dB', async (from, to) => {
    const hz = 0.9 * 0.5 * Math.min(from, to);
    const length = Math.round(from / 2);
    const sound = resampledSound(await soundOf([sine(hz, from, length)], from), to);
    const [found] = await all(sound);
    expect(found).toHaveLength(Math.ceil((length * to) / from));
    const wanted = sine(hz, to, found?.length ?? 0);
    const edge = Math.round(to / 100);
    const most = farthest(found, wanted, edge, wanted.length - edge);
    expect(20 * Math.log10(most)).toBeLessThan(-85);
  });

  it('leaves out what it cannot hold, to −100 dB', async () => {
    const sound = resampledSound(await soundOf([sine(30_000, 96_000, 48_000)], 96_000), 44_100);
    const [found] = await all(sound);
    const inner = found?.subarray(1000, found.length - 1000) ?? new Float32Array(1).fill(1);
    const most = inner.reduce((top, x) => Math.max(top, Math.abs(x)), 0);
    expect(20 * Math.log10(most)).toBeLessThan(-100);
  });

  it('is the same in pieces, and as it was at its own rate', async () => {
    const sound = await soundOf([noise(1)], RATE);
    expect(resampledSound(sound, RATE)).toBe(sound);
    const other = resampledSound(sound, 32_000);
    const [whole] = await all(other);
    const [part] = await heldSamples(other, 0.25, 0.5);
    expect(farthest(part, whole?.subarray(8000, 24_000) ?? [])).toBe(0);
  });
});
