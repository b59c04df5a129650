import { median } from 'd3-array';
import { hann, spectrumOf } from '../signal/spectrum';
import { nearestNote, type NearestNote } from './notes';

/** A narrow peak of a take's spectrum. */
export interface Resonance {
  hz: number;
  /** equally tempered, at 440 Hz */
  note: NearestNote;
  /** above what is beside it on average, dB */
  aboveDb: number;
  /** of the time with sound in which it stands out, 0 … 100 % */
  sharePct: number;
  /** stands under whatever is played: a resonance of room, floor or instrument, or a hum */
  underEveryNote: boolean;
}

const LEAST_HZ = 25;
const MOST_HZ = 4000;
/** Window of a spectrum, s: narrow enough a bin for a semitone at 40 Hz. */
const WINDOW_S = 0.68;
/** Peaks stand out by so much on average and, at any moment, by so much, dB. */
const STANDS_DB = 8;
const MOMENT_DB = 6;
/** Beside a peak: from a semitone to a fourth on either side, in ratios. */
const NEAR = 2 ** (1 / 12);
const FAR = 2 ** (5 / 12);
const UNDER_EVERY_PCT = 85;
/** Moments this far under the loudest are silence, dB. */
const SILENCE_DB = -50;
const MOST = 24;

/** Bins of a note's neighbourhood, itself left out. */
function beside(hz: number, binHz: number): number[] {
  const bins: number[] = [];
  for (const [low, high] of [
    [hz / FAR, hz / NEAR],
    [hz * NEAR, hz * FAR],
  ] as const) {
    for (let k = Math.ceil(low / binHz); k <= high / binHz; k++) bins.push(k);
  }
  return bins;
}

const powersOf = (spectrum: Float64Array, top: number): Float64Array =>
  Float64Array.from(
    { length: top },
    (_, k) => (spectrum[2 * k] ?? 0) ** 2 + (spectrum[2 * k + 1] ?? 0) ** 2,
  );

/**
 * Narrow peaks of a take, 25 Hz … 4 kHz, at most 24, those under every note first, then by their height: each with its nearest note and
 * for how much of the time it stands out of what is beside it. A played note stands out while it is
 * played; what stands under every note is no music.
 * @param samples of one channel, a few seconds of music or noise
 * @param sampleRateHz 8000 … 384000 Hz
 * @returns none where there is less than four windows (about 1.7 s)
 */
export function resonancesOf(samples: Float32Array, sampleRateHz: number): Resonance[] {
  const size = 2 ** Math.round(Math.log2(WINDOW_S * sampleRateHz));
  const binHz = sampleRateHz / size;
  const top = Math.min(size / 2, Math.ceil((MOST_HZ * FAR) / binHz) + 2);
  const window = hann(size);
  const moments: Float64Array[] = [];
  for (let at = 0; at + size <= samples.length; at += size / 2) {
    const piece = samples.subarray(at, at + size).map((value, i) => value * (window[i] ?? 0));
    moments.push(powersOf(spectrumOf(piece, size), top));
  }
  const sums = moments.map((powers) => powers.reduce((total, value) => total + value, 0));
  const loudest = Math.max(0, ...sums);
  const sounding = moments.filter(
    (_, i) => loudest > 0 && (sums[i] ?? 0) > loudest * 10 ** (SILENCE_DB / 10),
  );
  if (sounding.length < 4) return [];
  const average = new Float64Array(top);
  for (const powers of sounding)
    powers.forEach((value, k) => (average[k] = (average[k] ?? 0) + value));
  const at = (powers: Float64Array, k: number): number =>
    Math.max(powers[k - 1] ?? 0, powers[k] ?? 0, powers[k + 1] ?? 0);
  const above = (powers: Float64Array, k: number, near: readonly number[]): number => {
    const usual = median(near, (bin) => powers[bin]) ?? 0;
    return 10 * Math.log10(at(powers, k) / Math.max(usual, loudest * 1e-16));
  };
  const found: Resonance[] = [];
  const last = Math.min(top - 2, Math.floor(MOST_HZ / binHz));
  for (let k = Math.ceil(LEAST_HZ / binHz); k <= last; k++) {
    const here = average[k] ?? 0;
    if (here < (average[k - 1] ?? 0) || here <= (average[k + 1] ?? 0)) continue;
    const near = beside(k * binHz, binHz);
    const aboveDb = above(average, k, near);
    if (!(aboveDb >= STANDS_DB)) continue;
    const hz = binHz * (k + bend(average, k));
    const out = sounding.filter((powers) => above(powers, k, near) >= MOMENT_DB).length;
    const sharePct = (out / sounding.length) * 100;
    found.push({
      hz,
      note: nearestNote(hz),
      aboveDb,
      sharePct,
      underEveryNote: sharePct >= UNDER_EVERY_PCT,
    });
  }
  return found
    .sort((a, b) => Number(b.underEveryNote) - Number(a.underEveryNote) || b.aboveDb - a.aboveDb)
    .slice(0, MOST);
}

/** Place of a peak between its bins, by a parabola over decibels. */
function bend(powers: Float64Array, k: number): number {
  const [low = 0, mid = 0, high = 0] = [k - 1, k, k + 1].map((bin) =>
    Math.log(Math.max(powers[bin] ?? 0, 1e-300)),
  );
  const curve = low - 2 * mid + high;
  return curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (low - high)) / curve)) : 0;
}
