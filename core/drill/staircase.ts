import { clamp } from '../units/numbers';

/**
 * How large the thing asked is from question to question, so that three of four are right, and what
 * the answers say of the size at which they would be.
 * Source: C. Kaernbach, Perception & Psychophysics 49 (1991), the weighted up-down rule.
 */

/** A size that can be asked, from the smallest to the largest; larger is easier. */
export interface Scale {
  least: number;
  most: number;
  start: number;
  unit: string;
  /** figures after the point */
  decimals: number;
}

/** One question that was answered. */
export interface Trial {
  size: number;
  right: boolean;
}

/** Steps of the logarithm of the size after a right answer: large until it has turned twice, then smaller. */
const STEPS = [0.3, 0.3, 0.18, 0.18, 0.1] as const;
/** At 75 % right a wrong answer must lead three times as far up as a right one leads down. */
const UP = 3;

/** The size of the next question. */
export function nextSize(trials: readonly Trial[], { least, most, start }: Scale): number {
  let log = Math.log(start);
  let turns = 0;
  let before: boolean | null = null;
  for (const { right } of trials) {
    if (before !== null && right !== before) turns += 1;
    before = right;
    const step = STEPS[Math.min(turns, STEPS.length - 1)] ?? 0;
    log = clamp(log + (right ? -step : UP * step), Math.log(least), Math.log(most));
  }
  // Back from its logarithm the last digit may lie beyond.
  return clamp(Math.exp(log), least, most);
}

/** The size at which three of four answers are right, and where it lies nine times of ten. */
export interface Threshold {
  size: number;
  low: number;
  high: number;
  /** of how many answers */
  trials: number;
}

/** What listeners lose to a slip of the hand. */
const LAPSES = 0.03;
const TARGET = 0.75;
const SLOPES = [0.12, 0.2, 0.32, 0.5, 0.75] as const;
const CELLS = 160;
/** Fewer answers say too little for a figure. */
export const FEWEST_TRIALS = 12;
/** What was heard long ago says nothing of now. */
const LATEST = 60;

const logistic = (x: number): number => 1 / (1 + Math.exp(-x));

/**
 * Chance of a right answer.
 * @param size, threshold in the same unit, above 0
 * @param slope of the logarithm
 * @param choices among which an answer is chosen, 2 … 26
 */
export function chanceRight(
  size: number,
  threshold: number,
  slope: number,
  choices: number,
): number {
  const guess = 1 / choices;
  const share = (TARGET - guess) / (1 - guess - LAPSES);
  const x = Math.log(size / threshold) / slope + Math.log(share / (1 - share));
  return guess + (1 - guess - LAPSES) * logistic(x);
}

/** The value below which so much of a distribution over cells lies. */
function quantile(values: readonly number[], weights: readonly number[], share: number): number {
  let sum = 0;
  for (const [i, weight] of weights.entries()) {
    if (sum + weight >= share) {
      const [from, to] = [values[Math.max(0, i - 1)] ?? 0, values[i] ?? 0];
      return weight > 0 ? from + ((share - sum) / weight) * (to - from) : to;
    }
    sum += weight;
  }
  return values[values.length - 1] ?? 0;
}

/**
 * What the last 60 answers say of a threshold: by the likelihood over thresholds and slopes, each as
 * likely beforehand.
 * @param choices among which each answer was chosen, 2 … 26
 * @returns null of fewer than twelve
 */
export function thresholdOf(
  trials: readonly Trial[],
  { least, most }: Pick<Scale, 'least' | 'most'>,
  choices: number,
): Threshold | null {
  if (trials.length < FEWEST_TRIALS) return null;
  const latest = trials.slice(-LATEST);
  const [from, to] = [Math.log(least / 2), Math.log(most * 2)];
  const logs = Array.from({ length: CELLS }, (_, i) => from + ((to - from) * (i + 0.5)) / CELLS);
  const likelihoods = logs.map((log) =>
    SLOPES.map((slope) =>
      latest.reduce((sum, { size, right }) => {
        const chance = chanceRight(size, Math.exp(log), slope, choices);
        return sum + Math.log(right ? chance : 1 - chance);
      }, 0),
    ),
  );
  const best = Math.max(...likelihoods.flat());
  const weights = likelihoods.map((of) =>
    of.reduce((sum, value) => sum + Math.exp(value - best), 0),
  );
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const shares = weights.map((weight) => weight / all);
  const at = (share: number): number => Math.exp(quantile(logs, shares, share));
  return { size: at(0.5), low: at(0.05), high: at(0.95), trials: latest.length };
}
