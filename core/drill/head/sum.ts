import { formatNumber, formatSigned } from '../../units/format';
import type { Quantity } from './answers';

/** Arithmetic of the trade, with fresh numbers each time. */

export interface Sum {
  text: string;
  quantity: Quantity;
  /** in the unit of its quantity: ms, m, dB, °, GB, samples or none */
  answer: number;
  /** how far off an answer may be and still be right, in that unit */
  within: number;
  /** which way it goes is clear from the question: its size is enough */
  sizeOnly?: true;
  /** the way to it, a step a line */
  worked: string[];
  formula: string;
}

export type Random = () => number;
export type Maker = (random: Random) => Sum;

/** One of several, by chance. */
export const pick = <T>(random: Random, of: readonly [T, ...T[]]): T =>
  of[Math.floor(random() * of.length)] ?? of[0];
/** Between two numbers in steps, each end included. @param from, to, step in any unit, −10⁶ … 10⁶ */
export const some = (random: Random, from: number, to: number, step: number): number =>
  from + step * Math.floor(random() * (Math.round((to - from) / step) + 1));

/** A number as it is written. @param decimals 0 … 10 */
export const n = (value: number, decimals: number): string => formatNumber(value, decimals);
/** "+3.0 dB" */
export const db = (value: number): string => `${formatSigned(value, 1)} dB`;

/** Three parts of a hundred, or at least so much, in the unit of the answer: ms, min, m, dB, °, GB or samples. */
export const nearly = (answer: number, least = 0): number =>
  Math.max(least, 0.03 * Math.abs(answer));
