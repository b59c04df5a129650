import { createStore } from 'zustand/vanilla';
import type { SessionSummary } from './summaries';

/** When everything was kept outside the browser last, and after how long to be reminded. */

const KEY = 'rotunda-outside';
/** Days after which one is reminded, as offered; 0: never. */
export const REMIND_AFTER = [1, 7, 14, 30, 90, 0] as const;
const USUAL_DAYS = 14;
const DAY_MS = 86_400_000;

export interface Outside {
  /** ISO 8601; null where it never was */
  lastAt: string | null;
  /** since when there is something that could be lost */
  sinceAt: string;
  days: number;
  /** put off until then; ISO 8601 */
  laterAt: string;
}

function read(): Outside {
  const now = new Date().toISOString();
  const fresh: Outside = { lastAt: null, sinceAt: now, days: USUAL_DAYS, laterAt: '' };
  try {
    const stored = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<Outside> | null;
    if (!stored) return fresh;
    const { lastAt, sinceAt, days, laterAt } = stored;
    return {
      lastAt: typeof lastAt === 'string' ? lastAt : null,
      sinceAt: typeof sinceAt === 'string' ? sinceAt : now,
      days: typeof days === 'number' && days >= 0 && days <= 3650 ? days : USUAL_DAYS,
      laterAt: typeof laterAt === 'string' ? laterAt : '',
    };
  } catch {
    return fresh;
  }
}

export const outsideStore = createStore<Outside>(() => {
  const found = read();
  write(found);
  return found;
});

function write(outside: Outside): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(outside));
  } catch {
    // Without it one is reminded by the clock of this page alone.
  }
}

function change(part: Partial<Outside>): void {
  outsideStore.setState(part);
  write(outsideStore.getState());
}

/** Everything has just been kept outside. */
export const keptOutside = (): void => change({ lastAt: new Date().toISOString(), laterAt: '' });

export const remindAfter = (days: number): void => change({ days, laterAt: '' });

/** Not now: again tomorrow. */
export const remindLater = (): void =>
  change({ laterAt: new Date(Date.now() + DAY_MS).toISOString() });

/**
 * Why one should keep everything outside now, in words; null where there is no need.
 * @param now ms
 */
export function reminderText(
  { lastAt, sinceAt, days, laterAt }: Outside,
  sessions: readonly Pick<SessionSummary, 'updatedAt' | 'deletedAt'>[],
  now: number,
): string | null {
  const present = sessions.filter(({ deletedAt }) => deletedAt === null);
  const changed = present.filter(({ updatedAt }) => lastAt === null || updatedAt > lastAt).length;
  if (days === 0 || changed === 0) return null;
  if (laterAt !== '' && Date.parse(laterAt) > now) return null;
  const gone = Math.floor((now - Date.parse(lastAt ?? sinceAt)) / DAY_MS);
  if (!(gone >= days)) return null;
  const what = `${changed} ${changed === 1 ? 'session has' : 'sessions have'} changed since`;
  return lastAt === null
    ? `Nothing has ever been kept outside this browser, and it has held sessions for ${gone} ${gone === 1 ? 'day' : 'days'}.`
    : `Nothing was kept outside this browser for ${gone} ${gone === 1 ? 'day' : 'days'}; ${what}.`;
}
