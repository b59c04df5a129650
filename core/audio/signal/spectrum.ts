import FFT from 'fft.js';
import { inRange } from '../../units/guard';

/**
 * The next power of two, 2 … 2^24.
 * @throws RangeError where least is outside 1 … 2^24
 */
export function powerOfTwo(least: number): number {
  inRange('least', least, 1, 2 ** 24);
  return 2 ** Math.max(1, Math.ceil(Math.log2(least)));
}

const KNOWN = new Map<number, FFT>();

/**
 * A transform of a size, made once; sizes are few.
 * @param size a power of two, 2 … 2^24
 */
export function transformOf(size: number): FFT {
  const known = KNOWN.get(size);
  if (known) return known;
  const made = new FFT(size);
  KNOWN.set(size, made);
  return made;
}

/**
 * The spectrum of real samples, padded with zeros.
 * @param size a power of two, 2 … 2^24
 * @returns real and imaginary parts in turn, all of the size
 */
export function spectrumOf(samples: ArrayLike<number>, size: number): Float64Array {
  const padded = new Float64Array(size);
  const length = Math.min(size, samples.length);
  for (let i = 0; i < length; i++) padded[i] = samples[i] ?? 0;
  const out = new Float64Array(size * 2);
  const fft = transformOf(size);
  fft.realTransform(out, padded);
  fft.completeSpectrum(out);
  return out;
}

/**
 * Raised cosine over a length, 1 in the middle, 0 at both ends.
 * @param length 1 … 2^24
 */
export const hann = (length: number): Float64Array =>
  Float64Array.from(
    { length },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / Math.max(1, length - 1)),
  );
