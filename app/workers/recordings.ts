import {
  columnsOfSamples,
  packedPyramid,
  pyramidOf,
  unpackedPyramid,
  type Columns,
  type Drawn,
} from '../../core/audio/measure/pyramid';
import { checkedFlac, type FlacCheck } from '../../core/audio/flac/reader';
import { tapsOf } from '../../core/audio/measure/asked';
import { delayMatrix, stereoPoints, type FrameRange } from '../../core/audio/measure/curves';
import { heardLoudness } from '../../core/audio/measure/heard-loudness';
import type { TapTest } from '../../core/audio/measure/identity';
import { stereoOf, type StereoFigures } from '../../core/audio/measure/stereo';
import { chosenChannels } from '../../core/audio/chosen';
import type { Sound } from '../../core/audio/sound';
import { measureTake, type TakeFigures } from '../../core/audio/measure/take';
import { sketchOf } from '../../core/audio/measure/overview';
import { processedSound } from '../../core/audio/process/processed';
import { resampledSound } from '../../core/audio/process/resampled';
import { blobSource, fingerprintOf } from '../../core/audio/wav/bytes';
import { wavParts } from '../../core/audio/wav/stream';
import { Dither } from '../../core/audio/wav/writer';
import { scratchFile } from '../contents/scratch';
import type { Help } from './serve';
import { soundOf, type Recorded } from './sound-of';
import type { MeasureAsk, OpenedRecording, Tasks } from './tasks';

/** Recordings beside the page: read in pieces, never whole. */

export async function openedRecording(file: Blob): Promise<OpenedRecording> {
  const { info } = await soundOf(file);
  return { info, fingerprint: await fingerprintOf(blobSource(file)) };
}

/** A rough curve at once, and then that of every sample: from what was kept, where that fits. */
export async function overviewOfRecording(
  { file, columns, kept }: Tasks['overview']['ask'],
  { progress, breathe, signal, partial }: Help,
): Promise<Tasks['overview']['answer']> {
  const known = kept && unpackedPyramid(new Uint8Array(await kept.arrayBuffer()));
  const sound = await soundOf(file);
  if (known?.frames === sound.info.frames) return { pyramid: known, packed: null };
  partial(await sketchOf(sound, columns, { breathe, signal }));
  // What is known of the fine ones so far would be copied again and again.
  const pyramid = await pyramidOf(sound, { progress, breathe, signal });
  return { pyramid, packed: new Blob([packedPyramid(pyramid)]) };
}

export const columnsOfRecording = async (file: Recorded, drawn: Drawn): Promise<Columns> =>
  columnsOfSamples(await soundOf(file), drawn);

export async function measuredRecording(
  file: Recorded,
  options: MeasureAsk,
  help: Help,
  channels?: readonly number[],
): Promise<TakeFigures> {
  const sound = await soundOf(file);
  return measureTake(channels ? chosenChannels(sound, channels) : sound, { ...options, ...help });
}

export const heardOfRecording = async (
  { file, gains, shiftMs }: Tasks['heard']['ask'],
  help: Help,
): Promise<number | null> => heardLoudness(await soundOf(file), gains, shiftMs, help);

function rangeOf(sound: Sound, { fromS, toS }: { fromS: number; toS: number }): FrameRange {
  const { frames, format } = sound.info;
  const [from, to] = [fromS, toS].map((s) => Math.min(frames, Math.round(s * format.sampleRateHz)));
  return { from: from ?? 0, to: to ?? frames };
}

/** @throws Error where it is no FLAC file */
export async function checkedRecording(file: Blob, help: Help): Promise<FlacCheck> {
  const { progress, breathe, signal } = help;
  const checked = await checkedFlac(blobSource(file), { progress, breathe, signal });
  if (!checked.ok) throw new Error(checked.message);
  return checked.value;
}

export async function stereoOfRecording(
  { file, pair, points, ...stretch }: Tasks['stereo']['ask'],
  help: Help,
): Promise<StereoFigures> {
  const sound = await soundOf(file);
  return stereoOf(sound, pair, rangeOf(sound, stretch), points, help);
}

export async function pointsOfRecording({
  file,
  pair,
  count,
  ...stretch
}: Tasks['points']['ask']): Promise<Float32Array> {
  const two = chosenChannels(await soundOf(file), pair);
  return stereoPoints(two, rangeOf(two, stretch), [0, 1], count);
}

/** @throws Error where there is nothing to compare */
export async function pairOfRecording(
  { file, pair, mostMs, ...stretch }: Tasks['pair']['ask'],
  help: Help,
): Promise<Tasks['pair']['answer']> {
  const sound = await soundOf(file);
  const two = chosenChannels(sound, pair);
  const { pairs } = await delayMatrix(two, rangeOf(sound, stretch), [0, 1], mostMs, help);
  const [found] = pairs;
  if (!found) throw new Error('there is nothing to compare');
  return { ...found, first: pair[0], second: pair[1] };
}

export async function tapsOfRecording(
  { file, announced, ...stretch }: Tasks['taps']['ask'],
  help: Help,
): Promise<TapTest> {
  return tapsOf(await soundOf(file), announced, stretch, help);
}

/** Written to the disk where the browser has room there, piece by piece. */
export async function processedRecording(
  { file, processing, sampleRateHz, format, fromS, toS }: Tasks['processed']['ask'],
  help: Help,
): Promise<Blob> {
  const whole = await soundOf(file);
  const rate = sampleRateHz ?? whole.info.format.sampleRateHz;
  const other = rate === whole.info.format.sampleRateHz ? whole : resampledSound(whole, rate);
  const sound = processedSound(other, processing);
  const { frames } = sound.info;
  const from = Math.min(frames, Math.round(fromS * rate));
  const to = toS === null ? frames : Math.max(from, Math.min(frames, Math.round(toS * rate)));
  const dither = format.kind === 'integer' && format.bits < 32 ? new Dither(1) : null;
  const parts = wavParts(sound, format, { ...help, from, to, dither });
  const room = await scratchFile();
  if (!room) {
    const pieces: Blob[] = [];
    for await (const part of parts) pieces.push(new Blob([part as Uint8Array<ArrayBuffer>]));
    return new Blob(pieces, { type: 'audio/wav' });
  }
  const writer = room.stream.getWriter() as WritableStreamDefaultWriter<Uint8Array>;
  try {
    for await (const part of parts) await writer.write(part);
    await writer.close();
  } catch (error) {
    await writer.abort(error).catch(() => undefined);
    throw error;
  }
  return room.file();
}
