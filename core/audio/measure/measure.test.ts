import { describe, expect, it } from 'vitest';
import { delayed, makeSignal, pinkNoise } from '../signal/generate';
import { delayBetween } from './delay';
import { onsetDelay } from './onsets';
import { kWeighting, KWeighted } from './k-weighting';
import { channelWeight, LoudnessMeter } from './loudness';
import { TruePeakMeter } from './true-peak';

const RATE = 48_000;

function loudnessOf(planes: Float32Array[], rate = RATE, weights = planes.map(() => 1)) {
  const meter = new LoudnessMeter(weights, rate);
  const frames = planes[0]?.length ?? 0;
  // In uneven blocks, as a file gives them.
  for (let from = 0; from < frames; from += 7777) {
    const to = Math.min(frames, from + 7777);
    meter.add(
      planes.map((plane) => plane.subarray(from, to)),
      to - from,
    );
  }
  return meter.result();
}

describe('loudness', () => {
  it('has the filters of the standard at 48 kHz', () => {
    const [shelf, pass] = kWeighting(RATE);
    expect(shelf.b0).toBeCloseTo(1.53512485958697, 9);
    expect(shelf.b1).toBeCloseTo(-2.69169618940638, 9);
    expect(shelf.a1).toBeCloseTo(-1.69065929318241, 9);
    expect(shelf.a2).toBeCloseTo(0.73248077421585, 9);
    expect(pass.a1).toBeCloseTo(-1.99004745483398, 9);
    expect(pass.a2).toBeCloseTo(0.99007225036621, 9);
  });

  it.each([44_100, 48_000, 96_000, 192_000])(
    'of 997 Hz at 0 dB in one channel is −3.01 LUFS at %i Hz',
    (rate) => {
      const planes = makeSignal('tone-mono', {
        hz: 997,
        levelDb: 0,
        seconds: 4,
        sampleRateHz: rate,
      });
      expect(loudnessOf(planes, rate).integrated).toBeCloseTo(-3.01, 1);
    },
  );

  it('of a tone at −23 dB in both is −23 LUFS, and has no range', () => {
    const found = loudnessOf(makeSignal('tone', { hz: 1000, levelDb: -23, seconds: 20 }));
    expect(found.integrated).toBeCloseTo(-23, 1);
    expect(found.momentaryMax).toBeCloseTo(-23, 1);
    expect(found.shortTermMax).toBeCloseTo(-23, 1);
    expect(found.range).toBeLessThan(0.2);
  });

  it('leaves out what lies under the gates, and tells a range of 10 LU', () => {
    const part = (levelDb: number, seconds: number) => makeSignal('tone', { levelDb, seconds });
    const join = (...parts: Float32Array[][]) =>
      [0, 1].map((c) => Float32Array.from(parts.flatMap((planes) => [...(planes[c] ?? [])])));
    // The cases of EBU Tech 3341: 10 s at −36, 60 s at −23, 10 s at −36: the quiet ends are gated.
    const gated = loudnessOf(join(part(-36, 10), part(-23, 60), part(-36, 10)));
    expect(gated.integrated).toBeCloseTo(-23, 1);
    // EBU Tech 3342, case 1: 20 s at −20 and 20 s at −30: 10 LU.
    expect(loudnessOf(join(part(-20, 20), part(-30, 20))).range).toBeCloseTo(10, 0);
  });

  it.each([44_100, 48_000, 96_000])('of a moment is found wherever it begins, at %s Hz', (rate) => {
    // EBU Tech 3341, cases 12 to 14: a tone of 0.4 s, or of 3 s, is as loud off the grid of a tenth.
    for (const offsetS of [0, 0.013, 0.05, 0.087]) {
      const burst = (seconds: number): Float32Array[] => {
        const [one = new Float32Array()] = makeSignal('tone', {
          levelDb: -23,
          seconds,
          sampleRateHz: rate,
        });
        const out = new Float32Array(one.length + 5 * rate);
        out.set(one, Math.round((1 + offsetS) * rate));
        return [out, out];
      };
      // Its fades of 10 ms at both ends take 0.15 dB of so short a tone.
      const faded = -23.15;
      const { momentaryMax } = loudnessOf(burst(0.4), rate);
      expect(Math.abs((momentaryMax ?? 0) - faded)).toBeLessThan(0.05);
      expect(Math.abs((loudnessOf(burst(3), rate).shortTermMax ?? 0) + 23)).toBeLessThan(0.1);
    }
  });

  it('of two channels in one loop is that of each alone, to the last bit', () => {
    const [first, second] = [pinkNoise(5000, 1), pinkNoise(5000, 2)];
    const [a, b] = [new KWeighted(RATE), new KWeighted(RATE)];
    const [c, d] = [new KWeighted(RATE), new KWeighted(RATE)];
    for (const [from, to] of [
      [0, 1234],
      [1234, 5000],
    ] as const) {
      const together = a.energies(b, first, second, from, to);
      expect(together).toEqual([c.energy(first, from, to), d.energy(second, from, to)]);
    }
  });

  it('of silence is none, and of surrounds a little more', () => {
    expect(loudnessOf(makeSignal('silence'))).toEqual({
      integrated: null,
      shortTermMax: null,
      momentaryMax: null,
      range: null,
    });
    const planes = makeSignal('tone-mono', { levelDb: -20 });
    const front = loudnessOf(planes).integrated ?? 0;
    const surround = loudnessOf(planes, RATE, [channelWeight('Ls')]).integrated ?? 0;
    expect(surround - front).toBeCloseTo(1.49, 2);
    expect(channelWeight('LFE')).toBe(0);
  });
});

function peaksOf(samples: Float32Array, block = 5000) {
  const meter = new TruePeakMeter();
  for (let from = 0; from < samples.length; from += block) {
    const part = samples.subarray(from, from + block);
    meter.add(part, part.length);
  }
  meter.end();
  return meter;
}

/** A tone of so much of the rate that comes and goes slowly. */
const tonePart = (part: number, phase: number): Float32Array =>
  Float32Array.from({ length: RATE / 4 }, (_, i) => {
    const fade = Math.min(1, i / 2000, (RATE / 4 - 1 - i) / 2000);
    return 0.5 * fade * Math.sin(2 * Math.PI * part * i + phase);
  });

describe('true peak', () => {
  // Parts of small whole numbers keep meeting the wave at the same places.
  it.each([1 / 4, 1 / 3, 1 / 5, 2 / 5, 3 / 7, 1 / 6, 3 / 8, 0.4171, 0.01])(
    'of a tone of %f of the rate is within 0.2 dB, whatever its phase',
    (part) => {
      for (let phase = 0; phase < Math.PI; phase += Math.PI / 12) {
        const { peak } = peaksOf(tonePart(part, phase));
        expect(Math.abs(20 * Math.log10(peak / 0.5))).toBeLessThan(0.2);
      }
    },
  );

  it.each([0.45, 0.49, 0.499])('of a tone at %f of the rate never reads too high', (part) => {
    for (const phase of [0, 0.4, 0.8, 1.2]) {
      const { peak } = peaksOf(tonePart(part, phase));
      expect(20 * Math.log10(peak / 0.5)).toBeLessThan(0.02);
      expect(20 * Math.log10(peak / 0.5)).toBeGreaterThan(-0.6);
    }
  });

  it('is the same in blocks of any size', () => {
    const noise = pinkNoise(20_000, 3);
    const whole = peaksOf(noise, 20_000).peak;
    for (const block of [20, 333, 4096]) expect(peaksOf(noise, block).peak).toBeCloseTo(whole, 9);
    expect(whole).toBeGreaterThan(noise.reduce((top, value) => Math.max(top, Math.abs(value)), 0));
  });
});

describe('delay between two channels', () => {
  it.each([0, 1, -1, 0.25, 7.001, -31.5, 480.37])('of %s samples within 0.001 ms', (samples) => {
    const first = pinkNoise(RATE, 5);
    const second = delayed(first, samples);
    for (const whitened of [true, false]) {
      const found = delayBetween(first, second, RATE, 50, whitened);
      expect(Math.abs((found?.delayMs ?? 99) - (samples / RATE) * 1000)).toBeLessThan(0.001);
      expect(found?.polarity).toBe(1);
      expect(found?.levelDb).toBeCloseTo(0, 1);
    }
  });

  it('tells an inverted channel and its level', () => {
    const [first = new Float32Array(), second = new Float32Array()] = makeSignal('inverted');
    const found = delayBetween(
      first,
      second.map((value) => value / 2),
      RATE,
    );
    expect(found?.polarity).toBe(-1);
    expect(found?.levelDb).toBeCloseTo(-6.02, 2);
    expect(delayBetween(first, new Float32Array(first.length), RATE)).toBeNull();
  });

  it('of claps is that of their onsets, where a whole take would follow a wall', () => {
    const options = { seconds: 8, delayMs: 2.345, levelDb: -6 };
    const [first = new Float32Array(), second = new Float32Array()] = makeSignal('claps', options);
    // A wall answers the second microphone 12 ms later, louder than the direct sound.
    const wall = delayed(second, 0.012 * RATE);
    const heard = second.map((value, i) => value + 1.5 * (wall[i] ?? 0));
    const found = onsetDelay(first, heard, RATE);
    expect(found.uncertain).toBeNull();
    expect(found.onsets).toBeGreaterThanOrEqual(6);
    expect(Math.abs((found.delayMs ?? 99) - 2.345)).toBeLessThan(0.02);
    const whole = delayBetween(first, heard, RATE, 50, false);
    expect(Math.abs((whole?.delayMs ?? 0) - 14.345)).toBeLessThan(0.1);
  });

  it('of what has no onsets is refused, and says why', () => {
    const [first = new Float32Array(), second = new Float32Array()] = makeSignal('tone');
    const found = onsetDelay(first, second, RATE);
    expect(found.delayMs).toBeNull();
    expect(found.uncertain).toContain('onsets were found');
  });
});
