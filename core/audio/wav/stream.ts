import { partOf, stepDone, type Work } from '../work';
import type { Sound } from '../sound';
import {
  Dither,
  encodeFrames,
  wavEnd,
  wavHeader,
  type WrittenMetadata,
  type WrittenFormat,
} from './writer';

/** How a recording is written. */
export interface StreamOptions extends Work {
  /** first frame, and the one behind the last */
  from: number;
  to: number;
  /** noise of two steps for integers; null for none */
  dither: Dither | null;
  metadata: WrittenMetadata;
}

/**
 * A recording, or a stretch of it, as the bytes of a WAV file, piece by piece: for a file, a download or a
 * stream. Its names, marks and texts go with it, the marks counted from where the stretch begins.
 * @param format of the file; its channels and rate are the recording's
 * @throws RangeError where the format cannot be written
 * @throws Cancelled where it was given up
 */
export async function* wavParts(
  sound: Sound,
  format: Pick<WrittenFormat, 'kind' | 'bits'>,
  options: Partial<StreamOptions> = {},
): AsyncGenerator<Uint8Array, void, undefined> {
  const { info } = sound;
  const { from = 0, to = info.frames, dither = null, metadata } = options;
  const { channels, sampleRateHz } = info.format;
  const written: WrittenFormat = { ...format, channels, sampleRateHz };
  if (info.channelMask !== null) written.channelMask = info.channelMask;
  const broadcast = info.broadcast && {
    ...info.broadcast,
    timeReference: info.broadcast.timeReference + from,
  };
  yield wavHeader(written, to - from, {
    ...(broadcast ? { broadcast } : {}),
    channelNames: info.channelNames.some((name) => name !== '') ? info.channelNames : [],
    info: info.container === 'FLAC' ? {} : info.info,
    cues: info.cues
      .filter(({ position }) => position >= from && position <= to)
      .map((cue) => ({ ...cue, position: cue.position - from })),
    ...metadata,
  });
  const work = partOf(options, 0, 1);
  let end = from;
  for await (const { planes, frames, position } of sound.blocks({ from, to })) {
    yield encodeFrames(planes, frames, written, dither);
    end = position + frames;
    work.progress?.((end - from) / Math.max(1, to - from));
    await stepDone(work);
  }
  // What a damaged recording does not hold is silence: the file is as long as it says.
  for (; end < to; end += SILENCE) {
    const frames = Math.min(SILENCE, to - end);
    const silence = Array.from({ length: channels }, () => new Float32Array(frames));
    yield encodeFrames(silence, frames, written);
  }
  yield wavEnd(written, to - from);
}

const SILENCE = 16_384;
