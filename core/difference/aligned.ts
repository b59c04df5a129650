import type { Session } from '../session/schema';

/** Two plans of different sessions have ids of their own: what is the same by name gets the same id. */

interface Named {
  id: string;
  name?: string;
  title?: string;
  kind?: unknown;
  role?: unknown;
}

const keyOf = ({ name, title, kind, role }: Named): string =>
  `${(name ?? title ?? '').trim().toLowerCase()}|${typeof kind === 'string' ? kind : ''}|${typeof role === 'string' ? role : ''}`;

/** Ids of the second list by which they are in the first: of the same name and kind, in their order. */
function pairsOf(before: readonly Named[], after: readonly Named[]): Map<string, string> {
  const here = new Set(before.map(({ id }) => id));
  const pairs = new Map<string, string>();
  const free = new Map<string, string[]>();
  const theirs = new Set(after.map(({ id }) => id));
  for (const entry of before) {
    if (theirs.has(entry.id)) continue;
    free.set(keyOf(entry), [...(free.get(keyOf(entry)) ?? []), entry.id]);
  }
  for (const entry of after) {
    if (here.has(entry.id)) continue;
    const own = free.get(keyOf(entry))?.shift();
    if (own !== undefined) pairs.set(entry.id, own);
  }
  return pairs;
}

/** Every text that is an id gets the other one, wherever it stands: players name players, arrays name players. */
function renamed(value: unknown, ids: ReadonlyMap<string, string>): unknown {
  if (typeof value === 'string') return ids.get(value) ?? value;
  if (Array.isArray(value)) return value.map((one) => renamed(one, ids));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, of]) => [ids.get(key) ?? key, renamed(of, ids)]),
  );
}

/**
 * The second plan with the ids of the first for whatever has the same name and kind: what is left between
 * them is what is really other. Players, sections, arrays, candidates, tape points, things of the hall and
 * of the kit.
 */
export function alignedTo<S extends Session>(before: Session, after: S): S {
  const lists = (session: Session): readonly (readonly Named[])[] => [
    session.sources,
    session.sections,
    session.arrays,
    session.candidates,
    session.venue.datumPoints,
    session.venue.obstacles,
    session.venue.seats,
    session.kit.microphones,
    session.kit.stands,
    session.kit.bars,
  ];
  const [one, other] = [lists(before), lists(after)];
  const ids = new Map(one.flatMap((list, i) => [...pairsOf(list, other[i] ?? [])]));
  if (ids.size === 0) return after;
  const { log, takes, marks, acknowledgements, blobs, ...plan } = after;
  const own = renamed(plan, ids) as S;
  return { ...own, log, takes, marks, acknowledgements, blobs };
}
