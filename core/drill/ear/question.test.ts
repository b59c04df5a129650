import { describe, expect, it } from 'vitest';
import { bestEngine } from '../../audio/render';
import { clipFile } from './clip-file';
import { EAR, EAR_KINDS, type EarKindId } from './kinds';
import { earQuestion } from './question';
import { loudnessOf, PLAIN_MAKING, RATE_HZ, type Stereo } from './sound';
import { heardAt } from './placed';
import { phaseTurned } from './sound';

/** As many in the long run. */
const SEEDS = process.env.ROTUNDA_SOAK ? 12 : 2;

const making = async () => ({ ...PLAIN_MAKING, engine: await bestEngine() });
const ask = async (kind: EarKindId, seed: number, size: number) =>
  earQuestion(kind, seed, size, await making());

/** Energy of both channels in octaves around 125 Hz to 8 kHz by differences of means, dB. */
function octaves([left, right]: Stereo): number[] {
  const sum = (length: number): number => {
    let total = 0;
    for (const plane of [left, right]) {
      let run = 0;
      for (let i = 0; i < plane.length; i++) {
        run += (plane[i] ?? 0) - (i >= length ? (plane[i - length] ?? 0) : 0);
        total += (run / length) ** 2;
      }
    }
    return total;
  };
  return [4, 8, 16, 32, 64].map((length) => 10 * Math.log10(sum(length)));
}

/** By how much the spectrum may change, dB: what the thing itself changes. */
const MAY_CHANGE: Readonly<Record<EarKindId, number>> = {
  place: 0,
  width: 2.5,
  technique: 6,
  distance: 4,
  layer: 6,
  'late spot': 3,
  comb: 8,
  polarity: 1,
  'mid-side': 4,
  decode: 6,
  level: 0.2,
  sides: 0.2,
};

describe('a question to the ear', () => {
  it.each(EAR_KINDS)(
    '%s: one loudness, one length, one spectrum but for the thing asked',
    async (kind) => {
      const { scale } = EAR[kind];
      for (let seed = 1; seed <= SEEDS; seed++) {
        const sizes = scale ? [scale.least, scale.start] : [0];
        for (const size of sizes) {
          const { clips, truth, answers, after, text } = await ask(kind, 37 * seed, size);
          const known = clips.map(({ sound }) => loudnessOf(sound) ?? NaN);
          const spread = Math.max(...known) - Math.min(...known);
          if (kind === 'level') expect(spread).toBeCloseTo(size, 1);
          else expect(spread).toBeLessThanOrEqual(0.1);
          expect(
            new Set(clips.flatMap(({ sound }) => sound.map(({ length }) => length))).size,
          ).toBe(1);
          for (const { sound } of clips) {
            for (const plane of sound)
              expect(plane.every((value) => Math.abs(value) <= 1)).toBe(true);
          }
          if (answers.length > 0) expect(answers.map(({ id }) => id)).toContain(truth);
          expect(after).not.toMatch(/NaN|undefined/);
          expect(text).not.toBe('');
          const [one, other] = clips.slice(-2).map(({ sound }) => octaves(sound));
          if (!one || !other || one === other || clips.length === 1) continue;
          const level = kind === 'level' ? size * (truth === 'A' ? 1 : -1) : 0;
          one.forEach((value, i) =>
            expect(
              Math.abs(value - (other[i] ?? 0) - level),
              `${kind} ${size} ${i}`,
            ).toBeLessThanOrEqual(MAY_CHANGE[kind]),
          );
        }
      }
    },
    120_000,
  );

  it('is the same for the same seed, another one for another, and its letter is by chance', async () => {
    const [a, b] = [await ask('comb', 5, 10), await ask('comb', 5, 10)];
    expect(a).toEqual(b);
    const truths = new Set<unknown>();
    const texts = new Set<string>();
    for (let seed = 1; seed <= 12; seed++) {
      const made = await ask('comb', seed, 10);
      truths.add(made.truth);
      texts.add(made.after);
    }
    expect([...truths].sort()).toEqual(['A', 'B']);
    expect(texts.size).toBe(12);
  });

  it('refuses a size beyond its scale', async () => {
    await expect(ask('level', 1, 0.1)).rejects.toThrow(/size is 0.1; allowed: 0.2 to 8 dB/);
    await expect(ask('level', 1, 8.1)).rejects.toThrow(RangeError);
  });

  it('turns a phase: over at 180°, not at all at 0°, energy kept at 90°', () => {
    const plane = Float32Array.from({ length: 9600 }, (_, i) =>
      Math.sin((2 * Math.PI * 440 * i) / RATE_HZ),
    );
    const power = (of: Float32Array) => of.subarray(2000, 7600).reduce((sum, v) => sum + v * v, 0);
    expect(phaseTurned(plane, 0)[777]).toBeCloseTo(plane[777] ?? 0, 9);
    expect(phaseTurned(plane, 180)[777]).toBeCloseTo(-(plane[777] ?? 0), 6);
    expect(10 * Math.log10(power(phaseTurned(plane, 90)) / power(plane))).toBeCloseTo(0, 1);
  });

  it('of a place can be heard again where it was said to be', async () => {
    const sound = await heardAt(37, 0.4, await making());
    expect(sound[0].length).toBe(sound[1].length);
    const made = await ask('place', 37, 0);
    expect(Math.abs(Number(made.truth))).toBeLessThanOrEqual(1);
    expect(made.placed?.low).toBeLessThanOrEqual(Number(made.truth));
  });

  it('goes into a file of two channels at 48 kHz that says nothing of what it is', () => {
    const plane = new Float32Array(480);
    const bytes = clipFile([plane, plane]).reduce((sum, part) => sum + part.length, 0);
    expect(bytes).toBeGreaterThan(480 * 6);
    const head = new TextDecoder('latin1').decode(clipFile([plane, plane])[0]);
    expect(head).not.toMatch(/truth|polarity|drill/i);
  });
});
