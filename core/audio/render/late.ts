import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { randomEnergyEfficiency } from '../../acoustics/patterns';
import { seededRandom } from '../../units/random';
import { powerOfTwo } from '../signal/spectrum';
import { bandsOf, type Band } from './bands';
import { calibratedDecays, OCTAVE_SKIRT } from './decays';
import { lateEnergy, lateEnergySum, timeAt, type Hall } from './hall';
import { cholesky, turnInto, type Matrix } from './matrices';
import { plainEngine, type Spectra, type SpectraEngine } from './spectra';

/** Correlation of all capsules at a frequency, with their own sensitivity to a diffuse field. */
function diffuse(receivers: readonly Receiver[], hz: number, speed: number): Matrix {
  const n = receivers.length;
  const out = new Float64Array(2 * n * n);
  receivers.forEach((one, i) => {
    receivers.forEach((other, j) => {
      const size = Math.sqrt(
        randomEnergyEfficiency(one.patternA) * randomEnergyEfficiency(other.patternA),
      );
      const { real, imaginary } = diffuseFieldCorrelation(one, other, hz, speed);
      out[2 * (i * n + j)] = real * size;
      // The formula takes the second against the first.
      out[2 * (i * n + j) + 1] = -imaginary * size;
    });
  });
  return out;
}

/** The tail ends where it has fallen by so much, and after so many s at most. */
const END_DB = 65;
const LONGEST_S = 12;
const HIGHEST_HZ = 20_000;
/** Steps of the octaves in which the noise decays, and of the thirds in which it is matched. */
const [OCTAVE, THIRD] = [2, 2 ** (1 / 3)];

interface Decaying extends Band {
  /** amplitude over time */
  envelope: Float32Array;
}

interface Matched extends Band {
  wanted: Matrix;
}

/** Uniform noise of power one: in a band it is as good as any, and cheaper. */
function uniformNoise(out: Float32Array, frames: number, seed: number): void {
  const random = seededRandom(seed);
  const size = Math.sqrt(12);
  for (let i = 0; i < frames; i++) out[i] = size * (random() - 0.5);
}

/**
 * The late field of a hall at all capsules: level, decay and likeness as a diffuse field has them. Noise
 * is right in expectation only: in every third of an octave what came out is turned into what should have.
 */
export class LateField {
  private readonly frames: number;
  private readonly transform: Spectra;
  private readonly octaves: Decaying[];
  private readonly thirds: Matched[];

  /**
   * @param receivers the capsules in the plan frame
   * @param sampleRateHz 8000 … 192000 Hz
   * @param engine of transforms
   */
  constructor(
    hall: Hall,
    private readonly receivers: readonly Receiver[],
    sampleRateHz: number,
    engine: SpectraEngine = plainEngine,
  ) {
    const longest = Math.max(...hall.rt60S.map(([, seconds]) => seconds), 0.05);
    this.frames = Math.ceil(Math.min(LONGEST_S, (longest * END_DB) / 60) * sampleRateHz);
    const size = powerOfTwo(this.frames);
    this.transform = engine.of(size);
    const bands = bandsOf(size, sampleRateHz, OCTAVE, OCTAVE_SKIRT);
    const decays = calibratedDecays(
      hall,
      bands.map(({ hz }) => hz),
    );
    this.octaves = bands.map((band, b) => ({
      ...band,
      envelope: this.envelope(hall, decays[b]?.rt60S ?? longest, sampleRateHz),
    }));
    this.thirds = bandsOf(size, sampleRateHz, THIRD, 0.5).map((band) => {
      const power = band.weights.reduce((sum, weight) => sum + weight, 0);
      const energy = lateEnergySum(hall, timeAt(hall, band.hz));
      // Beyond hearing all capsules are as unlike as at its edge.
      const hz = Math.min(band.hz, HIGHEST_HZ);
      const matrix = diffuse(receivers, hz, hall.speed).map((value) => value * energy * power);
      return { ...band, wanted: cholesky(matrix, receivers.length) };
    });
  }

  private envelope(hall: Hall, rt60S: number, sampleRateHz: number): Float32Array {
    const out = new Float32Array(this.frames);
    for (let i = 0; i < out.length; i++)
      out[i] = Math.sqrt(lateEnergy(hall, i / sampleRateHz, rt60S));
    return out;
  }

  /**
   * One set of responses.
   * @param seed any whole number: another set for another seed
   * @returns a response a capsule, from emission on, for a source of Q = 1
   */
  responses(seed: number): Float32Array[] {
    const { receivers, transform, frames } = this;
    const spectra: Float32Array[] = [];
    for (let c = 0; c < receivers.length; c += 2) spectra.push(...this.decayed(seed + 7919 * c));
    const matched = this.matched(spectra.slice(0, receivers.length));
    const nothing = new Float32Array(transform.size + 2);
    const out: Float32Array[] = [];
    for (let c = 0; c < matched.length; c += 2) {
      const both = transform.backward(matched[c] ?? nothing, matched[c + 1] ?? nothing);
      out.push(...both.map((samples) => samples.slice(0, frames)));
    }
    return out.slice(0, receivers.length);
  }

  /** Two noises, each octave of them under its own decay, as spectra. */
  private decayed(seed: number): Float32Array[] {
    const { frames, transform } = this;
    const { size } = transform;
    const noises = [seed, seed + 104_729].map((own) => {
      const padded = new Float32Array(size);
      uniformNoise(padded, frames, own);
      return transform.forward(padded);
    });
    const sums = noises.map(() => new Float32Array(size));
    for (const octave of this.octaves) {
      const [one, other] = noises.map((noise) => bandOf(noise, octave));
      if (!one || !other) continue;
      transform.backward(one, other).forEach((samples, n) => {
        addUnder(sums[n] as Float32Array, samples, octave.envelope);
      });
    }
    return sums.map((sum) => transform.forward(sum));
  }

  /** Turned so that energies and likenesses are those of the diffuse field, band by band. */
  private matched(spectra: readonly Float32Array[]): Float32Array[] {
    const n = spectra.length;
    const out = spectra.map(() => new Float32Array(this.transform.size + 2));
    for (const band of this.thirds) {
      const turn = turnInto(band.wanted, cholesky(covariance(spectra, band), n), n);
      for (let i = 0; i < n; i++) {
        for (let j = 0; j <= i; j++) {
          const at = 2 * (i * n + j);
          const [re, im] = [turn[at] as number, turn[at + 1] as number];
          if (re === 0 && im === 0) continue;
          addTurned(out[i] as Float32Array, spectra[j] as Float32Array, re, im, band);
        }
      }
    }
    return out;
  }
}

function bandOf(noise: Float32Array, { from, weights }: Band): Float32Array {
  const part = new Float32Array(noise.length);
  for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
    const weight = weights[k] as number;
    part[at] = weight * (noise[at] as number);
    part[at + 1] = weight * (noise[at + 1] as number);
  }
  return part;
}

function addUnder(sum: Float32Array, samples: Float32Array, envelope: Float32Array): void {
  for (let i = 0; i < envelope.length; i++) {
    sum[i] = (sum[i] as number) + (envelope[i] as number) * (samples[i] as number);
  }
}

function addTurned(
  sum: Float32Array,
  spectrum: Float32Array,
  re: number,
  im: number,
  { from, weights }: Band,
): void {
  for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
    const weight = weights[k] as number;
    const a = spectrum[at] as number;
    const b = spectrum[at + 1] as number;
    sum[at] = (sum[at] as number) + weight * (re * a - im * b);
    sum[at + 1] = (sum[at + 1] as number) + weight * (re * b + im * a);
  }
}

/** Energies and products of all spectra in a band, lower triangle. */
function covariance(spectra: readonly Float32Array[], band: Band): Matrix {
  const n = spectra.length;
  const found = new Float64Array(2 * n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      const at = 2 * (i * n + j);
      product(spectra[i] as Float32Array, spectra[j] as Float32Array, band, found, at);
    }
  }
  return found;
}

function product(
  a: Float32Array,
  b: Float32Array,
  { from, weights }: Band,
  out: Float64Array,
  to: number,
): void {
  let [re, im] = [0, 0];
  for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
    const weight = weights[k] as number;
    const ar = a[at] as number;
    const ai = a[at + 1] as number;
    const br = b[at] as number;
    const bi = b[at + 1] as number;
    re += weight * (ar * br + ai * bi);
    im += weight * (ai * br - ar * bi);
  }
  out[to] = re;
  out[to + 1] = im;
}
