import type { Session } from '../../core/session';
import type { Move } from '../document/steps';
import { TAB_ID } from './tabs';

/**
 * What was not yet saved when the page went away. Closing a lid or reloading leaves no time for
 * the database, but a synchronous write still succeeds. Every tab writes its own.
 */
interface Entry {
  /** as it was left; missing where there was no room for it */
  session?: unknown;
  /** what had been done since the revision below */
  moves: readonly Move[];
  baseRevision: number;
}

const PREFIX = 'rotunda-unsaved:';
const keyOf = (id: string, tabId: string): string => `${PREFIX}${tabId}:${id}`;

/** @returns whether it could be written */
export function writeLeftover(
  session: Session,
  baseRevision: number,
  moves: readonly Move[],
  tabId = TAB_ID,
): boolean {
  const write = (entry: Entry): boolean => {
    try {
      localStorage.setItem(keyOf(session.id, tabId), JSON.stringify(entry));
      return true;
    } catch {
      return false;
    }
  };
  // Where there is no room for the whole, what was done since is much smaller. Where there is none
  // for that either, the database write that runs at the same time is the only copy.
  return write({ session, moves, baseRevision }) || write({ moves, baseRevision });
}

export function clearLeftover(id: string, tabId = TAB_ID): void {
  try {
    localStorage.removeItem(keyOf(id, tabId));
  } catch {
    // Storage is closed to the page: there is nothing to clear either.
  }
}

export interface Leftover {
  tabId: string;
  session: unknown;
  moves: readonly Move[];
  /** the stored session is still the one these changes were made on */
  current: boolean;
}

/** The unsaved contents that earlier pages left behind for a session. */
export function readLeftovers(id: string, revision: number): Leftover[] {
  try {
    const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '');
    return keys.flatMap((key) => {
      const tabId = key.slice(PREFIX.length, -id.length - 1);
      if (id === '' || key !== keyOf(id, tabId)) return [];
      const entry = parsed(localStorage.getItem(key));
      if (!entry) return [];
      const { session = null, moves = [], baseRevision } = entry;
      return [{ tabId, session, moves, current: baseRevision === revision }];
    });
  } catch {
    return [];
  }
}

/** Everything that pages left behind, to know what is still referred to. */
export function leftBehind(): unknown[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(PREFIX))
      .map((key) => parsed(localStorage.getItem(key)));
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
