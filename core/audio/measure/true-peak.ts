import { kaiser, sinc } from '../signal/kaiser';

/** Taps of the interpolator, and how far what it lets through beside falls. */
const TAPS = 24;
const HALF = TAPS / 2;
const KAISER_BETA = 5;
/** Between two samples the wave is looked at in so many places where a new peak may be. */
const PLACES = 8;

/** Windowed sinc at a fraction of the step behind the tap HALF − 1. */
function tapsAt(fraction: number): Float64Array {
  const taps = Float64Array.from({ length: TAPS }, (_, i) => {
    const x = i - HALF + 1 - fraction;
    return sinc(x) * kaiser(x / HALF, KAISER_BETA);
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
}

const FRACTIONS = Array.from({ length: PLACES - 1 }, (_, i) => tapsAt((i + 1) / PLACES));
/** Half way, which is the same from both sides: the taps from the middle outwards. */
const MIDDLE = (FRACTIONS[PLACES / 2 - 1] as Float64Array).slice(HALF);
/** No wave below 0.43 of the rate is larger than this times the largest sample near it, but for made-up ones. */
const MOST = 2;
/** Nor than this times the largest of the two samples on either side of its crest. */
const BESIDE = 1.7;
/** Samples that are looked at together once more, and how far about them is near. */
const [GROUP, NEAR] = [8, 4];
/** Nor, but by a tenth of a decibel, than this times its samples and half ways. */
const MORE = 1.3;

/** Samples looked at together: where even their largest cannot make a new peak, none is searched. */
export const STRETCH = 64;

/**
 * The largest value of the wave between the samples of one channel, block by block; with it, from the
 * same pass, the sum of the samples and of their squares. Within 0.1 dB up to 0.43 of the sample rate.
 * Source: ITU-R BS.1770-4 annex 2, with sixteen samples on either side and eightfold, then a parabola.
 */
export class TruePeakMeter {
  private readonly tail = new Float32Array(TAPS - 1);
  private readonly seam = new Float32Array(2 * TAPS);
  private held = new Float32Array(0);
  peak = 0;
  /** of the samples themselves */
  samplePeak = 0;
  sum = 0;
  square = 0;

  /** @returns the largest sample of every stretch of the block, to be read before the next one */
  add(samples: Float32Array, frames: number): Float32Array {
    const ahead = Math.min(frames, TAPS - 1);
    // Across the seam of two blocks first.
    this.seam.set(this.tail);
    this.seam.set(samples.subarray(0, ahead), TAPS - 1);
    let top = 0;
    for (let i = 0; i < TAPS - 1 + ahead; i++) top = Math.max(top, Math.abs(this.seam[i] ?? 0));
    this.search(this.seam, HALF - 1, TAPS - 1 + ahead - HALF, top);
    const tops = this.scan(samples, frames);
    const count = Math.ceil(frames / STRETCH);
    for (let j = 0; j < count; j++) {
      // The taps reach into the stretches beside it.
      let near = tops[j] as number;
      if (j > 0 && (tops[j - 1] as number) > near) near = tops[j - 1] as number;
      if (j + 1 < count && (tops[j + 1] as number) > near) near = tops[j + 1] as number;
      const from = Math.max(j * STRETCH, HALF - 1);
      this.search(samples, from, Math.min((j + 1) * STRETCH, frames - HALF), near);
    }
    if (frames >= TAPS - 1) this.tail.set(samples.subarray(frames - TAPS + 1, frames));
    else {
      this.tail.copyWithin(0, frames);
      this.tail.set(samples.subarray(0, frames), TAPS - 1 - frames);
    }
    return tops;
  }

  /** Every sample once: the largest of each stretch, and the sums. */
  private scan(samples: Float32Array, frames: number): Float32Array {
    const count = Math.ceil(frames / STRETCH);
    if (this.held.length < count) this.held = new Float32Array(count);
    const tops = this.held;
    let sum = 0;
    let square = 0;
    for (let j = 0; j < count; j++) {
      const to = Math.min(frames, (j + 1) * STRETCH);
      let top = 0;
      for (let i = j * STRETCH; i < to; i++) {
        const value = samples[i] as number;
        sum += value;
        square += value * value;
        const size = value < 0 ? -value : value;
        if (size > top) top = size;
      }
      tops[j] = top;
      if (top > this.samplePeak) this.samplePeak = top;
    }
    if (this.samplePeak > this.peak) this.peak = this.samplePeak;
    this.sum += sum;
    this.square += square;
    return tops;
  }

  /** The end of the take: what follows its last samples is silence. */
  end(): void {
    const silence = new Float32Array(TAPS);
    this.add(silence, TAPS);
  }

  /** The waves between samples, unless the largest of the stretch cannot make a new peak. */
  private search(samples: Float32Array, from: number, to: number, top: number): void {
    if (to <= from || top * MOST <= this.peak) return;
    for (let at = from; at < to; at += GROUP) {
      const end = Math.min(to, at + GROUP);
      const least = this.peak / MOST;
      for (let i = at - NEAR; i <= end + NEAR; i++) {
        const value = samples[i] as number;
        if (value <= least && value >= -least) continue;
        this.halfWays(samples, at, end);
        break;
      }
    }
  }

  private halfWays(samples: Float32Array, from: number, to: number): void {
    let enough = this.peak / MORE;
    let least = this.peak / BESIDE;
    for (let i = from; i < to; i++) {
      const here = samples[i] as number;
      const next = samples[i + 1] as number;
      const before = samples[i - 1] as number;
      const after = samples[i + 2] as number;
      // Two samples on either side of a crest are not all far below it.
      if (here <= least && here >= -least && next <= least && next >= -least) {
        if (before <= least && before >= -least && after <= least && after >= -least) continue;
      }
      let sum = 0;
      for (let k = 0, left = i, right = i + 1; k < HALF; k++, left--, right++) {
        sum += (MIDDLE[k] as number) * ((samples[left] as number) + (samples[right] as number));
      }
      if (sum < 0) sum = -sum;
      if (sum <= enough && here <= enough && here >= -enough) continue;
      this.between(samples, i);
      enough = this.peak / MORE;
      least = this.peak / BESIDE;
    }
  }

  /** The wave from one sample to the next, and its crest by a parabola. */
  private between(samples: Float32Array, at: number): void {
    let [before, last] = [0, Math.abs(samples[at] as number)];
    const look = (value: number): void => {
      const size = Math.abs(value);
      if (size > this.peak) this.peak = size;
      if (last >= before && last >= size) {
        const bend = 2 * last - before - size;
        const crest = bend > 0 ? last + (size - before) ** 2 / (8 * bend) : last;
        // At the first place there is nothing before it.
        if (before > 0 && crest > this.peak) this.peak = crest;
      }
      [before, last] = [last, size];
    };
    for (const taps of FRACTIONS) {
      let sum = 0;
      for (let k = 0, j = at - HALF + 1; k < TAPS; k++, j++) {
        sum += (taps[k] as number) * (samples[j] as number);
      }
      look(sum);
    }
    look(samples[at + 1] as number);
  }
}
