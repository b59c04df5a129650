import { describe, expect, it } from 'vitest';
import { heldSamples, memorySource } from '../fixtures/memory';
import { soundOf } from '../fixtures/made';
import { makeSignal, pinkNoise } from '../signal/generate';
import { openSound, type Sound } from '../sound';
import { encodeFrames, wavHeader, type Planes } from '../wav';
import { Cancelled } from '../work';
import { ByteSum, exported, exportParts, readBack, writeExport, type ExportAsk } from './exported';

const RATE = 48_000;
const ASK: ExportAsk = {
  fromS: 0,
  toS: null,
  processing: {},
  channels: null,
  sampleRateHz: null,
  format: { kind: 'integer', bits: 24 },
  dither: true,
};
const sine = (seconds = 1, hz = 997, db = -6) =>
  makeSignal('tone', { sampleRateHz: RATE, seconds, hz, levelDb: db })[0] ?? new Float32Array();

/** The file that an export makes, opened again. */
async function written(sound: Sound, ask: Partial<ExportAsk> = {}) {
  const made = exported(sound, { ...ASK, ...ask });
  const sum = new ByteSum();
  const parts: Uint8Array[] = [];
  for await (const part of exportParts(made, sum)) parts.push(part.slice());
  const bytes = new Uint8Array(Buffer.concat(parts));
  const read = await openSound(memorySource(bytes));
  if (!read.ok) throw new Error(read.message);
  return { made, sum, bytes, sound: read.value, planes: await heldSamples(read.value, 0, 1e6) };
}

/** A recording with a time stamp. */
async function stamped(planes: Float32Array[], timeReference: number): Promise<Sound> {
  const format = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz: RATE } as const;
  const frames = planes[0]?.length ?? 0;
  const broadcast = {
    ...{ description: '', originator: '', originatorReference: '', date: '', time: '' },
    ...{ timeReference, codingHistory: '' },
  };
  const bytes = Buffer.concat([
    wavHeader(format, frames, { broadcast, channelNames: planes.map((_, c) => `Mic ${c + 1}`) }),
    encodeFrames(planes, frames, format),
  ]);
  const sound = await openSound(memorySource(new Uint8Array(bytes)));
  if (!sound.ok) throw new Error(sound.message);
  return sound.value;
}

describe('an export', () => {
  it('of 24 bits with dither reads back within two steps, without it within half of one', async () => {
    const plane = sine();
    const sound = await soundOf([plane], RATE);
    const step = 2 ** -23;
    const most = ([read = new Float32Array()]: Planes): number => {
      let worst = 0;
      for (const [i, v] of plane.entries()) worst = Math.max(worst, Math.abs((read[i] ?? 9) - v));
      return worst;
    };
    const noisy = await written(sound);
    // Half a step of rounding, and at most one of noise beside it.
    expect(most(noisy.planes)).toBeLessThanOrEqual(1.5 * step + 1e-9);
    expect(most(noisy.planes)).toBeGreaterThan(0.6 * step);
    const bare = await written(sound, { dither: false });
    expect(most(bare.planes)).toBeLessThanOrEqual(0.5 * step + 1e-9);
    const exact = await written(sound, { format: { kind: 'float', bits: 32 } });
    expect(most(exact.planes)).toBe(0);
  });

  it('of a stretch, some channels and another rate has what was asked, its names and its stamp', async () => {
    const sound = await stamped([sine(2), sine(2, 500), sine(2, 200)], 96_000);
    const { sound: read, made } = await written(sound, {
      fromS: 0.5,
      toS: 1.25,
      channels: [2, 0],
      sampleRateHz: 96_000,
    });
    expect(read.info.frames).toBe(72_000);
    expect(read.info.channelNames).toEqual(['Mic 3', 'Mic 1']);
    expect(read.info.format).toMatchObject({ sampleRateHz: 96_000, bits: 24, channels: 2 });
    // Two seconds and a half since midnight, at the new rate.
    expect(read.info.broadcast?.timeReference).toBe(240_000);
    expect(read.info.broadcast?.codingHistory).toContain('A=PCM,F=96000,W=24,M=stereo');
    expect(made.bytes).toBe(72_000 * 6);
  });

  it('moves the stamp where all moves by whole samples, else the sound', async () => {
    const planes = [sine(0.2), sine(0.2, 500)];
    const sound = await stamped(planes, 48_000);
    const later = await written(sound, { processing: { shiftMs: [5, 5] }, dither: false });
    expect(later.made.stampMoved).toBe(240);
    expect(later.sound.info.broadcast?.timeReference).toBe(48_240);
    expect(later.planes[0]?.[100]).toBeCloseTo(planes[0]?.[100] ?? NaN, 6);
    // One of them alone moves its sound, and so does a part of a sample.
    const one = await written(sound, { processing: { shiftMs: [5, 0] }, dither: false });
    expect(one.made.stampMoved).toBe(0);
    expect(one.sound.info.broadcast?.timeReference).toBe(48_000);
    expect(one.planes[0]?.[340]).toBeCloseTo(planes[0]?.[100] ?? NaN, 4);
    const part = await written(sound, { processing: { shiftMs: [5.01, 5.01] } });
    expect(part.made.stampMoved).toBe(0);
    // Before midnight no stamp can stand.
    const early = await written(sound, { processing: { shiftMs: [-1500, -1500] } });
    expect(early.made.stampMoved).toBe(0);
  });

  it('shifted nulls against the original below −90 dB up to 18 kHz', async () => {
    const hz = [60, 997, 7001, 15_013, 17_987];
    const frames = RATE;
    const at = (i: number): number =>
      hz.reduce((sum, f) => sum + 0.15 * Math.sin((2 * Math.PI * f * i) / RATE), 0);
    const plane = Float32Array.from({ length: frames }, (_, i) => at(i));
    const lateMs = 4.1037;
    const { planes } = await written(await soundOf([plane], RATE), {
      processing: { shiftMs: [lateMs] },
      format: { kind: 'float', bits: 32 },
    });
    let [left, all] = [0, 0];
    for (let i = 2000; i < frames - 2000; i++) {
      const wanted = at(i - (lateMs / 1000) * RATE);
      left += ((planes[0]?.[i] ?? 0) - wanted) ** 2;
      all += wanted ** 2;
    }
    expect(10 * Math.log10(left / all)).toBeLessThan(-90);
  });

  it('says what does not fit', async () => {
    const sound = await soundOf([sine(0.1, 997, -1)], RATE);
    const loud = await written(sound, { processing: { gainDb: [6] } });
    expect(loud.sum.over).toBeGreaterThan(100);
    expect(20 * Math.log10(loud.sum.peak)).toBeCloseTo(5, 1);
    expect((await written(sound)).sum.over).toBe(0);
  });

  it('refuses a stretch of nothing and a channel that is not there', async () => {
    const sound = await soundOf([sine(0.1)], RATE);
    expect(() => exported(sound, { ...ASK, fromS: 0.1 })).toThrow('no sample');
    expect(() => exported(sound, { ...ASK, fromS: 0.05, toS: 0.05 })).toThrow('no sample');
    expect(() => exported(sound, { ...ASK, channels: [1] })).toThrow(RangeError);
    expect(() => exported(sound, { ...ASK, channels: [] })).toThrow(RangeError);
    expect(() => exported(sound, { ...ASK, processing: { shiftMs: [2001] } })).toThrow(RangeError);
    expect(() => exported(sound, { ...ASK, sampleRateHz: 999 })).toThrow(RangeError);
  });
});

describe('reading back', () => {
  it('finds one byte that is another, one that is missing, and a header that says other', async () => {
    const { made, sum, bytes } = await written(await soundOf([sine(0.1)], RATE));
    expect(await readBack(memorySource(bytes), made, sum)).toBeNull();
    const hurt = bytes.slice();
    hurt[900] = (hurt[900] ?? 0) ^ 1;
    expect(await readBack(memorySource(hurt), made, sum)).toContain('some bytes are others');
    expect(await readBack(memorySource(bytes.slice(1)), made, sum)).toContain(
      'bytes; written were',
    );
    // Two bytes that changed places have the same plain sum.
    const swapped = bytes.slice();
    [swapped[900], swapped[907]] = [bytes[907] ?? 0, bytes[900] ?? 0];
    if (swapped[900] !== swapped[907]) {
      expect(await readBack(memorySource(swapped), made, sum)).toContain('some bytes are others');
    }
  });
});

describe('writing', () => {
  const LONG = 200 * 2 ** 20;
  /** A recording of any length that is nowhere in memory. */
  const endless = async (seconds: number): Promise<Sound> => {
    const block = pinkNoise(16_384, 3);
    const { info } = await soundOf([block.subarray(0, 8), block.subarray(0, 8)], RATE);
    const frames = Math.round(seconds * RATE);
    return {
      info: { ...info, frames },
      async *blocks({ from = 0, to = frames } = {}) {
        for (let position = from; position < to; position += 16_384) {
          const some = Math.min(16_384, to - position);
          await Promise.resolve();
          yield { position, frames: some, planes: [block.slice(), block.slice()] };
        }
      },
    };
  };
  const counting = () => {
    const told = { bytes: 0, closed: false, aborted: false };
    const sink = {
      write(part: Uint8Array) {
        told.bytes += part.length;
        return Promise.resolve();
      },
      close() {
        told.closed = true;
        return Promise.resolve();
      },
      abort() {
        told.aborted = true;
        return Promise.resolve();
      },
      source: () => Promise.resolve(null),
    };
    return { told, sink };
  };

  it('goes through piece by piece, whatever its length', async () => {
    const bytes = process.env.ROTUNDA_SOAK ? 5 * 2 ** 30 : LONG;
    const sound = await endless(bytes / 6 / RATE);
    const { told, sink } = counting();
    let most = 0;
    const before = process.memoryUsage().arrayBuffers;
    const done = await writeExport(exported(sound, ASK), sink, {
      progress: () => {
        most = Math.max(most, process.memoryUsage().arrayBuffers - before);
      },
    });
    expect(told.bytes).toBe(done.bytes);
    expect(done.bytes).toBeGreaterThan(0.999 * bytes);
    expect(told.closed).toBe(true);
    expect(most).toBeLessThan(300 * 2 ** 20);
  });

  it('given up at any time leaves nothing', async () => {
    const sound = await endless(30);
    for (const at of [0, 0.3, 0.79]) {
      const signal = { aborted: at === 0 };
      const { told, sink } = counting();
      const work = writeExport(exported(sound, ASK), sink, {
        signal,
        progress: (fraction) => (signal.aborted ||= fraction >= at),
      });
      await expect(work).rejects.toThrow(Cancelled);
      expect([told.closed, told.aborted]).toEqual([false, true]);
    }
  });
});
