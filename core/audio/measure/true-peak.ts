/** Taps of each phase of the interpolator. */
const TAPS = 16;
const HALF = TAPS / 2;
const KAISER_BETA = 6;

/** Modified Bessel function of the first kind, order 0. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** A place between two samples. */
interface Phase {
  taps: Float64Array;
  /** sizes of the taps of the two samples beside it, and of all others together */
  near: number;
  next: number;
  rest: number;
}

const sizeOf = (taps: Float64Array): number =>
  taps.reduce((total, tap) => total + Math.abs(tap), 0);

function phaseAt(fraction: number): Phase {
  const taps = tapsAt(fraction);
  const [near, next] = [Math.abs(taps[HALF - 1] ?? 0), Math.abs(taps[HALF] ?? 0)];
  return { taps, near, next, rest: sizeOf(taps) - near - next };
}

/** One phase between two samples: windowed sinc at a fraction of the step. */
function tapsAt(fraction: number): Float64Array {
  const taps = new Float64Array(TAPS);
  for (let i = 0; i < TAPS; i++) {
    const x = i - HALF + 1 - fraction;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    const inside = 1 - (x / HALF) ** 2;
    taps[i] =
      inside <= 0 ? 0 : (sinc * bessel(KAISER_BETA * Math.sqrt(inside))) / bessel(KAISER_BETA);
  }
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
}

/** By how much peaks between samples are looked for: to 192 kHz. */
export const oversampling = (sampleRateHz: number): 1 | 2 | 4 =>
  sampleRateHz < 80_000 ? 4 : sampleRateHz < 160_000 ? 2 : 1;

/** Samples looked at together: where even their largest cannot make a new peak, none is searched. */
export const STRETCH = 64;

/**
 * The largest value of the wave between the samples of one channel, block by block; with it, from the
 * same pass, the sum of the samples and of their squares.
 * Source: ITU-R BS.1770-4 annex 2: interpolation to at least 192 kHz.
 */
export class TruePeakMeter {
  private readonly phases: Phase[];
  /** no value between samples is larger than this times the largest of them */
  private readonly most: number;
  private readonly tail = new Float32Array(TAPS - 1);
  private readonly seam = new Float32Array(2 * TAPS);
  private held = new Float32Array(0);
  peak = 0;
  /** of the samples themselves */
  samplePeak = 0;
  sum = 0;
  square = 0;

  /** @param sampleRateHz 8000 Hz and more */
  constructor(sampleRateHz: number) {
    const factor = oversampling(sampleRateHz);
    this.phases = Array.from({ length: factor - 1 }, (_, i) => phaseAt((i + 1) / factor));
    this.most = Math.max(1, ...this.phases.map(({ taps }) => sizeOf(taps)));
  }

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

  /** All phases over a stretch, unless its largest sample cannot make a new peak. */
  private search(samples: Float32Array, from: number, to: number, top: number): void {
    if (to <= from || top * this.most <= this.peak) return;
    for (const phase of this.phases) this.between(samples, from, to, top, phase);
  }

  /** One phase over a stretch: only where the two nearest samples leave room for a new peak. */
  private between(
    samples: Float32Array,
    from: number,
    to: number,
    top: number,
    { taps, near, next, rest }: Phase,
  ): void {
    let peak = this.peak;
    let needed = peak - rest * top;
    for (let i = from; i < to; i++) {
      const a = samples[i] as number;
      const b = samples[i + 1] as number;
      if (near * (a < 0 ? -a : a) + next * (b < 0 ? -b : b) <= needed) continue;
      let sum = 0;
      for (let k = 0, at = i - HALF + 1; k < TAPS; k++, at++) {
        sum += (taps[k] as number) * (samples[at] as number);
      }
      if (sum < 0) sum = -sum;
      if (sum <= peak) continue;
      peak = sum;
      needed = peak - rest * top;
    }
    this.peak = peak;
  }
}
