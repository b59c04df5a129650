import { describe, expect, it } from 'vitest';
import { whiteNoise } from '../signal/generate';
import { keyHz } from './notes';
import { resonancesOf } from './resonance';

const RATE = 48_000;
const SECONDS = 12;

/** A scale of plucked notes, eight a key, over a little noise. */
function scale(keys: readonly number[]): Float32Array {
  const noise = whiteNoise(SECONDS * RATE, 7);
  return noise.map((value, i) => {
    const s = i / RATE;
    const note = Math.floor(s * 2) % keys.length;
    const since = s % 0.5;
    let sum = 0.0005 * value;
    for (let k = 1; k <= 6; k++) {
      const hz = keyHz(keys[note] ?? 60) * k;
      sum += (0.1 / k) * Math.exp(-3 * since) * Math.sin(2 * Math.PI * hz * s);
    }
    return sum;
  });
}

const music = scale([48, 50, 52, 53, 55, 57, 59, 60]);

describe('resonances of a take', () => {
  it('a tone that stands under every note is told from the notes', () => {
    const hum = music.map((value, i) => value + 0.01 * Math.sin((2 * Math.PI * 103.8 * i) / RATE));
    const found = resonancesOf(hum, RATE);
    const under = found.filter(({ underEveryNote }) => underEveryNote);
    expect(under).toHaveLength(1);
    expect(under[0]?.hz).toBeCloseTo(103.8, 0);
    expect(under[0]?.note.name).toBe('G sharp 2');
    expect(found.length).toBeGreaterThan(4);
  });

  it('played notes are found, and none of them is called a resonance', () => {
    const found = resonancesOf(music, RATE);
    expect(found.some(({ note }) => note.name === 'C5')).toBe(true);
    expect(found.filter(({ underEveryNote }) => underEveryNote)).toEqual([]);
  });

  it('noise has none, through a narrow filter it has one', () => {
    const noise = whiteNoise(SECONDS * RATE, 9);
    expect(resonancesOf(noise, RATE)).toEqual([]);
    const [turn, near] = [2 * Math.cos((2 * Math.PI * 220) / RATE), 0.9995];
    let [one, two] = [0, 0];
    const rung = noise.map((value) => {
      const out = 0.001 * value + turn * near * one - near * near * two;
      [two, one] = [one, out];
      return 0.1 * value + out;
    });
    const found = resonancesOf(rung, RATE);
    expect(found[0]?.hz).toBeCloseTo(220, -0.5);
    expect(found[0]?.note.name).toBe('A3');
    expect(found[0]?.underEveryNote).toBe(true);
  });

  it('nothing is said of silence and of a second', () => {
    expect(resonancesOf(new Float32Array(SECONDS * RATE), RATE)).toEqual([]);
    expect(resonancesOf(music.subarray(0, RATE), RATE)).toEqual([]);
  });
});
