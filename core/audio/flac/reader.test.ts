import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { flacFile } from '../fixtures/flac';
import { openSound } from '../sound';
import { type ByteSource } from '../wav';
import { checkedFlac } from './reader';
import { heldSamples, memorySource } from '../fixtures/memory';

const RATE = 48_000;
const LENGTH = 40 * 1024 + 77;

function numbers(bits: number, seed: number, length = LENGTH): Int32Array {
  const random = seededRandom(seed);
  return Int32Array.from({ length }, () => Math.floor((random() - 0.5) * 2 ** bits));
}

/** Counts what is read of a file. */
function counted(bytes: Uint8Array): { source: ByteSource; read: () => number } {
  let sum = 0;
  const source = memorySource(bytes);
  return {
    read: () => sum,
    source: {
      size: source.size,
      read(offset, length) {
        sum += length;
        return source.read(offset, length);
      },
    },
  };
}

describe('a FLAC file', () => {
  it.each([8, 16, 24])('of %i bits is read to the last bit, and from anywhere', async (bits) => {
    const planes = [numbers(bits, 1), numbers(bits, 2)];
    for (const every of [0, 4]) {
      const sound = await openSound(memorySource(flacFile(planes, bits, RATE, every)));
      if (!sound.ok) throw new Error(sound.message);
      for (const [fromS, forS] of [
        [0, 10],
        [0.3, 0.01],
        [0.8123, 0.04],
      ] as const) {
        const from = Math.round(fromS * RATE);
        const held = await heldSamples(sound.value, fromS, forS);
        const to = Math.min(LENGTH, from + Math.round(forS * RATE));
        planes.forEach((plane, c) => {
          expect(held[c]).toHaveLength(to - from);
          const wrong = held[c]?.findIndex(
            (x, i) => x !== (plane[from + i] ?? NaN) / 2 ** (bits - 1),
          );
          expect(wrong).toBe(-1);
        });
      }
      expect(sound.value.info.warnings).toEqual([]);
    }
  });

  it.each([0, 50])('that is long is not read from its beginning (points: %i)', async (every) => {
    const plane = numbers(24, 3, 2 ** 21);
    const { source, read } = counted(flacFile([plane], 24, RATE, every));
    const sound = await openSound(source);
    if (!sound.ok) throw new Error(sound.message);
    const before = read();
    const [held] = await heldSamples(sound.value, 30, 0.1);
    expect(held?.findIndex((x, i) => x !== (plane[30 * RATE + i] ?? NaN) / 2 ** 23)).toBe(-1);
    expect(read() - before).toBeLessThan(source.size / 2);
  });

  it.each([12, 20, 32])('of %i bits is refused with what is allowed', async (bits) => {
    const sound = await openSound(memorySource(flacFile([numbers(bits, 1, 100)], bits, RATE)));
    expect(sound.ok ? '' : sound.message).toMatch(/bits; allowed: 8, 16 or 24/);
  });

  it('is checked by the sum of its samples', async () => {
    const bytes = flacFile([numbers(16, 5), numbers(16, 6)], 16, RATE, 4);
    expect(await checkedFlac(memorySource(bytes))).toEqual({ ok: true, value: 'whole' });
    const unsigned = bytes.slice();
    unsigned.fill(0, 8 + 18, 8 + 34);
    expect(await checkedFlac(memorySource(unsigned))).toMatchObject({ value: 'cannot be told' });
    const other = bytes.slice();
    other[8 + 20] = (other[8 + 20] ?? 0) ^ 1;
    expect(await checkedFlac(memorySource(other))).toMatchObject({ value: 'damaged' });
    const hurt = bytes.slice();
    hurt.fill(0, 60_000, 60_200);
    expect(await checkedFlac(memorySource(hurt))).toMatchObject({ value: 'damaged' });
  });
});
