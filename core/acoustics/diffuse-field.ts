import { checkSpeed, inRange } from '../units/guard';
import { dot, length, scale, subtract, type Vec3 } from '../units/vector';
import { randomEnergyEfficiency } from './patterns';

/** A first-order microphone in space. */
export interface Receiver {
  position: Vec3;
  /** unit vector */
  axis: Vec3;
  /** omnidirectional part A, 0 … 1 */
  patternA: number;
}

/** Complex correlation coefficient; its size is at most 1. */
export interface Correlation {
  real: number;
  imaginary: number;
}

/** Spherical Bessel functions as the formula needs them: j₀, j₁, j₁/z and j₂; series near 0. */
function bessel(z: number): { j0: number; j1: number; j1OverZ: number; j2: number } {
  if (z < 0.02) {
    const z2 = z * z;
    return {
      j0: 1 - z2 / 6 + (z2 * z2) / 120,
      j1: (z / 3) * (1 - z2 / 10 + (z2 * z2) / 280),
      j1OverZ: (1 - z2 / 10 + (z2 * z2) / 280) / 3,
      j2: (z2 / 15) * (1 - z2 / 14),
    };
  }
  const j0 = Math.sin(z) / z;
  const j1 = (j0 - Math.cos(z)) / z;
  return { j0, j1, j1OverZ: j1 / z, j2: (3 * j1) / z - j0 };
}

/**
 * Correlation of two first-order microphones in an ideal diffuse field at one frequency.
 * @param frequencyHz 1 … 40 000 Hz
 * @param speed speed of sound, m/s
 * Source: Cook et al., JASA 27 (1955), for pressure; first-order form e.g. G. W. Elko in
 * Microphone Arrays (2001).
 * @throws RangeError where frequencyHz is outside 1 … 40000 Hz, speed is outside 250 … 450 m/s
 */
export function diffuseFieldCorrelation(
  first: Receiver,
  second: Receiver,
  frequencyHz: number,
  speed: number,
): Correlation {
  inRange('frequencyHz', frequencyHz, 1, 40000, 'Hz');
  checkSpeed(speed);
  const apart = subtract(second.position, first.position);
  const distance = length(apart);
  const along = distance > 0 ? scale(apart, 1 / distance) : apart;
  const z = (2 * Math.PI * frequencyHz * distance) / speed;
  const { j0, j1, j1OverZ, j2 } = bessel(z);
  const [a1, a2] = [first.patternA, second.patternA];
  const [b1, b2] = [1 - a1, 1 - a2];
  const [e1, e2] = [dot(first.axis, along), dot(second.axis, along)];
  const norm = Math.sqrt(randomEnergyEfficiency(a1) * randomEnergyEfficiency(a2));
  return {
    real: (a1 * a2 * j0 + b1 * b2 * (dot(first.axis, second.axis) * j1OverZ - e1 * e2 * j2)) / norm,
    imaginary: ((a1 * b2 * e2 + a2 * b1 * e1) * j1) / norm,
  };
}
