import { sum } from 'd3-array';
import { lateEnergies, timeAt, type Hall } from './hall';

/** A decay that a band of noise is put under. */
export interface BandDecay {
  hz: number;
  /** of the envelope, s: so that what an octave filter reads of the whole is the hall's */
  rt60S: number;
}

/** Where an octave is looked at, and how finely in time. */
const PLACES = 49;
/** Octaves to either side that the filter of a measurement reaches, and its skirt. */
const [REACH, SKIRT] = [7 / 12, 1 / 6];
const STEPS = 400;
const PASSES = 3;
/** The stretch of a decay that is fitted, dB. */
const [FROM_DB, TO_DB] = [-5, -35];

/**
 * Weight of a band at a distance from its centre: neighbours add up to one.
 * @param off from its centre, 1 is the neighbour's
 * @param skirt half the width over which two of them change places, up to 0.5
 */
export function bandWeight(off: number, skirt: number): number {
  const beyond = (off - 0.5 + skirt) / (2 * skirt);
  return 0.5 + 0.5 * Math.cos(Math.PI * Math.min(1, Math.max(0, beyond)));
}

/** Skirts of the octaves that decay: narrow, so that a long time does not leak into the next one. */
export const OCTAVE_SKIRT = 1 / 24;

/** So far the edge moves where neighbours differ by a third or more, octaves: as far as a meter reaches. */
const MOST_SHIFT = 0.2;
const ALL_SHIFTED = Math.log2(4 / 3);

/** Where an octave ends and the next begins. */
export interface Edge {
  /** from half way between both, octaves, −0.2 … 0.2; up where the upper one rings longer */
  shift: number;
  /** half the width over which they change places, octaves, up to 0.25 */
  skirt: number;
}

/** A narrow skirt rings: as long as so many of its own widths in Hz, and no longer than the decay. */
const RINGS = 4;
const WIDEST_SKIRT = 0.25;

/**
 * Edges between octaves that decay unlike: what rings longer would be heard in its neighbour's filter, and
 * cover it once that has fallen; so it gives way to it.
 * @param centres of the octaves, Hz, rising
 * @returns of the edge above each octave but the last
 */
export const edgesOf = (hall: Hall, centres: readonly number[]): Edge[] =>
  centres.slice(1).map((hz, i) => {
    const [lower, upper] = [timeAt(hall, centres[i] as number), timeAt(hall, hz)];
    const ratio = Math.log2(upper / lower) / ALL_SHIFTED;
    const calm = RINGS / (Math.min(lower, upper) * 2 * Math.LN2 * hz * Math.SQRT1_2);
    return {
      shift: MOST_SHIFT * Math.max(-1, Math.min(1, ratio)),
      skirt: Math.min(WIDEST_SKIRT, Math.max(OCTAVE_SKIRT, calm)),
    };
  });

function octaveWeight(
  centres: readonly number[],
  edges: readonly Edge[],
  i: number,
  hz: number,
): number {
  const centre = centres[i] ?? 1;
  const off = Math.log2(hz / centre);
  if ((i === 0 && off <= 0) || (i === centres.length - 1 && off >= 0)) return 1;
  const edge = off < 0 ? edges[i - 1] : edges[i];
  return bandWeight(Math.abs(off - (edge?.shift ?? 0)), edge?.skirt ?? OCTAVE_SKIRT);
}

/**
 * Time of 60 dB by a straight line through the backward integral of a power over time.
 * @param power one after the other, any unit
 * @param stepS from one to the next, s
 * @returns s; 0 where it does not fall
 */
export function readTime(power: Float32Array | Float64Array, stepS: number): number {
  const left = new Float64Array(power.length);
  let sum = 0;
  for (let i = power.length - 1; i >= 0; i--) left[i] = sum += power[i] as number;
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  // From its loudest moment on, as a measurement begins.
  let top = 0;
  power.forEach((value, i) => (top = value > (power[top] as number) ? i : top));
  for (let i = top; i < power.length; i++) {
    const db = 10 * Math.log10((left[i] as number) / (left[top] as number));
    if (db > FROM_DB) continue;
    if (db < TO_DB) break;
    const x = i * stepS;
    n += 1;
    sx += x;
    sy += db;
    sxx += x * x;
    sxy += x * db;
  }
  const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
  return slope < 0 ? -60 / slope : 0;
}

/** A frequency of an octave, and the energy that is to be heard there. */
interface Place {
  hz: number;
  energy: number;
}

/**
 * Decays for noise in octaves whose neighbours overlap: what is read of an octave is its own time, also
 * where the next one rings much longer.
 * @param centres of the octaves, Hz, rising
 * @param apartFromHz octaves from here up are noises of their own, whose powers add up
 */
export function calibratedDecays(
  hall: Hall,
  centres: readonly number[],
  apartFromHz = Infinity,
): BandDecay[] {
  const wanted = centres.map((hz) => timeAt(hall, hz));
  const used = [...wanted];
  const edges = edgesOf(hall, centres);
  const longest = Math.max(...wanted);
  const stepS = (1.2 * longest) / STEPS;
  const energies = (rt: number): Float64Array => lateEnergies(hall, rt, stepS / 2, stepS, STEPS);
  const placesOf = (centre: number): Place[] =>
    Array.from({ length: PLACES }, (_, p) => {
      const off = REACH * ((2 * p + 1) / PLACES - 1);
      const hz = centre * 2 ** off;
      // The skirt of the filter that a measurement has.
      const beyond = Math.max(0, (Math.abs(off) - 0.5 + SKIRT / 2) / SKIRT);
      const passes = Math.cos((Math.PI / 2) * Math.min(1, beyond)) ** 2;
      // Each frequency ends with the energy that its own time gives it; wider bands weigh more.
      return { hz, energy: sum(energies(timeAt(hall, hz))) * stepS * hz * passes };
    });
  const places = centres.map(placesOf);
  for (let pass = 0; pass < PASSES; pass++) {
    const envelopes = used.map((rt) => energies(rt).map(Math.sqrt));
    const read = centres.map((_, index) => {
      const power = new Float64Array(STEPS);
      for (const { hz, energy } of places[index] ?? []) {
        const here = new Float64Array(STEPS);
        const own = new Float64Array(STEPS);
        envelopes.forEach((envelope, i) => {
          const weight = octaveWeight(centres, edges, i, hz);
          if (weight === 0) return;
          const apart = (centres[i] ?? 0) >= apartFromHz;
          for (let t = 0; t < STEPS; t++) {
            const value = envelope[t] as number;
            if (apart) own[t] = (own[t] as number) + weight * value * value;
            else here[t] = (here[t] as number) + weight * value;
          }
        });
        let found = 0;
        for (let t = 0; t < STEPS; t++) {
          here[t] = (here[t] as number) ** 2 + (own[t] as number);
          found += (here[t] as number) * stepS;
        }
        const scale = energy / found;
        for (let t = 0; t < STEPS; t++)
          power[t] = (power[t] as number) + scale * (here[t] as number);
      }
      return readTime(power, stepS);
    });
    read.forEach((seconds, i) => {
      const ratio = seconds > 0 ? (wanted[i] ?? 1) / seconds : 1;
      used[i] = (used[i] ?? 1) * Math.min(1.3, Math.max(0.7, ratio));
    });
  }
  return centres.map((hz, i) => ({ hz, rt60S: used[i] ?? 1 }));
}
