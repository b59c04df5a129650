import { inRange, powerDb } from '../units/guard';

/**
 * Critical distance: where the direct and the reverberant field are equally strong.
 * @param q directivity factor of the source, 0.1 … 100
 * @param volumeM3 room volume, 0.1 … 10 000 000 m³
 * @param rt60S reverberation time, 0.1 … 12 s
 * @returns metres; r_c = 0.057·√(Q·V/RT60) (diffuse field, Sabine; e.g. Kuttruff, Room Acoustics)
 * @throws RangeError where q is outside 0.1 … 100, volumeM3 is outside 0.1 … 10⁷ m³, rt60S is
 *   outside 0.1 … 12 s
 */
export function criticalDistance(q: number, volumeM3: number, rt60S: number): number {
  inRange('q', q, 0.1, 100);
  inRange('volumeM3', volumeM3, 0.1, 1e7, 'm³');
  inRange('rt60S', rt60S, 0.1, 12, 's');
  return 0.057 * Math.sqrt((q * volumeM3) / rt60S);
}

/**
 * Direct-to-reverberant ratio at the output of an array, dB: energies summed over its capsules.
 * For one capsule: 10·lg( Q·s(θ)²/REE · r_c1²/r² ), r_c1 the critical distance for Q = 1.
 * @param arrivals each capsule's amplitude s(θ)/r for the source
 * @param weights each capsule's part of the energy in the output, 1 for one that is simply used
 * @param diffuse each capsule's random energy efficiency
 * @param q directivity factor of the source towards the array
 * @param criticalDistanceM critical distance for Q = 1, m
 * @throws RangeError where no capsule carries weight
 */
export function directToReverberantDb(
  arrivals: readonly { gain: number }[],
  weights: readonly number[],
  diffuse: readonly number[],
  q: number,
  criticalDistanceM: number,
): number {
  let directEnergy = 0;
  let diffuseEnergy = 0;
  for (let i = 0; i < arrivals.length; i++) {
    const weight = weights[i] ?? 0;
    const gain = arrivals[i]?.gain ?? 0;
    directEnergy += weight * gain * gain;
    diffuseEnergy += weight * (diffuse[i] ?? 0);
  }
  return directOverDiffuseDb(directEnergy, diffuseEnergy, q, criticalDistanceM);
}

/**
 * The same from energies that are summed already.
 * @param directEnergy sum of weight · amplitude², 0 and more
 * @param diffuseEnergy sum of weight · random energy efficiency, above 0
 * @param q directivity factor of the source towards the array, 0.1 … 100
 * @param criticalDistanceM critical distance for Q = 1, 0.001 … 10 000 m
 * @returns dB
 * @throws RangeError where no capsule carries weight
 */
export function directOverDiffuseDb(
  directEnergy: number,
  diffuseEnergy: number,
  q: number,
  criticalDistanceM: number,
): number {
  inRange('q', q, 0.1, 100);
  inRange('criticalDistanceM', criticalDistanceM, 1e-3, 1e4, 'm');
  if (!(diffuseEnergy > 0)) {
    throw new RangeError('weights are all 0; allowed: at least one capsule in use');
  }
  return powerDb((q * criticalDistanceM * criticalDistanceM * directEnergy) / diffuseEnergy);
}
