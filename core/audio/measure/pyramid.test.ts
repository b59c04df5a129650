import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { RATE, soundOf } from '../fixtures/made';
import { whiteNoise } from '../signal/generate';
import type { Sound } from '../sound';
import type { Block } from '../wav/reader';
import {
  columnsOf,
  columnsOfSamples,
  packedPyramid,
  pyramidOf,
  unpackedPyramid,
  type Cells,
} from './pyramid';
import { Cancelled } from '../work';

const FRAMES = 70_001;
const planes = [whiteNoise(FRAMES, 1), whiteNoise(FRAMES, 2).map((x) => x * 0.1)];
planes[0]?.set([9], 33_333);

const brute = (plane: Float32Array, from: number, to: number) => {
  const piece = plane.subarray(from, to);
  return {
    least: Math.min(...piece),
    most: Math.max(...piece),
    square: piece.reduce((sum, x) => sum + x * x, 0) / piece.length,
  };
};

const at = (cells: Cells | undefined, k: number) => ({
  least: cells?.least[k] ?? NaN,
  most: cells?.most[k] ?? NaN,
  square: cells?.square[k] ?? NaN,
});

async function* nothing(): AsyncGenerator<Block, void, undefined> {}

describe('the pyramid of a recording', () => {
  it('shows any stretch at any zoom: nothing of it is lost, and little beside it is added', async () => {
    const sound = await soundOf(planes);
    const pyramid = await pyramidOf(sound);
    const random = seededRandom(5);
    for (let trial = 0; trial < 60; trial++) {
      const length = Math.max(2, Math.floor(FRAMES * random() ** 3));
      const from = Math.floor((FRAMES - length) * random());
      const columns = 1 + Math.floor(random() * 300);
      const range = { from, to: from + length, columns };
      const { channels, known } = await columnsOf(sound, pyramid, range);
      expect(known).toBe(columns);
      planes.forEach((plane, c) => {
        for (const k of [0, Math.floor(columns / 2), columns - 1]) {
          const width = length / columns;
          const begin = Math.floor(from + k * width);
          const end = Math.max(
            begin + 1,
            Math.min(from + length, Math.ceil(from + (k + 1) * width)),
          );
          const inside = brute(plane, begin, end);
          // A cell beside it at most.
          const reach = width < 256 ? 0 : Math.ceil(width);
          const outside = brute(plane, Math.max(0, begin - reach), end + reach);
          const found = at(channels[c], k);
          expect(found.least).toBeLessThanOrEqual(inside.least + 1e-6);
          expect(found.most).toBeGreaterThanOrEqual(inside.most - 1e-6);
          expect(found.least).toBeGreaterThanOrEqual(outside.least - 1e-6);
          expect(found.most).toBeLessThanOrEqual(outside.most + 1e-6);
          if (reach === 0) expect(found.square).toBeCloseTo(inside.square, 5);
        }
      });
    }
    const all = await columnsOf(sound, pyramid, { from: 0, to: FRAMES, columns: 1 });
    expect(all.channels[0]?.most[0]).toBe(9);
    expect(all.channels[1]?.square[0]).toBeCloseTo(
      brute(planes[1] as Float32Array, 0, FRAMES).square,
      6,
    );
  });

  it('is told while it is made, and given up where that is wanted', async () => {
    const sound = await soundOf(planes);
    let [told, breaths] = [0, 0];
    const signal = { aborted: false };
    const work = {
      signal,
      partial: () => (told += 1),
      breathe: () => {
        breaths += 1;
        return Promise.resolve();
      },
    };
    const pyramid = await pyramidOf(sound, work);
    expect(told).toBeGreaterThan(0);
    expect(breaths).toBeGreaterThan(1);
    expect(pyramid.known).toBe(FRAMES);
    signal.aborted = true;
    await expect(pyramidOf(sound, work)).rejects.toThrow(Cancelled);
  });

  it('comes back from its bytes; what is no pyramid does not', async () => {
    const sound = await soundOf(planes);
    const pyramid = await pyramidOf(sound);
    const bytes = packedPyramid(pyramid);
    expect(unpackedPyramid(bytes)).toEqual(pyramid);
    expect(unpackedPyramid(bytes.subarray(0, bytes.length - 4))).toBeNull();
    expect(unpackedPyramid(new Uint8Array(100))).toBeNull();
    expect(unpackedPyramid(new Uint8Array(3))).toBeNull();
  });

  it('of a long recording has coarser cells, and looks at some samples where it has to', async () => {
    const frames = 12 * 3600 * 48_000;
    const one = new Float32Array(256).fill(0.25);
    let [read, long] = [0, 0];
    const { info } = await soundOf(Array.from({ length: 64 }, () => new Float32Array(4)));
    const sound: Sound = {
      info: { ...info, frames },
      // eslint-disable-next-line @typescript-eslint/require-await -- nothing is read
      async *blocks({ from = 0, to = frames } = {}) {
        read += to - from;
        long = Math.max(long, to - from);
        yield { position: from, frames: to - from, planes: info.channelNames.map(() => one) };
      },
    };
    const { channels } = await columnsOfSamples(sound, { from: 0, to: frames, columns: 100 });
    expect([read, long]).toEqual([100 * 256, 256]);
    expect(channels).toHaveLength(64);
    expect(channels[63]?.square[99]).toBeCloseTo(0.0625, 6);
    const some: Sound = {
      ...sound,
      info: { ...info, frames, format: { ...info.format, channels: 2 } },
    };
    const none: Sound = { ...some, blocks: () => nothing() };
    const { levels } = await pyramidOf(none);
    const cells = levels.reduce(
      (sum, of) => sum + of.channels.reduce((all, { least }) => all + least.length, 0),
      0,
    );
    expect(cells).toBeLessThan(1.4 * 2 ** 20);
    expect(levels[0]?.framesEach).toBeGreaterThan(256);
    const packed = packedPyramid({ frames, known: frames, levels });
    expect(unpackedPyramid(packed)?.levels[0]?.framesEach).toBe(levels[0]?.framesEach);
  });

  it('of nothing and of a single sample is drawn as well', async () => {
    for (const frames of [1, 2]) {
      const sound = await soundOf([new Float32Array(frames).fill(0.5)], RATE);
      const pyramid = await pyramidOf(sound);
      const { channels } = await columnsOf(sound, pyramid, { from: 0, to: frames, columns: 3 });
      expect([...(channels[0]?.most ?? [])]).toEqual([0.5, 0.5, 0.5]);
    }
  });
});
