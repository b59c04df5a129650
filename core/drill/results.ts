import { mean } from 'd3-array';
import type { Piece } from '../session/library';
import { EAR, EAR_KINDS, type EarKindId } from './ear/kinds';
import { SUM_KINDS, SUMS, type SumKind } from './head/sums';
import { dueOf, gradeOf, gradeOfError, type Due, type Grading } from './schedule';
import { thresholdOf, type Threshold, type Trial } from './staircase';

/** What was answered, round by round, as the library keeps it, and what it says of the listener. */

/** One answered question. */
export interface Answered {
  seed: number;
  /** of the thing asked; 0 where it has none */
  size: number;
  right: boolean;
  said: string;
  truth: string;
  /** of a place: by how much, percent of the half base, positive too far right; else null */
  errorPct: number | null;
}

/** One round of one exercise. */
export interface Round {
  id: string;
  at: string;
  /** "ear: width", "head: delays", "head: claims", "plan" */
  exercise: string;
  answers: readonly Answered[];
}

const asNumber = (value: unknown): number | null =>
  typeof value === 'number' && Number.isFinite(value) ? value : null;
const asText = (value: unknown): string => (typeof value === 'string' ? value : '');

/** The round that a piece of the library holds; null where it is another one, or none. */
export function roundOf(piece: Piece): Round | null {
  if (piece.kind !== 'drill') return null;
  const { results } = piece as { results?: unknown };
  const { exercise, answers } = (results ?? {}) as { exercise?: unknown; answers?: unknown };
  if (typeof exercise !== 'string' || !Array.isArray(answers)) return null;
  const read = answers.flatMap((one: unknown): Answered[] => {
    if (typeof one !== 'object' || one === null) return [];
    const from = one as Record<string, unknown>;
    if (typeof from['right'] !== 'boolean') return [];
    return [
      {
        seed: asNumber(from['seed']) ?? 0,
        size: asNumber(from['size']) ?? 0,
        right: from['right'],
        said: asText(from['said']),
        truth: asText(from['truth']),
        errorPct: asNumber(from['errorPct']),
      },
    ];
  });
  return { id: piece.id, at: piece.at, exercise, answers: read };
}

/** How an exercise of the ear is called in what is kept. */
export const earExercise = (kind: EarKindId): string => `ear: ${kind}`;
/** How an exercise of the head is called in what is kept. */
export const headExercise = (kind: SumKind | 'claims'): string => `head: ${kind}`;
export const PLAN_EXERCISE = 'plan';

/** An exercise that comes back. */
export interface Exercise {
  id: string;
  name: string;
  /** the page it is on */
  page: 'ear' | 'head' | 'plan';
}

/** All there are, in the order in which they are offered to somebody new. */
export const EXERCISES: readonly Exercise[] = [
  ...EAR_KINDS.map((kind): Exercise => ({
    id: earExercise(kind),
    name: EAR[kind].name,
    page: 'ear',
  })),
  { id: headExercise('claims'), name: 'Claims of the trade', page: 'head' },
  ...SUM_KINDS.map((kind): Exercise => ({
    id: headExercise(kind),
    name: SUMS[kind].name,
    page: 'head',
  })),
  { id: PLAN_EXERCISE, name: 'What will this do?', page: 'plan' },
];

function gradeOfRound({ answers }: Round): Grading {
  const errors = answers.flatMap(({ errorPct }) => (errorPct === null ? [] : Math.abs(errorPct)));
  if (errors.length > 0) return gradeOfError(mean(errors) ?? 0);
  return gradeOf(answers.filter(({ right }) => right).length, answers.length);
}

/** How well somebody judges one thing, and when it comes back. */
export interface Standing extends Exercise {
  rounds: number;
  answers: number;
  /** how many of all were right, and where that share lies nine times of ten; null without answers */
  right: { share: number; low: number; high: number } | null;
  /** of things that have a size */
  threshold: Threshold | null;
  /** of places: mean miss, its interval, and how far right everything was put, percent of the half base */
  error: { meanPct: number; withinPct: number; sidePct: number; answers: number } | null;
  due: Due;
}

const Z = 1.645;

/**
 * Where a share lies nine times of ten.
 * Source: E. B. Wilson, J. Am. Stat. Assoc. 22 (1927).
 * @param right 0 … of
 * @param of above 0
 */
export function wilson(right: number, of: number): { share: number; low: number; high: number } {
  const share = right / of;
  const square = (Z * Z) / of;
  const middle = (share + square / 2) / (1 + square);
  const half = (Z / (1 + square)) * Math.sqrt((share * (1 - share)) / of + square / (4 * of));
  return { share, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

const earOf = (id: string): EarKindId | null =>
  EAR_KINDS.find((kind) => earExercise(kind) === id) ?? null;

/** All answers to one exercise in the order in which they were given. */
export const trialsOf = (rounds: readonly Round[], exercise: string): Trial[] =>
  inOrder(rounds)
    .filter((round) => round.exercise === exercise)
    .flatMap(({ answers }) => answers.map(({ size, right }) => ({ size, right })));

const inOrder = (rounds: readonly Round[]): Round[] =>
  [...rounds].sort((a, b) => a.at.localeCompare(b.at));

/** What all rounds say of one exercise. @param now ISO 8601 */
export function standingOf(exercise: Exercise, rounds: readonly Round[], now: string): Standing {
  const own = inOrder(rounds).filter((round) => round.exercise === exercise.id);
  const answers = own.flatMap((round) => round.answers);
  const kind = earOf(exercise.id);
  const { scale, choices } = kind ? EAR[kind] : { scale: null, choices: 0 };
  const errors = answers.flatMap(({ errorPct }) => errorPct ?? []).slice(-60);
  const sizes = errors.map(Math.abs);
  const meanPct = mean(sizes) ?? 0;
  const spread = Math.sqrt(
    sizes.reduce((sum, size) => sum + (size - meanPct) ** 2, 0) / Math.max(1, sizes.length - 1),
  );
  return {
    ...exercise,
    rounds: own.length,
    answers: answers.length,
    right:
      answers.length === 0 || errors.length > 0
        ? null
        : wilson(answers.filter(({ right }) => right).length, answers.length),
    threshold: scale ? thresholdOf(answers, scale, choices) : null,
    error:
      errors.length === 0
        ? null
        : {
            meanPct,
            withinPct: errors.length < 2 ? 100 : (Z * spread) / Math.sqrt(errors.length),
            sidePct: mean(errors) ?? 0,
            answers: errors.length,
          },
    due: dueOf(
      own.map((round) => ({ at: round.at, grade: gradeOfRound(round) })),
      now,
    ),
  };
}

/**
 * Exercises in the order in which to practise them: what is longest overdue, then what was never
 * practised, then what comes back soonest.
 */
export function nextUp(standings: readonly Standing[]): Standing[] {
  const group = ({ due, rounds }: Standing): number =>
    rounds > 0 && due.inDays <= 0 ? 0 : rounds === 0 ? 1 : 2;
  return [...standings].sort(
    (a, b) => group(a) - group(b) || (group(a) === 1 ? 0 : a.due.inDays - b.due.inDays),
  );
}

/** The rounds as a table: a row an answer. */
export function answersTable(rounds: readonly Round[]): {
  header: string[];
  rows: (string | number | null)[][];
} {
  return {
    header: ['when', 'exercise', 'size', 'said', 'truth', 'right', 'error %', 'seed'],
    rows: inOrder(rounds).flatMap(({ at, exercise, answers }) =>
      answers.map(({ size, said, truth, right, errorPct, seed }) => [
        ...[at, exercise, size === 0 ? null : size, said, truth, right ? 'yes' : 'no'],
        ...[errorPct, seed],
      ]),
    ),
  };
}

/** One exercise after each of its rounds. */
export interface Progress {
  what: string;
  unit: string;
  points: { at: string; value: number; low: number; high: number }[];
}

/** What was known after each round: the threshold, the miss, or how much was right, with its interval. */
export function progressOf(exercise: Exercise, rounds: readonly Round[]): Progress {
  const own = inOrder(rounds).filter((round) => round.exercise === exercise.id);
  const kind = earOf(exercise.id);
  const scale = kind ? EAR[kind].scale : null;
  const [what, unit] = scale
    ? ['three of four right at', scale.unit]
    : kind
      ? ['mean miss', '% of the half base']
      : ['right', '%'];
  const points = own.flatMap((round, i) => {
    const standing = standingOf(exercise, own.slice(0, i + 1), round.at);
    const { threshold, error, right } = standing;
    if (threshold) {
      return [{ at: round.at, value: threshold.size, low: threshold.low, high: threshold.high }];
    }
    if (error) {
      const { meanPct, withinPct } = error;
      if (error.answers < 5) return [];
      const low = Math.max(0, meanPct - withinPct);
      return [{ at: round.at, value: meanPct, low, high: meanPct + withinPct }];
    }
    if (!right || scale) return [];
    return [
      { at: round.at, value: 100 * right.share, low: 100 * right.low, high: 100 * right.high },
    ];
  });
  return { what, unit, points };
}
