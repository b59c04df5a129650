import { done, refused, type Outcome } from '../units/outcome';
import { isFlac, openFlac } from './flac/reader';
import type { ByteSource } from './wav/bytes';
import type { WavInfo } from './wav/format';
import { readWavInfo } from './wav/header';
import { wavBlocks, type Block, type BlockRange } from './wav/reader';

/** What a recording says of itself, whichever way its samples are written. */
export interface SoundInfo extends Omit<WavInfo, 'container' | 'dataOffset'> {
  container: WavInfo['container'] | 'FLAC';
}

/** A recording that can be read block by block, as often as wanted. */
export interface Sound {
  info: SoundInfo;
  /** the blocks of a stretch, in bounded memory: the planes are filled again for each */
  blocks(range?: BlockRange): AsyncGenerator<Block, void, undefined>;
}

/** A WAV file whose header was read already. */
export const wavSound = (source: ByteSource, info: WavInfo): Sound => ({
  info,
  blocks: (range) => wavBlocks(source, info, range),
});

/**
 * Opens a recording: WAV of every kind, or FLAC.
 * @returns why it cannot be read, where it cannot
 */
export async function openSound(source: ByteSource): Promise<Outcome<Sound>> {
  if (await isFlac(source)) return openFlac(source);
  const info = await readWavInfo(source);
  return info.ok ? done(wavSound(source, info.value)) : refused(info.message);
}
