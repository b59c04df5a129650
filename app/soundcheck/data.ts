import { useMemo } from 'react';
import { differences, withDifferences, type Difference } from '../../core/difference';
import { builtSession } from '../../core/rig';
import { leadingArray, type Plan, type Session } from '../../core/session';
import {
  expectedOf,
  optionName,
  optionsOf,
  type Option,
  type OptionEntry,
} from '../../core/soundcheck';
import { editSaying } from '../document/edits';
import { amend, enter } from '../document/journals';
import { planOf } from '../document/plan';
import { sessionStore } from '../document/session-store';
import { useSession } from '../document/use-session';
import { keptVersion, planOfVersion } from '../keeping/versions';
import { notify } from '../view/notices';
import { useAnswer, type AnswerState, type Answering } from '../workers/use-task';

/** The options of the open session. */
export function useOptions(): Option[] {
  const { log } = useSession();
  return useMemo(() => optionsOf({ log }), [log]);
}

/** Where a new option comes from. */
export interface Start {
  id: string;
  name: string;
  plan: Plan;
}

/** A candidate as a plan of its own: all its arrays, or the one in the place of the one that leads. */
function planWith(session: Session, candidate: Session['candidates'][number]): Plan {
  const { array, setUp } = candidate;
  const plan = planOf(session);
  if (setUp.length > 0) return { ...plan, arrays: [...setUp] };
  const leading = leadingArray(session);
  const own = { ...array, enabled: true };
  if (!leading) return { ...plan, arrays: [...plan.arrays, own] };
  return {
    ...plan,
    // It stands in the place of the leading one, and is called as that in all that is said of it.
    arrays: plan.arrays.map((one) =>
      one.id === leading.id ? { ...own, id: leading.id, role: leading.role } : one,
    ),
  };
}

/** What an option can be made of without another option: the plan, as it was built, the candidates. */
export function startsOf(session: Session): Start[] {
  const plan = planOf(session);
  const built = session.rig.asBuilt.length > 0 ? planOf(builtSession(plan)) : null;
  return [
    { id: 'plan', name: 'the plan as it stands', plan },
    ...(built ? [{ id: 'built', name: 'as it was built', plan: built }] : []),
    ...session.candidates.map((candidate) => ({
      id: `candidate ${candidate.id}`,
      name: `candidate: ${candidate.name}`,
      plan: planWith(session, candidate),
    })),
  ];
}

/** What is other from one plan to another that one could hear. */
export const soundingChanges = (before: Session, after: Session): Difference[] =>
  differences(before, after).filter(({ sounds }) => sounds);

const MOST_CHANGED = 400;

/**
 * Makes an option of a plan, with all that is expected of it.
 * @param before the option that it is held against, and its plan; null for the first
 * @returns its id; empty where it was refused, which is said
 */
export function addOption(
  plan: Plan,
  before: { option: Option; plan: Plan } | null,
  said: { name?: string; why?: string; by?: string } = {},
): string {
  const version = keptVersion(plan);
  const changed = before
    ? soundingChanges(before.plan, plan).map(({ words }) => words.slice(0, 500))
    : [];
  return enter(
    'log',
    {
      kind: 'option',
      by: said.by ?? '',
      name: (said.name ?? '').slice(0, 200),
      version: version.hash,
      from: before?.option.key ?? '',
      changed: changed.slice(0, MOST_CHANGED),
      why: (said.why ?? '').slice(0, 2000),
      expected: { ...expectedOf(plan) },
      heard: '',
      state: 'open',
      reason: '',
    },
    [version],
  );
}

/** Says something of an option anew; what was said before stays readable. */
export const sayOption = ({ entry }: Option, change: Partial<OptionEntry>): string =>
  amend('log', entry.id, change);

/** The plan of an option; null where its version is gone. */
export const planOfOption = (session: Session, { entry }: Option): Promise<Plan | null> =>
  planOfVersion(session, entry.version);

/** Who plays, what is put up and the hall: units, notes and the day stay as they are by now. */
const PUT_UP = ['sources', 'sections', 'arrays'];
const isPutUp = ({ sounds, steps }: Difference): boolean =>
  sounds || steps.every(({ path: [part] }) => PUT_UP.includes(part ?? ''));

/** The session becomes what an option is, as one step that can be taken back. */
export async function adopt(option: Option): Promise<void> {
  const before = sessionStore.getState().session;
  const plan = before && (await planOfOption(before, option));
  const session = sessionStore.getState().session;
  if (!plan || !session || session.id !== before.id) {
    notify('Not adopted: the version of the plan is not in this browser any more.');
    return;
  }
  const found = differences(session, plan).filter(isPutUp);
  if (found.length === 0) {
    notify(`The plan is as ${optionName(option)} already.`);
    return;
  }
  const next = withDifferences(session, found);
  editSaying(`The plan is ${optionName(option)} now.`, (draft) => {
    for (const key of Object.keys(next)) {
      if (next[key] !== session[key]) (draft as Record<string, unknown>)[key] = next[key];
    }
    // Contents that its version names and that nothing named meanwhile.
    for (const blob of plan.blobs) {
      if (!draft.blobs.some(({ id }) => id === blob.id)) draft.blobs.push(blob);
    }
  });
}

const plans: Answering<
  { session: Session; options: readonly Option[] },
  ReadonlyMap<string, Plan>
> = async ({ session, options }) => {
  const found = await Promise.all(
    options.map(async (option) => [option.key, await planOfOption(session, option)] as const),
  );
  return new Map(found.flatMap(([key, plan]) => (plan ? [[key, plan]] : [])));
};

/** Plans of options by their keys, as they come; those that are gone are left out. */
export function usePlansOf(options: readonly Option[]): AnswerState<ReadonlyMap<string, Plan>> {
  const session = useSession();
  const versions = options.map(({ key, entry }) => `${key} ${entry.version}`).join();
  const ask = useMemo(
    () => ({ session, options }),
    // What is said of an option changes nothing of its plan.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [session.id, versions],
  );
  return useAnswer(ask, plans);
}

/** The step between two options that differ by several: the first of what changed alone. */
export function makeBetween(
  from: { option: Option; plan: Plan },
  to: Option,
  toPlan: Plan,
): string {
  const [first, ...rest] = soundingChanges(from.plan, toPlan);
  if (!first || rest.length === 0) return '';
  const plan = withDifferences(from.plan, [first]);
  return addOption(plan, from, {
    name: `between ${from.option.letter} and ${to.letter}`,
    why: `Only one thing at a time: of ${optionName(to)} this is one, ${rest.length} more ${rest.length === 1 ? 'is' : 'are'} left.`,
  });
}
