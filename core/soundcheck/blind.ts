import { shuffled } from '../units/shuffled';
import type { BLIND_TESTS } from '../session/schema-journals';
import {
  holm,
  identificationP,
  preferencesNeeded,
  rightNeeded,
  signTestP,
  SURE,
} from './significance';

/** A blind test: what sounds in which trial under which letter, and what the answers say. */

/** Which of them is it; or which of two is better. */
export type BlindTest = (typeof BLIND_TESTS)[number];

/** Letters under which things sound, in their order. */
export const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
/** The one that is to be told, beside those that are known. */
export const UNKNOWN = 'X';

/** One trial: nobody who listens knows it. */
export interface Trial {
  /** what sounds as A, as B …: ids */
  among: readonly string[];
  /** what sounds as X; null where nothing is to be told */
  hidden: string | null;
}

/** One trial that was answered. */
export interface Answer extends Trial {
  /** the id that was said; empty: no difference heard */
  said: string;
}

/** Every two of several, each once. */
export const pairsOf = (ids: readonly string[]): [string, string][] =>
  ids.flatMap((one, i) => ids.slice(i + 1).map((other): [string, string] => [one, other]));

/** So many trials of one listener at the most. */
export const MOST_TRIALS_EACH = 100;

/**
 * How many trials a test has: of more than two preferred pair by pair, so many of every pair.
 * @param among how many are compared, 2 … 26
 * @param trials fixed beforehand, 1 … 100
 */
export const trialsIn = (test: BlindTest, among: number, trials: number): number =>
  test === 'identification' ? trials : (trials * among * (among - 1)) / 2;

/**
 * The trials of a test in the order in which they are heard.
 * @param ids two or more, at most 26; identification lets all of them be heard by their own letters
 * @param trials of identification, or of each pair of a preference, 1 … 100
 * @param random in [0, 1)
 * @throws RangeError where there are fewer than two ids or more than 26
 */
export function trialsOf(
  test: BlindTest,
  ids: readonly string[],
  trials: number,
  random: () => number,
): Trial[] {
  if (ids.length < 2 || ids.length > LETTERS.length) {
    throw new RangeError(`${ids.length} are compared; allowed: 2 to ${LETTERS.length}`);
  }
  if (test === 'identification') {
    return Array.from({ length: trials }, () => ({
      among: [...ids],
      hidden: ids[Math.floor(random() * ids.length)] ?? null,
    }));
  }
  const all = Array.from({ length: trials }, () => pairsOf(ids)).flat();
  return shuffled(all, random).map((pair) => ({ among: shuffled(pair, random), hidden: null }));
}

/** What one listener answered. */
export interface Listened {
  /** who; empty where nobody said it */
  by: string;
  answers: readonly Answer[];
}

/** What somebody made of telling which it is. */
export interface Identified {
  by: string;
  right: number;
  trials: number;
  /** chance of that by guessing alone */
  p: number;
  /** the fewest right ones that would be sure; null where no number would */
  needed: number | null;
}

/** One against another. */
export interface Preferred {
  one: string;
  other: string;
  forOne: number;
  forOther: number;
  /** no difference heard: shown and left out */
  ties: number;
  /** chance of a lead so large by guessing alone */
  p: number;
  /** the same, corrected for all pairs that were compared */
  corrected: number;
  needed: number | null;
}

export interface BlindResult {
  /** of each listener */
  identified: Identified[];
  /** of each listener, by its own repeats: how steady that taste is */
  own: { by: string; pairs: Preferred[] }[];
  /** of all listeners, where there are two or more: one voice each, whatever was repeated */
  together: Preferred[];
}

function counted(pair: readonly [string, string], said: readonly string[]) {
  const [one, other] = pair;
  const forOne = said.filter((id) => id === one).length;
  const forOther = said.filter((id) => id === other).length;
  return { one, other, forOne, forOther, ties: said.length - forOne - forOther };
}

function preferred(rows: readonly ReturnType<typeof counted>[]): Preferred[] {
  const chances = rows.map(({ forOne, forOther }) => signTestP(forOne, forOther));
  const corrected = holm(chances);
  return rows.map((row, i) => {
    const decided = row.forOne + row.forOther;
    return {
      ...row,
      p: chances[i] ?? 1,
      corrected: corrected[i] ?? 1,
      needed: decided === 0 ? null : preferencesNeeded(decided),
    };
  });
}

const isOf = ({ among }: Trial, [one, other]: readonly [string, string]): boolean =>
  among.includes(one) && among.includes(other);

/** The one that a listener prefers of two over all repeats; empty where neither. */
function voiceOf({ answers }: Listened, pair: readonly [string, string]): string {
  const { one, other, forOne, forOther } = counted(
    pair,
    answers.filter((answer) => isOf(answer, pair)).map(({ said }) => said),
  );
  return forOne > forOther ? one : forOther > forOne ? other : '';
}

/**
 * What the answers of a blind test say. Repeats of one listener are never counted as listeners.
 * @param ids what was compared, 2 … 26
 * @param listened of every listener who came to the end
 */
export function resultOf(
  test: BlindTest,
  ids: readonly string[],
  listened: readonly Listened[],
): BlindResult {
  if (test === 'identification') {
    const identified = listened.map(({ by, answers }): Identified => {
      const right = answers.filter(({ hidden, said }) => hidden === said).length;
      const trials = answers.length;
      const p = identificationP(right, trials, ids.length);
      return { by, right, trials, p, needed: trials > 0 ? rightNeeded(trials, ids.length) : null };
    });
    return { identified, own: [], together: [] };
  }
  const pairs = pairsOf(ids);
  const own = listened.map((one) => ({
    by: one.by,
    pairs: preferred(
      pairs.map((pair) =>
        counted(
          pair,
          one.answers.filter((answer) => isOf(answer, pair)).map(({ said }) => said),
        ),
      ),
    ),
  }));
  const together =
    listened.length < 2
      ? []
      : preferred(
          pairs.map((pair) =>
            counted(
              pair,
              listened.map((one) => voiceOf(one, pair)),
            ),
          ),
        );
  return { identified: [], own, together };
}

/** "p = 0.021"; "p < 0.001". @param p a chance, 0 … 1 */
export const pText = (p: number): string =>
  p < 0.001 ? 'p < 0.001' : `p = ${p.toFixed(p < 0.1 ? 3 : 2)}`;

const share = (p: number): string =>
  p < 0.001 ? 'less than once in 1000' : `${Math.max(1, Math.round(p * 1000))} times in 1000`;

/** "Anna told them apart: 9 of 10 right; guessing does as well 11 times in 1000." */
export function identifiedText({ by, right, trials, p, needed }: Identified): string {
  const who = by || 'The listener';
  const guessing = `guessing does as well ${share(p)} (${pText(p)})`;
  if (p < SURE)
    return `${who} can tell them apart, sure: ${right} of ${trials} right; ${guessing}.`;
  const would =
    needed === null
      ? `no number of ${trials} answers would tell: take more`
      : `${needed} right would have been sure`;
  return `Whether ${by || 'the listener'} can tell them apart cannot be told: ${right} of ${trials} right; ${guessing}; ${would}.`;
}

/**
 * "Anna prefers Close, sure: 9 to 1, …".
 * @param names of what was compared, by id
 * @param several more than one pair was compared, so that chances are corrected for all
 */
export function preferredText(
  who: string,
  { one, other, forOne, forOther, ties, p, corrected, needed }: Preferred,
  names: ReadonlyMap<string, string>,
  several: boolean,
): string {
  const [more, fewer] = [Math.max(forOne, forOther), Math.min(forOne, forOther)];
  const of = (id: string): string => names.get(id) ?? id;
  const tied = ties === 0 ? '' : `, ${ties} without a difference left out`;
  const chance = several
    ? `${pText(corrected)}, corrected for all pairs (${pText(p)} alone)`
    : pText(p);
  const pair = `${of(one)} and ${of(other)}`;
  if (more === 0) return `${who}: between ${pair} no difference was heard${tied}.`;
  const figure = `${more} to ${fewer}${tied}, ${chance}`;
  const lead = forOne >= forOther ? [one, other] : [other, one];
  if (corrected < SURE) {
    return `${who}: ${of(lead[0] ?? '')} rather than ${of(lead[1] ?? '')}, sure: ${figure}.`;
  }
  const would =
    needed === null
      ? `no number of ${more + fewer} would tell: take more`
      : more >= needed
        ? 'alone it would be sure, among so many pairs it is not'
        : `${needed} of ${more + fewer} would have been sure${several ? ' of one pair alone' : ''}`;
  return forOne === forOther
    ? `${who}: between ${pair} it cannot be told: ${figure}.`
    : `${who}: ${of(lead[0] ?? '')} rather than ${of(lead[1] ?? '')} cannot be told: ${figure}; ${would}.`;
}
