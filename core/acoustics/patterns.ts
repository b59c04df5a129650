import { acosDeg, inRange } from '../units/guard';

/** The customary first-order patterns and their omnidirectional part A. */
export const NAMED_PATTERNS = {
  omni: 1,
  subcardioid: 0.75,
  cardioid: 0.5,
  supercardioid: 0.366,
  hypercardioid: 0.25,
  'figure-eight': 0,
} as const;

export type PatternName = keyof typeof NAMED_PATTERNS;

/** A pattern by name, or by its omnidirectional part A from 0 to 1. */
export type Pattern = PatternName | number;

export const PATTERN_NAMES = Object.keys(NAMED_PATTERNS) as PatternName[];

/**
 * The part A in s(θ) = A + (1 − A)·cos θ.
 * @throws RangeError for a number outside 0 … 1
 */
export function patternAOf(pattern: Pattern): number {
  if (typeof pattern === 'string') return NAMED_PATTERNS[pattern];
  return inRange('pattern', pattern, 0, 1);
}

/** The name of an omnidirectional part A, 0 … 1, that is a named pattern exactly, else null. */
export function patternNameOf(patternA: number): PatternName | null {
  return PATTERN_NAMES.find((name) => NAMED_PATTERNS[name] === patternA) ?? null;
}

/**
 * Signed sensitivity of a first-order microphone, relative to its axis; negative behind the null.
 * @param patternA omnidirectional part A, 0 … 1
 * Source: the sum of a pressure and a gradient part, s = A + (1 − A)·cos θ.
 * @param cosine cosine of the angle between the capsule's axis and the direction to the source
 */
export function sensitivity(patternA: number, cosine: number): number {
  return patternA + (1 - patternA) * cosine;
}

/** How far a real microphone's null or rear is down at best against its axis, dB. */
export const REAL_NULL_DB = -25;
const REAL_NULL = 10 ** (REAL_NULL_DB / 20);

/**
 * What a real microphone hears where its pattern hears nothing: not less than 25 dB under what its
 * axis would. For levels that somebody is told; images and sums go by the pattern itself.
 * @param gain signed amplitude s(θ)/r
 * @param distanceM r, m, above 0
 * @returns the amplitude, 0 and more
 */
export const realGain = (gain: number, distanceM: number): number =>
  Math.max(Math.abs(gain), REAL_NULL / distanceM);

/**
 * Random energy efficiency: energy picked up from a diffuse field relative to an omni, 0.25 … 1.
 * Source: REE = A² + (1 − A)²/3 is the mean of s² over the sphere.
 * @throws RangeError where patternA is outside 0 … 1
 */
export function randomEnergyEfficiency(patternA: number): number {
  inRange('patternA', patternA, 0, 1);
  return patternA * patternA + (1 - patternA) ** 2 / 3;
}

/**
 * Distance factor 1/√REE, 1 … 2: how much farther than an omni for the same direct-to-reverberant
 * ratio.
 * @param patternA omnidirectional part A, 0 … 1
 */
export function distanceFactor(patternA: number): number {
  return 1 / Math.sqrt(randomEnergyEfficiency(patternA));
}

/**
 * Angle off axis at which the sensitivity is zero, degrees, or null where there is none (A > ½).
 * @throws RangeError where patternA is outside 0 … 1
 */
export function nullAngleDeg(patternA: number): number | null {
  inRange('patternA', patternA, 0, 1);
  if (patternA > 0.5) return null;
  return acosDeg(-patternA / (1 - patternA));
}
