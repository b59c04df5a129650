import { stepDone, type Work } from '../audio/work';
import { alignedTo, differences, withDifferences, type Difference } from '../difference';
import { expectedOf, playerChanges, wholeChanges, type Expected } from '../soundcheck/expected';
import type { Session } from '../session/schema';

/** What each of several changes does to the picture, put in one by one in their order. */

export interface Effect {
  /** what changed, in words */
  words: string;
  subject: string;
  /** whether it can be heard at all */
  sounds: boolean;
  /** what becomes of every player by it, those of whom nothing is to be heard left out */
  players: string[];
  /** what becomes of the whole */
  whole: string[];
  /** players came or went: what is said is of the others */
  changesWho: boolean;
}

export interface Effects {
  steps: Effect[];
  /** all of them together, from the first plan to the second */
  together: Pick<Effect, 'players' | 'whole'>;
  model: string;
}

const between = (before: Expected, after: Expected): Pick<Effect, 'players' | 'whole'> => ({
  players: playerChanges(before, after).flatMap(({ words }) => (words === '' ? [] : [words])),
  whole: wholeChanges(before, after),
});

/** Whether players come, or whether they go; null of anything else. */
function comesOrGoes({ steps }: Difference): 'add' | 'remove' | null {
  const [first] = steps;
  const all = steps.every(({ op, path }) => op === first?.op && path[0] === 'sources');
  return all && (first?.op === 'add' || first?.op === 'remove') ? first.op : null;
}

/** Players who come, or go, one after the other do so in one go. */
function together(found: readonly Difference[]): Difference[] {
  const groups: Difference[][] = [];
  for (const one of found) {
    const last = groups.at(-1);
    const kind = comesOrGoes(one);
    if (kind !== null && last?.[0] && comesOrGoes(last[0]) === kind) last.push(one);
    else groups.push([one]);
  }
  return groups.flatMap((group): Difference[] => {
    const [first] = group;
    if (!first || group.length === 1) return first ? [first] : [];
    const names = group.map(({ subject }) => subject);
    const said =
      names.length <= 3
        ? names.join(', ')
        : `${names.slice(0, 2).join(', ')} and ${names.length - 2} others`;
    return [
      {
        subject: `${group.length} players`,
        words: `${said}: ${comesOrGoes(first) === 'add' ? 'added' : 'taken away'}`,
        sounds: true,
        steps: group.flatMap(({ steps }) => steps),
      },
    ];
  });
}

/** More audible changes than this are not put in one by one: only what all of them do together is told. */
export const MOST_STEPS = 60;

/**
 * What the differences from one plan to another do, each after the one before it. What one does depends on
 * those that are in already; the sum is that of all.
 * @param found the differences between them, in the order in which they are put in
 * @throws Cancelled where it was given up
 */
export async function effectsOf(
  before: Session,
  found: readonly Difference[],
  work: Partial<Work> = {},
): Promise<Effects> {
  const first = expectedOf(before);
  const put = together(found);
  const audible = put.filter(({ sounds }) => sounds);
  const single = audible.length <= MOST_STEPS;
  let [plan, was] = [before, first];
  let done = 0;
  const steps: Effect[] = [];
  for (const one of put) {
    const { words, subject, sounds } = one;
    const changesWho = comesOrGoes(one) !== null;
    plan = withDifferences(plan, [one]);
    if (!sounds || !single) {
      steps.push({ words, subject, sounds, changesWho, players: [], whole: [] });
      continue;
    }
    const now = expectedOf(plan);
    steps.push({ words, subject, sounds, changesWho, ...between(was, now) });
    was = now;
    work.progress?.((done += 1) / audible.length);
    await stepDone(work);
  }
  const last = single && audible.length > 0 ? was : expectedOf(plan);
  return { steps, together: between(first, last), model: first.model };
}

/** What is other, as far as a page shows it. */
export type Differing = Pick<Difference, 'subject' | 'words' | 'sounds'>;

/**
 * What is other in the second plan, and what each of it does; plans of two sessions are held against each
 * other by names.
 * @throws Cancelled where it was given up
 */
export async function differencesWithEffects(
  before: Session,
  after: Session,
  work: Partial<Work> = {},
): Promise<{ found: Differing[]; effects: Effects }> {
  const found = differences(before, alignedTo(before, after));
  const effects = await effectsOf(before, found, work);
  return {
    found: found.map(({ subject, words, sounds }) => ({ subject, words, sounds })),
    effects,
  };
}
