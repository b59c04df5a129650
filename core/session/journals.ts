import type { Session } from './schema';

/**
 * Journals stand beside the plan and only grow: what was read, heard or recorded is never rewritten.
 * An entry is corrected by another that amends it and taken back by another that strikes it; all of
 * them stay readable. Undo does not touch them.
 */

export const JOURNALS = ['log', 'takes', 'marks', 'acknowledgements'] as const;
export type JournalName = (typeof JOURNALS)[number];
export type JournalEntry<J extends JournalName = JournalName> = Session[J][number];
/** A session without its journals: what is looked at, computed with and sent about. */
export type Plan = Session & Record<JournalName, never[]>;

interface Linked {
  id: string;
  /** id of the entry that this one takes back; empty: none */
  strikes: string;
  /** id of the entry that this one says anew; empty: none */
  amends: string;
}

/** One matter of a journal: what stands of it now, and everything that was ever said of it. */
export interface Matter<E> {
  /** the newest version; null where it was struck */
  standing: E | null;
  /** every version and striking, oldest first */
  history: readonly E[];
}

/**
 * The entries of a journal by matter, in the order in which each was first entered.
 * @param entries in the order in which they were made; links to entries that are not there begin a
 *   matter of their own
 */
export function matters<E extends Linked>(entries: readonly E[]): Matter<E>[] {
  const found: { standing: E | null; history: E[] }[] = [];
  const byId = new Map<string, (typeof found)[number]>();
  for (const entry of entries) {
    const earlier = byId.get(entry.strikes || entry.amends);
    const matter = earlier ?? { standing: null, history: [] };
    if (!earlier) found.push(matter);
    matter.history.push(entry);
    matter.standing = entry.strikes === '' ? entry : null;
    byId.set(entry.id, matter);
  }
  return found;
}

/** What stands of a journal now, without what was struck or said anew. */
export function standing<E extends Linked>(entries: readonly E[]): E[] {
  return matters(entries).flatMap((matter) => matter.standing ?? []);
}
