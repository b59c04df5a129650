import { JOURNALS, type JournalName, type Session } from '../../core/session';
import { tableNamed } from './database';

/** An entry of a journal as it is stored. */
interface StoredEntry {
  entry: unknown;
  /** place in its journal */
  at: number;
}

/** Many entries of one session as one record, which is never written again. */
interface Chunk {
  entries: (StoredEntry & { journal: string; id: string })[];
}

/**
 * The entries of the journals: each is a record of its own at first, so that one more never rewrites
 * many; then many of them are folded into one record, so that a long session opens at once.
 */
const entries = tableNamed<StoredEntry | Chunk>('entries');
// No id holds a slash, and no journal is called so.
const CHUNK = '#';
const keyOf = (id: string, journal: string, entryId: string): string =>
  `${id}/${journal}/${entryId}`;
const isChunk = (key: string): boolean => key.split('/')[1] === CHUNK;

/** So many single records of a session are folded into one: the fewer there are, the sooner all are listed. */
const FOLDED = 32;
/** So many entries are one record at most: one that cannot be read takes no more with it. */
const MOST_FOLDED = 1000;

/** The lists of a session that are known to be stored as they are. */
const keptLists = new Map<string, Set<unknown>>();
const keptKeys = new Set<string>();
/** Keys of single records, by session: as far as this page has seen them. */
const singles = new Map<string, Set<string>>();

const singlesOf = (id: string): Set<string> => {
  const known = singles.get(id) ?? new Set<string>();
  singles.set(id, known);
  return known;
};

/**
 * Stores the entries that are not stored yet: many at once as folded ones.
 * @param newId of a record
 */
export async function keepEntries(session: Session, newId: () => string): Promise<void> {
  const before = keptLists.get(session.id);
  const missing: [string, StoredEntry][] = [];
  for (const journal of JOURNALS) {
    const list = session[journal];
    if (before?.has(list)) continue;
    for (const [at, entry] of list.entries()) {
      const key = keyOf(session.id, journal, entry.id);
      if (!keptKeys.has(key)) missing.push([key, { entry, at }]);
    }
  }
  if (missing.length >= FOLDED) await keepFolded(session.id, missing, newId);
  else {
    await Promise.all(
      missing.map(async ([key, stored]) => {
        await entries.set(key, stored);
        keptKeys.add(key);
        singlesOf(session.id).add(key);
      }),
    );
  }
  keptLists.set(session.id, new Set(JOURNALS.map((journal) => session[journal])));
}

/** Stores entries as records of many. */
async function keepFolded(
  id: string,
  stored: readonly [key: string, StoredEntry][],
  newId: () => string,
): Promise<void> {
  for (let from = 0; from < stored.length; from += MOST_FOLDED) {
    const some = stored.slice(from, from + MOST_FOLDED);
    const chunk: Chunk = {
      entries: some.map(([key, entry]) => {
        const [, journal = '', ...rest] = key.split('/');
        return { ...entry, journal, id: rest.join('/') };
      }),
    };
    await entries.set(keyOf(id, CHUNK, newId()), chunk);
    for (const [key] of some) keptKeys.add(key);
  }
}

/**
 * Folds the single records of a session where there are many. For the tab that writes, under the lock
 * of the session: no single record goes before the one that holds it stands.
 * @param newId of the record
 */
export async function foldEntries(id: string, newId: () => string): Promise<void> {
  const keys = [...singlesOf(id)];
  if (keys.length < FOLDED) return;
  const read = await Promise.all(keys.map((key) => entries.get(key)));
  const found = keys.flatMap((key, i): [string, StoredEntry][] => {
    const stored = read[i];
    return stored && !('entries' in stored) ? [[key, stored]] : [];
  });
  await keepFolded(id, found, newId);
  await Promise.all(keys.map((key) => entries.remove(key)));
  for (const key of keys) singlesOf(id).delete(key);
}

const keysIn = (all: readonly string[], id: string): string[] =>
  all.filter((key) => key.startsWith(`${id}/`));

/** Keys of all entries of all sessions, listed once for many of them. */
export const entryKeys = (): Promise<string[]> => entries.keys();

/** The stored entries of a session by journal and id: one that is folded and single is one. */
async function storedOf(keys: readonly string[]): Promise<Map<string, Map<string, StoredEntry>>> {
  const journals = new Map<string, Map<string, StoredEntry>>();
  const put = (journal: string, id: string, stored: StoredEntry): void => {
    const list = journals.get(journal) ?? new Map<string, StoredEntry>();
    list.set(id, stored);
    journals.set(journal, list);
  };
  const read = await Promise.all(keys.map((key) => entries.get(key)));
  read.forEach((stored, i) => {
    const [, journal = '', ...rest] = (keys[i] ?? '').split('/');
    if (!stored) return;
    if ('entries' in stored) for (const one of stored.entries) put(one.journal, one.id, one);
    else put(journal, rest.join('/'), stored);
  });
  return journals;
}

/**
 * What is stored of a session with its journals in it again.
 * @param all keys of the entries of all sessions, where they are known
 */
export async function withEntries(
  id: string,
  raw: unknown,
  all?: readonly string[],
): Promise<unknown> {
  const keys = keysIn(all ?? (await entryKeys()), id);
  if (keys.length === 0 || typeof raw !== 'object' || raw === null) return raw;
  const journals = await storedOf(keys);
  for (const key of keys) if (!isChunk(key)) singlesOf(id).add(key);
  const lists = [...journals].map(([journal, stored]) => {
    const inside = (raw as Record<string, unknown>)[journal];
    const before: unknown[] = Array.isArray(inside) ? inside : [];
    for (const entryId of stored.keys()) keptKeys.add(keyOf(id, journal, entryId));
    const sorted = [...stored.values()].sort((a, b) => a.at - b.at);
    return [journal, [...before, ...sorted.map(({ entry }) => entry)]];
  });
  return { ...raw, ...(Object.fromEntries(lists) as object) };
}

/** The plan of a session without its journals. */
export function withoutEntries(session: Session): Session {
  const empty = Object.fromEntries(JOURNALS.map((journal): [JournalName, []] => [journal, []]));
  return Object.assign({ ...session }, empty);
}

/** What this page knows of a session's entries is forgotten. */
export function forgetEntries(id: string): void {
  keptLists.delete(id);
  singles.delete(id);
  for (const key of keptKeys) if (key.startsWith(`${id}/`)) keptKeys.delete(key);
}

export async function removeEntries(id: string): Promise<void> {
  forgetEntries(id);
  const keys = keysIn(await entryKeys(), id);
  await Promise.all(keys.map((key) => entries.remove(key)));
}

/** Gives the entries to a session that gets another identity. */
export async function handEntriesTo(id: string, newId: string): Promise<void> {
  const keys = keysIn(await entryKeys(), id);
  await Promise.all(
    keys.map(async (key) => {
      const stored = await entries.get(key);
      if (stored) await entries.set(`${newId}${key.slice(id.length)}`, stored);
    }),
  );
  await removeEntries(id);
}
