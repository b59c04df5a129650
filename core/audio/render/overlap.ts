import type { Planes } from '../wav/decode';
import type { Spectra, Spectrum } from '../signal/spectra';

/** A transform, and how many of its samples are new with each block. */
export interface Shape {
  transform: Spectra;
  hop: number;
}

/** A response cut into blocks, each as a spectrum; whole where that is enough. */
export function partitions(response: Float32Array, { transform, hop }: Shape): Spectrum[] {
  const block = Math.min(hop, transform.size - hop);
  // What leaves room for the whole of it is not cut.
  const each = response.length <= transform.size - hop + 1 ? response.length : block;
  const parts: Spectrum[] = [];
  for (let from = 0; from < response.length; from += each) {
    parts.push(transform.keep(response.subarray(from, from + each)));
  }
  return parts;
}

/**
 * Samples of a phrase that is played again and again from 0 on; silence before.
 * @param from the first sample, −2⁴⁸ … 2⁴⁸; below 0 nothing is played
 * @param out filled with as many samples as it holds
 */
export function readLoop(phrase: Float32Array, from: number, out: Float32Array): void {
  const { length } = phrase;
  let to = Math.min(out.length, Math.max(0, -from));
  out.fill(0, 0, to);
  while (to < out.length) {
    const at = (from + to) % length;
    const count = Math.min(length - at, out.length - to);
    out.set(phrase.subarray(at, at + count), to);
    to += count;
  }
}

/** Spectra of what is played, block after block: what a later stretch needs again is kept. */
export class Played {
  private readonly spectra = new Map<number, Spectrum | null>();

  constructor(
    private readonly transform: Spectra,
    /** null where nothing sounds */
    private readonly read: (hop: number) => Float32Array | null,
  ) {}

  at(hop: number): Spectrum | null {
    const known = this.spectra.get(hop);
    if (known !== undefined) return known;
    const samples = this.read(hop);
    const spectrum = samples && this.transform.keep(samples);
    this.spectra.set(hop, spectrum);
    return spectrum;
  }

  /** Lets go of what is earlier than a block. */
  forgetBefore(hop: number): void {
    for (const [at, spectrum] of this.spectra) {
      if (at >= hop) continue;
      if (spectrum) this.transform.release([spectrum]);
      this.spectra.delete(at);
    }
  }
}

/** Adds samples at a gain, an amplitude of either sign (−10⁶ … 10⁶), to others, as many as there are of those. */
export function addScaled(sum: Float32Array, samples: Float32Array, gain: number): void {
  for (let i = 0; i < sum.length; i++) {
    sum[i] = (sum[i] as number) + gain * (samples[i] as number);
  }
}

/** The last samples of each: what overlap-save leaves whole. */
export function backInTime(
  spectra: readonly Spectrum[],
  transform: Spectra,
  count = transform.size / 2,
): Planes {
  const planes = transform.samplesOf(spectra, transform.size - count);
  transform.release(spectra);
  return planes;
}
