import { describe, expect, it } from 'vitest';
import { scaled } from '../fixtures/made';
import { pinkNoise, whiteNoise } from '../signal/generate';
import { LevelMeter } from './levels';

const RATE = 48_000;

function flatTops(samples: Float32Array, bits = 24) {
  const meter = new LevelMeter({
    format: { kind: 'integer', bits, channels: 1, sampleRateHz: RATE, bigEndian: false },
    validBits: bits,
    channelNames: [''],
  });
  const full = 2 ** (bits - 1);
  const written = samples.map((value) => Math.round(value * full) / full);
  for (let from = 0; from < written.length; from += 5000) {
    const part = written.subarray(from, from + 5000);
    meter.add([part], part.length, from);
  }
  return meter.result().channels[0]?.flatTops ?? null;
}

const tone = (hz: number, gain: number): Float32Array =>
  Float32Array.from({ length: 2 * RATE }, (_, i) => gain * Math.sin((2 * Math.PI * hz * i) / RATE));
const clipped = (samples: Float32Array): Float32Array =>
  samples.map((value) => Math.max(-1, Math.min(1, value)));

describe('flat tops', () => {
  it.each([16, 24])('of what was clipped and turned down are found, at %i bits', (bits) => {
    for (const wave of [tone(440, 1.4), tone(60, 1.2), scaled(pinkNoise(2 * RATE, 4), 7)]) {
      for (const db of [-3, -11.5]) {
        const found = flatTops(scaled(clipped(wave), 10 ** (db / 20)), bits);
        expect(found?.levelDb).toBeCloseTo(db, 1);
        expect(found?.crests).toBeGreaterThan(20);
      }
    }
  });

  it.each([16, 24])('are none of whole waves, however slow, at %i bits', (bits) => {
    for (const hz of [20, 41.3, 120, 1000, 12_000]) {
      expect(flatTops(tone(hz, 0.7), bits)).toBeNull();
    }
    expect(flatTops(scaled(whiteNoise(2 * RATE, 1), 0.2), bits)).toBeNull();
    expect(flatTops(scaled(pinkNoise(2 * RATE, 1), 0.9), bits)).toBeNull();
    expect(flatTops(new Float32Array(RATE), bits)).toBeNull();
  });

  it('at full scale are clips, and no flat tops', () => {
    expect(
      flatTops(clipped(tone(440, 2)).map((value) => Math.min(value, 1 - 2 ** -23))),
    ).toBeNull();
  });
});
