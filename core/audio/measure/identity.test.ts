import { describe, expect, it } from 'vitest';
import { scaled } from '../fixtures/made';
import { delayed, whiteNoise } from '../signal/generate';
import { onsetDelay } from './onsets';
import { GramMeter, sideHeard, TapMeter } from './identity';

const RATE = 48_000;

function identity(planes: Float32Array[]) {
  const meter = new GramMeter(planes.length);
  const frames = planes[0]?.length ?? 0;
  for (let from = 0; from < frames; from += 10_000) {
    const to = Math.min(frames, from + 10_000);
    meter.add(
      planes.map((plane) => plane.subarray(from, to)),
      to - from,
    );
  }
  return meter.result();
}

describe('tracks that are one signal', () => {
  it('are found with their gain and polarity; others, and silence, are told apart', () => {
    const first = whiteNoise(RATE, 1);
    const nearly = scaled(first, -0.5).map((value, i) => value + 1e-3 * Math.sin(i));
    const { same, silent } = identity([first, whiteNoise(RATE, 2), nearly, new Float32Array(RATE)]);
    expect(silent).toEqual([3]);
    expect(same).toHaveLength(1);
    expect(same[0]).toMatchObject({ first: 0, second: 2, polarity: -1 });
    expect(same[0]?.gainDb).toBeCloseTo(-6.02, 2);
    expect(same[0]?.residualDb).toBeLessThan(-50);
  });

  it('two capsules a sample apart are two signals', () => {
    const first = whiteNoise(RATE, 3);
    expect(identity([first, delayed(first, 1)]).same).toEqual([]);
  });
});

/** A quiet room, a voice that all hear, and taps: [s, channel]. */
function tapped(taps: readonly (readonly [number, number])[], gains = [1, 0.3, 2, 1]) {
  const seconds = 12;
  const voice = whiteNoise(seconds * RATE, 99);
  return gains.map((gain, channel) => {
    const room = whiteNoise(seconds * RATE, channel + 1);
    return room.map((value, i) => {
      const s = i / RATE;
      const speaks = s % 3 > 0.2 && s % 3 < 1 ? 0.05 : 0;
      let sum = 0.001 * value + speaks * (voice[i] ?? 0);
      for (const [at, on] of taps) {
        const since = s - at;
        if (since < 0 || since > 0.1) continue;
        sum += (on === channel ? 0.5 : 0.02) * Math.exp(-since / 0.01) * Math.sin(i);
      }
      return gain * sum;
    });
  });
}

function tapTest(planes: Float32Array[], rate: number, announced: number[]) {
  const meter = new TapMeter(planes.length, rate);
  const frames = planes[0]?.length ?? 0;
  for (let from = 0; from < frames; from += 12_345) {
    const to = Math.min(frames, from + 12_345);
    meter.add(
      planes.map((plane) => plane.subarray(from, to)),
      to - from,
    );
  }
  return meter.result(announced);
}

describe('the tap test', () => {
  const inOrder = [
    [1.5, 0],
    [1.6, 0],
    [4.5, 1],
    [7.5, 2],
    [10.5, 3],
  ] as const;

  it('hears each tap on its microphone, whatever the gains, and leaves the voice out', () => {
    const { taps, verdict } = tapTest(tapped(inOrder), RATE, [0, 1, 2, 3]);
    expect(taps.map(({ channel }) => channel)).toEqual([0, 1, 2, 3]);
    expect(taps.map(({ atS }) => Math.round(atS * 10) / 10)).toEqual([1.5, 4.5, 7.5, 10.5]);
    expect(verdict).toBe('as announced');
  });

  it('names the channels that are swapped', () => {
    const { verdict, wrong } = tapTest(tapped(inOrder), RATE, [1, 0, 2, 3]);
    expect(verdict).toBe('other order');
    expect(wrong).toEqual([
      { announced: 1, heard: 0 },
      { announced: 0, heard: 1 },
    ]);
  });

  it('says nothing where taps are missing', () => {
    const { verdict, uncertain } = tapTest(tapped(inOrder.slice(0, 4)), RATE, [0, 1, 2, 3]);
    expect(verdict).toBe('uncertain');
    expect(uncertain).toBe('3 microphones were heard tapped; announced: 4');
  });
});

describe('the side of a sound', () => {
  it('is told by time, by level or by both', () => {
    expect(sideHeard(0.4, -3)).toMatchObject({ nearer: 0 });
    expect(sideHeard(-0.4, 0)).toMatchObject({ nearer: 1 });
    expect(sideHeard(null, 6)).toMatchObject({ nearer: 1 });
  });

  it('is not told where they disagree or say nothing', () => {
    expect(sideHeard(0.4, 3).uncertain).toContain('earlier, the other louder');
    expect(sideHeard(0.02, 0.5)).toMatchObject({ nearer: null });
  });

  it('comes from claps', () => {
    const clap = whiteNoise(5 * RATE, 5).map(
      (value, i) => value * Math.exp(-((i + RATE / 2) % RATE) / 200),
    );
    const { delayMs, levelDb } = onsetDelay(clap, scaled(delayed(clap, 20), 0.7), RATE);
    expect(delayMs).toBeCloseTo((20 / RATE) * 1000, 2);
    expect(levelDb).toBeCloseTo(-3.1, 1);
    expect(sideHeard(delayMs, levelDb).nearer).toBe(0);
  });
});
