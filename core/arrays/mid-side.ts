import { dbToAmplitude, inRange, toDeg } from '../units/guard';

/** A crossed coincident pair of first-order microphones. */
export interface CrossedPair {
  /** omnidirectional share A of both capsules */
  share: number;
  includedAngleDeg: number;
  /** on-axis sensitivity relative to the mid's on-axis sensitivity, linear */
  gain: number;
}

/**
 * The crossed pair that a mid-side array decodes to (L = M + S, R = M − S).
 * ρ = √((1 − A)² + g²), A' = A/(A + ρ), included angle 2·atan2(g, 1 − A).
 * @param midShare omnidirectional share A of the mid, 0 … 1
 * @param sideGainDb side gain relative to the mid's on-axis sensitivity, −60 … 24 dB
 * Source: identity of first-order patterns; e.g. Streicher & Dooley 1982.
 */
export function crossedEquivalent(midShare: number, sideGainDb: number): CrossedPair {
  inRange('midShare', midShare, 0, 1);
  inRange('sideGainDb', sideGainDb, -60, 24, 'dB');
  const g = dbToAmplitude(sideGainDb);
  const gradient = Math.hypot(1 - midShare, g);
  return {
    share: midShare / (midShare + gradient),
    includedAngleDeg: 2 * toDeg(Math.atan2(g, 1 - midShare)),
    gain: midShare + gradient,
  };
}
