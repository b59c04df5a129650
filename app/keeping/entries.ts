import { JOURNALS, type JournalName, type Session } from '../../core/session';
import { tableNamed } from './database';

/** The entries of the journals: each is a record of its own, so that one more never rewrites many. */
interface StoredEntry {
  entry: unknown;
  /** place in its journal */
  at: number;
}

const entries = tableNamed<StoredEntry>('entries');
// No id holds a slash.
const keyOf = (id: string, journal: JournalName, entryId: string): string =>
  `${id}/${journal}/${entryId}`;

/** The lists of a session that are known to be stored as they are. */
const keptLists = new Map<string, Set<unknown>>();
const keptKeys = new Set<string>();

/** Stores the entries that are not stored yet. */
export async function keepEntries(session: Session): Promise<void> {
  const before = keptLists.get(session.id);
  for (const journal of JOURNALS) {
    const list = session[journal];
    if (before?.has(list)) continue;
    for (const [at, entry] of list.entries()) {
      const key = keyOf(session.id, journal, entry.id);
      if (keptKeys.has(key)) continue;
      await entries.set(key, { entry, at });
      keptKeys.add(key);
    }
  }
  keptLists.set(session.id, new Set(JOURNALS.map((journal) => session[journal])));
}

const keysOf = async (id: string): Promise<string[]> =>
  (await entries.keys()).filter((key) => key.startsWith(`${id}/`));

/** What is stored of a session with its journals in it again. */
export async function withEntries(id: string, raw: unknown): Promise<unknown> {
  const keys = await keysOf(id);
  if (keys.length === 0 || typeof raw !== 'object' || raw === null) return raw;
  const journals = new Map<string, StoredEntry[]>();
  for (const key of keys) {
    const journal = key.split('/')[1] ?? '';
    const stored = await entries.get(key);
    if (!stored) continue;
    journals.set(journal, [...(journals.get(journal) ?? []), stored]);
    keptKeys.add(key);
  }
  const lists = [...journals].map(([journal, stored]) => {
    const inside = (raw as Record<string, unknown>)[journal];
    const before: unknown[] = Array.isArray(inside) ? inside : [];
    return [journal, [...before, ...stored.sort((a, b) => a.at - b.at).map(({ entry }) => entry)]];
  });
  return { ...raw, ...(Object.fromEntries(lists) as object) };
}

/** The plan of a session without its journals. */
export function withoutEntries(session: Session): Session {
  const empty = Object.fromEntries(JOURNALS.map((journal) => [journal, []]));
  return Object.assign({ ...session }, empty);
}

export async function removeEntries(id: string): Promise<void> {
  keptLists.delete(id);
  for (const key of await keysOf(id)) {
    await entries.remove(key);
    keptKeys.delete(key);
  }
}

/** Gives the entries to a session that gets another identity. */
export async function handEntriesTo(id: string, newId: string): Promise<void> {
  for (const key of await keysOf(id)) {
    const stored = await entries.get(key);
    if (stored) await entries.set(`${newId}${key.slice(id.length)}`, stored);
  }
  await removeEntries(id);
}
