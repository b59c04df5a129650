import { diffuseFieldCorrelation, type Receiver } from '../../acoustics/diffuse-field';
import { randomEnergyEfficiency } from '../../acoustics/patterns';
import { powerOfTwo } from '../signal/spectrum';
import { bandsOf, centresOf } from './bands';
import { calibratedDecays, edgesOf, OCTAVE_SKIRT, readTime } from './decays';
import { lateEnergySum, timeAt, type Hall } from './hall';
import {
  addCovariance,
  addTurned,
  crossingsOf,
  freedomsOf,
  towardsUnlike,
  type Crossing,
} from './late-match';
import {
  addDecayingNoise,
  bendOctave,
  envelopeOf,
  GROUP,
  grouped,
  noiseSpectrum,
  powerWeights,
  type Decaying,
} from './late-noise';
import { cholesky, turnInto, type Matrix } from './matrices';
import { plainEngine, type Band, type Spectra, type SpectraEngine } from '../signal/spectra';

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

/** A band up to a bin that is not in it. */
const upTo = (end: number, band: Band): Band => ({
  ...band,
  weights: band.weights.subarray(0, Math.max(0, end - band.from)),
});

/** Filters of no phase ring before the beginning too: at the end of a transform, where nothing is kept, s. */
const GUARD_S = 0.05;
/** Octaves from here up that decay alike are one band. */
const ALIKE = 0.002;
const SURE_HZ = 700;
/** Noise of a bandwidth times its time of more than this decays within 7 % of it, by itself. */
const SURE_PRODUCT = 1500;

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
  /** in how many independent ways the noise of every third can come out */
  private readonly freedoms: number[];
  private readonly crossings: Crossing[];
  /** of each capsule, used again for each set: as they decay, and as they are turned */
  private readonly noises: Float32Array[];
  private readonly matched: Float32Array[];

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
    const size = powerOfTwo(this.frames + Math.ceil(GUARD_S * sampleRateHz));
    this.transform = engine.of(size);
    const edges = edgesOf(hall, centresOf(sampleRateHz, OCTAVE));
    const bands = bandsOf(size, sampleRateHz, OCTAVE, OCTAVE_SKIRT, edges);
    const decays = calibratedDecays(
      hall,
      bands.map(({ hz }) => hz),
      SURE_HZ,
    );
    const times = decays.map(({ rt60S }) => rt60S);
    const end = Math.min(size / 2, Math.ceil((HIGHEST_HZ / sampleRateHz) * size));
    const audible = together(bands, times).filter(([{ from }]) => from < end);
    this.octaves = audible.map(([whole, rt60S]) => {
      const band = upTo(end, whole);
      // What ends low needs no more samples than that: the same bins in a shorter transform.
      const low = band.hz < SURE_HZ;
      let own = size;
      while (own > SHORTEST && 2 * (band.from + band.weights.length) <= own / 2) own /= 2;
      const rate = (sampleRateHz * own) / size;
      const frames = Math.ceil((this.frames * own) / size);
      const envelope = envelopeOf(hall, rt60S, rate, frames);
      const unsure = (band.hz * timeAt(hall, band.hz)) / Math.SQRT2 < SURE_PRODUCT;
      const readS = unsure ? readTime(grouped(envelope, envelope), GROUP / rate) : null;
      const weights = low ? band.weights : powerWeights(hall, band, envelope, rate, own);
      const shares = band.weights;
      return { ...band, weights, shares, low, transform: engine.of(own), envelope, rate, readS };
    });
    const thirds = bandsOf(size, sampleRateHz, THIRD, 0.5)
      .map((band) => upTo(end, band))
      .filter(({ weights }) => weights.length > 0);
    this.wanted = thirds.map((band) => {
      const power = band.weights.reduce((sum, weight) => sum + weight, 0);
      const energy = lateEnergySum(hall, timeAt(hall, band.hz));
      const matrix = diffuse(receivers, band.hz, hall.speed).map((value) => value * energy * power);
      return cholesky(matrix, receivers.length);
    });
    this.freedoms = thirds.map(({ hz }) => freedomsOf(hz, timeAt(hall, hz)));
    this.crossings = crossingsOf(thirds, end);
    this.noises = receivers.map(() => new Float32Array(size + 2));
    this.matched = receivers.map(() => new Float32Array(size + 2));
  }

  /**
   * One set of responses.
   * @param seed any whole number: another set for another seed
   * @returns a response a capsule, from emission on, for a source of Q = 1
   */
  responses(seed: number): Float32Array[] {
    const { receivers, transform, frames, noises, matched } = this;
    for (let c = 0; c < receivers.length; c += 2) {
      this.decay(seed + 7919 * c, noises.slice(c, c + 2));
    }
    this.match(noises, matched);
    for (const octave of this.octaves) {
      if (octave.readS !== null) for (const one of matched) bendOctave(one, octave, octave.readS);
    }
    const nothing = new Float32Array(transform.size + 2);
    const out: Float32Array[] = [];
    for (let c = 0; c < matched.length; c += 2) {
      const both = transform.backward(matched[c] ?? nothing, matched[c + 1] ?? nothing);
      out.push(...both.map((samples) => samples.subarray(0, frames)));
    }
    return out.slice(0, receivers.length);
  }

  /** One or two noises, each octave of them under its own decay, as spectra. */
  private decay(seed: number, sums: readonly Float32Array[]): void {
    const { size } = this.transform;
    for (const sum of sums) sum.fill(0);
    const low = this.octaves.filter((octave) => octave.low);
    const end = Math.max(0, ...low.map(({ from, weights }) => from + weights.length));
    const noises = [
      noiseSpectrum(size, end, seed),
      noiseSpectrum(size, end, seed + 104_729),
    ] as const;
    const [first, second = new Float32Array(size + 2)] = sums;
    if (!first) return;
    for (const octave of low) {
      octave.transform.addUnder(noises, octave, octave.envelope, [first, second]);
    }
    this.octaves.forEach((octave, o) => {
      if (octave.low) return;
      sums.forEach((sum, n) => addDecayingNoise(sum, octave, seed + 1_299_709 * o + 104_729 * n));
    });
  }

  /** Turned so that energies and likenesses are those of the diffuse field, band by band. */
  private match(spectra: readonly Float32Array[], out: readonly Float32Array[]): void {
    const n = spectra.length;
    const found = this.wanted.map(() => new Float64Array(2 * n * n));
    this.crossings.forEach((crossing, c) => {
      const [here, next] = [found[c], found[c + 1]];
      if (here && next) addCovariance(spectra, crossing, here, next);
    });
    const turns = this.wanted.map((wanted, b) =>
      turnInto(wanted, cholesky(towardsUnlike(found[b] as Matrix, n, this.freedoms[b] ?? 0), n), n),
    );
    for (const one of out) one.fill(0);
    this.crossings.forEach((crossing, c) => {
      const [here, next] = [turns[c], turns[c + 1]];
      if (here && next) addTurned(spectra, crossing, here, next, out);
    });
  }
}

/** What was made last: players move, and the hall and its microphones stay. */
let last: { key: string; sets: Float32Array[][] } | null = null;
/** More is not kept, numbers. */
const MOST_KEPT = 2 ** 23;

/**
 * Sets of responses of a hall at all capsules, as LateField has them; the latest are remembered.
 * @param sampleRateHz 8000 … 192000 Hz
 * @param seed any whole number
 * @param count of sets, 0 … 16
 * @returns by set and capsule; not to be written to
 */
export async function lateSets(
  hall: Hall,
  receivers: readonly Receiver[],
  sampleRateHz: number,
  engine: SpectraEngine,
  {
    seed,
    count,
    breathe,
  }: { seed: number; count: number; breathe?: (() => Promise<void>) | undefined },
): Promise<readonly (readonly Float32Array[])[]> {
  const places = receivers.map(({ position, axis, patternA }) => [position, axis, patternA]);
  const key = JSON.stringify([hall, places, sampleRateHz, engine.kind, seed, count]);
  if (last?.key === key) return last.sets;
  const field = new LateField(hall, receivers, sampleRateHz, engine);
  const sets: Float32Array[][] = [];
  for (let set = 0; set < count; set++) {
    sets.push(field.responses(seed + 31_337 * set));
    await breathe?.();
  }
  last = field.frames * receivers.length * count <= MOST_KEPT ? { key, sets } : null;
  return sets;
}

/** The late field rises so long after the direct sound, s: what begins at once would click. */
const RISE_S = 0.001;

/** Samples of a response at which the late field of a source at so many s is all there. */
export const arrivedBy = (arrivalS: number, sampleRateHz: number): number =>
  Math.ceil((arrivalS + RISE_S) * sampleRateHz);

/**
 * What a response from emission on has before the direct sound of a source: a room is never heard
 * before it, so this is taken away (Barron and Lee 1988: energy from r/c on).
 * @param response of the late field, or its beginning
 * @param arrivalS of the direct sound, from emission, s
 * @returns as many samples as arrivedBy has, or all of a shorter response
 */
export function beforeDirect(
  response: Float32Array,
  arrivalS: number,
  sampleRateHz: number,
): Float32Array {
  const out = response.slice(0, arrivedBy(arrivalS, sampleRateHz));
  const first = Math.ceil(arrivalS * sampleRateHz);
  for (let i = first; i < out.length; i++) {
    const share = (i / sampleRateHz - arrivalS) / RISE_S;
    out[i] = (out[i] as number) * (0.5 + 0.5 * Math.cos(Math.PI * Math.min(1, share)));
  }
  return out;
}

/** Shorter transforms are not worth their calls. */
const SHORTEST = 256;
