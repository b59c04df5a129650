import { sum } from 'd3-array';
import { enabledArrays } from '../session/lists';
import { capsulesInFrame } from '../arrays/capsules';
import type { Kit, MicArray, Microphone, Session } from '../session/schema';
import { patternAOf } from '../acoustics/patterns';
import { canDo, patternWord } from './needs';

/** Which microphone of the kit serves one capsule. */
export interface Assigned {
  arrayId: string;
  arrayName: string;
  label: string;
  pattern: string;
  /** null: the kit has none left */
  microphoneId: string | null;
  microphoneName: string | null;
}

export interface Assignment {
  capsules: Assigned[];
  /** how many of each entry are left over, by its id */
  left: Record<string, number>;
  /** capsules without a microphone */
  missing: number;
  /** arrays whose channels of one pattern got different microphones */
  unmatched: string[];
  /** what could be done about what is missing */
  alternatives: string[];
}

/** What has to be served together: capsules of one array that take the same entry where they can. */
interface Demand {
  array: MicArray;
  indexes: number[];
}

const ROLE_ORDER: readonly MicArray['role'][] = [
  'main',
  'outrigger',
  'overhead',
  'surround',
  'ambience',
  'spot',
];

/** The capsules of an array by their pattern: those are alike where they can be. */
function alikeIn(array: MicArray): number[][] {
  const groups = new Map<number, number[]>();
  capsulesInFrame(array.technique).forEach(({ pattern }, index) => {
    const patternA = patternAOf(pattern);
    groups.set(patternA, [...(groups.get(patternA) ?? []), index]);
  });
  return [...groups.values()];
}

/** Two capsules that mirror each other take two alike, where not all of an array can be. */
function pairsIn(array: MicArray, indexes: readonly number[]): number[][] {
  const capsules = capsulesInFrame(array.technique);
  const left = new Set(indexes);
  const pairs: number[][] = [];
  for (const i of indexes) {
    const a = capsules[i];
    const twin = indexes.find((j) => {
      const b = capsules[j];
      if (!a || !b || j <= i || !left.has(j)) return false;
      return a.dx !== 0 && Math.abs(a.dx + b.dx) < 1e-3 && Math.abs(a.dy - b.dy) < 1e-3;
    });
    if (!left.has(i) || twin === undefined) continue;
    left.delete(i);
    left.delete(twin);
    pairs.push([i, twin]);
  }
  return [...pairs, ...[...left].map((i) => [i])];
}

/** Entries that can do a pattern, those that can do least else first, so that the rest stays free. */
function candidates(kit: Kit, demand: Demand): Microphone[] {
  const [index = 0] = demand.indexes;
  const pattern = capsulesInFrame(demand.array.technique)[index]?.pattern;
  if (pattern === undefined) return [];
  const two = demand.indexes.length >= 2;
  return kit.microphones
    .filter((microphone) => canDo(microphone, pattern))
    .sort(
      (a, b) =>
        (two ? Number(b.matched) - Number(a.matched) : Number(a.matched) - Number(b.matched)) ||
        a.patterns.length - b.patterns.length,
    );
}

/**
 * Serves the demands of one size so that as many as possible get a microphone: augmenting paths
 * (Kuhn), in the order in which the roles matter.
 */
function match(
  kit: Kit,
  demands: readonly Demand[],
  free: Map<string, number>,
): Map<Demand, string> {
  const holders = new Map<string, Demand[]>();
  const size = (demand: Demand) => demand.indexes.length;
  const used = (id: string) => sum(holders.get(id) ?? [], size);
  const place = (demand: Demand, tried: Set<string>): boolean => {
    for (const { id } of candidates(kit, demand)) {
      if (tried.has(id)) continue;
      tried.add(id);
      const held = holders.get(id) ?? [];
      if (used(id) + size(demand) <= (free.get(id) ?? 0)) {
        holders.set(id, [...held, demand]);
        return true;
      }
      const mover = held.find((other) => size(other) === size(demand) && place(other, tried));
      if (mover) {
        const others = (holders.get(id) ?? []).filter((other) => other !== mover);
        holders.set(id, [...others, demand]);
        return true;
      }
    }
    return false;
  };
  for (const demand of demands) place(demand, new Set());
  const result = new Map<Demand, string>();
  for (const [id, held] of holders) for (const demand of held) result.set(demand, id);
  return result;
}

/**
 * Shares the kit out over the enabled arrays: what one array shares is alike where it can be, with
 * matched entries, main arrays before spots. What finds no set alike is served by its mirrored
 * halves, then one by one, and named as unmatched.
 * Source: augmenting paths, H. W. Kuhn (1955).
 */
export function assignKit({ kit, arrays }: Pick<Session, 'kit' | 'arrays'>): Assignment {
  // What the user chose stands; the rest is shared out among what is then left.
  const enabled = enabledArrays({ arrays }).sort(
    (a, b) => ROLE_ORDER.indexOf(a.role) - ROLE_ORDER.indexOf(b.role),
  );
  const free = new Map(kit.microphones.map(({ id, count }) => [id, count]));
  const by = new Map<string, string>();
  for (const { id, equipment, technique } of enabled) {
    const capsules = capsulesInFrame(technique);
    equipment.microphoneIds.forEach((chosen, index) => {
      const microphone = kit.microphones.find((entry) => entry.id === chosen);
      const capsule = capsules[index];
      // What cannot do the pattern is not what is put up.
      if (!microphone || !capsule || !canDo(microphone, capsule.pattern)) return;
      by.set(`${id}:${index}`, chosen);
      free.set(chosen, (free.get(chosen) ?? 0) - 1);
    });
  }
  const open = (array: MicArray, indexes: readonly number[]): Demand => ({
    array,
    indexes: indexes.filter((index) => !by.has(`${array.id}:${index}`)),
  });
  const take = (served: Map<Demand, string>) => {
    for (const [{ array, indexes }, id] of served) {
      free.set(id, (free.get(id) ?? 0) - indexes.length);
      for (const index of indexes) by.set(`${array.id}:${index}`, id);
    }
  };
  const wholes = enabled
    .flatMap((array) => alikeIn(array).map((indexes) => open(array, indexes)))
    .filter(({ indexes }) => indexes.length > 1);
  // By roles first, or the largest first: as leaves fewer that are not alike.
  const bySize = [...wholes].sort((a, b) => b.indexes.length - a.indexes.length);
  const [byRole, largestFirst] = [wholes, bySize].map((list) => match(kit, list, free));
  const together =
    byRole && largestFirst && largestFirst.size > byRole.size ? largestFirst : byRole;
  if (together) take(together);
  const rest = wholes.filter((demand) => !together?.has(demand));
  const halves = rest
    .flatMap(({ array, indexes }) => pairsIn(array, indexes).map((part) => open(array, part)))
    .filter(({ indexes }) => indexes.length > 1);
  take(match(kit, halves, free));
  const singles = enabled.flatMap((array) =>
    capsulesInFrame(array.technique)
      .map((_, index) => open(array, [index]))
      .filter(({ indexes }) => indexes.length > 0),
  );
  take(match(kit, singles, free));
  const nameOf = new Map(kit.microphones.map(({ id, name }) => [id, name]));
  const capsules = enabledArrays({ arrays }).flatMap((array) =>
    capsulesInFrame(array.technique).map(({ label, pattern }, index) => {
      const id = by.get(`${array.id}:${index}`) ?? null;
      return {
        arrayId: array.id,
        arrayName: array.name,
        label,
        pattern: patternWord(pattern),
        microphoneId: id,
        microphoneName: id === null ? null : (nameOf.get(id) ?? null),
      };
    }),
  );
  const unmatched = [
    ...new Set(
      rest
        .filter(({ array, indexes }) => indexes.every((i) => by.has(`${array.id}:${i}`)))
        .map(({ array }) => array.name),
    ),
  ];
  const left = Object.fromEntries(free);
  const missing = capsules.filter(({ microphoneId }) => microphoneId === null);
  return {
    capsules,
    left,
    missing: missing.length,
    unmatched,
    alternatives: alternatives(kit, missing, left),
  };
}

/** For each pattern that is short: which leftover microphones could stand in, with what pattern. */
function alternatives(
  kit: Kit,
  missing: readonly Assigned[],
  left: Readonly<Record<string, number>>,
): string[] {
  const short = new Map<string, Assigned[]>();
  for (const capsule of missing) {
    short.set(capsule.pattern, [...(short.get(capsule.pattern) ?? []), capsule]);
  }
  const spare = kit.microphones.filter(({ id }) => (left[id] ?? 0) > 0);
  return [...short].map(([pattern, capsules]) => {
    const where = [...new Set(capsules.map(({ arrayName }) => arrayName))].join(', ');
    const need = `${capsules.length} × ${pattern} short (${where})`;
    if (spare.length === 0) return `${need}: nothing is left; bring more, or leave an array out.`;
    const instead = spare
      .map(
        ({ id, name, patterns }) =>
          `${left[id]} × ${name} (${patterns.map(patternWord).join(', ')})`,
      )
      .join('; ');
    return `${need}: left over are ${instead}.`;
  });
}
