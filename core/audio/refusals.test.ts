import { describe, expect, it } from 'vitest';
import { crowded } from '../fixtures/set-ups';
import { headFilters } from './listen/head';
import { LevelMeter } from './measure/levels';
import { keyName, nearestNote, removedFundamentals } from './measure/notes';
import { phraseOf } from './players/phrase';
import { planTake } from './render/plan';
import { makeSignal, whiteNoise } from './signal/generate';
import { powerOfTwo } from './signal/spectrum';
import { encodeFrames, wavHeader } from './wav';

type Asked = readonly [name: string, ask: (value: number) => unknown, least: number, most: number];

const signal = (change: object) => makeSignal('delayed', { seconds: 0.05, ...change });
const format = { kind: 'integer', bits: 16, channels: 1, sampleRateHz: 8000 } as const;
const take = (change: object) => planTake(crowded, { dry: true, seconds: 1, ...change });

/** What each may be at the least and the most; whole numbers are one beyond, others a hundredth. */
const ASKED: Asked[] = [
  ['sampleRateHz', (sampleRateHz) => signal({ sampleRateHz }), 1000, 384_000],
  ['correlation', (correlation) => signal({ correlation }), -1, 1],
  ['delayMs', (delayMs) => signal({ delayMs }), -100, 100],
  ['rt60S', (rt60S) => signal({ rt60S }), 0.05, 20],
  ['hz', (hz) => signal({ hz }), 1, 192_000],
  ['levelDb', (levelDb) => signal({ levelDb }), -120, 0],
  ['noiseDb', (noiseDb) => signal({ noiseDb }), -200, 0],
  ['sampleRateHz', headFilters, 8000, 192_000],
  ['hz', (hz) => nearestNote(hz), 8, 20_000],
  ['cutHz', (hz) => removedFundamentals(hz), 1, 20_000],
  ['channels', (channels) => wavHeader({ ...format, channels }, 10), 1, 64],
  ['sampleRateHz', (sampleRateHz) => wavHeader({ ...format, sampleRateHz }, 10), 1000, 1_000_000],
  ['least', powerOfTwo, 1, 2 ** 24],
  ['seconds', (seconds) => take({ seconds }), 1, 600],
];

describe('what is asked for of sound', () => {
  it.each(ASKED)('%s: from the least to the most, and nothing beyond', (name, ask, least, most) => {
    const beyond = (value: number) => (Number.isInteger(value) ? 1 : 0.01);
    expect(() => ask(least)).not.toThrow();
    expect(() => ask(most)).not.toThrow();
    const refusal = new RegExp(`^${name} is .* allowed: ${least} to ${most}`);
    expect(() => ask(least - beyond(least))).toThrow(refusal);
    expect(() => ask(most + beyond(most))).toThrow(refusal);
    expect(() => ask(NaN)).toThrow(refusal);
  });

  it('is refused where trying it would take too long', () => {
    expect(() => signal({ seconds: 0.009 })).toThrow(/^seconds is 0.009; allowed: 0.01 to 600 s/);
    expect(() => signal({ seconds: 601 })).toThrow(RangeError);
    expect(() => whiteNoise(2 ** 28 + 1, 1)).toThrow(RangeError);
    expect(whiteNoise(0, 1)).toHaveLength(0);
    expect(() => phraseOf('violin', 'scale', 1, 7999)).toThrow(/allowed: 8000 to 192000 Hz/);
    expect(() => phraseOf('violin', 'scale', 1, 192_001)).toThrow(RangeError);
    expect(() => take({ sampleRateHz: 7999 })).toThrow(/allowed: 8000 to 192000 Hz/);
    expect(() => take({ sampleRateHz: 192_001 })).toThrow(RangeError);
    expect(() => wavHeader(format, -1)).toThrow(RangeError);
    expect(() => wavHeader({ ...format, kind: 'float', bits: 16 } as never, 1)).toThrow(
      'bits is 16; allowed: 32, 64 for floats',
    );
  });
});

describe('full scale', () => {
  it('is the largest whole number of an integer, and one of a float', () => {
    const clipsOf = (kind: 'integer' | 'float', validBits: number, top: number): number => {
      const meter = new LevelMeter({
        format: { kind, bits: 32, channels: 1, sampleRateHz: 8000, bigEndian: false },
        validBits,
        channelNames: ['L'],
      });
      const samples = Float32Array.from({ length: 800 }, (_, i) => (i % 100 < 5 ? top : 0.1));
      meter.add([samples], samples.length, 0);
      return meter.result().channels[0]?.clips ?? NaN;
    };
    expect(clipsOf('integer', 16, 1 - 2 ** -15)).toBe(8);
    expect(clipsOf('integer', 16, 1 - 3 * 2 ** -15)).toBe(0);
    expect(clipsOf('float', 32, 1)).toBe(8);
    expect(clipsOf('float', 32, 1 - 2 ** -15)).toBe(0);
  });

  it('is told in the order of time, whatever channel it is in', () => {
    const meter = new LevelMeter({
      format: { kind: 'float', bits: 32, channels: 2, sampleRateHz: 8000, bigEndian: false },
      validBits: 32,
      channelNames: ['L', 'R'],
    });
    const clipped = (at: readonly number[]) =>
      Float32Array.from({ length: 800 }, (_, i) => (at.some((a) => i >= a && i < a + 4) ? 1 : 0));
    meter.add([clipped([100, 600]), clipped([50, 300])], 800, 0);
    expect(meter.result().clips.map(({ channel, atS }) => [channel, atS * 8000])).toEqual([
      [1, 50],
      [0, 100],
      [1, 300],
      [0, 600],
    ]);
  });

  it('keeps its sign and size in sixteen bits', () => {
    const bytes = encodeFrames([Float32Array.from([1, -1, 0.5, -0.25])], 4, format);
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    expect([0, 2, 4, 6].map((at) => view.getInt16(at, true))).toEqual([
      32_767, -32_768, 16_384, -8192,
    ]);
  });

  it('is heard by names as well', () => {
    expect([21, 60, 61, 69, 108].map((key) => keyName(key))).toEqual([
      'A0',
      'C4',
      'C sharp 4',
      'A4',
      'C8',
    ]);
  });
});
