import { createEmptyCard, fsrs, Rating, type Card, type Grade } from 'ts-fsrs';

/** What comes back when: by a kept scheduler, from the history alone, so that nothing else is stored. */

/** How a round went. */
export type Grading = 'again' | 'hard' | 'good' | 'easy';

const GRADES: Readonly<Record<Grading, Grade>> = {
  again: Rating.Again,
  hard: Rating.Hard,
  good: Rating.Good,
  easy: Rating.Easy,
};

const scheduler = fsrs({
  enable_fuzz: false,
  enable_short_term: false,
  request_retention: 0.9,
  maximum_interval: 365,
});

/** One round of an exercise. */
export interface Practised {
  /** ISO 8601 */
  at: string;
  grade: Grading;
}

/** When an exercise comes back. */
export interface Due {
  /** ISO 8601; null of what was never practised: it is due at once */
  at: string | null;
  /** days until then, below 0 where it is overdue; 0 of what was never practised */
  inDays: number;
}

const DAY_MS = 86_400_000;

/**
 * When an exercise comes back, from all its rounds.
 * @param rounds in any order; those whose time cannot be read are left out
 * @param now ISO 8601
 * Source: the scheduler of the kept package, with its usual weights, 90 % retention, at most a year.
 */
export function dueOf(rounds: readonly Practised[], now: string): Due {
  const sorted = rounds
    .filter(({ at }) => Number.isFinite(Date.parse(at)))
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  let card: Card | null = null;
  for (const { at, grade } of sorted) {
    const when = new Date(at);
    card = scheduler.next(card ?? createEmptyCard(when), when, GRADES[grade]).card;
  }
  if (!card) return { at: null, inDays: 0 };
  return { at: card.due.toISOString(), inDays: (card.due.getTime() - Date.parse(now)) / DAY_MS };
}

/**
 * How a round of choices went: a staircase aims at three of four.
 * @param right how many of its answers were right, 0 … of
 */
export function gradeOf(right: number, of: number): Grading {
  const share = of > 0 ? right / of : 0;
  if (share < 0.55) return 'again';
  if (share < 0.7) return 'hard';
  return share < 0.9 ? 'good' : 'easy';
}

/** How a round of places went, by its mean error, percent of the half base. */
export function gradeOfError(errorPct: number): Grading {
  if (errorPct > 25) return 'again';
  if (errorPct > 15) return 'hard';
  return errorPct > 7 ? 'good' : 'easy';
}
