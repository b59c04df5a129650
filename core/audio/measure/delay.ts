import { quantile } from 'd3-array';
import { powerOfTwo, spectrumOf, transformOf } from '../signal/spectrum';
import type { Planes } from '../wav/decode';

/** How one channel stands against another. */
export interface ChannelDelay {
  /** later than the first, ms; negative earlier */
  delayMs: number;
  /** against the first, dB */
  levelDb: number;
  /** of the second: as the first, or turned over */
  polarity: 1 | -1;
  /** height of the peak, 0 … 1: how surely it is this delay */
  certainty: number;
}

const rms = (samples: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += (samples[i] ?? 0) ** 2;
  return Math.sqrt(sum / Math.max(1, samples.length));
};

/** Bins weaker than this against the strongest say nothing of the phase. */
const FLOOR = 1e-6;
/** The peak is found on so fine a grid by the band itself, then by a parabola, samples. */
const FINE = 1 / 64;

/** Cross-spectrum of two channels, from 0 to half the rate, added up stretch by stretch. */
class CrossSpectrum {
  readonly cross: Float64Array;
  xx = 0;
  yy = 0;
  frames = 0;

  constructor(readonly size: number) {
    this.cross = new Float64Array(size + 2);
  }

  /** @param x, y spectra of one stretch of both */
  add(x: Float64Array, y: Float64Array): void {
    const { cross, size } = this;
    for (let i = 0; i < size + 2; i += 2) {
      const xr = x[i] as number;
      const xi = x[i + 1] as number;
      const yr = y[i] as number;
      const yi = y[i + 1] as number;
      cross[i] = (cross[i] as number) + yr * xr + yi * xi;
      cross[i + 1] = (cross[i + 1] as number) + yi * xr - yr * xi;
    }
  }

  /** Energies of the stretch. */
  count(xx: number, yy: number, frames: number): void {
    this.xx += xx;
    this.yy += yy;
    this.frames += frames;
  }

  /** All of it, the upper half as the mirror of the lower; every bin at one size where it is whitened. */
  private whole(whitened: boolean): Float64Array {
    const { cross, size } = this;
    const full = new Float64Array(size * 2);
    let strongest = 0;
    for (let i = 0; i < size + 2; i += 2) {
      strongest = Math.max(strongest, Math.hypot(cross[i] ?? 0, cross[i + 1] ?? 0));
    }
    let used = 0;
    for (let k = 0; k <= size / 2; k++) {
      const [re, im] = [cross[2 * k] ?? 0, cross[2 * k + 1] ?? 0];
      const far = Math.hypot(re, im);
      const weight = whitened ? (far > strongest * FLOOR ? 1 / far : 0) : 1;
      const mirrored = k > 0 && k < size / 2;
      if (weight > 0) used += mirrored ? 2 : 1;
      full[2 * k] = re * weight;
      full[2 * k + 1] = im * weight;
      if (!mirrored) continue;
      full[2 * (size - k)] = re * weight;
      full[2 * (size - k) + 1] = -im * weight;
    }
    if (!whitened) return full;
    // One where every bin agrees.
    const all = size / Math.max(1, used);
    return full.map((value) => value * all);
  }

  result(sampleRateHz: number, most: number, whitened: boolean): ChannelDelay | null {
    const { size, xx, yy, frames } = this;
    const silent = 1e-18 * frames;
    if (!(xx > silent) || !(yy > silent)) return null;
    const cross = this.whole(whitened);
    const correlation = new Float64Array(size * 2);
    transformOf(size).inverseTransform(correlation, cross);
    const at = (lag: number): number => correlation[2 * ((lag + size) % size)] ?? 0;
    let [peak, top] = [0, 0];
    for (let lag = -most; lag <= most; lag++) {
      const here = Math.abs(at(lag));
      if (here > top) [peak, top] = [lag, here];
    }
    const sign = at(peak) < 0 ? -1 : 1;
    return {
      delayMs: (between(cross, size, peak, sign) / sampleRateHz) * 1000,
      levelDb: 10 * Math.log10(yy / xx),
      polarity: sign,
      certainty: Math.min(1, whitened ? top : top / Math.sqrt(xx * yy)),
    };
  }
}

const energyOf = (samples: Float32Array): number => {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += (samples[i] as number) ** 2;
  return sum;
};

/**
 * Delay, level and polarity of a channel against another: generalised cross-correlation, its peak
 * band-limited between the samples.
 * @param first, second of one length
 * @param mostMs the largest delay looked for, 0.1 … 1000 ms
 * @param whitened by the phase alone (sharp, for noise and music), or by the plain correlation
 * @returns null where one of them is silent
 * Source: C. Knapp & G. Carter, IEEE Trans. ASSP 24 (1976).
 */
export function delayBetween(
  first: Float32Array,
  second: Float32Array,
  sampleRateHz: number,
  mostMs = 50,
  whitened = true,
): ChannelDelay | null {
  const most = Math.ceil((mostMs / 1000) * sampleRateHz);
  const size = powerOfTwo(Math.max(first.length, second.length) + most);
  const sum = new CrossSpectrum(size);
  sum.count(energyOf(first), energyOf(second), Math.max(first.length, second.length));
  sum.add(spectrumOf(first, size), spectrumOf(second, size));
  return sum.result(sampleRateHz, most, whitened);
}

/** The same over a recording of any length, every channel against one of them. */
export class DelayMeter {
  private readonly most: number;
  private readonly stretch: number;
  private readonly buffers: Float32Array[];
  private readonly sums: (CrossSpectrum | null)[];
  private filled = 0;

  /**
   * @param channels 1 … 64
   * @param against the channel that the others are measured against, from 0
   * @param sampleRateHz 8000 … 384000 Hz
   * @param mostMs the largest delay looked for, 0.1 … 100 ms
   */
  constructor(
    channels: number,
    private readonly against: number,
    private readonly sampleRateHz: number,
    mostMs = 50,
  ) {
    this.most = Math.ceil((mostMs / 1000) * sampleRateHz);
    const size = powerOfTwo(Math.max(16 * this.most, 1024));
    this.stretch = size - this.most;
    this.buffers = Array.from({ length: channels }, () => new Float32Array(this.stretch));
    this.sums = this.buffers.map((_, c) => (c === against ? null : new CrossSpectrum(size)));
  }

  add(planes: Planes, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.stretch - this.filled);
      this.buffers.forEach((buffer, c) => {
        const plane = planes[c];
        if (plane) buffer.set(plane.subarray(from, to), this.filled);
      });
      this.filled += to - from;
      from = to;
      if (this.filled === this.stretch) this.take();
    }
  }

  private take(): void {
    const held = this.buffers.map((buffer) => buffer.subarray(0, this.filled));
    this.filled = 0;
    const reference = held[this.against];
    if (!reference) return;
    const energy = energyOf(reference);
    let spectrum: Float64Array | null = null;
    held.forEach((samples, c) => {
      const sum = this.sums[c];
      if (!sum) return;
      const other = energyOf(samples);
      sum.count(energy, other, samples.length);
      // Silence says nothing of a delay.
      if (energy === 0 || other === 0) return;
      spectrum ??= spectrumOf(reference, sum.size);
      sum.add(spectrum, spectrumOf(samples, sum.size));
    });
  }

  /** @returns one entry a channel: null for the one measured against, and for silent ones */
  result(): (ChannelDelay | null)[] {
    if (this.filled > 0) this.take();
    return this.sums.map((sum) => sum?.result(this.sampleRateHz, this.most, true) ?? null);
  }
}

/** The correlation at any lag, from its spectrum: the band itself interpolates. */
function correlationAt(cross: Float64Array, size: number, lag: number): number {
  let sum = cross[0] ?? 0;
  const turn = (2 * Math.PI * lag) / size;
  const [stepR, stepI] = [Math.cos(turn), Math.sin(turn)];
  let [r, i] = [stepR, stepI];
  for (let k = 1; k < size / 2; k++) {
    sum += 2 * ((cross[2 * k] ?? 0) * r - (cross[2 * k + 1] ?? 0) * i);
    const next = r * stepR - i * stepI;
    i = r * stepI + i * stepR;
    r = next;
  }
  return sum / size;
}

/** The peak between samples: halving steps over the band-limited correlation. */
function between(cross: Float64Array, size: number, peak: number, sign: number): number {
  let best = peak;
  let height = sign * correlationAt(cross, size, peak);
  for (let step = 0.5; step >= FINE; step /= 2) {
    for (const lag of [best - step, best + step]) {
      const here = sign * correlationAt(cross, size, lag);
      if (here > height) [best, height] = [lag, here];
    }
  }
  const low = sign * correlationAt(cross, size, best - FINE);
  const high = sign * correlationAt(cross, size, best + FINE);
  const bend = low - 2 * height + high;
  return bend < 0 ? best + (FINE * (low - high)) / (2 * bend) : best;
}

/** Delays found at single onsets. */
export interface OnsetDelay {
  /** median over the onsets, ms; null where they are too few or do not agree */
  delayMs: number | null;
  /** of the sound before the room answers, against the first: median over the onsets, dB */
  levelDb: number | null;
  /** from the lowest to the highest tenth, ms */
  spreadMs: number;
  onsets: number;
  /** why there is no figure */
  uncertain: string | null;
}

/** Onsets stand out by this, dB, and are so far apart, s. */
const STANDS_OUT_DB = 12;
const APART_S = 0.15;
/** What is looked at from each onset on: before the room answers, s. */
const WINDOW_S = 0.0025;
const AHEAD_S = 0.001;
/** Onsets that differ by more are no measure, ms. */
const MOST_SPREAD_MS = 0.05;
const FEWEST = 3;

/** Where a channel's sound sets in, in samples. */
export function onsetsOf(samples: Float32Array, sampleRateHz: number): number[] {
  const hop = Math.max(1, Math.round(sampleRateHz * 0.001));
  const levels: number[] = [];
  for (let i = 0; i + hop <= samples.length; i += hop) {
    levels.push(rms(samples.subarray(i, i + hop)));
  }
  const loud = Math.max(0, ...levels);
  const onsets: number[] = [];
  let before = 0;
  const rise = 10 ** (STANDS_OUT_DB / 20);
  levels.forEach((level, i) => {
    const last = onsets[onsets.length - 1] ?? -Infinity;
    if (level > loud * 0.1 && level > before * rise && i * hop - last > APART_S * sampleRateHz) {
      onsets.push(i * hop);
    }
    before = Math.max(level, before * 0.9);
  });
  // To the sample: the first that reaches a tenth of what follows.
  return onsets.map((at) => {
    const from = Math.max(0, at - hop);
    const stretch = samples.subarray(from, at + 2 * hop);
    const top = stretch.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    return (
      from +
      Math.max(
        0,
        stretch.findIndex((value) => Math.abs(value) >= top * 0.1),
      )
    );
  });
}

/**
 * Delay of claps or of music: each onset aligned on its own in both channels and compared before the
 * first reflections; the median over all of them.
 * @param mostMs the largest delay looked for, 0.1 … 100 ms
 */
export function onsetDelay(
  first: Float32Array,
  second: Float32Array,
  sampleRateHz: number,
  mostMs = 50,
): OnsetDelay {
  const most = (mostMs / 1000) * sampleRateHz;
  const [window, ahead] = [Math.round(WINDOW_S * sampleRateHz), Math.round(AHEAD_S * sampleRateHz)];
  const others = onsetsOf(second, sampleRateHz);
  const found = onsetsOf(first, sampleRateHz).flatMap((at) => {
    const near = others.filter((other) => Math.abs(other - at) <= most);
    const [other] = near.sort((a, b) => Math.abs(a - at) - Math.abs(b - at));
    if (other === undefined) return [];
    const piece = (samples: Float32Array, from: number): Float32Array =>
      samples.slice(Math.max(0, from - ahead), Math.max(0, from - ahead) + window);
    const fine = delayBetween(piece(first, at), piece(second, other), sampleRateHz, 1, false);
    if (!fine) return [];
    const shift = Math.max(0, other - ahead) - Math.max(0, at - ahead);
    return [{ delayMs: (shift / sampleRateHz) * 1000 + fine.delayMs, levelDb: fine.levelDb }];
  });
  const delays = found.map(({ delayMs }) => delayMs);
  const [low = 0, median = 0, high = 0] = [0.1, 0.5, 0.9].map((p) => quantile(delays, p) ?? 0);
  const spreadMs = high - low;
  const uncertain =
    delays.length < FEWEST
      ? `${delays.length} onsets were found in both; wanted: ${FEWEST} or more`
      : spreadMs > MOST_SPREAD_MS
        ? `the onsets differ by ${spreadMs.toFixed(2)} ms; allowed: ${MOST_SPREAD_MS} ms`
        : null;
  return {
    delayMs: uncertain === null ? median : null,
    levelDb: uncertain === null ? (quantile(found, 0.5, ({ levelDb }) => levelDb) ?? null) : null,
    spreadMs,
    onsets: delays.length,
    uncertain,
  };
}
