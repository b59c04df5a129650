import { transformOf } from './spectrum';

/** A band of a spectrum. */
export interface Band {
  hz: number;
  /** bins of the transform, and the weight of each: neighbours add up to one */
  from: number;
  weights: Float32Array;
}

/** A spectrum that only its own engine can read. */
export interface Spectrum {
  readonly at: unknown;
}

/** Transforms of one size, and what is done with their spectra. */
export interface Spectra {
  /** samples of a transform, a power of two */
  readonly size: number;
  /**
   * @param out where they are written, size + 2 numbers; new ones where it is left out
   * @returns real and imaginary parts in turn, from 0 to half the rate: size + 2 numbers
   */
  forward(samples: Float32Array, out?: Float32Array): Float32Array;
  /** @returns the signal of the full size from one spectrum */
  samples(spectrum: Float32Array): Float32Array;
  /** @returns two signals of the full size from two spectra */
  backward(one: Float32Array, other: Float32Array): [Float32Array, Float32Array];
  /** Adds the bins of a band of a signal, which may be shorter than the size, to a spectrum. */
  addBand(samples: Float32Array, band: Band, sum: Float32Array): void;
  /** kept in the engine until it is let go; of a signal that may be shorter than the size */
  keep(samples: Float32Array): Spectrum;
  silence(): Spectrum;
  /** adds the products of kept spectra to others, in turn; best with those of one sum side by side */
  multiplyAdd(products: readonly Product[]): void;
  /**
   * Adds what a band of two spectra becomes under an envelope in time.
   * @param pair spectra with the bins of this transform, which may be longer
   * @param envelope as many samples as it lasts, up to the size
   * @param sums of spectra, as long as the pair
   */
  addUnder(
    pair: readonly [Float32Array, Float32Array],
    band: Band,
    envelope: Float32Array,
    sums: readonly [Float32Array, Float32Array],
  ): void;
  /** @returns the signals of kept spectra, from a sample on */
  samplesOf(spectra: readonly Spectrum[], from?: number): Float32Array[];
  release(spectra: readonly Spectrum[]): void;
}

/** What is added to a sum: a times b. */
export interface Product {
  sum: Spectrum;
  a: Spectrum;
  b: Spectrum;
}

/** An engine of transforms, by size. */
export interface SpectraEngine {
  /** which of two: the plain one is slower and the same everywhere */
  readonly kind: 'fast' | 'plain';
  of(size: number): Spectra;
}

/** Plain transforms, which every engine can do. */
export const plainEngine: SpectraEngine = { kind: 'plain', of: plainSpectra };

interface PlainSpectrum extends Spectrum {
  at: Float32Array;
}

/** Every other number, from 0 or from 1 on. */
function everyOther(numbers: Float64Array, from: number): Float32Array {
  const out = new Float32Array(numbers.length / 2);
  for (let i = 0, at = from; i < out.length; i++, at += 2) out[i] = numbers[at] as number;
  return out;
}

/** a + i·b, as one spectrum of two real signals. */
function joinSpectra(one: Float32Array, other: Float32Array, joined: Float64Array): void {
  const size = joined.length / 2;
  for (let k = 0; k <= size / 2; k++) {
    const ar = one[2 * k] as number;
    const ai = one[2 * k + 1] as number;
    const br = other[2 * k] as number;
    const bi = other[2 * k + 1] as number;
    joined[2 * k] = ar - bi;
    joined[2 * k + 1] = ai + br;
    if (k === 0 || k === size / 2) {
      // Nothing turns there: both are real.
      joined[2 * k] = ar;
      joined[2 * k + 1] = br;
      continue;
    }
    joined[2 * (size - k)] = ar + bi;
    joined[2 * (size - k) + 1] = br - ai;
  }
}

function plainSpectra(size: number): Spectra {
  const fft = transformOf(size);
  const whole = new Float64Array(2 * size);
  const joined = new Float64Array(2 * size);
  const forward = (samples: Float32Array, out = new Float32Array(size + 2)): Float32Array => {
    const all = samples.length < size ? new Float32Array(size) : samples;
    if (all !== samples) all.set(samples);
    fft.realTransform(whole, all);
    out.set(whole.subarray(0, size + 2));
    return out;
  };
  const backward = (one: Float32Array, other: Float32Array): [Float32Array, Float32Array] => {
    // The first comes back as the real part, the second as the imaginary one.
    joinSpectra(one, other, joined);
    fft.inverseTransform(whole, joined);
    return [everyOther(whole, 0), everyOther(whole, 1)];
  };
  const numbers = (spectrum: Spectrum): Float32Array => (spectrum as PlainSpectrum).at;
  return {
    size,
    forward,
    backward,
    samples: (spectrum) => backward(spectrum, new Float32Array(size + 2))[0],
    addBand(samples, { from, weights }, sum) {
      const found = forward(samples);
      for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
        const weight = weights[k] as number;
        sum[at] = (sum[at] as number) + weight * (found[at] as number);
        sum[at + 1] = (sum[at + 1] as number) + weight * (found[at + 1] as number);
      }
    },
    keep: (samples) => ({ at: forward(samples) }),
    silence: () => ({ at: new Float32Array(size + 2) }),
    multiplyAdd(products) {
      const each = products.map(({ sum, a, b }) => [numbers(sum), numbers(a), numbers(b)] as const);
      for (let from = 0; from < size + 2; from += TILE) {
        const to = Math.min(size + 2, from + TILE);
        for (let i = 0; i < each.length; i++) {
          const [sum, a, b] = each[i] as Numbers;
          const next = each[i + 1];
          if (next?.[0] === sum) {
            addTwo(sum, a, b, next[1], next[2], from, to);
            i += 1;
          } else addProduct(sum, a, b, from, to);
        }
      }
    },
    addUnder([one, other], { from, weights }, envelope, [sum, otherSum]) {
      const parts = [one, other].map((spectrum) => {
        const part = new Float32Array(size + 2);
        for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
          const weight = weights[k] as number;
          part[at] = weight * (spectrum[at] as number);
          part[at + 1] = weight * (spectrum[at + 1] as number);
        }
        return part;
      });
      joinSpectra(parts[0] as Float32Array, parts[1] as Float32Array, joined);
      fft.inverseTransform(whole, joined);
      for (let i = 0; i < envelope.length; i++) {
        const gain = envelope[i] as number;
        joined[2 * i] = gain * (whole[2 * i] as number);
        joined[2 * i + 1] = gain * (whole[2 * i + 1] as number);
      }
      joined.fill(0, 2 * envelope.length);
      fft.transform(whole, joined);
      addParted(whole, sum, otherSum);
    },
    samplesOf(spectra, from = 0) {
      const out: Float32Array[] = [];
      for (let i = 0; i < spectra.length; i += 2) {
        const [one, other] = [spectra[i], spectra[i + 1]];
        if (!one) break;
        out.push(...backward(numbers(one), other ? numbers(other) : new Float32Array(size + 2)));
      }
      return out.slice(0, spectra.length).map((samples) => samples.subarray(from));
    },
    release: () => undefined,
  };
}

/** Numbers of a spectrum that are worked on at a time: so many of all stay near the processor. */
const TILE = 1024;

type Numbers = readonly [sum: Float32Array, a: Float32Array, b: Float32Array];

/** Two products to one sum at once: it is read and written half as often. */
function addTwo(
  sum: Float32Array,
  a: Float32Array,
  b: Float32Array,
  c: Float32Array,
  d: Float32Array,
  from: number,
  to: number,
): void {
  for (let i = from; i < to; i += 2) {
    const ar = a[i] as number;
    const ai = a[i + 1] as number;
    const br = b[i] as number;
    const bi = b[i + 1] as number;
    const cr = c[i] as number;
    const ci = c[i + 1] as number;
    const dr = d[i] as number;
    const di = d[i + 1] as number;
    sum[i] = (sum[i] as number) + ar * br - ai * bi + cr * dr - ci * di;
    sum[i + 1] = (sum[i + 1] as number) + ar * bi + ai * br + cr * di + ci * dr;
  }
}

function addProduct(
  sum: Float32Array,
  a: Float32Array,
  b: Float32Array,
  from: number,
  to: number,
): void {
  for (let i = from; i < to; i += 2) {
    const ar = a[i] as number;
    const ai = a[i + 1] as number;
    const br = b[i] as number;
    const bi = b[i + 1] as number;
    sum[i] = (sum[i] as number) + ar * br - ai * bi;
    sum[i + 1] = (sum[i + 1] as number) + ar * bi + ai * br;
  }
}

/** Adds the two spectra whose signals went through one complex transform as a + i·b. */
function addParted(joined: Float64Array, sum: Float32Array, otherSum: Float32Array): void {
  const size = joined.length / 2;
  for (let k = 0; k <= size / 2; k++) {
    const mirror = 2 * ((size - k) % size);
    const zr = joined[2 * k] as number;
    const zi = joined[2 * k + 1] as number;
    const mr = joined[mirror] as number;
    const mi = joined[mirror + 1] as number;
    sum[2 * k] = (sum[2 * k] as number) + (zr + mr) / 2;
    sum[2 * k + 1] = (sum[2 * k + 1] as number) + (zi - mi) / 2;
    otherSum[2 * k] = (otherSum[2 * k] as number) + (zi + mi) / 2;
    otherSum[2 * k + 1] = (otherSum[2 * k + 1] as number) + (mr - zr) / 2;
  }
}
