import { powerDb } from '../units/guard';
import { once } from '../units/remember';
import { averageCosine, bandCosines, THIRD_OCTAVES_HZ, type MonoBand, type MonoSum } from './mono';

/** One capsule's wave on its way into the mono sum. */
export interface MonoWave {
  /** signed amplitude in left and right together */
  gain: number;
  /** energy in left and right together */
  energy: number;
  timeS: number;
}

/** At most this many waves are added, the strongest: what is weaker is left out. */
const MOST_WAVES = 64;
/** Waves that all together are so far below the strongest neither fill nor make a null: −36 dB. */
const NEGLIGIBLE = 10 ** (-36 / 20);
const LOWEST_HZ = 20;
const HIGHEST_HZ = 20_000;
/** Grid points for each period of the fastest ripple. */
const POINTS_PER_RIPPLE = 24;
const WIDEST_STEP_HZ = 10;
/** Nulls come again and again: the lowest are looked for closely, and no farther up than this. */
const MOST_POINTS = 4000;
/** So many waves say where the nulls are. */
const MOST_IN_DIP = 32;
/** A null is at least this far under the power sum: 10 dB. */
const NULL_RATIO = 0.1;
/** … and comes again so close to an odd multiple. */
const AGAIN_WITHIN = 0.03;
const ODD = [3, 5, 7];
const DEEPEST_DB = 60;

const energyOf = (waves: readonly MonoWave[]): number =>
  waves.reduce((sum, { energy }) => sum + energy, 0);

function strongest(waves: readonly MonoWave[]): MonoWave[] {
  const sorted = [...waves].sort((a, b) => Math.abs(b.gain) - Math.abs(a.gain));
  const allowed = Math.abs(sorted[0]?.gain ?? 0) * NEGLIGIBLE;
  let [kept, left] = [sorted.length, 0];
  // Weak ones add up: from the weakest on, as many as together come to next to nothing.
  while (kept > 0) {
    left += Math.abs(sorted[kept - 1]?.gain ?? 0);
    if (left > allowed) break;
    kept -= 1;
  }
  return sorted.slice(0, Math.min(kept, MOST_WAVES));
}

/** Power of the sum when every two waves agree as far as a function of their distance in time. */
function summed(waves: readonly MonoWave[], agreement: (tauS: number) => number): number {
  let power = 0;
  waves.forEach((a, i) => {
    power += a.gain * a.gain;
    for (let j = i + 1; j < waves.length; j++) {
      const b = waves[j];
      if (b) power += 2 * a.gain * b.gain * agreement(Math.abs(a.timeS - b.timeS));
    }
  });
  return Math.max(0, power);
}

/** Mean cosines by the time between two waves, so that many sums can be looked over quickly. */
const ROUGH_STEP_S = 2e-6;
const ROUGH_TO_S = 0.05;
let rough: Float32Array | null = null;

function roughCosine(tauS: number): number {
  const table = (rough ??= Float32Array.from(
    { length: Math.round(ROUGH_TO_S / ROUGH_STEP_S) + 2 },
    (_, i) => averageCosine(i * ROUGH_STEP_S),
  ));
  const at = tauS / ROUGH_STEP_S;
  const i = Math.floor(at);
  // So far apart the bands average to next to nothing.
  if (i + 1 >= table.length) return 0;
  const [a = 0, b = 0] = [table[i], table[i + 1]];
  return a + (b - a) * (at - i);
}

/** Up to so many waves every two are reckoned exactly, more by the table: within 0.02 dB. */
const EXACT_WAVES = 12;

/** The mean over 100 Hz … 10 kHz of the mono sum against the power sum, dB; 0 without a sound. */
export function coherentSumDb(waves: readonly MonoWave[]): number {
  const energy = energyOf(waves);
  if (!(energy > 0)) return 0;
  const heard = strongest(waves);
  return powerDb(summed(heard, heard.length > EXACT_WAVES ? roughCosine : averageCosine) / energy);
}

/** Largest error of the quick sum near a loss that matters, dB. */
const ROUGH_DB = 0.25;

/**
 * Whether a mono sum is weaker than a limit: quickly no, or its exact value.
 * @returns dB against the power sum where it is below the limit, else null
 */
export function sumBelow(waves: readonly MonoWave[], limitDb: number): number | null {
  const energy = energyOf(waves);
  if (!(energy > 0)) return null;
  const quick = powerDb(summed(strongest(waves), roughCosine) / energy);
  if (quick > limitDb + ROUGH_DB) return null;
  const exact = coherentSumDb(waves);
  return exact < limitDb ? exact : null;
}

/** The same in each third octave 100 Hz … 10 kHz. */
export function coherentResponse(waves: readonly MonoWave[]): MonoBand[] {
  const energy = energyOf(waves);
  const heard = strongest(waves);
  const known = new Map<number, Float64Array>();
  const at = (tauS: number): Float64Array => {
    const bands = known.get(tauS) ?? bandCosines(tauS);
    known.set(tauS, bands);
    return bands;
  };
  return THIRD_OCTAVES_HZ.map((frequencyHz, band) => ({
    frequencyHz,
    levelDb: energy > 0 ? powerDb(summed(heard, (tauS) => at(tauS)[band] ?? 1) / energy) : 0,
  }));
}

/** The weakest place of the mono sum, and the first frequency at which it comes to nothing. */
export interface MonoDip {
  /** the lowest null that comes again at an odd multiple, Hz; null where there is none */
  firstNullHz: number | null;
  /** the deepest dip that was looked at, Hz and dB against the power sum */
  deepestHz: number;
  deepestDb: number;
}

/**
 * Looks for nulls of a mono sum of several waves, as two of them have at 1/(2τ): at least 10 dB
 * under the power sum, and again within 3 % of an odd multiple.
 * Source: linear superposition, |Σ a·e^(−jωt)|².
 * @param upToHz 20 … 20,000: how far to look; with waves far apart in time only the lowest 4000 steps
 *   of a 24th of their ripple are looked at
 */
export function monoDip(waves: readonly MonoWave[], upToHz = HIGHEST_HZ): MonoDip {
  const heard = strongest(waves).slice(0, MOST_IN_DIP);
  const energy = energyOf(waves);
  const times = heard.map(({ timeS }) => timeS);
  const spreadS = Math.max(...times) - Math.min(...times);
  const none = { firstNullHz: null, deepestHz: LOWEST_HZ, deepestDb: 0 };
  if (!(energy > 0) || heard.length < 2 || !(spreadS > 1e-7)) return none;
  const least = 2 * Math.abs(heard[0]?.gain ?? 0) - heard.reduce((s, w) => s + Math.abs(w.gain), 0);
  const power = (hz: number): number => {
    let [real, imaginary] = [0, 0];
    for (const { gain, timeS } of heard) {
      const turn = 2 * Math.PI * hz * timeS;
      real += gain * Math.cos(turn);
      imaginary += gain * Math.sin(turn);
    }
    return (real * real + imaginary * imaginary) / energy;
  };
  const stepHz = Math.min(WIDEST_STEP_HZ, 1 / (POINTS_PER_RIPPLE * spreadS));
  const highestHz = Math.min(upToHz, LOWEST_HZ + MOST_POINTS * stepHz);
  const lowestNear = (from: number, to: number): { hz: number; value: number } => {
    let [low, high] = [from, to];
    for (let i = 0; i < 40; i++) {
      const [a, b] = [low + (high - low) * 0.382, low + (high - low) * 0.618];
      if (power(a) < power(b)) high = b;
      else low = a;
    }
    return { hz: (low + high) / 2, value: power((low + high) / 2) };
  };
  const comesAgain = (hz: number): boolean =>
    ODD.some((times) => {
      const [from, to] = [times * hz * (1 - AGAIN_WITHIN), times * hz * (1 + AGAIN_WITHIN)];
      const steps = Math.max(4, Math.ceil((to - from) / stepHz));
      return Array.from({ length: steps }, (_, i) => from + ((i + 0.5) * (to - from)) / steps).some(
        (at) =>
          power(at) < 4 * NULL_RATIO &&
          lowestNear(Math.max(from, at - stepHz), Math.min(to, at + stepHz)).value <= NULL_RATIO,
      );
    });
  let deepest = { hz: LOWEST_HZ, value: power(LOWEST_HZ) };
  // Where the strongest outweighs all others together nothing can come near a null.
  const possible = least <= 0 || (least * least) / energy <= NULL_RATIO;
  let [before, here] = [-Infinity, deepest.value];
  for (let hz = LOWEST_HZ; hz < highestHz; hz += stepHz) {
    const next = power(hz + stepHz);
    if (here <= before && here <= next && here < Math.max(4 * NULL_RATIO, deepest.value)) {
      const found = lowestNear(Math.max(1, hz - stepHz), hz + stepHz);
      if (found.value < deepest.value) deepest = found;
      if (possible && found.value <= NULL_RATIO && comesAgain(found.hz)) {
        return { firstNullHz: found.hz, deepestHz: found.hz, deepestDb: powerDb(found.value) };
      }
    }
    [before, here] = [here, next];
  }
  return { firstNullHz: null, deepestHz: deepest.hz, deepestDb: powerDb(deepest.value) };
}

/**
 * What is left in mono of one source that reaches two channels over several capsules. The level is
 * cheap, null and comb are searched for: each when it is first read.
 */
export function coherentMono(waves: readonly MonoWave[]): MonoSum {
  const level = once(() => coherentSumDb(waves));
  const dip = once(() => monoDip(waves));
  return {
    get firstNotchHz() {
      return dip().firstNullHz;
    },
    get combDb() {
      const energy = energyOf(waves);
      const { deepestDb } = dip();
      const peak = waves.reduce((sum, { gain }) => sum + Math.abs(gain), 0) ** 2;
      const apart = new Set(waves.map(({ timeS }) => timeS)).size > 1;
      const combed = energy > 0 && deepestDb < 0 && apart;
      return combed ? Math.min(DEEPEST_DB, powerDb(peak / energy) - deepestDb) : 0;
    },
    get sumDb() {
      return level();
    },
  };
}
