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
}

/** Frames of a block where nothing else is asked for: some 0.7 s at 96 kHz. */
export const BLOCK_FRAMES = 65_536;

/** Which stretch of a recording is wanted, frames; and of how many frames a block is to be. */
export type BlockRange = Partial<Record<'from' | 'to' | 'blockFrames', number>>;

/**
 * The samples of a file, block by block in bounded memory: the planes are filled again for each.
 * @param from, to frames, 0 … the file's; where the file is shorter than it says, the blocks end there
 * @param blockFrames frames of a block, 1 and more
 */
export async function* wavBlocks(
  source: ByteSource,
  { format, dataOffset, frames }: WavInfo,
  { from = 0, to = frames, blockFrames = BLOCK_FRAMES }: BlockRange = {},
): AsyncGenerator<Block, void, undefined> {
  const bytes = frameBytes(format);
  const planes = planesFor(format.channels, Math.min(blockFrames, Math.max(1, to - from)));
  const fetch = (position: number): Promise<Uint8Array> => {
    const slice = source.read(
      dataOffset + position * bytes,
      Math.max(0, Math.min(blockFrames, to - position)) * bytes,
    );
    // Where nobody waits for it any more, nobody needs to hear that it failed.
    slice.catch(() => undefined);
    return slice;
  };
  // The next slice is on its way while this one is worked on.
  let next = from < to ? fetch(from) : null;
  for (let position = from; next && position < to; position += blockFrames) {
    const slice = await next;
    next = position + blockFrames < to ? fetch(position + blockFrames) : null;
    const got = decodeFrames(slice, format, planes);
    if (got > 0) yield { position, frames: got, planes };
    if (got < Math.min(blockFrames, to - position)) return;
  }
}
