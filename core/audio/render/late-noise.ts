import { seededRandom } from '../../units/random';
import type { Band } from '../signal/spectra';
import { readTime } from './decays';
import { lateEnergies, lateEnergySum, timeAt, type Hall } from './hall';
import type { Spectra } from '../signal/spectra';

/** An octave of noise and how it decays. */
export interface Decaying extends Band {
  /** amplitude over time, at the rate of its own transform */
  envelope: Float32Array;
  transform: Spectra;
  /** part of each bin that is this octave's: neighbours add up to one */
  shares: Float32Array;
  /** one of the low octaves, which share a noise */
  low: boolean;
  /** of the transform's samples, Hz */
  rate: number;
  /** time that is read of the envelope, s, where few bins make a noise's own time unsure */
  readS: number | null;
}

/**
 * Uniform noise, bin by bin up to an end: in a band it is as good as any, and cheaper.
 * @param size of the transform, 256 … 2²⁴ samples
 * @param end the first bin without noise, 0 … half the size
 * @param seed any whole number
 */
export function noiseSpectrum(size: number, end: number, seed: number): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(size + 2);
  // Nothing at zero.
  for (let i = 2; i < 2 * end; i++) out[i] = random() - 0.5;
  return out;
}

/** From whole numbers of 32 bits to −0.5 … 0.5. */
const WHOLE = 2 ** -32;

/**
 * Adds an octave of a noise of its own that decays in time: where octaves are wide, nothing rings.
 * @param sum a spectrum, real and imaginary parts in turn, 258 … 2²⁴ numbers
 * @param seed any whole number
 */
export function addDecayingNoise(sum: Float32Array, octave: Decaying, seed: number): void {
  const { envelope, transform } = octave;
  // As strong as the bins of a noise that is uniform there.
  const gain = WHOLE * Math.sqrt(2 / transform.size);
  const samples = new Float32Array(envelope.length);
  // Shifts and turns of one number: millions of them are wanted.
  let state = Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) | 1;
  for (let i = 0; i < envelope.length; i++) {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    samples[i] = state * gain * (envelope[i] as number);
  }
  transform.addBand(samples, octave, sum);
}

/** Of its own decay, a noise is bent by so much at most: chance of a few bins, and no more. */
const MOST_BENT = 0.5;
/** Passes in which a noise learns to decay as its envelope. */
const PASSES = 6;

/** Samples whose power is put together before a time is read of it. */
export const GROUP = 8;

/** Products of two signals, a few samples together. */
export function grouped(one: Float32Array, other: Float32Array): Float64Array {
  const count = Math.min(one.length, other.length);
  const out = new Float64Array(Math.ceil(count / GROUP));
  for (let i = 0; i < count; i++) {
    const at = Math.floor(i / GROUP);
    out[at] = (out[at] as number) + (one[i] as number) * (other[i] as number);
  }
  return out;
}

/** A noise of few bins decays by chance faster or slower: its octave is bent until its time is right. */
export function bendOctave(
  spectrum: Float32Array,
  { transform, ...octave }: Decaying,
  readS: number,
): void {
  const { from, shares: weights, envelope, rate } = octave;
  const part = new Float32Array(transform.size + 2);
  weights.forEach((weight, k) => {
    const at = 2 * (from + k);
    part[at] = weight * (spectrum[at] as number);
    part[at + 1] = weight * (spectrum[at + 1] as number);
  });
  const samples = transform.samples(part);
  const power = grouped(samples.subarray(0, envelope.length), samples);
  const stepS = GROUP / rate;
  const bent = new Float64Array(power.length);
  const most = (MOST_BENT * 3 * Math.LN10) / readS;
  let [bend, before, after] = [0, 0, 0];
  for (let pass = 0; pass <= PASSES; pass++) {
    after = 0;
    const each = Math.exp(2 * bend * stepS);
    let gain = Math.exp(bend * stepS);
    for (let i = 0; i < power.length; i++) {
      after += bent[i] = (power[i] as number) * gain;
      gain *= each;
    }
    if (pass === 0) before = after;
    const found = readTime(bent, stepS);
    if (found <= 0 || pass === PASSES) break;
    const more = bend + 3 * Math.LN10 * (1 / found - 1 / readS);
    bend = Math.max(-most, Math.min(most, more));
  }
  // As loud as it was.
  let gain = Math.sqrt(before / Math.max(after, 1e-30));
  const each = Math.exp(bend / rate);
  const change = new Float32Array(transform.size);
  for (let i = 0; i < envelope.length; i++) {
    change[i] = (samples[i] as number) * (gain - 1);
    gain *= each;
  }
  const changed = transform.forward(change);
  for (let i = 0; i < changed.length; i++) {
    spectrum[i] = (spectrum[i] as number) + (changed[i] as number);
  }
}

/** Places in an octave at which the energy of a hall is looked at. */
const EACH_OCTAVE = 4;

/**
 * Weights for a noise of its own: those add up in power, and bin by bin with the energy that a hall has
 * there.
 * @param envelope amplitude over time
 * @param rateHz of the envelope's samples, Hz
 * @param size of the transform, samples
 */
export function powerWeights(
  hall: Hall,
  { from, weights }: Band,
  envelope: Float32Array,
  rateHz: number,
  size: number,
): Float32Array {
  const energy = envelope.reduce((sum, value) => sum + value * value, 0) / rateHz;
  const places = new Map<number, number>();
  const at = (place: number): number => {
    const known =
      places.get(place) ?? lateEnergySum(hall, timeAt(hall, 2 ** (place / EACH_OCTAVE)));
    places.set(place, known);
    return known;
  };
  let [above, share, low, high] = [0, 0, 0, 0];
  return weights.map((weight, k) => {
    const place = EACH_OCTAVE * Math.log2(((from + k) * rateHz) / size);
    if (place >= above) {
      above = Math.floor(place) + 1;
      [low, high] = [at(above - 1), at(above)];
    }
    share = place - above + 1;
    return Math.sqrt((Math.max(0, weight) * (low + share * (high - low))) / energy);
  });
}

/**
 * Amplitude of the late field over time.
 * @param rt60S s
 * @param rateHz of its samples, Hz
 * @param frames how many of them
 */
export const envelopeOf = (
  hall: Hall,
  rt60S: number,
  rateHz: number,
  frames: number,
): Float32Array =>
  Float32Array.from(lateEnergies(hall, rt60S, 0, 1 / rateHz, frames).map(Math.sqrt));
