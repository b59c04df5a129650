import { diffuseFieldCorrelation, type Correlation } from '../acoustics/diffuse-field';
import type { PreparedArray } from '../localisation/prepared-array';

/**
 * Correlation of an array's left and right channel in the reverberant field, with everything that
 * the mix does on the way: pans, gains, polarities, delays, and the decoding of mid-side. For each
 * two capsules i and j that reach the buses with amplitudes l and r, the cross-spectrum is
 * Σ lᵢ·rⱼ·√(REEᵢ·REEⱼ)·Γᵢⱼ·e^(−jω(τᵢ−τⱼ)), over the root of both channels' own.
 * @param frequencyHz 1 … 40 000 Hz
 * @param speed speed of sound, m/s
 * @returns null where a channel has no signal, so for a single microphone in one channel
 * Source: Cook et al., JASA 27 (1955); the sum over routes is linear superposition.
 */
export function interchannelCorrelation(
  array: PreparedArray,
  frequencyHz: number,
  speed: number,
): Correlation | null {
  const { capsules, routes, diffuse } = array;
  const [first, second] = capsules;
  if (array.plainPair && first && second) {
    return diffuseFieldCorrelation(first, second, frequencyHz, speed);
  }
  const omega = 2 * Math.PI * frequencyHz;
  let [crossRe, crossIm, leftPower, rightPower] = [0, 0, 0, 0];
  for (const [i, one] of capsules.entries()) {
    for (const [j, other] of capsules.entries()) {
      const [a, b] = [routes[i], routes[j]];
      if (!a || !b) continue;
      const energy = Math.sqrt((diffuse[i] ?? 0) * (diffuse[j] ?? 0));
      const { real, imaginary } = diffuseFieldCorrelation(one, other, frequencyHz, speed);
      const phase = (-omega * (a.delayMs - b.delayMs)) / 1000;
      const re = energy * (real * Math.cos(phase) - imaginary * Math.sin(phase));
      const im = energy * (real * Math.sin(phase) + imaginary * Math.cos(phase));
      crossRe += a.left * b.right * re;
      crossIm += a.left * b.right * im;
      leftPower += a.left * b.left * re;
      rightPower += a.right * b.right * re;
    }
  }
  const norm = Math.sqrt(leftPower * rightPower);
  return norm > 1e-12 ? { real: crossRe / norm, imaginary: crossIm / norm } : null;
}
