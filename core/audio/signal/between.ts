import { kaiser, sinc } from './kaiser';

/** Zero crossings on either side, and how far what it lets through beside falls: −100 dB. */
const CROSSINGS = 80;
const BETA = 10;
/** Where it has fallen by half, of half the lower rate: kept to 0.92 of that, gone from there on. */
const KEPT = 0.96;
/** Taps of so many places between two samples are kept. */
const MOST_KEPT = 4096;

/** Reads a wave between its samples, by a windowed sinc. */
export class Between {
  /** samples that are needed before and behind a place */
  readonly reach: number;
  private readonly known = new Map<number, Float64Array>();

  /** @param ratio of the new rate to the old one; below one what the new one cannot hold is left out */
  constructor(private readonly ratio: number) {
    this.reach = Math.ceil(CROSSINGS / Math.min(1, ratio)) + 1;
  }

  private tapsAt(fraction: number): Float64Array {
    const known = this.known.get(fraction);
    if (known) return known;
    const { reach } = this;
    // Of one and the same rate the whole band is kept.
    const band = this.ratio === 1 ? 1 : Math.min(1, this.ratio) * KEPT;
    const taps = Float64Array.from({ length: 2 * reach }, (_, i) => {
      const x = i - reach + 1 - fraction;
      return band * sinc(band * x) * kaiser(x / reach, BETA);
    });
    const sum = taps.reduce((total, tap) => total + tap, 0);
    for (let i = 0; i < taps.length; i++) taps[i] = (taps[i] as number) / sum;
    if (this.known.size < MOST_KEPT) this.known.set(fraction, taps);
    return taps;
  }

  /**
   * The wave at a place.
   * @param at sample before it: reach − 1 before it and reach behind it must be there
   * @param fraction of a sample behind it, 0 … 1
   */
  read(samples: Float32Array, at: number, fraction: number): number {
    if (fraction === 0 && this.ratio === 1) return samples[at] as number;
    const taps = this.tapsAt(fraction);
    let sum = 0;
    for (let k = 0, i = at - this.reach + 1; k < taps.length; k++, i++) {
      sum += (taps[k] as number) * (samples[i] as number);
    }
    return sum;
  }
}
