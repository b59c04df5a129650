import { describe, expect, it } from 'vitest';
import { whiteNoise } from '../signal/generate';
import { readWavInfo } from '../wav';
import { encodeFrames, wavHeader } from '../wav/writer';
import { wavSound, type Sound } from '../sound';
import { overviewOf, sketchOf } from './overview';
import { memorySource } from '../fixtures/memory';

async function sound(planes: Float32Array[], bits: 16 | 24 = 24): Promise<Sound> {
  const frames = planes[0]?.length ?? 0;
  const format = { kind: 'integer', bits, channels: planes.length, sampleRateHz: 48_000 } as const;
  const source = memorySource(
    Buffer.concat([wavHeader(format, frames), encodeFrames(planes, frames, format)]),
  );
  const info = await readWavInfo(source);
  if (!info.ok) throw new Error(info.message);
  return wavSound(source, info.value);
}

const quiet = (length: number, seed: number) => whiteNoise(length, seed).map((v) => v * 0.1);

describe('the curve of a recording', () => {
  it.each([1, 2, 3])(
    'of %i channels has the lowest, highest and mean square of each column',
    async (n) => {
      const planes = Array.from({ length: n }, (_, c) => quiet(100_003, c + 1));
      const found = await overviewOf(await sound(planes), 700);
      expect([found.framesEach, found.columns, found.whole]).toEqual([143, 700, true]);
      planes.forEach((plane, c) => {
        for (const at of [0, 1, 114, 458, 699]) {
          const piece = plane.subarray(at * 143, (at + 1) * 143);
          const lists = found.channels[c];
          expect(lists?.least[at]).toBeCloseTo(Math.min(...piece), 5);
          expect(lists?.most[at]).toBeCloseTo(Math.max(...piece), 5);
          const square = piece.reduce((sum, v) => sum + v * v, 0) / piece.length;
          expect(lists?.square[at]).toBeCloseTo(square, 5);
        }
      });
    },
  );

  it('a first sketch lies within it', async () => {
    const file = await sound([quiet(400_000, 1), quiet(400_000, 2)]);
    const [sketch, whole] = [await sketchOf(file, 100), await overviewOf(file, 100)];
    expect([sketch.whole, sketch.columns]).toEqual([false, 100]);
    sketch.channels.forEach(({ least, most, square }, c) => {
      const all = whole.channels[c];
      for (let at = 0; at < 100; at++) {
        expect(most[at]).toBeLessThanOrEqual(all?.most[at] ?? -1);
        expect(least[at]).toBeGreaterThanOrEqual(all?.least[at] ?? 1);
        expect((square[at] ?? 0) / (all?.square[at] ?? 1)).toBeGreaterThan(0.5);
      }
    });
  });

  it('of fewer frames than columns, and of none, is as long as they are', async () => {
    const short = await overviewOf(await sound([quiet(10, 1)]), 100);
    expect([short.columns, short.framesEach]).toEqual([10, 1]);
    expect(short.channels[0]?.least).toEqual(short.channels[0]?.most);
    expect((await sketchOf(await sound([new Float32Array(0)]), 100)).columns).toBe(1);
  });
});
