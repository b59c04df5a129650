import { inRange } from '../units/guard';

/** How surely answers of a blind test say something. */

/** Up to so many trials, far beyond what anybody sits through. */
const MOST_TRIALS = 1000;

function whole(name: string, value: number, min: number, max: number): void {
  if (!Number.isInteger(value)) throw new RangeError(`${name} is ${value}; allowed: whole numbers`);
  inRange(name, value, min, max);
}

/**
 * Chance of so many hits or more in independent trials.
 * @param trials 0 … 1000
 * @param hits 0 … trials
 * @param chance of each, 0 … 1
 * @returns 0 … 1: the upper tail of the binomial distribution, summed from its smallest term
 * @throws RangeError where trials or hits are no whole numbers in their ranges, or chance is outside 0 … 1
 */
export function binomialTail(trials: number, hits: number, chance: number): number {
  whole('trials', trials, 0, MOST_TRIALS);
  whole('hits', hits, 0, trials);
  inRange('chance', chance, 0, 1);
  if (hits === 0) return 1;
  if (chance === 0) return 0;
  if (chance === 1) return 1;
  // Logarithm of the term of all hits, then one hit fewer at a time.
  let log = trials * Math.log(chance);
  let sum = 0;
  for (let k = trials; k >= hits; k--) {
    sum += Math.exp(log);
    log += Math.log(k / (trials - k + 1)) + Math.log((1 - chance) / chance);
  }
  return Math.min(1, sum);
}

/**
 * Identification by forced choice: chance of so many right answers by guessing alone.
 * @param right 0 … trials
 * @param trials 0 … 1000, fixed beforehand
 * @param choices among which each answer was chosen, 2 … 26
 * @returns 0 … 1, one-sided
 * @throws RangeError where one is outside its range
 */
export function identificationP(right: number, trials: number, choices: number): number {
  whole('choices', choices, 2, 26);
  return binomialTail(trials, right, 1 / choices);
}

/**
 * Preference between two: the two-sided sign test; ties are left out.
 * @param one, other how often each was preferred, 0 … 1000 together
 * @returns 0 … 1; 1 where nobody preferred either
 * @throws RangeError where one is outside its range
 * Source: W. J. Dixon & A. M. Mood (1946).
 */
export function signTestP(one: number, other: number): number {
  const trials = one + other;
  if (trials === 0) return 1;
  return Math.min(1, 2 * binomialTail(trials, Math.max(one, other), 0.5));
}

/**
 * Chances of several comparisons that were made at once, each corrected for all of them.
 * @param chances 0 … 1 each
 * @returns as many, in the same order
 * Source: S. Holm (1979).
 */
export function holm(chances: readonly number[]): number[] {
  const order = chances.map((p, i) => ({ p, i })).sort((a, b) => a.p - b.p);
  const corrected = new Array<number>(chances.length).fill(1);
  let before = 0;
  for (const [rank, { p, i }] of order.entries()) {
    before = Math.min(1, Math.max(before, p * (chances.length - rank)));
    corrected[i] = before;
  }
  return corrected;
}

/** Below this guessing is not believed any more. */
export const SURE = 0.05;

/**
 * The fewest right answers that guessing would hardly give.
 * @param trials 1 … 1000
 * @param choices 2 … 26
 * @returns null where even all of them right would say nothing
 * @throws RangeError where one is outside its range
 */
export function rightNeeded(trials: number, choices: number): number | null {
  for (let right = 0; right <= trials; right++) {
    if (identificationP(right, trials, choices) < SURE) return right;
  }
  return null;
}

/**
 * The fewest preferences of one against the other that guessing would hardly give.
 * @param trials 1 … 1000, without ties
 * @returns null where even all of them for one would say nothing
 * @throws RangeError where it is outside its range
 */
export function preferencesNeeded(trials: number): number | null {
  for (let one = Math.ceil(trials / 2); one <= trials; one++) {
    if (signTestP(one, trials - one) < SURE) return one;
  }
  return null;
}
