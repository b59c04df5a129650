import { farField, halfAngle } from '../../localisation/recording-angle';
import { modelById } from '../../localisation/models/index';
import { prepareArray } from '../../localisation/prepared-array';
import { formatNumber, formatSigned } from '../../units/format';
import { speedOfSound } from '../../units/sound';
import type { EarKindId } from '../ear/kinds';
import type { PairTechnique } from '../../arrays/technique';

/** Claims of the trade, to be judged: what is physics, and what is custom. */

export type Verdict = 'true' | 'false' | 'depends';

export interface Claim {
  id: string;
  claim: string;
  verdict: Verdict;
  /** what decides it: a law, or what people are used to */
  ground: 'physics' | 'convention';
  why: string;
  /** the figure that decides it, computed */
  figure: () => string;
  formula: string;
  /** an example to the ear, where one exists */
  sound?: { kind: EarKindId; size: number };
}

export const n = formatNumber;
/** Speed of sound at 20 °C, m/s. */
export const C = speedOfSound(20);
/** "+3.0 dB" */
export const db = (value: number): string => `${formatSigned(value, 1)} dB`;

/** Half recording angle of a pair for distant sources, by the consensus; null where it is never reached. */
export function half(
  pattern: PairTechnique['pattern'],
  spacingM: number,
  includedAngleDeg: number,
): string {
  const technique: PairTechnique = { kind: 'pair', pattern, spacingM, includedAngleDeg };
  const array = prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique });
  const deg = halfAngle(farField(array, C), modelById('consensus'), 1);
  return deg === null ? 'never reached' : `±${n(deg, 0)}°`;
}

/** A claim in one call. */
export const claim = (
  id: string,
  [verdict, ground, formula]: readonly [Verdict, Claim['ground'], string],
  text: string,
  why: string,
  figure: () => string,
  sound?: Claim['sound'],
): Claim => ({ id, claim: text, verdict, ground, why, figure, formula, ...(sound && { sound }) });
