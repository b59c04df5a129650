import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { randomEnergyEfficiency } from '../../acoustics/patterns';
import { seededRandom } from '../../units/random';
import { powerOfTwo } from '../signal/spectrum';
import { bandsOf, type Band } from './bands';
import { calibratedDecays, OCTAVE_SKIRT, readTime } from './decays';
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
/** Nobody hears what is above, and no path has it: the late field ends there. */
const HIGHEST_HZ = 21_000;
/** Steps of the octaves in which the noise decays, and of the thirds in which it is matched. */
const [OCTAVE, THIRD] = [2, 2 ** (1 / 3)];

interface Decaying extends Band {
  /** amplitude over time, at the rate of its own transform */
  envelope: Float32Array;
  transform: Spectra;
  /** of the transform's samples, Hz */
  rate: number;
  /** time that is read of the envelope, s, where few bins make a noise's own time unsure */
  readS: number | null;
}

/** From the centre of one third of an octave to the next: weights are those of the first. */
interface Crossing {
  from: number;
  weights: Float32Array;
}

/** Uniform noise, bin by bin up to an end: in a band it is as good as any, and cheaper. */
function noiseSpectrum(size: number, end: number, seed: number): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(size + 2);
  // Nothing at zero.
  for (let i = 2; i < 2 * end; i++) out[i] = random() - 0.5;
  return out;
}

/** A band up to a bin that is not in it. */
const upTo = (end: number, band: Band): Band => ({
  ...band,
  weights: band.weights.subarray(0, Math.max(0, end - band.from)),
});

/** Octaves from here up that decay alike are one band. */
const ALIKE = 0.002;
const SURE_HZ = 700;

/** Neighbours of one time put together: their weights add up. */
function together(bands: readonly Band[], times: readonly number[]): [Band, number][] {
  const out: [Band, number][] = [];
  bands.forEach((band, b) => {
    const time = times[b] ?? 0;
    const last = out[out.length - 1];
    const low = !last || last[0].hz < SURE_HZ;
    if (low || Math.abs(time / last[1] - 1) > ALIKE) {
      out.push([band, time]);
      return;
    }
    const [before] = last;
    const weights = new Float32Array(band.from + band.weights.length - before.from);
    weights.set(before.weights);
    band.weights.forEach((weight, k) => {
      const at = band.from - before.from + k;
      weights[at] = (weights[at] as number) + weight;
    });
    last[0] = { ...before, weights };
  });
  return out;
}

/**
 * The late field of a hall at all capsules: level, decay and likeness as a diffuse field has them. Noise
 * is right in expectation only: in every third of an octave what came out is turned into what should have.
 */
export class LateField {
  /** samples of a response */
  readonly frames: number;
  private readonly transform: Spectra;
  private readonly octaves: Decaying[];
  /** the covariance wanted in every third, as triangle */
  private readonly wanted: Matrix[];
  private readonly crossings: Crossing[];
  /** the first bin that is not heard */
  private readonly end: number;

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
    const times = decays.map(({ rt60S }) => rt60S);
    this.end = Math.min(size / 2, Math.ceil((HIGHEST_HZ / sampleRateHz) * size));
    const audible = together(bands, times).filter(([{ from }]) => from < this.end);
    this.octaves = audible.map(([whole, rt60S]) => {
      const band = upTo(this.end, whole);
      // What ends low needs no more samples than that: the same bins in a shorter transform.
      let own = size;
      while (own > SHORTEST && 2 * (band.from + band.weights.length) <= own / 2) own /= 2;
      const rate = (sampleRateHz * own) / size;
      const frames = Math.ceil((this.frames * own) / size);
      const envelope = envelopeOf(hall, rt60S, rate, frames);
      const readS =
        band.hz < SURE_HZ
          ? readTime(
              envelope.map((value) => value * value),
              1 / rate,
            )
          : null;
      return { ...band, transform: engine.of(own), envelope, rate, readS };
    });
    const thirds = bandsOf(size, sampleRateHz, THIRD, 0.5)
      .map((band) => upTo(this.end, band))
      .filter(({ weights }) => weights.length > 0);
    this.wanted = thirds.map((band) => {
      const power = band.weights.reduce((sum, weight) => sum + weight, 0);
      const energy = lateEnergySum(hall, timeAt(hall, band.hz));
      const matrix = diffuse(receivers, band.hz, hall.speed).map((value) => value * energy * power);
      return cholesky(matrix, receivers.length);
    });
    this.crossings = crossingsOf(thirds, this.end);
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
    for (const octave of this.octaves) {
      if (octave.readS !== null) for (const one of matched) bendOctave(one, octave, octave.readS);
    }
    const nothing = new Float32Array(transform.size + 2);
    const out: Float32Array[] = [];
    for (let c = 0; c < matched.length; c += 2) {
      const both = transform.backward(matched[c] ?? nothing, matched[c + 1] ?? nothing);
      out.push(...both.map((samples) => samples.slice(0, frames)));
    }
    return out.slice(0, receivers.length);
  }

  /** Two noises, each octave of them under its own decay, as spectra. */
  private decayed(seed: number): [Float32Array, Float32Array] {
    const { end } = this;
    const { size } = this.transform;
    const noises = [
      noiseSpectrum(size, end, seed),
      noiseSpectrum(size, end, seed + 104_729),
    ] as const;
    const sums: [Float32Array, Float32Array] = [
      new Float32Array(size + 2),
      new Float32Array(size + 2),
    ];
    for (const octave of this.octaves) {
      octave.transform.addUnder(noises, octave, octave.envelope, sums);
    }
    return sums;
  }

  /** Turned so that energies and likenesses are those of the diffuse field, band by band. */
  private matched(spectra: readonly Float32Array[]): Float32Array[] {
    const n = spectra.length;
    const found = this.wanted.map(() => new Float64Array(2 * n * n));
    this.crossings.forEach((crossing, c) => {
      const [here, next] = [found[c], found[c + 1]];
      if (here && next) addCovariance(spectra, crossing, here, next);
    });
    const turns = this.wanted.map((wanted, b) =>
      turnInto(wanted, cholesky(found[b] as Matrix, n), n),
    );
    const out = spectra.map(() => new Float32Array(this.transform.size + 2));
    this.crossings.forEach((crossing, c) => {
      const [here, next] = [turns[c], turns[c + 1]];
      if (here && next) addTurned(spectra, crossing, here, next, out);
    });
    return out;
  }
}

/** Passes in which a noise learns to decay as its envelope. */
const PASSES = 3;

/** A noise of few bins decays by chance faster or slower: its octave is bent until its time is right. */
function bendOctave(
  spectrum: Float32Array,
  { transform, ...octave }: Decaying,
  readS: number,
): void {
  const { from, weights, envelope, rate } = octave;
  const part = new Float32Array(transform.size + 2);
  weights.forEach((weight, k) => {
    const at = 2 * (from + k);
    part[at] = weight * (spectrum[at] as number);
    part[at + 1] = weight * (spectrum[at + 1] as number);
  });
  const [samples] = transform.backward(part, new Float32Array(transform.size + 2));
  const power = new Float64Array(envelope.length);
  let [bend, before, after] = [0, 0, 0];
  for (let pass = 0; pass <= PASSES; pass++) {
    after = 0;
    for (let i = 0; i < power.length; i++) {
      const value = (samples[i] as number) ** 2 * Math.exp((2 * bend * i) / rate);
      power[i] = value;
      after += value;
    }
    if (pass === 0) before = after;
    const found = readTime(power, 1 / rate);
    if (found <= 0 || pass === PASSES) break;
    bend += 3 * Math.LN10 * (1 / found - 1 / readS);
  }
  // As loud as it was.
  const gain = Math.sqrt(before / Math.max(after, 1e-30));
  const change = new Float32Array(transform.size);
  for (let i = 0; i < power.length; i++) {
    change[i] = (samples[i] as number) * (gain * Math.exp((bend * i) / rate) - 1);
  }
  transform.forward(change).forEach((value, i) => {
    spectrum[i] = (spectrum[i] as number) + value;
  });
}

/** Shorter transforms are not worth their calls. */
const SHORTEST = 256;

function envelopeOf(hall: Hall, rt60S: number, rateHz: number, frames: number): Float32Array {
  const out = new Float32Array(frames);
  for (let i = 0; i < frames; i++) out[i] = Math.sqrt(lateEnergy(hall, i / rateHz, rt60S));
  return out;
}

/** The bins between neighbouring thirds, each once; those beyond the ends belong to the ends. */
function crossingsOf(thirds: readonly Band[], end: number): Crossing[] {
  const binOf = ({ from, weights }: Band): number => {
    // The centre is where its neighbours have nothing.
    let best = 0;
    weights.forEach((weight, k) => (best = weight > (weights[best] as number) ? k : best));
    return from + best;
  };
  return thirds.slice(1).map((next, c) => {
    const band = thirds[c] as Band;
    const from = c === 0 ? 0 : binOf(band) + 1;
    const to = c === thirds.length - 2 ? end - 1 : binOf(next);
    const weights = Float32Array.from(
      { length: Math.max(0, to - from + 1) },
      (_, k) => band.weights[from + k - band.from] ?? 0,
    );
    return { from, weights };
  });
}

/** Among so many bins noises are unlike by themselves: only their energies are looked at. */
const MANY = 4096;

/** Energies and products of all spectra between two thirds, shared out to both; lower triangle. */
function addCovariance(
  spectra: readonly Float32Array[],
  { from, weights }: Crossing,
  here: Matrix,
  next: Matrix,
): void {
  const n = spectra.length;
  for (let i = 0; i < n; i++) {
    const a = spectra[i] as Float32Array;
    for (let j = weights.length > MANY ? i : 0; j <= i; j++) {
      const b = spectra[j] as Float32Array;
      let [re, im, allRe, allIm] = [0, 0, 0, 0];
      for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
        const weight = weights[k] as number;
        const ar = a[at] as number;
        const ai = a[at + 1] as number;
        const br = b[at] as number;
        const bi = b[at + 1] as number;
        const real = ar * br + ai * bi;
        const imaginary = ai * br - ar * bi;
        re += weight * real;
        im += weight * imaginary;
        allRe += real;
        allIm += imaginary;
      }
      const to = 2 * (i * n + j);
      here[to] = (here[to] as number) + re;
      here[to + 1] = (here[to + 1] as number) + im;
      next[to] = (next[to] as number) + allRe - re;
      next[to + 1] = (next[to + 1] as number) + allIm - im;
    }
  }
}

/** A share of another noise that is as good as none: −50 dB. */
const NOTHING = 0.003;

/** The spectra between two thirds, turned by what lies between both turns. */
function addTurned(
  spectra: readonly Float32Array[],
  { from, weights }: Crossing,
  here: Matrix,
  next: Matrix,
  out: readonly Float32Array[],
): void {
  const n = spectra.length;
  for (let i = 0; i < n; i++) {
    const sum = out[i] as Float32Array;
    const own = 2 * (i * n + i);
    const least = NOTHING * ((here[own] as number) + (next[own] as number));
    for (let j = 0; j <= i; j++) {
      const spectrum = spectra[j] as Float32Array;
      const to = 2 * (i * n + j);
      const [re, im] = [next[to] as number, next[to + 1] as number];
      const [dre, dim] = [(here[to] as number) - re, (here[to + 1] as number) - im];
      const most = Math.abs(re) + Math.abs(im) + Math.abs(dre) + Math.abs(dim);
      if (j < i && most < least) continue;
      for (let k = 0, at = 2 * from; k < weights.length; k++, at += 2) {
        const weight = weights[k] as number;
        const tr = re + weight * dre;
        const ti = im + weight * dim;
        const a = spectrum[at] as number;
        const b = spectrum[at + 1] as number;
        sum[at] = (sum[at] as number) + tr * a - ti * b;
        sum[at + 1] = (sum[at + 1] as number) + tr * b + ti * a;
      }
    }
  }
}
