import { quantile } from 'd3-array';
import { bestEngine } from '../signal/fast-spectra';
import type { SpectraEngine } from '../signal/spectra';
import type { Sound } from '../sound';
import { partOf, walked, type Work } from '../work';
import type { Stretch } from './asked';
import { delayBetween } from './delay';
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

interface OneCue {
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
): OneCue | null {
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

function summed(channel: number, all: readonly OneCue[]): ChannelCue | null {
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
 * What the channels say of who sounds alone in a stretch: delay, level and polarity of each against
 * one of them, at its onsets, before the first reflections.
 * @param stretch s from the beginning of the recording
 * @param channels which are read, 0 … 63; the others are left alone
 * @param against the channel that they are measured against, one of them
 * @returns of each channel but that one; those at whose onsets nothing sets in are left out
 * @throws Cancelled where it was given up
 */
export async function cuesOf(
  sound: Sound,
  stretch: Stretch,
  channels: readonly number[],
  against: number,
  work: Partial<Work> = {},
): Promise<ChannelCue[]> {
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
  const wanted = { from, steps: meter.result() };
  const onsets = await onsetsAt(sound, wanted, channels, partOf(work, 0.5, 1));
  const most = (MOST_MS / 1000) * sampleRateHz;
  const reference = onsets.get(against) ?? [];
  return channels.flatMap((channel) => {
    if (channel === against) return [];
    const others = onsets.get(channel) ?? [];
    const found = reference.flatMap((one) => {
      const near = others.filter(({ at }) => Math.abs(at - one.at) <= most);
      const [other] = near.sort((a, b) => Math.abs(a.at - one.at) - Math.abs(b.at - one.at));
      return (other && cueOf(one, other, sampleRateHz, engine)) ?? [];
    });
    return summed(channel, found) ?? [];
  });
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
