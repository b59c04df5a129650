import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { short } from '../fixtures/heard';
import { plus, RATE, scaled, soundOf, tone } from '../fixtures/made';
import { delayed, makeSignal, pinkNoise, whiteNoise } from '../signal/generate';
import { auditMidSide, matchOf, sideOf, symmetryOf, tapsOf } from './asked';
import { BandMeter } from './bands';
import { delayBetween } from './delay';
import { onsetDelay } from './onsets';
import { sideHeard } from './identity';
import { kWeighting } from './k-weighting';
import { LevelMeter } from './levels';
import { channelWeight, LoudnessMeter } from './loudness';
import { keyName, nearestNote, removedFundamentals } from './notes';
import { filterGainDb } from './pair';
import { measureTake } from './take';
import { TruePeakMeter } from './true-peak';
import { decayTimes, mainsHum } from '../fixtures/memory';

/** All that is measured, of signals that are the same on every machine; frozen anew with `vitest -u`. */

describe('what is asked for by itself', () => {
  it('is answered as it was', async () => {
    const seconds = 6;
    const length = seconds * RATE;
    const first = pinkNoise(length, 8);
    const dull = first.map((value, i) => 0.7 * value + 0.2 * (first[i - 1] ?? 0));
    const clap = makeSignal('claps', { sampleRateHz: RATE, seconds, delayMs: 2.3 });
    const late = delayed(first, 7.3);
    const sound = await soundOf([first, dull, late, scaled(late, -0.9), ...clap]);
    const all = { fromS: 0.5, toS: 5.5 };
    const part = (fromS: number) => ({ fromS, toS: fromS + 1.7 });
    const answers = {
      match: await matchOf(sound, 0, 1, all),
      none: await matchOf(sound, 0, 9, all),
      symmetry: await symmetryOf(sound, 1, { front: part(0), rear: part(2), side: part(4) }),
      noSide: await symmetryOf(sound, 1, { front: part(0), rear: part(2), side: null }),
      midSide: await auditMidSide(sound, [0, 2], all),
      copy: await auditMidSide(sound, [0, 2, 3], all),
      side: await sideOf(sound, 4, 5, all),
      noChannel: await sideOf(sound, 4, 11, all),
      taps: await tapsOf(sound, [4, 5, 1], all),
    };
    const delays = [
      delayBetween(first, late, RATE),
      delayBetween(first, scaled(late, -0.5), RATE, 5, false),
      delayBetween(first, new Float32Array(length), RATE),
      onsetDelay(clap[0] as Float32Array, clap[1] as Float32Array, RATE),
      onsetDelay(first, late, RATE, 3),
    ];
    const heard = [0.4, 0.02, -0.3, null].map((ms) => [ms, sideHeard(ms, 2), sideHeard(ms, -3)]);
    const text = told({
      answers: Object.entries(short(answers, 8) as object),
      delays: short(delays, 8),
      heard,
    });
    await expect(text).toMatchFileSnapshot('../fixtures/pinned-asked.txt');
  });

  it('by meters, tables and names', async () => {
    const rates = [8000, 16_000, 44_100, 48_000, 96_000, 192_000];
    const white = whiteNoise(RATE, 8);
    const meters = rates.map((rate) => {
      const [loudness, peaks] = [new LoudnessMeter([1, 1.41], rate), new TruePeakMeter()];
      const samples = scaled(white, 0.3);
      loudness.add([samples, scaled(samples, 0.4)], samples.length);
      const tops = peaks.add(samples, samples.length);
      const bands = new BandMeter(1, rate);
      bands.add([samples], samples.length);
      return [
        [rate, short(kWeighting(rate), 8)],
        short(
          [loudness.result(), peaks.peak, peaks.samplePeak, peaks.square, tops, bands.result()],
          5,
        ),
      ];
    });
    const weights = ['L', 'R', 'C', 'Ls', 'LFE', 'Left surround', 'Lrs', ''].map((name) => [
      name,
      channelWeight(name),
    ]);
    const filters = (['peak', 'low shelf', 'high shelf'] as const).flatMap((kind) =>
      [60, 900, 1000, 7000].map((hz) =>
        short([kind, hz, filterGainDb({ kind, hz: 1000, gainDb: 4, q: 1.2 }, hz)]),
      ),
    );
    const notes = [30, 61, 440, 4000].map((hz) => short([keyName(hz % 128), nearestNote(hz, 442)]));
    const removed = [20, 28, 80, 200].map((hz) => removedFundamentals(hz));
    const decays = [0.3, 1.1].map((rt60S) => {
      const [samples] = makeSignal('decay', {
        sampleRateHz: 48_000,
        seconds: 3,
        rt60S,
        noiseDb: -70,
      });
      return short(decayTimes(samples as Float32Array, 48_000), 8);
    });
    const all = { meters, weights, filters, notes, removed, decays };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-meters.txt');
  });

  it('at the edges, and in pieces as in one', async () => {
    const noise = whiteNoise(3000, 21);
    noise[1023] = 1.2;
    noise[2047] = -1.3;
    const whole = new TruePeakMeter();
    whole.add(noise, noise.length);
    whole.end();
    const pieces = [...Array.from({ length: 50 }, (_, i) => i + 1), 127, 500, 1000].map((size) => {
      const meter = new TruePeakMeter();
      for (let at = 0; at < noise.length; at += size) {
        const part = noise.subarray(at, Math.min(noise.length, at + size));
        meter.add(part, part.length);
      }
      meter.end();
      return meter;
    });
    for (const meter of pieces) expect(meter.peak).toBeCloseTo(whole.peak, 9);

    const silent = new LoudnessMeter([1], RATE);
    silent.add([new Float32Array(4 * RATE)], 4 * RATE);
    const loud = new LoudnessMeter([1], RATE);
    loud.add([scaled(whiteNoise(5 * RATE, 2), 0.4)], 5 * RATE);
    const none = new LoudnessMeter([1], RATE);

    const info = {
      format: { kind: 'float', bits: 32, channels: 1, sampleRateHz: RATE, bigEndian: false },
      validBits: 32,
      channelNames: ['L'],
    } as const;
    const level = new LevelMeter({ ...info, channelNames: ['L'] });
    const bursts = Float32Array.from({ length: 4 * RATE }, (_, i) => (i % 200 < 4 ? 1 : 0.2));
    level.add([bursts], bursts.length, 0);
    const { clips, channels } = level.result();

    const low = plus(tone(50, -30, 8, 1000), scaled(whiteNoise(8000, 3), 0.01));
    expect(() => removedFundamentals(20_001)).toThrow(RangeError);
    expect(() => removedFundamentals(0.9)).toThrow(RangeError);
    const all = {
      peaks: short([whole.peak, whole.samplePeak, whole.square, whole.sum], 8),
      loudness: [silent, loud, none].map((meter) => short([meter.result(), meter.shortTerm()], 8)),
      clips: [clips.length, clips[0], clips[clips.length - 1], short(channels, 8)],
      hum: short(mainsHum(low, 1000), 8),
      removed: removedFundamentals(20_000),
    };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-edges.txt');
  });

  it('of knocks and claps on several channels', async () => {
    const seconds = 8;
    const quiet = (seed: number) => scaled(whiteNoise(seconds * RATE, seed), 0.001);
    const knock = (samples: Float32Array, atS: number, gain: number) => {
      for (let i = 0; i < 300; i++) {
        const at = Math.round(atS * RATE) + i;
        samples[at] = (samples[at] ?? 0) + gain * Math.exp(-i / 60) * Math.sin(i * 1.3);
      }
    };
    const planes = [quiet(1), quiet(2), quiet(3)];
    for (const [channel, atS] of [
      [0, 1],
      [0, 1.2],
      [0, 1.45],
      [1, 3],
      [1, 4.5],
      [2, 6],
    ] as const) {
      planes.forEach((plane, c) => knock(plane, atS, c === channel ? 0.6 : 0.02));
    }
    const sound = await soundOf(planes);
    const taps = await tapsOf(sound, [0, 1, 2], { fromS: 0, toS: seconds });
    const figures = short(await measureTake(sound), 8);
    await expect(told({ taps: short(taps, 8), figures })).toMatchFileSnapshot(
      '../fixtures/pinned-knocks.txt',
    );
  });
});
