import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { short } from '../fixtures/heard';
import { plus, RATE, scaled, soundOf, tone } from '../fixtures/made';
import { makeSignal, pinkNoise, SIGNAL_NAMES } from '../signal/generate';
import { overviewOf, sketchOf } from './overview';
import { resonancesOf } from './resonance';
import { measureTake } from './take';
import { mainsHum } from '../fixtures/memory';

/** All that is measured, of signals that are the same on every machine; frozen anew with `vitest -u`. */

describe('a take', () => {
  it('has the figures that it had', async () => {
    const of: unknown[] = [];
    for (const [i, name] of SIGNAL_NAMES.entries()) {
      const made = makeSignal(name, { sampleRateHz: RATE, seconds: 2, seed: 3 + i, rt60S: 0.6 });
      const sound = await soundOf(made);
      of.push([name, short(await measureTake(sound), 8)]);
      if (i % 4 === 0) {
        const part = await measureTake(sound, { fromS: 0.4, toS: 1.9, against: made.length - 1 });
        of.push([name, 'a part of it', short(part, 8)]);
        of.push(short([await overviewOf(sound, 9), await sketchOf(sound, 3)], 8));
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
    const figures = short(await measureTake(await soundOf(many), { against: 2 }), 8);
    const alone = {
      hum: [hum, sixty, ringing].map((samples) => short(mainsHum(samples, RATE), 8)),
      resonances: short(resonancesOf(ringing, RATE), 8),
    };
    await expect(told({ figures, alone })).toMatchFileSnapshot('../fixtures/pinned-faulty.txt');
  });
});
