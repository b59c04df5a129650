import type { Session } from '../session/schema';

/** Steps from one plan to another, as data: what is not named by them stays the very object it was. */

/** Where something stands: names of fields; inside a list the id of its entry. */
export type Path = readonly string[];

export type Step =
  | { op: 'set'; path: Path; value: unknown }
  | { op: 'add'; path: Path; value: { id: string }; at: number }
  | { op: 'remove'; path: Path; id: string }
  | { op: 'order'; path: Path; ids: readonly string[] };

type Entry = { id: string };

function within(value: unknown, path: Path, change: (inner: unknown) => unknown): unknown {
  const [head, ...rest] = path;
  if (head === undefined) return change(value);
  if (Array.isArray(value)) {
    const list = value as Entry[];
    return list.map((entry) => (entry.id === head ? within(entry, rest, change) : entry));
  }
  if (typeof value !== 'object' || value === null) return value;
  const fields = value as Record<string, unknown>;
  const inner = within(fields[head], rest, change);
  if (inner === undefined) {
    const { [head]: _gone, ...others } = fields;
    return others;
  }
  return { ...fields, [head]: inner };
}

function done(list: unknown, step: Exclude<Step, { op: 'set' }>): unknown {
  const entries = (Array.isArray(list) ? list : []) as Entry[];
  if (step.op === 'add') {
    const others = entries.filter(({ id }) => id !== step.value.id);
    return [...others.slice(0, step.at), step.value, ...others.slice(step.at)];
  }
  if (step.op === 'remove') return entries.filter(({ id }) => id !== step.id);
  const place = new Map(step.ids.map((id, i) => [id, i]));
  return [...entries].sort(
    (a, b) => (place.get(a.id) ?? entries.length) - (place.get(b.id) ?? entries.length),
  );
}

/**
 * A plan with steps taken, in their order. Steps about entries that are not there are left out.
 * @returns a new session; what no step is about is shared with the one given
 */
export const withSteps = <S extends Session>(session: S, steps: readonly Step[]): S =>
  steps.reduce<S>(
    (plan, step) =>
      within(plan, step.path, (inner) => (step.op === 'set' ? step.value : done(inner, step))) as S,
    session,
  );

/** Whether two values of JSON are equal, whatever the order of their fields. */
export function isEqual(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [one, other] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = Object.keys(one).filter((key) => one[key] !== undefined);
  if (keys.length !== Object.keys(other).filter((key) => other[key] !== undefined).length) {
    return false;
  }
  return keys.every((key) => isEqual(one[key], other[key]));
}
