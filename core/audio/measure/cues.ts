import { quantile } from 'd3-array';
import { bestEngine } from '../signal/fast-spectra';
import type { SpectraEngine } from '../signal/spectra';
import type { Sound } from '../sound';
import { partOf, stepDone, walked, type Work } from '../work';
import type { Stretch } from './asked';
import { delayBetween } from './delay';
import { delayWithoutOnsets, type SteadyDelay } from './led';
import { OnsetMeter, onsetsAt, type Onset } from './onsets';

/** What one channel says against another of who sounds alone, before the room answers. */
export interface ChannelCue {
  channel: number;
  /** later than the other, ms */
  delayMs: number;
  /** of the direct sound against the other's, dB; null where it does not stand out of what was there before */
  levelDb: number | null;
  /** of one onset to the next: standard deviations, of the median; 0 where there is one onset */
  delaySpreadMs: number;
  levelSpreadDb: number;
  /** as the other, or turned over */
  polarity: 1 | -1;
  /** none: read from the phase of all that sounds */
  onsets: number;
}

/** Farther than this two onsets are not one sound, ms. */
const MOST_MS = 60;
/** From the end of the silence that a piece begins with, s. */
const SILENCE_S = 0.0007;
/** Direct sound is read where it is this many times what was there before. */
const OVER = 4;
/** Middle half of a normal spread, in its deviations; the median's uncertainty against the mean's. */
const [QUARTILES, OF_MEDIAN] = [1.349, 1.253];

const energyOf = (samples: Float32Array): number =>
  samples.reduce((sum, value) => sum + value * value, 0);

/** Energy of the direct sound in a piece: without that of what sounded on from before. */
function directOf({ piece }: Onset, sampleRateHz: number): number | null {
  const silence = Math.round(SILENCE_S * sampleRateHz);
  const before = (energyOf(piece.subarray(0, silence)) / silence) * piece.length;
  const all = energyOf(piece);
  return all > OVER * before && all > 0 ? all - before : null;
}

/** What one channel says against another at one onset. */
export interface OnsetCue {
  /** of the onset, s from the beginning of the recording */
  atS: number;
  delayMs: number;
  levelDb: number | null;
  polarity: 1 | -1;
  /** how alike both pieces are, 0 … 1 */
  alike: number;
}

function cueOf(
  one: Onset,
  other: Onset,
  sampleRateHz: number,
  engine: SpectraEngine,
): Omit<OnsetCue, 'atS'> | null {
  const length = Math.min(one.piece.length, other.piece.length);
  const [x, y] = [one.piece.subarray(0, length), other.piece.subarray(0, length)];
  const fine = delayBetween(x, y, sampleRateHz, 1, false, engine);
  if (!fine) return null;
  const shift = other.from - one.from;
  const [direct, reference] = [other, one].map((onset) => directOf(onset, sampleRateHz));
  return {
    delayMs: (shift / sampleRateHz) * 1000 + fine.delayMs,
    levelDb: direct == null || reference == null ? null : 10 * Math.log10(direct / reference),
    polarity: fine.polarity,
    alike: fine.certainty,
  };
}

/** Deviation of the median of a few values, by the spread of their middle half. */
function spreadOf(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const [low = 0, high = 0] = [quantile(values, 0.25), quantile(values, 0.75)];
  return ((high - low) / QUARTILES) * (OF_MEDIAN / Math.sqrt(values.length));
}

/** A direct sound is nearly the same in both; what is much less alike than the best is something else. */
const [LEAST_ALIKE, BELOW_BEST] = [0.85, 0.03];

function summed(channel: number, all: readonly OnsetCue[]): ChannelCue | null {
  const best = all.reduce((most, { alike }) => Math.max(most, alike), LEAST_ALIKE + BELOW_BEST);
  const found = all.filter(({ alike }) => alike >= best - BELOW_BEST);
  if (found.length === 0) return null;
  const delays = found.map(({ delayMs }) => delayMs);
  const levels = found.flatMap(({ levelDb }) => levelDb ?? []);
  const upright = found.filter(({ polarity }) => polarity === 1).length;
  return {
    channel,
    delayMs: quantile(delays, 0.5) ?? 0,
    levelDb: quantile(levels, 0.5) ?? null,
    delaySpreadMs: spreadOf(delays),
    levelSpreadDb: spreadOf(levels),
    polarity: 2 * upright >= found.length ? 1 : -1,
    onsets: found.length,
  };
}

/**
 * What the channels say at every onset of a stretch, before the first reflections.
 * @param stretch s from the beginning of the recording
 * @param channels which are read, 0 … 63; the others are left alone
 * @param against the channel that they are measured against, one of them
 * @returns by channel but that one, in their order in time; of those that say nothing an empty list
 * @throws Cancelled where it was given up
 */
export async function onsetCuesOf(
  sound: Sound,
  stretch: Stretch,
  channels: readonly number[],
  against: number,
  work: Partial<Work> = {},
): Promise<Map<number, OnsetCue[]>> {
  const { sampleRateHz, channels: count } = sound.info.format;
  const [from, to] = [stretch.fromS, stretch.toS].map((s) =>
    Math.max(0, Math.min(sound.info.frames, Math.round(s * sampleRateHz))),
  ) as [number, number];
  const engine = await bestEngine();
  const meter = new OnsetMeter(count, sampleRateHz);
  const first = partOf(work, 0, 0.5);
  for await (const { planes, frames } of walked(sound, { from, to, only: channels }, first)) {
    meter.add(planes, frames);
  }
  // What sounds already where a stretch begins sets in nowhere.
  const begun = from > 0 ? BEGUN_S * sampleRateHz : -1;
  const steps = meter.result().map((list) => list.filter((step) => step > begun));
  const onsets = await onsetsAt(sound, { from, steps }, channels, partOf(work, 0.5, 1));
  const most = (MOST_MS / 1000) * sampleRateHz;
  const reference = onsets.get(against) ?? [];
  const found = new Map<number, OnsetCue[]>();
  for (const channel of channels) {
    if (channel === against) continue;
    const others = onsets.get(channel) ?? [];
    const cues: OnsetCue[] = [];
    for (const one of reference) {
      const near = others.filter(({ at }) => Math.abs(at - one.at) <= most);
      const [other] = near.sort((a, b) => Math.abs(a.at - one.at) - Math.abs(b.at - one.at));
      const cue = other && cueOf(one, other, sampleRateHz, engine);
      if (cue) cues.push({ ...cue, atS: stretch.fromS + one.at / sampleRateHz });
    }
    found.set(channel, cues);
    await stepDone(work);
  }
  return found;
}

/** An onset nearer to the beginning of a stretch may be none, s. */
const BEGUN_S = 0.002;
/** Shorter than this no delay is steady, s. */
const LEAST_STEADY_S = 1.6;

const steadyCue = (channel: number, { delayMs, spreadMs, polarity }: SteadyDelay): ChannelCue => ({
  channel,
  delayMs,
  levelDb: null,
  delaySpreadMs: spreadMs,
  levelSpreadDb: 0,
  polarity,
  onsets: 0,
});

/**
 * What the channels say of who sounds alone in a stretch: delay, level and polarity of each against
 * one of them, at its onsets, before the first reflections; without any, the delay that most of the
 * stretch keeps to, and no level.
 * @param stretch s from the beginning of the recording
 * @param channels which are read, 0 … 63; the others are left alone
 * @param against the channel that they are measured against, one of them
 * @param near channels, 0 … 63, that stand beside that one: of them alone a delay is read without onsets
 * @returns of each channel but that one; those of which nothing can be told are left out
 * @throws Cancelled where it was given up
 */
export async function cuesOf(
  sound: Sound,
  stretch: Stretch,
  channels: readonly number[],
  against: number,
  work: Partial<Work> = {},
  near: readonly number[] = [],
): Promise<ChannelCue[]> {
  const found = await onsetCuesOf(sound, stretch, channels, against, partOf(work, 0, 0.6));
  const cues: ChannelCue[] = [];
  const long = stretch.toS - stretch.fromS >= LEAST_STEADY_S;
  for (const [channel, onsets] of found) {
    const cue = summed(channel, onsets);
    if (cue) cues.push(cue);
    else if (long && near.includes(channel)) {
      const steady = await delayWithoutOnsets(
        sound,
        stretch,
        [against, channel],
        partOf(work, 0.6, 1),
      );
      if (steady) cues.push(steadyCue(channel, steady));
    }
  }
  return cues;
}

/** No passage is read for longer, s. */
const MOST_PASSAGE_S = 20;
/** What is quietest over so long is what was there anyway, s. */
const QUIET_S = 0.05;
/** A clap is over, and no reflection is there yet, s; and it may begin so much ahead. */
const [DIRECT_S, AHEAD_S] = [0.004, 0.0005];

/** Least mean power of any so many samples, side by side. */
function quietest(samples: Float32Array, length: number): number {
  let least = Infinity;
  for (let from = 0; from + length <= samples.length; from += length) {
    least = Math.min(least, energyOf(samples.subarray(from, from + length)) / length);
  }
  return Number.isFinite(least) ? least : 0;
}

/**
 * Direct sound against all that the room adds, in one channel over a passage of short sounds: energies
 * at the onsets, before the first reflections, against all the rest, without what is there in silence.
 * @param stretch s from the beginning of the recording; of more than 20 s the first 20
 * @param channel 0 … 63
 * @returns dB; null where no onset stands out, or the room adds nothing that is heard
 * @throws Cancelled where it was given up
 */
export async function directToRoomDb(
  sound: Sound,
  stretch: Stretch,
  channel: number,
  work: Partial<Work> = {},
): Promise<number | null> {
  const { sampleRateHz, channels } = sound.info.format;
  const toS = Math.min(stretch.toS, stretch.fromS + MOST_PASSAGE_S);
  const [from, to] = [stretch.fromS, toS].map((s) =>
    Math.max(0, Math.min(sound.info.frames, Math.round(s * sampleRateHz))),
  ) as [number, number];
  const meter = new OnsetMeter(channels, sampleRateHz);
  const samples = new Float32Array(to - from);
  let filled = 0;
  const first = partOf(work, 0, 0.7);
  for await (const { planes, frames } of walked(sound, { from, to, only: [channel] }, first)) {
    meter.add(planes, frames);
    samples.set(planes[channel]?.subarray(0, frames) ?? [], filled);
    filled += frames;
  }
  const wanted = { from, steps: meter.result() };
  const onsets =
    (await onsetsAt(sound, wanted, [channel], partOf(work, 0.7, 1))).get(channel) ?? [];
  const quiet = quietest(samples, Math.round(QUIET_S * sampleRateHz));
  const [ahead, after] = [AHEAD_S, DIRECT_S].map((s) => Math.round(s * sampleRateHz)) as [
    number,
    number,
  ];
  const direct = onsets.reduce((sum, { at }) => {
    const piece = samples.subarray(Math.max(0, at - ahead), at + after);
    return sum + energyOf(piece) - quiet * piece.length;
  }, 0);
  const room = energyOf(samples) - quiet * samples.length - direct;
  return direct > 0 && room > 0 ? 10 * Math.log10(direct / room) : null;
}
