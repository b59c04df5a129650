import type { Session } from '../../core/session';

/**
 * What was not yet saved when the page went away. Closing a lid or reloading leaves no time for
 * the database, but a synchronous write still succeeds.
 */
interface Entry {
  session: unknown;
  baseRevision: number;
}

const keyOf = (id: string): string => `rotunda-unsaved-${id}`;

export function writeJournal(session: Session, baseRevision: number): void {
  try {
    const entry: Entry = { session, baseRevision };
    localStorage.setItem(keyOf(session.id), JSON.stringify(entry));
  } catch {
    // No room: the database write that runs at the same time is then the only copy.
  }
}

export function clearJournal(id: string): void {
  try {
    localStorage.removeItem(keyOf(id));
  } catch {
    // Storage is closed to the page: there is nothing to clear either.
  }
}

export interface Leftover {
  session: unknown;
  /** the stored session is still the one these changes were made on */
  current: boolean;
}

/** The unsaved content that an earlier page left behind. */
export function readJournal(id: string, revision: number): Leftover | null {
  try {
    const text = localStorage.getItem(keyOf(id));
    if (text === null) return null;
    const entry = JSON.parse(text) as Partial<Entry>;
    if (!entry.session) return null;
    return { session: entry.session, current: entry.baseRevision === revision };
  } catch {
    return null;
  }
}
