import { halvings } from '../signal/halving';
import { plainEngine, type Spectra, type SpectraEngine } from '../signal/spectra';
import { powerOfTwo } from '../signal/spectrum';
import type { Planes } from '../wav/decode';

/** A delay as it was found, certain or not. */
export interface FoundDelay {
  /** later than the first, ms; negative earlier */
  delayMs: number;
  /** against the first, dB */
  levelDb: number;
  /** of the second: as the first, or turned over */
  polarity: 1 | -1;
  /** height of the peak, 0 … 1: how much of both agrees on it */
  certainty: number;
  /** how many times as high as what chance makes of two unrelated sounds is usually */
  overChance: number;
  /** the next highest place, half a millisecond away or more, and its height */
  next: { delayMs: number; certainty: number };
}

/** How sure a delay is. */
export type DelayVerdict = 'certain' | 'likely' | 'cannot be told';

/** How one channel stands against another. */
export interface ChannelDelay {
  /** later than the first, ms; negative earlier; null where it cannot be told */
  delayMs: number | null;
  /** against the first, dB */
  levelDb: number;
  /** of the second: as the first, or turned over; null where it cannot be told */
  polarity: 1 | -1 | null;
  /** height of the peak, 0 … 1: how much of both agrees on it */
  certainty: number;
  verdict: DelayVerdict;
  /** another place that is nearly as likely, ms; null where none is */
  orMs: number | null;
}

/** The correlation of two channels over their delay, −1 … 1: at whole steps from the earliest on. */
export interface DelayCurve {
  fromMs: number;
  stepMs: number;
  values: Float32Array;
}

/** Bins weaker than this against the strongest say nothing of the phase. */
const FLOOR = 1e-6;
/** The peak is found on so fine a grid by the band itself, then by a parabola, samples. */
const FINE = 1 / 64;
/** Two places of a delay are told apart from here on, s. */
const APART_S = 0.0005;
/** Over chance, and over the next highest place, by so many times. */
const CERTAIN = { overChance: 12, overNext: 1.8 } as const;
const LIKELY = { overChance: 7, overNext: 1.15 } as const;

/** What is said of a delay that was found. */
export function judgedDelay(found: FoundDelay): ChannelDelay {
  const { delayMs, levelDb, polarity, certainty, overChance, next } = found;
  const reaches = (least: Record<'overChance' | 'overNext', number>): boolean =>
    overChance >= least.overChance && certainty >= least.overNext * next.certainty;
  const verdict = reaches(CERTAIN) ? 'certain' : reaches(LIKELY) ? 'likely' : 'cannot be told';
  const told = verdict !== 'cannot be told';
  const other = verdict === 'likely' && certainty < CERTAIN.overNext * next.certainty;
  return {
    delayMs: told ? delayMs : null,
    levelDb,
    polarity: told ? polarity : null,
    certainty,
    verdict,
    orMs: other ? next.delayMs : null,
  };
}

/** Cross-spectrum of two channels, from 0 to half the rate, added up stretch by stretch. */
class CrossSpectrum {
  private readonly cross: Float32Array;
  xx = 0;
  yy = 0;
  frames = 0;

  constructor(private readonly spectra: Spectra) {
    this.cross = new Float32Array(spectra.size + 2);
  }

  /** @param x, y spectra of one stretch of both */
  add(x: Float32Array, y: Float32Array): void {
    const { cross } = this;
    for (let i = 0; i < cross.length; i += 2) {
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

  /** All of it; every bin at one size where it is whitened; and how many bins of both halves say something. */
  private weighted(whitened: boolean): { cross: Float32Array; used: number } {
    const { size } = this.spectra;
    const cross = this.cross.slice();
    let strongest = 0;
    for (let i = 0; i < size + 2; i += 2) {
      strongest = Math.max(strongest, Math.hypot(cross[i] as number, cross[i + 1] as number));
    }
    let used = 0;
    for (let k = 0; k <= size / 2; k++) {
      const far = Math.hypot(cross[2 * k] as number, cross[2 * k + 1] as number);
      const heard = far > strongest * FLOOR;
      if (heard) used += k > 0 && k < size / 2 ? 2 : 1;
      if (!whitened) continue;
      const weight = heard ? 1 / far : 0;
      cross[2 * k] = (cross[2 * k] as number) * weight;
      cross[2 * k + 1] = (cross[2 * k + 1] as number) * weight;
    }
    // One where every bin agrees.
    const all = whitened ? size / Math.max(1, used) : 1;
    return { cross: cross.map((value) => value * all), used };
  }

  private silent(): boolean {
    const least = 1e-18 * this.frames;
    return !(this.xx > least) || !(this.yy > least);
  }

  result(sampleRateHz: number, most: number, whitened: boolean): FoundDelay | null {
    const { xx, yy } = this;
    const { size } = this.spectra;
    if (this.silent()) return null;
    const { cross, used } = this.weighted(whitened);
    const correlation = this.spectra.samples(cross);
    const at = (lag: number): number => correlation[(lag + size) % size] ?? 0;
    const highest = (from: number, to: number): { lag: number; top: number } => {
      let [lag, top] = [0, 0];
      for (let i = from; i <= to; i++) {
        const here = Math.abs(at(i));
        if (here > top) [lag, top] = [i, here];
      }
      return { lag, top };
    };
    const { lag: peak, top } = highest(-most, most);
    const apart = Math.round(APART_S * sampleRateHz);
    const sides = [highest(-most, peak - apart), highest(peak + apart, most)] as const;
    const [next] = [...sides].sort((a, b) => b.top - a.top);
    const sign = at(peak) < 0 ? -1 : 1;
    const height = (value: number): number =>
      Math.min(1, whitened ? value : value / Math.sqrt(xx * yy));
    const ms = (lag: number): number => (lag / sampleRateHz) * 1000;
    return {
      delayMs: ms(between(cross, size, peak, sign)),
      levelDb: 10 * Math.log10(yy / xx),
      polarity: sign,
      certainty: height(top),
      overChance: height(top) * Math.sqrt(used),
      next: { delayMs: ms(next?.lag ?? 0), certainty: height(next?.top ?? 0) },
    };
  }

  /** The whitened correlation up to a delay either way. */
  curve(sampleRateHz: number, most: number): DelayCurve | null {
    if (this.silent()) return null;
    const { size } = this.spectra;
    const correlation = this.spectra.samples(this.weighted(true).cross);
    return {
      fromMs: (-most / sampleRateHz) * 1000,
      stepMs: 1000 / sampleRateHz,
      values: Float32Array.from(
        { length: 2 * most + 1 },
        (_, i) => correlation[(i - most + size) % size] ?? 0,
      ),
    };
  }
}

const energyOf = (samples: Float32Array): number => {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += (samples[i] as number) ** 2;
  return sum;
};

/** Transforms of fewer samples than this are not worth one of their own. */
const LEAST_SIZE = 32;

/**
 * Delay, level and polarity of a channel against another: generalised cross-correlation, its peak
 * band-limited between the samples.
 * @param first, second of one length
 * @param mostMs the largest delay looked for, 0.1 … 2000 ms
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
  engine: SpectraEngine = plainEngine,
): FoundDelay | null {
  const most = Math.ceil((mostMs / 1000) * sampleRateHz);
  const length = Math.max(first.length, second.length);
  const spectra = engine.of(powerOfTwo(Math.max(LEAST_SIZE, length + most)));
  const sum = new CrossSpectrum(spectra);
  sum.count(energyOf(first), energyOf(second), length);
  sum.add(spectra.forward(first), spectra.forward(second));
  return sum.result(sampleRateHz, most, whitened);
}

/** Two channels, from 0: how the second stands against the first. */
export type ChannelPair = readonly [first: number, second: number];

/** Delays are read below 25 kHz: of higher rates the lower part of the spectrum. */
const MOST_RATE_HZ = 50_000;
/** A stretch is as long as so many of the largest delays, and as many samples at least. */
const [STRETCHES, LEAST_STRETCH] = [3, 8192];

/** Delays of pairs of channels over a recording of any length. */
export class DelayMeter {
  private readonly most: number;
  private readonly rate: number;
  private readonly stretch: number;
  private readonly spectra: Spectra;
  /** of the cross-spectra: at most at 50 kHz */
  private readonly lower: Spectra;
  private readonly buffers: (Float32Array | null)[];
  private readonly sums: CrossSpectrum[];
  private readonly whole: Float32Array;
  private readonly passing: Float32Array;
  private readonly spectraOf: (Float32Array | null)[];
  private filled = 0;

  /**
   * @param pairs channels from 0
   * @param sampleRateHz 8000 … 384000 Hz
   * @param mostMs the largest delay looked for, 0.1 … 2000 ms
   */
  constructor(
    private readonly pairs: readonly ChannelPair[],
    sampleRateHz: number,
    mostMs = 50,
    engine: SpectraEngine = plainEngine,
  ) {
    const times = halvings(sampleRateHz, MOST_RATE_HZ);
    this.rate = sampleRateHz / 2 ** times;
    this.most = Math.ceil((mostMs / 1000) * this.rate);
    const size = powerOfTwo(Math.max((STRETCHES + 1) * this.most, LEAST_STRETCH));
    this.lower = engine.of(size);
    this.spectra = engine.of(size * 2 ** times);
    this.stretch = (size - this.most) * 2 ** times;
    const used = new Set(pairs.flat());
    const channels = Math.max(...used, 0) + 1;
    this.buffers = Array.from({ length: channels }, (_, c) =>
      used.has(c) ? new Float32Array(this.stretch) : null,
    );
    this.sums = pairs.map(() => new CrossSpectrum(this.lower));
    this.whole = new Float32Array(this.spectra.size + 2);
    this.passing = new Float32Array(size + 2);
    // Who is only compared with others needs no spectrum for longer.
    const firsts = new Set(pairs.map(([first]) => first));
    this.spectraOf = this.buffers.map((_, c) =>
      firsts.has(c) ? new Float32Array(size + 2) : null,
    );
  }

  add(planes: Planes, frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.stretch - this.filled);
      this.buffers.forEach((buffer, c) => {
        const plane = planes[c];
        if (plane) buffer?.set(plane.subarray(from, to), this.filled);
      });
      this.filled += to - from;
      from = to;
      if (this.filled === this.stretch) this.take();
    }
  }

  private take(): void {
    const held = this.buffers.map((buffer) => buffer?.subarray(0, this.filled) ?? null);
    this.filled = 0;
    const energies = held.map((samples) => (samples ? energyOf(samples) : 0));
    // Silence says nothing of a delay.
    const spectra = held.map((samples, c) => {
      const spectrum = this.spectraOf[c];
      return samples && spectrum && energies[c] !== 0 ? this.spectrumOf(samples, spectrum) : null;
    });
    this.pairs.forEach(([a, b], i) => {
      const other = held[b];
      const fresh = other && energies[b] !== 0 && !this.spectraOf[b];
      const [x, y] = [spectra[a], fresh ? this.spectrumOf(other, this.passing) : spectra[b]];
      this.sums[i]?.count(energies[a] ?? 0, energies[b] ?? 0, held[a]?.length ?? 0);
      if (x && y) this.sums[i]?.add(x, y);
    });
  }

  private spectrumOf(samples: Float32Array, to: Float32Array): Float32Array {
    to.set(this.spectra.forward(samples, this.whole).subarray(0, to.length));
    return to;
  }

  /** @returns one entry a pair; null where one of it is silent */
  found(): (FoundDelay | null)[] {
    if (this.filled > 0) this.take();
    return this.sums.map((sum) => sum.result(this.rate, this.most, true));
  }

  /** One entry a pair, one at a time, with what is said of it; null where one of it is silent. */
  *steps(): Generator<ChannelDelay | null, void, undefined> {
    if (this.filled > 0) this.take();
    for (const sum of this.sums) {
      const found = sum.result(this.rate, this.most, true);
      yield found && judgedDelay(found);
    }
  }

  /** @returns one entry a pair, with what is said of it; null where one of it is silent */
  result(): (ChannelDelay | null)[] {
    return [...this.steps()];
  }

  /** @returns the correlation over the delay, one a pair; null where one of it is silent */
  curves(): (DelayCurve | null)[] {
    if (this.filled > 0) this.take();
    return this.sums.map((sum) => sum.curve(this.rate, this.most));
  }
}

/** The correlation at any lag, from its spectrum: the band itself interpolates. */
function correlationAt(cross: Float32Array, size: number, lag: number): number {
  let sum = cross[0] as number;
  const turn = (2 * Math.PI * lag) / size;
  const [stepR, stepI] = [Math.cos(turn), Math.sin(turn)];
  let [r, i] = [stepR, stepI];
  for (let k = 2; k < size; k += 2) {
    sum += 2 * ((cross[k] as number) * r - (cross[k + 1] as number) * i);
    const next = r * stepR - i * stepI;
    i = r * stepI + i * stepR;
    r = next;
  }
  return sum / size;
}

/** The peak between samples: halving steps over the band-limited correlation. */
function between(cross: Float32Array, size: number, peak: number, sign: number): number {
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
