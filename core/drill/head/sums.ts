import { seededRandom } from '../../units/random';
import type { Maker, Sum } from './sum';
import { LEVEL_SUMS } from './sums-level';
import { PLACE_SUMS } from './sums-place';

export type { Sum } from './sum';

/** Kinds of arithmetic, and what they are made of. */
export const SUMS = {
  delays: { name: 'Delays', makers: PLACE_SUMS['delays'] },
  '3 to 1': { name: '3 to 1 and spill', makers: PLACE_SUMS['3 to 1'] },
  pairs: { name: 'Angle and spacing', makers: PLACE_SUMS['pairs'] },
  decode: { name: 'Mid-side decode', makers: LEVEL_SUMS['decode'] },
  distance: { name: 'Distance factors', makers: LEVEL_SUMS['distance'] },
  decibels: { name: 'Sums of decibels', makers: LEVEL_SUMS['decibels'] },
  correlation: { name: 'Correlation', makers: LEVEL_SUMS['correlation'] },
  storage: { name: 'Storage', makers: LEVEL_SUMS['storage'] },
} as const satisfies Readonly<Record<string, { name: string; makers: readonly Maker[] }>>;

export type SumKind = keyof typeof SUMS;
export const SUM_KINDS = Object.keys(SUMS) as SumKind[];

/**
 * A question of a kind.
 * @param seed any whole number, 0 … 2^32: the same gives the same numbers
 */
export function sumOf(kind: SumKind, seed: number): Sum {
  const random = seededRandom(seed);
  const { makers } = SUMS[kind];
  const maker = makers[Math.floor(random() * makers.length)] ?? makers[0];
  return maker(random);
}

/** Whether an answer is right. @param answer in the unit of its quantity: ms, min, m, dB, °, GB, samples or none */
export function isRight(sum: Sum, answer: number): boolean {
  const size = (value: number): number => (sum.sizeOnly ? Math.abs(value) : value);
  return Math.abs(size(answer) - size(sum.answer)) <= sum.within + 1e-12;
}
