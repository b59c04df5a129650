import { JOURNALS, type Plan, type Session } from '../../core/session';

/**
 * What of a session is looked at, computed with and sent to workers: its plan. An entry of a journal, and a
 * content that it names, is no change of it.
 */

const BESIDE: ReadonlySet<string> = new Set([...JOURNALS, 'blobs']);
const plans = new WeakMap<object, Plan>();
let latest: { from: Session; plan: Plan } | null = null;

const samePlan = (one: Session, other: Session): boolean =>
  Object.keys({ ...one, ...other }).every((key) => BESIDE.has(key) || one[key] === other[key]);

/** The plan of a session, without its journals; the same object for as long as nothing of it changes. */
export function planOf(session: Session): Plan {
  const known = plans.get(session);
  if (known) return known;
  const same = latest && samePlan(latest.from, session) ? latest.plan : null;
  const plan: Plan = same ?? { ...session, log: [], takes: [], marks: [], acknowledgements: [] };
  plans.set(session, plan);
  plans.set(plan, plan);
  latest = { from: session, plan };
  return plan;
}
