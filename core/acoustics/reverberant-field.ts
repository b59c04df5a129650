import { inRange, powerDb } from '../units/guard';
import { randomEnergyEfficiency } from './patterns';

/**
 * Critical distance: where the direct and the reverberant field are equally strong.
 * @param q directivity factor of the source, 0.1 … 100
 * @param volumeM3 room volume, 1 … 1 000 000 m³
 * @param rt60S reverberation time, 0.1 … 12 s
 * @returns metres; r_c = 0.057·√(Q·V/RT60) (diffuse field, Sabine; e.g. Kuttruff, Room Acoustics)
 */
export function criticalDistance(q: number, volumeM3: number, rt60S: number): number {
  inRange('q', q, 0.1, 100);
  inRange('volumeM3', volumeM3, 1, 1e6, 'm³');
  inRange('rt60S', rt60S, 0.1, 12, 's');
  return 0.057 * Math.sqrt((q * volumeM3) / rt60S);
}

/** One capsule as the reverberant field sees it. */
export interface DirectPath {
  /** omnidirectional share A of the capsule, 0 … 1 */
  share: number;
  /** signed sensitivity towards the source */
  towards: number;
  /** distance from the source, m, above 0 */
  distanceM: number;
  /** energy share of the capsule in the array's output, 1 for a capsule that is simply used */
  weight: number;
}

/**
 * Direct-to-reverberant ratio over the capsules of an array, dB (energy summed over capsules).
 * For one capsule: 10·lg( Q·s(θ)²/REE · r_c1²/r² ), r_c1 the critical distance for Q = 1.
 * @param q directivity factor of the source towards the array
 * @param criticalDistanceM critical distance for Q = 1, m
 */
export function directToReverberantDb(
  paths: readonly DirectPath[],
  q: number,
  criticalDistanceM: number,
): number {
  let direct = 0;
  let diffuse = 0;
  for (const { share, towards, distanceM, weight } of paths) {
    direct += weight * (towards / distanceM) ** 2;
    diffuse += weight * randomEnergyEfficiency(share);
  }
  if (!(diffuse > 0))
    throw new RangeError('paths carry no weight; allowed: at least one capsule in use');
  return powerDb((q * criticalDistanceM ** 2 * direct) / diffuse);
}
