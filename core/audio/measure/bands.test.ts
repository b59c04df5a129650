import { describe, expect, it } from 'vitest';
import { scaled } from '../fixtures/made';
import { whiteNoise } from '../signal/generate';
import { bestEngine } from '../signal/fast-spectra';
import { BandMeter, MEASURED_OCTAVES_HZ, nominalHz, THIRDS_HZ } from './bands';

const SECONDS = 12;

const tone = (hz: number, rate: number): Float32Array =>
  Float32Array.from({ length: SECONDS * rate }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

/** Noise so far under a tone that only leakage could hide it. */
const FLOOR_DB = -70;

describe.each([44_100, 48_000, 96_000, 192_000])('bands at %i Hz', (rate) => {
  it.each([50, 160, 1000])('a tone of %i Hz stays in its octave, to −60 dB', async (hz) => {
    const meter = new BandMeter(1, rate, await bestEngine());
    meter.add([tone(hz, rate)], SECONDS * rate);
    const centre = MEASURED_OCTAVES_HZ.reduce((best, one) =>
      Math.abs(Math.log2(one / hz)) < Math.abs(Math.log2(best / hz)) ? one : best,
    );
    for (const { hz: band, db } of meter.result().noiseFloor[0] ?? []) {
      if (band === centre) expect(db).toBeCloseTo(-3.01, 0);
      else expect(db ?? -200, `${band} Hz`).toBeLessThan(-63);
    }
  });

  it('every third has bins of its own: what is turned over in one is gone there only', async () => {
    for (const hz of [20.2, 25.4, 40, 101, 403, 5080]) {
      const length = SECONDS * rate;
      const [a, b] = [whiteNoise(length, 1), whiteNoise(length, 2)].map((noise) =>
        scaled(noise, 10 ** (FLOOR_DB / 20)),
      ) as [Float32Array, Float32Array];
      const loud = tone(hz, rate);
      const meter = new BandMeter(2, rate, await bestEngine());
      const first = a.map((x, i) => x + (loud[i] ?? 0));
      const second = b.map((x, i) => x - (loud[i] ?? 0));
      meter.add([first, second], length);
      const { monoLoss } = meter.result();
      const at = THIRDS_HZ.findIndex((one) => Math.abs(Math.log2(one / hz)) < 1 / 6);
      expect(monoLoss[at]?.db).toBeLessThan(-30);
      // Independent noise keeps what it has: leakage of the tone would take it away.
      for (const beside of [at - 2, at + 2]) {
        const db = monoLoss[beside]?.db;
        if (db !== undefined && db !== null) expect(Math.abs(db), `${hz} Hz`).toBeLessThan(4);
      }
    }
  });
});

describe('names of bands', () => {
  it('are the preferred numbers', () => {
    expect(THIRDS_HZ.map(nominalHz)).toEqual([
      20, 25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250,
      1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000, 10_000, 12_500, 16_000, 20_000,
    ]);
    expect(MEASURED_OCTAVES_HZ.map(nominalHz)).toEqual([...MEASURED_OCTAVES_HZ]);
  });
});
