import { cuesOf } from '../../core/audio/measure/cues';
import { passagesOf } from '../../core/audio/measure/passages';
import { clapsOf } from '../../core/claps/take';
import { leadsOf, takeAgainstPlan } from '../../core/verdict';
import { loudnessOverTime, type LoudnessOverTime } from '../../core/audio/measure/over-dry';
import {
  columnsOfSamples,
  packedPyramid,
  pyramidOf,
  unpackedPyramid,
  type Columns,
  type Drawn,
} from '../../core/audio/measure/pyramid';
import { checkedFlac, type FlacCheck } from '../../core/audio/flac/reader';
import { exported, writeExport } from '../../core/audio/process/exported';
import type { MidSideAudit } from '../../core/audio/measure/mid-side';
import { auditMidSide, matchOf, symmetryOf, tapsOf } from '../../core/audio/measure/asked';
import { delayMatrix, stereoPoints, type FrameRange } from '../../core/audio/measure/curves';
import { heardLoudness } from '../../core/audio/measure/heard-loudness';
import type { TapTest } from '../../core/audio/measure/identity';
import { stereoOf, type StereoFigures } from '../../core/audio/measure/stereo';
import { chosenChannels } from '../../core/audio/chosen';
import type { Sound } from '../../core/audio/sound';
import { measureTake, type TakeFigures } from '../../core/audio/measure/take';
import { sketchOf } from '../../core/audio/measure/overview';
import { blobSource, fingerprintOf } from '../../core/audio/wav/bytes';
import type { Help } from './serve';
import { soundOf, type Recorded } from './sound-of';
import { downloadSink, pickedSink } from './export-sink';
import type { ExportedFile, MeasureAsk, OpenedRecording, Tasks } from './tasks';

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
  { file, gains, processing, stretch }: Tasks['heard']['ask'],
  help: Help,
): Promise<number | null> =>
  heardLoudness(await soundOf(file), gains, processing, help, stretch ?? null);

export async function loudnessOfRecording(
  { file, ...stretch }: Tasks['loudness']['ask'],
  { progress, breathe, signal }: Help,
): Promise<LoudnessOverTime> {
  const sound = await soundOf(file);
  return loudnessOverTime(sound, rangeOf(sound, stretch), { progress, breathe, signal });
}

export const passagesOfRecording = async (
  { file, channels }: Tasks['passages']['ask'],
  { progress, breathe, signal }: Help,
): Promise<Tasks['passages']['answer']> =>
  passagesOf(await soundOf(file), channels, { progress, breathe, signal });

export const cuesOfRecording = async (
  { file, stretch, channels, against }: Tasks['cues']['ask'],
  { progress, breathe, signal }: Help,
): Promise<Tasks['cues']['answer']> =>
  cuesOf(await soundOf(file), stretch, channels, against, { progress, breathe, signal });

export const clapsOfRecording = async (
  { file, plan, ...ask }: Tasks['claps']['ask'],
  { progress, breathe, signal }: Help,
): Promise<Tasks['claps']['answer']> =>
  clapsOf(await soundOf(file), plan, ask, { progress, breathe, signal });

export const leadsOfRecording = async (
  { file, plan, binding }: Tasks['leads']['ask'],
  { progress, breathe, signal }: Help,
): Promise<Tasks['leads']['answer']> =>
  leadsOf(await soundOf(file), plan, binding, { progress, breathe, signal });

export const againstPlanOfRecording = async (
  { file, plan, binding, alone }: Tasks['againstPlan']['ask'],
  { progress, breathe, signal }: Help,
): Promise<Tasks['againstPlan']['answer']> =>
  takeAgainstPlan(
    await soundOf(file),
    plan,
    { binding, alone, taped: false },
    { progress, breathe, signal },
  );

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

/** Written where the user wants it, or to the disk on its way to the downloads, and read back. */
export async function exportedRecording(
  { file, wanted, into }: Tasks['exported']['ask'],
  help: Help,
): Promise<ExportedFile> {
  const made = exported(await soundOf(file), wanted);
  const sink = into ? await pickedSink(into) : await downloadSink();
  const { progress, breathe, signal } = help;
  const written = await writeExport(made, sink, { progress, breathe, signal });
  return {
    ...written,
    blob: await sink.blob(),
    frames: made.to - made.from,
    stampMoved: made.stampMoved,
  };
}

export async function auditOfRecording(
  { file, tracks, ...stretch }: Tasks['audited']['ask'],
  help: Help,
): Promise<MidSideAudit> {
  const { progress, breathe, signal } = help;
  return auditMidSide(await soundOf(file), tracks, stretch, { progress, breathe, signal });
}

export const matchOfRecording = async (
  { file, pair, ...stretch }: Tasks['matched']['ask'],
  help: Help,
): Promise<Tasks['matched']['answer']> =>
  matchOf(await soundOf(file), pair[0], pair[1], stretch, help);

export const symmetryOfRecording = async (
  { file, channel, ...stretches }: Tasks['symmetric']['ask'],
  help: Help,
): Promise<Tasks['symmetric']['answer']> =>
  symmetryOf(await soundOf(file), channel, stretches, help);
