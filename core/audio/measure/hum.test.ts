import { describe, expect, it } from 'vitest';
import { pinkNoise } from '../signal/generate';
import { quietest } from './hum';
import { keyHz, keyName, nearestNote, removedFundamentals } from './notes';
import { mainsHum } from '../fixtures/memory';

const RATE = 48_000;

/** Noise with harmonics of the mains under music that stops. */
function recording(mainsHz: number, humDb: number, noiseDb = -80): Float32Array {
  const noise = pinkNoise(RATE * 8, 4);
  const music = pinkNoise(RATE * 8, 9);
  return noise.map((value, i) => {
    const t = i / RATE;
    let hum = 0;
    for (const [n, share] of [
      [1, 0.3],
      [2, 1],
      [3, 0.5],
      [5, 0.4],
    ] as const) {
      hum += share * Math.sin(2 * Math.PI * mainsHz * n * t + n);
    }
    const loud = t < 3 || t > 6 ? 0.1 * (music[i] ?? 0) : 0;
    return value * 10 ** (noiseDb / 20) + hum * 10 ** (humDb / 20) + loud;
  });
}

describe('mains hum', () => {
  it.each([50, 60] as const)(
    'of %i Hz is found under a pause, with its harmonics and level',
    (hz) => {
      const found = mainsHum(recording(hz, -66), RATE);
      const own = found.find(({ mainsHz }) => mainsHz === hz);
      expect(own?.harmonics.map((one) => one.hz)).toEqual([hz, 2 * hz, 3 * hz, 5 * hz]);
      const second = own?.harmonics.find((one) => one.hz === 2 * hz);
      expect(Math.abs((second?.levelDb ?? 0) + 66)).toBeLessThan(0.7);
      // Three hundred hertz belongs to both families: that alone is no hum of the other.
      expect(found.find(({ mainsHz }) => mainsHz !== hz)?.levelDb).toBeNull();
    },
  );

  it('is none in noise alone, in silence, and in a take shorter than its window', () => {
    for (const samples of [pinkNoise(RATE * 4, 2), new Float32Array(RATE), pinkNoise(9000, 1)]) {
      expect(mainsHum(samples, RATE).every(({ levelDb }) => levelDb === null)).toBe(true);
    }
  });

  it('is looked for where it is quietest', () => {
    const samples = Float32Array.from({ length: 1000 }, (_, i) => (i >= 400 && i < 520 ? 0 : 1));
    expect(quietest(samples, 100).every((value) => value === 0)).toBe(true);
  });
});

describe('notes', () => {
  it('are named, and found from a frequency', () => {
    expect([21, 39, 60, 69, 108].map(keyName)).toEqual(['A0', 'D sharp 2', 'C4', 'A4', 'C8']);
    expect(nearestNote(440)).toMatchObject({ name: 'A4', cents: 0 });
    expect(nearestNote(103).name).toBe('G sharp 2');
    expect(nearestNote(103).cents).toBeCloseTo(-13.8, 0);
    expect(nearestNote(415, 415).name).toBe('A4');
    expect(keyHz(60)).toBeCloseTo(261.626, 3);
    expect(() => nearestNote(0)).toThrow(RangeError);
  });

  it('below a high-pass of 80 Hz are 19 keys of a piano, A0 to D sharp 2', () => {
    expect(removedFundamentals(80)).toEqual({ count: 19, lowest: 'A0', highest: 'D sharp 2' });
    expect(removedFundamentals(20)).toEqual({ count: 0, lowest: null, highest: null });
    expect(removedFundamentals(20_000).count).toBe(88);
  });
});
