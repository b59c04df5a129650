import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { short } from '../fixtures/heard';
import { delayed, makeSignal, pinkNoise, SIGNAL_NAMES, whiteNoise } from '../signal/generate';
import { openSound, type Sound } from '../sound';
import { encodeFrames, memorySource, wavHeader, type Planes } from '../wav';
import { auditMidSide, matchOf, sideOf, symmetryOf, tapsOf } from './asked';
import { BandMeter } from './bands';
import { decayTimes } from './decay';
import { delayBetween, onsetDelay, onsetsOf } from './delay';
import { mainsHum } from './hum';
import { sideHeard } from './identity';
import { kWeighting } from './k-weighting';
import { channelWeight, LoudnessMeter } from './loudness';
import { keyName, nearestNote, removedFundamentals } from './notes';
import { overviewOf, sketchOf } from './overview';
import { filterGainDb } from './pair';
import { resonancesOf } from './resonance';
import { measureTake } from './take';
import { oversampling, TruePeakMeter } from './true-peak';

/** All that is measured, of signals that are the same on every machine; frozen anew with `vitest -u`. */

const RATE = 8000;

async function soundOf(planes: Planes, sampleRateHz = RATE): Promise<Sound> {
  const frames = planes[0]?.length ?? 0;
  const format = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz } as const;
  const parts = [wavHeader(format, frames), encodeFrames(planes, frames, format)];
  const sound = await openSound(memorySource(Buffer.concat(parts)));
  if (!sound.ok) throw new Error(sound.message);
  return sound.value;
}

const scaled = (samples: Float32Array, gain: number) => samples.map((value) => value * gain);
const plus = (...all: Float32Array[]): Float32Array =>
  (all[0] as Float32Array).map((value, i) =>
    all.slice(1).reduce((sum, other) => sum + (other[i] ?? 0), value),
  );
const tone = (hz: number, levelDb: number, seconds: number, sampleRateHz = RATE): Float32Array =>
  makeSignal('tone-mono', { hz, levelDb, seconds, sampleRateHz })[0] as Float32Array;

describe('a take', () => {
  it('has the figures that it had', async () => {
    const of: unknown[] = [];
    for (const [i, name] of SIGNAL_NAMES.entries()) {
      const made = makeSignal(name, { sampleRateHz: RATE, seconds: 2, seed: 3 + i, rt60S: 0.6 });
      const sound = await soundOf(made);
      of.push([name, short(await measureTake(sound), 5)]);
      if (i % 4 === 0) {
        const part = await measureTake(sound, { fromS: 0.4, toS: 1.9, against: made.length - 1 });
        of.push([name, 'a part of it', short(part, 5)]);
        of.push(short([await overviewOf(sound, 9), await sketchOf(sound, 3)], 5));
      }
    }
    await expect(told({ of })).toMatchFileSnapshot('../fixtures/pinned-measured.txt');
  });

  it('with hum, ringing, clipping and many tracks as well', async () => {
    const seconds = 4;
    const noise = (seed: number, gain: number) => scaled(pinkNoise(seconds * RATE, seed), gain);
    const hum = plus(noise(1, 0.002), tone(50, -40, seconds), tone(150, -50, seconds));
    const sixty = plus(noise(2, 0.002), tone(60, -45, seconds), tone(120, -42, seconds));
    const ringing = plus(noise(3, 0.05), tone(212, -24, seconds), tone(1730, -30, seconds));
    const clipped = scaled(noise(4, 0.9), 1).map((v) => Math.min(1, Math.max(-1, 3 * v)));
    const tracks = [hum, sixty, ringing, clipped, new Float32Array(seconds * RATE)];
    const many = [...tracks, ...tracks.map((track) => scaled(track, -0.5))];
    const figures = short(await measureTake(await soundOf(many), { against: 2 }), 5);
    const alone = {
      hum: [hum, sixty, ringing].map((samples) => short(mainsHum(samples, RATE), 5)),
      resonances: short(resonancesOf(ringing, RATE), 5),
    };
    await expect(told({ figures, alone })).toMatchFileSnapshot('../fixtures/pinned-faulty.txt');
  });
});

describe('what is asked for by itself', () => {
  it('is answered as it was', async () => {
    const seconds = 6;
    const length = seconds * RATE;
    const first = pinkNoise(length, 5);
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
      onsetsOf(clap[0] as Float32Array, RATE),
    ];
    const heard = [0.4, 0.02, -0.3, null].map((ms) => [ms, sideHeard(ms, 2), sideHeard(ms, -3)]);
    const text = told({
      answers: Object.entries(short(answers, 5) as object),
      delays: short(delays, 5),
      heard,
    });
    await expect(text).toMatchFileSnapshot('../fixtures/pinned-asked.txt');
  });

  it('by meters, tables and names', async () => {
    const rates = [8000, 16_000, 44_100, 48_000, 96_000, 192_000];
    const white = whiteNoise(RATE, 8);
    const meters = rates.map((rate) => {
      const [loudness, peaks] = [new LoudnessMeter([1, 1.41], rate), new TruePeakMeter(rate)];
      const samples = scaled(white, 0.3);
      loudness.add([samples, scaled(samples, 0.4)], samples.length);
      const tops = peaks.add(samples, samples.length);
      const bands = new BandMeter(1, rate);
      bands.add([samples], samples.length);
      return [
        [rate, oversampling(rate), short(kWeighting(rate), 8)],
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
      return short(decayTimes(samples as Float32Array, 48_000), 5);
    });
    const all = { meters, weights, filters, notes, removed, decays };
    await expect(told(all)).toMatchFileSnapshot('../fixtures/pinned-meters.txt');
  });
});
