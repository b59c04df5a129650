import { STREAM_BLOCK } from '../../core/audio/listen/stream-voice';
import { processedSound } from '../../core/audio/process/processed';
import { resampledSound } from '../../core/audio/process/resampled';
import type { Sound } from '../../core/audio/sound';
import { soundOf } from '../workers/sound-of';
import type { FeedAsk } from './protocol';

/** A recording as it is to be heard: with what is done to it, at the rate of what is heard. */
export async function feedSound({ file, processing, sampleRateHz }: FeedAsk): Promise<Sound> {
  const whole = await soundOf(file);
  const done = Object.keys(processing).length === 0 ? whole : processedSound(whole, processing);
  return resampledSound(done, sampleRateHz);
}

/**
 * One piece of it: STREAM_BLOCK frames of each channel; what lies before its beginning or behind its
 * end is silence.
 * @param block counted from the beginning of what is heard
 */
export async function pieceOf(
  sound: Sound,
  { channels, offset }: Pick<FeedAsk, 'channels' | 'offset'>,
  block: number,
): Promise<Float32Array[]> {
  const planes = channels.map(() => new Float32Array(STREAM_BLOCK));
  const begin = block * STREAM_BLOCK - offset;
  const [from, to] = [begin, begin + STREAM_BLOCK].map((frame) =>
    Math.min(sound.info.frames, Math.max(0, frame)),
  ) as [number, number];
  if (to <= from) return planes;
  for await (const part of sound.blocks({ from, to, blockFrames: STREAM_BLOCK, only: channels })) {
    channels.forEach((channel, c) => {
      const samples = part.planes[channel]?.subarray(0, part.frames);
      if (samples) planes[c]?.set(samples, part.position - begin);
    });
  }
  return planes;
}
