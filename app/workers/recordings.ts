import {
  columnsOfSamples,
  pyramidOf,
  type Columns,
  type Drawn,
  type Pyramid,
} from '../../core/audio/measure/pyramid';
import { measureTake, type TakeFigures } from '../../core/audio/measure/take';
import { sketchOf } from '../../core/audio/measure/overview';
import { processedSound } from '../../core/audio/process/processed';
import { resampledSound } from '../../core/audio/process/resampled';
import { openSound, type Sound } from '../../core/audio/sound';
import { blobSource, fingerprintOf } from '../../core/audio/wav/bytes';
import { wavParts } from '../../core/audio/wav/stream';
import { Dither } from '../../core/audio/wav/writer';
import { scratchFile } from '../contents/scratch';
import type { Help } from './serve';
import type { MeasureAsk, OpenedRecording, Tasks } from './tasks';

/** Recordings beside the page: read in pieces, never whole. */

async function soundOf(file: Blob): Promise<Sound> {
  const opened = await openSound(blobSource(file));
  if (!opened.ok) throw new Error(opened.message);
  return opened.value;
}

export async function openedRecording(file: Blob): Promise<OpenedRecording> {
  const { info } = await soundOf(file);
  return { info, fingerprint: await fingerprintOf(blobSource(file)) };
}

/** @param columns of the rough curve that is told at once */
export async function overviewOfRecording(
  file: Blob,
  columns: number,
  help: Help,
): Promise<Pyramid> {
  const sound = await soundOf(file);
  const { progress, breathe, signal } = help;
  help.partial(await sketchOf(sound, columns, { breathe, signal }));
  // What is known of the fine ones so far would be copied again and again.
  return pyramidOf(sound, { progress, breathe, signal });
}

export const columnsOfRecording = async (file: Blob, drawn: Drawn): Promise<Columns> =>
  columnsOfSamples(await soundOf(file), drawn);

export const measuredRecording = async (
  file: Blob,
  options: MeasureAsk,
  help: Help,
): Promise<TakeFigures> => measureTake(await soundOf(file), { ...options, ...help });

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
