import { mean, quantile } from 'd3-array';
import { heardImage, type HeardImage } from '../listen/heard-image';
import { chosenChannels } from '../chosen';
import type { Sound } from '../sound';
import { partOf, type Work } from '../work';
import type { BandFigures } from './bands';
import { curvesOf, stereoPoints, type Curves } from './curves';
import type { ChannelPair } from './delay';
import { measureTake, type TakeFigures } from './take';

/** Where an image stands over time, and in each octave of it. */
export interface ImageStep {
  atS: number;
  /** by level and delay of all that sounds; null where it cannot be told */
  all: HeardImage | null;
  /** by the level of each octave and the delay of all of it */
  bands: { hz: number; image: HeardImage | null }[];
}

/** A passage in which mono loses most. */
export interface MonoPassage {
  fromS: number;
  toS: number;
  /** mono sum against the power of both, dB: 0 for unlike channels, +3 for equal ones */
  db: number;
}

/** What two channels are of each other in a stretch. */
export interface StereoFigures {
  figures: TakeFigures;
  bands: BandFigures | null;
  curves: Curves;
  images: ImageStep[];
  worstMono: MonoPassage | null;
  /** across and up in turn, of full scale; left is to the left */
  points: Float32Array;
}

/** Softer than the loudest 0.4 s by so much is a pause, dB; and a power that is none. */
const [PAUSE_DB, SILENT] = [20, 1e-12];
/** Passages that lose nearly as much: the loudest of them is named, dB. */
const ALIKE_DB = 0.05;
/** Steps of levels in one of differences. */
const STEPS = 4;

/** The mean of decibels as powers; null where there are none. */
function powerMean(values: readonly (number | null)[]): number | null {
  const heard = values.flatMap((db) => (db === null ? [] : [10 ** (db / 10)]));
  const power = mean(heard);
  return power === undefined ? null : 10 * Math.log10(power);
}

const sumFrom = (values: readonly number[], from: number): number =>
  values.slice(from, from + STEPS).reduce((sum, value) => sum + value, 0);

/** Whether anything but a pause is heard in the 0.4 s from a step on. */
function soundingIn(powers: readonly number[]): (from: number) => boolean {
  const loudest = powers.reduce((most, _, from) => Math.max(most, sumFrom(powers, from)), 0);
  const gate = loudest * 10 ** (-PAUSE_DB / 10);
  return (from) => loudest > SILENT && sumFrom(powers, from) >= gate;
}

/**
 * Where images stand, step by step of 0.4 s, and by octave: for passages in which one player is alone.
 * @param curves of two channels, left and right
 */
export function imagesOf(curves: Curves): ImageStep[] {
  const { differences, bands, fromS } = curves;
  const [left = [], right = []] = bands;
  const sounds = soundingIn(curves.powers);
  return differences.values.map((delay, i) => {
    const from = i * STEPS;
    const atS = fromS + i * differences.stepS;
    if (!delay || !sounds(from)) return { atS, all: null, bands: [] };
    const octaves = left.map(({ hz, db }, band) => {
      const [one, other] = [db, right[band]?.db ?? []].map((list) =>
        powerMean(list.slice(from, from + STEPS)),
      );
      const levelDb = one == null || other == null ? null : other - one;
      return { hz, image: levelDb === null ? null : heardImage({ ...delay, levelDb }) };
    });
    return { atS, all: heardImage(delay), bands: octaves };
  });
}

/** Places of an octave over a stretch: half of them lie between low and high, −1 left … 1 right. */
export interface BandPlaces {
  hz: number;
  low: number;
  middle: number;
  high: number;
  steps: number;
}

const QUARTERS = [0.25, 0.5, 0.75] as const;
/** Of fewer steps nothing is said. */
const FEWEST_STEPS = 3;

/** Where each octave lies over a stretch; those without enough of it are left out. */
export function placesByBand(images: readonly ImageStep[]): BandPlaces[] {
  const all = new Map<number, number[]>();
  for (const { bands } of images) {
    for (const { hz, image } of bands) {
      if (image) all.set(hz, [...(all.get(hz) ?? []), image.shift]);
    }
  }
  return [...all].flatMap(([hz, shifts]) => {
    if (shifts.length < FEWEST_STEPS) return [];
    const [low = 0, middle = 0, high = 0] = QUARTERS.map((share) => quantile(shifts, share));
    return { hz, low, middle, high, steps: shifts.length };
  });
}

/**
 * The 0.4 s in which mono loses most, pauses left out.
 * @param curves of two channels
 * @returns null where nothing sounds in both
 */
function worstMonoPassage(curves: Curves): MonoPassage | null {
  const { correlation, leanDb, powers, stepS, fromS } = curves;
  const sounds = soundingIn(powers);
  let [worst, power]: [MonoPassage | null, number] = [null, 0];
  for (let from = 0; from + STEPS <= correlation.length; from++) {
    if (!sounds(from)) continue;
    // Each step counts for as much as sounds in it.
    let [left, all] = [0, 0];
    for (let i = from; i < from + STEPS; i++) {
      const [alike, lean] = [correlation[i], leanDb[i]];
      if (alike == null || lean == null) continue;
      const ratio = 10 ** (lean / 10);
      const power = powers[i] ?? 0;
      left += power * (1 + (2 * alike * Math.sqrt(ratio)) / (1 + ratio));
      all += power;
    }
    if (all === 0) continue;
    const db = 10 * Math.log10(Math.max(1e-12, left / all));
    const at = fromS + from * stepS;
    const alike = worst && Math.abs(db - worst.db) < ALIKE_DB;
    if (worst && (alike ? all <= power : db > worst.db)) continue;
    [worst, power] = [{ fromS: at, toS: at + STEPS * stepS, db }, all];
  }
  return worst;
}

/**
 * All that a stereo pair says in a stretch.
 * @param pair left and right channel, from 0
 * @param range frames, 0 … the recording's
 * @param points of the stereo plot, 1 … 20000
 * @throws Cancelled where it was given up
 */
export async function stereoOf(
  sound: Sound,
  pair: ChannelPair,
  range: { from: number; to: number },
  points: number,
  work: Partial<Work> = {},
): Promise<StereoFigures> {
  const two = chosenChannels(sound, pair);
  const rate = sound.info.format.sampleRateHz;
  const figures = await measureTake(two, {
    what: ['levels', 'bands'],
    fromS: range.from / rate,
    toS: range.to / rate,
    ...partOf(work, 0, 0.3),
  });
  const curves = await curvesOf(two, range, [0, 1], partOf(work, 0.3, 0.95));
  return {
    figures,
    bands: figures.bands,
    curves,
    images: imagesOf(curves),
    worstMono: worstMonoPassage(curves),
    points: await stereoPoints(two, range, [0, 1], points, partOf(work, 0.95, 1)),
  };
}
