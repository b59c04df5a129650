import { describe, expect, it } from 'vitest';
import { encodeFrames, wavHeader, type WrittenFormat } from '../../core/audio';
import { STREAM_BLOCK } from '../../core/audio/listen/stream-voice';
import { feedSound, pieceOf } from './feed';
import type { FeedAsk } from './protocol';

const RATE = 48_000;

function file(planes: readonly Float32Array[], sampleRateHz = RATE): Blob {
  const format: WrittenFormat = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz };
  const frames = planes[0]?.length ?? 0;
  const bytes = [wavHeader(format, frames), encodeFrames([...planes], frames, format)];
  return new Blob(bytes as Uint8Array<ArrayBuffer>[]);
}

const ask = (change: Partial<FeedAsk>): FeedAsk => ({
  take: 'a',
  file: new Blob(),
  processing: {},
  channels: [0],
  sampleRateHz: RATE,
  offset: 0,
  ...change,
});

describe('a piece of a recording', () => {
  const ramps = [1, -1, 2].map((slope) =>
    Float32Array.from({ length: 20_000 }, (_, i) => slope * (i + 1)),
  );

  it('is what lies there, of the channels that are asked for', async () => {
    const of = ask({ file: file(ramps), channels: [2, 0] });
    const sound = await feedSound(of);
    const [third, first] = await pieceOf(sound, of, 1);
    expect(first?.[0]).toBe(STREAM_BLOCK + 1);
    expect(third?.[10]).toBe(2 * (STREAM_BLOCK + 11));
    // Behind its end is silence.
    const [, last] = await pieceOf(sound, of, 2);
    expect(last?.[20_000 - 2 * STREAM_BLOCK - 1]).toBe(20_000);
    expect(last?.[20_000 - 2 * STREAM_BLOCK]).toBe(0);
    expect((await pieceOf(sound, of, 3)).every((plane) => plane.every((v) => v === 0))).toBe(true);
  });

  it.each([-5000, -1, 1, 5000, 30_000])('lies %i frames off the beginning', async (offset) => {
    const of = ask({ file: file(ramps), offset });
    const sound = await feedSound(of);
    for (let block = 0; block < 5; block++) {
      const [plane] = await pieceOf(sound, of, block);
      for (let i = 0; i < STREAM_BLOCK; i += 97) {
        const frame = block * STREAM_BLOCK + i - offset;
        expect(plane?.[i]).toBe(frame >= 0 && frame < 20_000 ? frame + 1 : 0);
      }
    }
  });

  it.each([44_100, 88_200, 96_000, 22_050])(
    'of %i Hz is brought to the rate of what is heard, piece to piece without a seam',
    async (own) => {
      const hz = 997;
      const planes = [
        Float32Array.from({ length: own }, (_, i) => Math.sin((2 * Math.PI * hz * i) / own)),
      ];
      const of = ask({ file: file(planes, own) });
      const sound = await feedSound(of);
      for (let block = 1; block < 4; block++) {
        const [plane] = await pieceOf(sound, of, block);
        for (let i = 0; i < STREAM_BLOCK; i += 13) {
          const t = (block * STREAM_BLOCK + i) / RATE;
          expect(plane?.[i]).toBeCloseTo(Math.sin(2 * Math.PI * hz * t), 3);
        }
      }
    },
  );

  it('is what was done to the recording: folded, turned over, shifted', async () => {
    const of = ask({
      file: file(ramps),
      processing: {
        inverted: [true, false, false],
        fold: [{ name: 'sum', gains: [1, 1, 0.5] }],
      },
    });
    const [sum] = await pieceOf(await feedSound(of), of, 0);
    // −1 − 1 + 0.5 · 2 for each step.
    expect(sum?.[99]).toBeCloseTo(-100, 3);
  });

  it('of something that is no recording is refused with its reason', async () => {
    await expect(feedSound(ask({ file: new Blob(['no sound']) }))).rejects.toThrow(/./);
  });
});
