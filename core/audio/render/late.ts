import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { randomEnergyEfficiency } from '../../acoustics/patterns';
import { seededRandom } from '../../units/random';
import { powerOfTwo } from '../signal/spectrum';
import { bandsOf, type Band } from './bands';
import { calibratedDecays, OCTAVE_SKIRT, readTime } from './decays';
import { lateEnergy, lateEnergySum, timeAt, type Hall } from './hall';
import { cholesky, turnInto, type Matrix } from './matrices';
import { plainEngine, type Spectra, type SpectraEngine } from './spectra';

/** Correlation of all capsules at a frequency, with their own sensitivity to a diffuse field: the lower triangle. */
function diffuse(receivers: readonly Receiver[], hz: number, speed: number): Matrix {
  const n = receivers.length;
  const out = new Float64Array(2 * n * n);
  receivers.forEach((one, i) => {
    receivers.slice(0, i + 1).forEach((other, j) => {
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

/** Samples until the late field of a hall has gone. @param sampleRateHz 8000 … 192000 Hz */
export function lateFrames({ rt60S }: Pick<Hall, 'rt60S'>, sampleRateHz: number): number {
  const longest = Math.max(...rt60S.map(([, seconds]) => seconds), 0.05);
  return Math.ceil(Math.min(LONGEST_S, (longest * END_DB) / 60) * sampleRateHz);
}

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

/** Adds an octave of a noise of its own that decays in time: where octaves are wide, nothing rings. */
function addDecayingNoise(sum: Float32Array, octave: Decaying, seed: number): void {
  const { from, weights, envelope, transform } = octave;
  const random = seededRandom(seed);
  const samples = new Float32Array(transform.size);
  for (let i = 0; i < envelope.length; i++) samples[i] = (random() - 0.5) * (envelope[i] as number);
  const spectrum = transform.forward(samples);
  // As strong as the bins of a noise that is uniform there.
  const gain = Math.sqrt(2 / transform.size);
  const base = 2 * from;
  for (let k = 0; k < weights.length; k++) {
    const weight = gain * (weights[k] as number);
    const at = base + 2 * k;
    sum[at] = (sum[at] as number) + weight * (spectrum[at] as number);
    sum[at + 1] = (sum[at + 1] as number) + weight * (spectrum[at + 1] as number);
  }
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
    this.frames = lateFrames(hall, sampleRateHz);
    const size = powerOfTwo(this.frames);
    this.transform = engine.of(size);
    const bands = bandsOf(size, sampleRateHz, OCTAVE, OCTAVE_SKIRT);
    const decays = calibratedDecays(
      hall,
      bands.map(({ hz }) => hz),
      SURE_HZ,
    );
    const times = decays.map(({ rt60S }) => rt60S);
    this.end = Math.min(size / 2, Math.ceil((HIGHEST_HZ / sampleRateHz) * size));
    const audible = together(bands, times).filter(([{ from }]) => from < this.end);
    this.octaves = audible.map(([whole, rt60S]) => {
      const band = upTo(this.end, whole);
      // What ends low needs no more samples than that: the same bins in a shorter transform.
      const low = band.hz < SURE_HZ;
      let own = size;
      while (own > SHORTEST && 2 * (band.from + band.weights.length) <= own / 2) own /= 2;
      const rate = (sampleRateHz * own) / size;
      const frames = Math.ceil((this.frames * own) / size);
      const envelope = envelopeOf(hall, rt60S, rate, frames);
      const readS = low ? readTime(grouped(envelope, envelope), GROUP / rate) : null;
      const weights = low ? band.weights : powerWeights(hall, band, envelope, rate, own);
      return { ...band, weights, transform: engine.of(own), envelope, rate, readS };
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
    const { size } = this.transform;
    const low = this.octaves.filter(({ readS }) => readS !== null);
    const end = Math.max(0, ...low.map(({ from, weights }) => from + weights.length));
    const noises = [
      noiseSpectrum(size, end, seed),
      noiseSpectrum(size, end, seed + 104_729),
    ] as const;
    const sums: [Float32Array, Float32Array] = [
      new Float32Array(size + 2),
      new Float32Array(size + 2),
    ];
    for (const octave of low) octave.transform.addUnder(noises, octave, octave.envelope, sums);
    this.octaves.forEach((octave, o) => {
      if (octave.readS !== null) return;
      sums.forEach((sum, n) => addDecayingNoise(sum, octave, seed + 1_299_709 * o + 104_729 * n));
    });
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

/** Samples whose power is put together before a time is read of it. */
const GROUP = 8;

/** Products of two signals, a few samples together. */
function grouped(one: Float32Array, other: Float32Array): Float64Array {
  const count = Math.min(one.length, other.length);
  const out = new Float64Array(Math.ceil(count / GROUP));
  for (let i = 0; i < count; i++) {
    const at = Math.floor(i / GROUP);
    out[at] = (out[at] as number) + (one[i] as number) * (other[i] as number);
  }
  return out;
}

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
  const samples = transform.samples(part);
  const power = grouped(samples.subarray(0, envelope.length), samples);
  const stepS = GROUP / rate;
  const bent = new Float64Array(power.length);
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
    bend += 3 * Math.LN10 * (1 / found - 1 / readS);
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

/** Shorter transforms are not worth their calls. */
const SHORTEST = 256;

/** Places in an octave at which the energy of a hall is looked at. */
const EACH_OCTAVE = 12;

/**
 * Weights for a noise of its own: those add up in power, and bin by bin with the energy that a hall has
 * there.
 */
function powerWeights(
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

/** A share of another noise that is as good as none: −50 dB, and among many bins −34 dB. */
const [NOTHING, LITTLE] = [0.003, 0.02];
/** Bins that are worked on at a time: so many of all spectra stay near the processor. */
const TILE = 512;

/** The spectra between two thirds, turned by what lies between both turns. */
function addTurned(
  spectra: readonly Float32Array[],
  crossing: Crossing,
  here: Matrix,
  next: Matrix,
  out: readonly Float32Array[],
): void {
  const n = spectra.length;
  const { length } = crossing.weights;
  const nothing = length > MANY ? LITTLE : NOTHING;
  const heard: [i: number, j: number][] = [];
  for (let i = 0; i < n; i++) {
    const own = 2 * (i * n + i);
    const least = nothing * ((here[own] as number) + (next[own] as number));
    for (let j = 0; j <= i; j++) {
      const to = 2 * (i * n + j);
      const most =
        Math.abs(here[to] as number) +
        Math.abs(next[to] as number) +
        Math.abs(here[to + 1] as number) +
        Math.abs(next[to + 1] as number);
      if (j === i || most >= least) heard.push([i, j]);
    }
  }
  for (let first = 0; first < length; first += TILE) {
    const last = Math.min(length, first + TILE);
    for (const [i, j] of heard) {
      const to = 2 * (i * n + j);
      addTurn(spectra[j] as Float32Array, out[i] as Float32Array, crossing, first, last, [
        next[to] as number,
        next[to + 1] as number,
        (here[to] as number) - (next[to] as number),
        (here[to + 1] as number) - (next[to + 1] as number),
      ]);
    }
  }
}

function addTurn(
  spectrum: Float32Array,
  sum: Float32Array,
  { from, weights }: Crossing,
  first: number,
  last: number,
  [re, im, dre, dim]: readonly [re: number, im: number, dre: number, dim: number],
): void {
  for (let k = first, at = 2 * (from + first); k < last; k++, at += 2) {
    const weight = weights[k] as number;
    const tr = re + weight * dre;
    const ti = im + weight * dim;
    const a = spectrum[at] as number;
    const b = spectrum[at + 1] as number;
    sum[at] = (sum[at] as number) + tr * a - ti * b;
    sum[at + 1] = (sum[at + 1] as number) + tr * b + ti * a;
  }
}
