import { median } from 'd3-array';
import { Halved, halvings } from '../signal/halving';
import { plainEngine, type SpectraEngine } from '../signal/spectra';
import { hann, spectrumOf } from '../signal/spectrum';
import type { Planes } from '../wav/decode';

/** Hum of one mains family in a stretch of a channel. */
export interface Hum {
  mainsHz: 50 | 60;
  /** the harmonics that stand out, Hz with level against full scale, dB */
  harmonics: { hz: number; levelDb: number; aboveDb: number }[];
  /** of all of them together, dB against full scale; null where too few stand out to be hum */
  levelDb: number | null;
}

/** A window is about so long, s, and a power of two. */
const WINDOW_S = 1.4;
/** Higher rates are halved before, Hz: the harmonics lie well below. */
const MOST_RATE_HZ = 4000;
const HARMONICS = 12;
/** A harmonic stands out by this above what is beside it, dB; a single one may be a note. */
const STANDS_OUT_DB = 12;
const FEWEST = 3;
/** Bins of a line's lobe on either side, and its power against that of the peak, by the window. */
const LOBE = 3;
const HANN_POWER = 1.5;
/** How far beside a harmonic the noise is read, Hz. */
const BESIDE_HZ = [3, 18] as const;

/**
 * The quietest stretch of a channel: where hum and noise are heard alone.
 * @param length of it, 1 … the channel's length, samples
 */
export function quietest(samples: Float32Array, length: number): Float32Array {
  const step = Math.max(1, Math.floor(length / 4));
  const energies: number[] = [];
  for (let at = 0; at + step <= samples.length; at += step) {
    let sum = 0;
    for (let i = at; i < at + step; i++) sum += (samples[i] ?? 0) ** 2;
    energies.push(sum);
  }
  let [best, least] = [0, Infinity];
  for (let i = 0; i + 4 <= energies.length; i++) {
    const sum = energies.slice(i, i + 4).reduce((total, value) => total + value, 0);
    if (sum < least) [best, least] = [i, sum];
  }
  return samples.subarray(best * step, best * step + length);
}

/** Hum of several channels, block by block. */
export class HumMeter {
  private readonly chains: Halved[];
  private readonly held: Float32Array[];
  private readonly filled: number[];
  private readonly rate: number;

  /**
   * @param channels 1 … 64
   * @param sampleRateHz 1000 … 384000 Hz
   * @param seconds that are kept of them at most, at a low rate: some 12 kB a second and channel
   */
  constructor(
    channels: number,
    sampleRateHz: number,
    seconds: number,
    engine: SpectraEngine = plainEngine,
  ) {
    const times = halvings(sampleRateHz, MOST_RATE_HZ);
    this.rate = sampleRateHz / 2 ** times;
    this.chains = Array.from({ length: channels }, () => new Halved(times, engine));
    const most = Math.ceil(seconds * this.rate);
    this.held = this.chains.map(() => new Float32Array(most));
    this.filled = this.chains.map(() => 0);
  }

  /** What is beyond the seconds that are kept is left out. */
  add(planes: Planes, frames: number): void {
    this.chains.forEach((chain, c) => {
      const plane = planes[c];
      if (plane) this.keep(c, chain.add(plane, frames));
    });
  }

  private keep(channel: number, samples: Float32Array): void {
    const held = this.held[channel] as Float32Array;
    const at = this.filled[channel] as number;
    const kept = samples.subarray(0, held.length - at);
    held.set(kept, at);
    this.filled[channel] = at + kept.length;
  }

  /** @returns for 50 and 60 Hz, by channel */
  result(): Hum[][] {
    return this.chains.map((chain, c) => {
      this.keep(c, chain.rest());
      return humOf((this.held[c] as Float32Array).subarray(0, this.filled[c]), this.rate);
    });
  }
}

function humOf(samples: Float32Array, sampleRateHz: number): Hum[] {
  const size = 2 ** Math.round(Math.log2(WINDOW_S * sampleRateHz));
  const stretch = quietest(samples, Math.min(samples.length, size));
  const window = hann(stretch.length);
  const gain = window.reduce((total, value) => total + value, 0) / 2;
  const spectrum = spectrumOf(
    stretch.map((value, i) => value * (window[i] ?? 0)),
    size,
  );
  const bin = (hz: number): number => Math.round((hz / sampleRateHz) * size);
  const sizeAt = (k: number): number =>
    Math.hypot(spectrum[2 * k] ?? 0, spectrum[2 * k + 1] ?? 0) / gain;
  // All of a line's lobe, so that it is as high between two bins as on one.
  const lineAt = (hz: number): number => {
    let power = 0;
    for (let k = Math.max(1, bin(hz) - LOBE); k <= bin(hz) + LOBE; k++) power += sizeAt(k) ** 2;
    return Math.sqrt(power / HANN_POWER);
  };
  const beside = (hz: number): number => {
    const list: number[] = [];
    for (const side of [-1, 1]) {
      const ends = BESIDE_HZ.map((off) => bin(hz + side * off)).sort((a, b) => a - b);
      for (let k = Math.max(1, ends[0] ?? 1); k <= (ends[1] ?? 0); k++) list.push(sizeAt(k));
    }
    return median(list) ?? 0;
  };
  return ([50, 60] as const).map((mainsHz) => {
    const harmonics = Array.from({ length: HARMONICS }, (_, i) => (i + 1) * mainsHz).flatMap(
      (hz) => {
        if (hz > sampleRateHz / 2 - BESIDE_HZ[1]) return [];
        const size = lineAt(hz);
        // As much noise as a lobe holds.
        const noise = beside(hz) * Math.sqrt((2 * LOBE + 1) / HANN_POWER);
        if (!(size > 1e-9)) return [];
        const aboveDb = 20 * Math.log10(size / Math.max(noise, 1e-12));
        return aboveDb >= STANDS_OUT_DB ? [{ hz, levelDb: 20 * Math.log10(size), aboveDb }] : [];
      },
    );
    const power = harmonics.reduce((sum, { levelDb }) => sum + 10 ** (levelDb / 10), 0);
    return {
      mainsHz,
      harmonics,
      levelDb: harmonics.length >= FEWEST ? 10 * Math.log10(power) : null,
    };
  });
}
