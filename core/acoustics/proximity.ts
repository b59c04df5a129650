import { checkSpeed, inRange, powerDb } from '../units/guard';

/**
 * Proximity effect on the axis of a microphone with a gradient part.
 * boost = 10·lg(1 + ((1 − A)·c / (2π f r))²) dB: the gradient of a spherical wave at distance r.
 * @param patternA omnidirectional part A, 0 … 1 (an omni has none)
 * @param frequencyHz 10 … 20 000 Hz
 * @param distanceM 0.01 … 200 m
 * @param speed speed of sound, m/s
 * Source: spherical-wave gradient, e.g. Eargle, The Microphone Book. Ignores body and grille.
 * @throws RangeError where patternA is outside 0 … 1, frequencyHz is outside 10 … 20000 Hz,
 *   distanceM is outside 0.01 … 200 m, speed is outside 250 … 450 m/s
 */
export function proximityBoostDb(
  patternA: number,
  frequencyHz: number,
  distanceM: number,
  speed: number,
): number {
  inRange('patternA', patternA, 0, 1);
  inRange('frequencyHz', frequencyHz, 10, 20000, 'Hz');
  inRange('distanceM', distanceM, 0.01, 200, 'm');
  checkSpeed(speed);
  const excess = ((1 - patternA) * speed) / (2 * Math.PI * frequencyHz * distanceM);
  return powerDb(1 + excess * excess);
}
