import type { ByteSource } from './bytes';
import { decodeFrames, planesFor, type Planes } from './decode';
import { frameBytes, type WavInfo } from './format';

/** A stretch of samples where it stands in the file. */
export interface Block {
  /** frames from the beginning of the file */
  position: number;
  frames: number;
  /** one a channel; only the first frames of each count, and only until the next block */
  planes: Planes;
  /** samples of the block that were no numbers or no sound, and are silence; none where it is left out */
  faults?: number;
}

/** Samples of a block in all where nothing else is asked for, and the fewest frames of one. */
const BLOCK_SAMPLES = 65_536;
const LEAST_FRAMES = 1024;

/**
 * Frames of a block where nothing else is asked for: the more channels, the fewer.
 * @param channels 1 … 64
 */
export const blockFramesOf = (channels: number): number =>
  Math.max(LEAST_FRAMES, BLOCK_SAMPLES / 2 ** Math.ceil(Math.log2(channels)));

/** What is wanted of a recording. */
export interface BlockRange {
  /** the stretch, frames; all of it where they are left out */
  from?: number;
  to?: number;
  /** frames of a block */
  blockFrames?: number;
  /** channels that are wanted, from 0: what the planes of the others hold means nothing */
  only?: readonly number[];
}

/**
 * The samples of a file, block by block in bounded memory: the planes are filled again for each.
 * @param from, to frames, 0 … the file's; where the file is shorter than it says, the blocks end there
 * @param blockFrames frames of a block, 1 and more
 */
export async function* wavBlocks(
  source: ByteSource,
  { format, dataOffset, frames }: WavInfo,
  { from = 0, to = frames, blockFrames = blockFramesOf(format.channels), only }: BlockRange = {},
): AsyncGenerator<Block, void, undefined> {
  const bytes = frameBytes(format);
  const planes = planesFor(format.channels, Math.min(blockFrames, Math.max(1, to - from)));
  // Two take turns: one is read into while the other is worked on.
  const most = Math.max(0, Math.min(blockFrames, to - from)) * bytes;
  let [into, other]: (Uint8Array | undefined)[] = [];
  const fetch = (position: number): Promise<Uint8Array> => {
    [into, other] = [other ?? new Uint8Array(most), into];
    const length = Math.max(0, Math.min(blockFrames, to - position)) * bytes;
    const slice = source.read(dataOffset + position * bytes, length, into);
    // Where nobody waits for it any more, nobody needs to hear that it failed.
    slice.catch(() => undefined);
    return slice;
  };
  // The next slice is on its way while this one is worked on.
  let next = from < to ? fetch(from) : null;
  for (let position = from; next && position < to; position += blockFrames) {
    const slice = await next;
    next = position + blockFrames < to ? fetch(position + blockFrames) : null;
    const { frames: got, faults } = decodeFrames(slice, format, planes, only);
    if (got > 0) yield { position, frames: got, planes, faults };
    if (got < Math.min(blockFrames, to - position)) return;
  }
}
