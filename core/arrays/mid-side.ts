import { clamp } from '../units/numbers';
import {
  amplitudeDb,
  checkSpeed,
  cosDeg,
  dbToAmplitude,
  inRange,
  sinDeg,
  toDeg,
} from '../units/guard';
import { dot, length, subtract, type Vec3 } from '../units/vector';
import { arrayFrame } from './frame';

/** A crossed coincident pair of first-order microphones. */
export interface CrossedPair {
  /** omnidirectional part A of both capsules */
  patternA: number;
  includedAngleDeg: number;
  /** on-axis sensitivity relative to the mid's on-axis sensitivity, linear */
  gain: number;
}

/**
 * The crossed pair that a mid-side array decodes to (L = M + S, R = M − S).
 * ρ = √((1 − A)² + g²), A' = A/(A + ρ), included angle 2·atan2(g, 1 − A).
 * @param midA omnidirectional part A of the mid, 0 … 1
 * @param sideGainDb side gain relative to the mid's on-axis sensitivity, −60 … 24 dB
 * Source: identity of first-order patterns; e.g. Streicher & Dooley 1982.
 * @throws RangeError where midA is outside 0 … 1, sideGainDb is outside −60 … 24 dB
 */
export function crossedEquivalent(midA: number, sideGainDb: number): CrossedPair {
  inRange('midA', midA, 0, 1);
  inRange('sideGainDb', sideGainDb, -60, 24, 'dB');
  const g = dbToAmplitude(sideGainDb);
  const gradient = Math.hypot(1 - midA, g);
  return {
    patternA: midA / (midA + gradient),
    includedAngleDeg: 2 * toDeg(Math.atan2(g, 1 - midA)),
    gain: midA + gradient,
  };
}

/** A mid-side array that gives the same two channels as a crossed pair. */
export interface MidSideEquivalent {
  /** omnidirectional part A of the mid */
  midA: number;
  /** side against the mid's on-axis sensitivity, dB */
  sideGainDb: number;
}

/**
 * The mid-side array of a coincident crossed pair: M = (L + R)/2, S = (L − R)/2.
 * @param patternA omnidirectional part A of both capsules, 0 … 1
 * @param includedAngleDeg 0 … 360°
 * @returns null where no first-order mid facing forward exists (angle above 180°, or no sum left)
 * or where there is no side (angle 0, or omnis)
 * @throws RangeError where patternA is outside 0 … 1, includedAngleDeg is outside 0 … 360°
 */
export function midSideEquivalent(
  patternA: number,
  includedAngleDeg: number,
): MidSideEquivalent | null {
  inRange('patternA', patternA, 0, 1);
  inRange('includedAngleDeg', includedAngleDeg, 0, 360, '°');
  const forward = (1 - patternA) * cosDeg(includedAngleDeg / 2);
  const sideways = (1 - patternA) * sinDeg(includedAngleDeg / 2);
  const onAxis = patternA + forward;
  if (forward < -1e-12 || !(onAxis > 1e-9) || !(sideways > 1e-9)) return null;
  return {
    midA: Math.min(1, patternA / onAxis),
    sideGainDb: amplitudeDb(sideways / onAxis),
  };
}

/** What a microphone of a crossed pair of figure-eights becomes when the pair is turned by 45°. */
export interface Rotation {
  mid: 'left' | 'right';
  side: 'left' | 'right';
  /** the side's positive lobe then faces this way; to the right it wants inverted polarity */
  sidePositive: 'left' | 'right';
}

/** Crossed figure-eights at 90° turned by 45° to one side are a mid-side pair. */
export function rotationToMidSide(turn: 'left' | 'right'): Rotation {
  return turn === 'right'
    ? { mid: 'left', side: 'right', sidePositive: 'right' }
    : { mid: 'right', side: 'left', sidePositive: 'left' };
}

/**
 * The side level that the desk really makes: a mid panned to the centre is attenuated by the pan
 * law, the hard-panned sides are not, so the side rises against it.
 * @param centrePanDb the law's level in the centre, −6 … 0 dB
 * @throws RangeError where sideGainDb is outside −60 … 24 dB, centrePanDb is outside −6 … 0 dB
 */
export function sideGainUnderPanLaw(sideGainDb: number, centrePanDb: number): number {
  inRange('sideGainDb', sideGainDb, -60, 24, 'dB');
  inRange('centrePanDb', centrePanDb, -6, 0, 'dB');
  return sideGainDb - centrePanDb;
}

/**
 * A nominally coincident pair whose capsules sit one above the other: the first notch of their sum
 * for a source at an elevation.
 * @param offsetM distance of the capsules, 0.001 … 1 m
 * @param elevationDeg of the source, −90 … 90°
 * @returns Hz, or null level with the capsules, where both are reached together
 * @throws RangeError where offsetM is outside 0.001 … 1 m, elevationDeg is outside −90 … 90°,
 *   speed is outside 250 … 450 m/s
 */
export function offsetNotchHz(offsetM: number, elevationDeg: number, speed: number): number | null {
  inRange('offsetM', offsetM, 0.001, 1, 'm');
  inRange('elevationDeg', elevationDeg, -90, 90, '°');
  checkSpeed(speed);
  const pathM = offsetM * Math.abs(sinDeg(elevationDeg));
  return pathM > 1e-6 ? speed / (2 * pathM) : null;
}

/**
 * Elevation of a point above the plane of an array that is tilted with its aim: what counts for
 * capsules one above the other, whose offset tilts along.
 * @returns −90 … 90°; 0 at the array itself
 */
export function elevationInArray(
  array: { x: number; y: number; z: number; aimDeg: number; tiltDeg: number },
  point: Vec3,
): number {
  const way = subtract(point, array);
  const size = length(way);
  if (size < 1e-9) return 0;
  const sine = dot(way, arrayFrame(array.aimDeg, array.tiltDeg).up) / size;
  return toDeg(Math.asin(clamp(sine, -1, 1)));
}
