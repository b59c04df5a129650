import type { Band } from '../signal/spectra';
import type { Matrix } from './matrices';

/** From the centre of one third of an octave to the next: weights are those of the first. */
export interface Crossing {
  from: number;
  weights: Float32Array;
}

/**
 * The bins between neighbouring thirds, each once; those beyond the ends belong to the ends.
 * @param end the first bin that belongs to none, 1 … half the size of the transform
 */
export function crossingsOf(thirds: readonly Band[], end: number): Crossing[] {
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

/** Among so many bins many noises are unlike by themselves, nearly: only their energies are looked at; of a few all. */
const [MANY, FEW] = [1500, 4];

/** Energies and products of all spectra between two thirds, shared out to both; lower triangle. */
export function addCovariance(
  spectra: readonly Float32Array[],
  { from, weights }: Crossing,
  here: Matrix,
  next: Matrix,
): void {
  const n = spectra.length;
  for (let i = 0; i < n; i++) {
    const a = spectra[i] as Float32Array;
    for (let j = n > FEW && weights.length > MANY ? i : 0; j <= i; j++) {
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
export function addTurned(
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

/** Part of its centre that a third of an octave is wide. */
const WIDTH = 2 ** (1 / 6) - 2 ** (-1 / 6);

/**
 * In how many independent ways the noise of a third can come out: twice its width times its time constant.
 * @param hz of its centre, 20 … 20000 Hz
 * @param rt60S 0.05 … 20 s
 */
export const freedomsOf = (hz: number, rt60S: number): number =>
  (2 * WIDTH * hz * rt60S) / (6 * Math.LN10);

/** At a fifth of a freedom a capsule what is found is chance to one half: so many times that is one. */
const BELIEVED = 5;

/**
 * What a few freedoms say of the likeness of many capsules is chance: it is drawn towards noises that are
 * equally strong and have nothing in common, as they were made.
 * @param found covariance, the lower triangle filled
 * @param n capsules, 1 … 200
 * @param freedoms as freedomsOf has them, above 0
 */
export function towardsUnlike(found: Matrix, n: number, freedoms: number): Matrix {
  const chance = 1 / (1 + ((BELIEVED * freedoms) / n) ** 2);
  let power = 0;
  for (let i = 0; i < n; i++) power += (found[2 * (i * n + i)] as number) / n;
  const out = found.map((value) => value * (1 - chance));
  for (let i = 0; i < n; i++)
    out[2 * (i * n + i)] = (out[2 * (i * n + i)] as number) + chance * power;
  return out;
}
