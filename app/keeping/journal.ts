import type { Session } from '../../core/session';
import { namingStored } from './pictures';
import { TAB_ID } from './tabs';

/**
 * What was not yet saved when the page went away. Closing a lid or reloading leaves no time for
 * the database, but a synchronous write still succeeds. Every tab writes its own.
 */
interface Entry {
  session: unknown;
  baseRevision: number;
}

const PREFIX = 'rotunda-unsaved:';
const keyOf = (id: string, tabId: string): string => `${PREFIX}${tabId}:${id}`;

/** @returns whether it could be written */
export function writeJournal(session: Session, baseRevision: number, tabId = TAB_ID): boolean {
  try {
    const entry: Entry = { session: namingStored(session), baseRevision };
    localStorage.setItem(keyOf(session.id, tabId), JSON.stringify(entry));
    return true;
  } catch {
    // No room, or no storage: the database write that runs at the same time is the only copy.
    return false;
  }
}

export function clearJournal(id: string, tabId = TAB_ID): void {
  try {
    localStorage.removeItem(keyOf(id, tabId));
  } catch {
    // Storage is closed to the page: there is nothing to clear either.
  }
}

export interface Leftover {
  tabId: string;
  session: unknown;
  /** the stored session is still the one these changes were made on */
  current: boolean;
}

/** The unsaved contents that earlier pages left behind for a session. */
export function readJournals(id: string, revision: number): Leftover[] {
  try {
    const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '');
    return keys.flatMap((key) => {
      const tabId = key.slice(PREFIX.length, -id.length - 1);
      if (id === '' || key !== keyOf(id, tabId)) return [];
      const entry = parsed(localStorage.getItem(key));
      if (!entry?.session) return [];
      return [{ tabId, session: entry.session, current: entry.baseRevision === revision }];
    });
  } catch {
    return [];
  }
}

/** Every session that a journal holds, to know which pictures are still named. */
export function journalledSessions(): unknown[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .map((key) => parsed(localStorage.getItem(key))?.session);
  } catch {
    return [];
  }
}

function parsed(text: string | null): Partial<Entry> | null {
  try {
    return text === null ? null : (JSON.parse(text) as Partial<Entry>);
  } catch {
    return null;
  }
}
