import FFT from 'fft.js';

/** A spectrum that only its own engine can read. */
export interface Spectrum {
  readonly at: unknown;
}

/** Transforms of one size, and what is done with their spectra. */
export interface Spectra {
  /** samples of a transform, a power of two */
  readonly size: number;
  /** @returns real and imaginary parts in turn, from 0 to half the rate: size + 2 numbers */
  forward(samples: Float32Array): Float32Array;
  /** @returns two signals of the full size from two spectra */
  backward(one: Float32Array, other: Float32Array): [Float32Array, Float32Array];
  /** kept in the engine until it is let go */
  keep(samples: Float32Array): Spectrum;
  silence(): Spectrum;
  /** adds the product of two kept spectra to a third */
  multiplyAdd(sum: Spectrum, a: Spectrum, b: Spectrum): void;
  /** @returns the signals of kept spectra */
  samplesOf(spectra: readonly Spectrum[]): Float32Array[];
  release(spectra: readonly Spectrum[]): void;
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
  const fft = new FFT(size);
  const whole = new Float64Array(2 * size);
  const joined = new Float64Array(2 * size);
  const forward = (samples: Float32Array): Float32Array => {
    fft.realTransform(whole, samples);
    return new Float32Array(whole.subarray(0, size + 2));
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
    keep: (samples) => ({ at: forward(samples) }),
    silence: () => ({ at: new Float32Array(size + 2) }),
    multiplyAdd: (sum, a, b) => multiplyAdd(numbers(sum), numbers(a), numbers(b)),
    samplesOf(spectra) {
      const out: Float32Array[] = [];
      for (let i = 0; i < spectra.length; i += 2) {
        const [one, other] = [spectra[i], spectra[i + 1]];
        if (!one) break;
        out.push(...backward(numbers(one), other ? numbers(other) : new Float32Array(size + 2)));
      }
      return out.slice(0, spectra.length);
    },
    release: () => undefined,
  };
}

function multiplyAdd(sum: Float32Array, a: Float32Array, b: Float32Array): void {
  for (let i = 0; i < sum.length; i += 2) {
    const ar = a[i] as number;
    const ai = a[i + 1] as number;
    const br = b[i] as number;
    const bi = b[i + 1] as number;
    sum[i] = (sum[i] as number) + ar * br - ai * bi;
    sum[i + 1] = (sum[i + 1] as number) + ar * bi + ai * br;
  }
}
