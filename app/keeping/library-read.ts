import { useEffect, useRef } from 'react';
import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';
import type { Overview } from '../../core/recall';
import { sessionStore } from '../document/session-store';
import { run } from '../workers/run';
import { reasonOf, tableNamed } from './database';
import { entryKeys, withEntries } from './entries';
import { keptPieces } from './library-store';
import type { SessionSummary } from './storage';
import { markedSummaries } from './summaries';

/** The library of this browser as it is read beside the page: all sessions with their journals, and what was kept. */

interface LibraryState {
  overview: Overview | null;
  /** 0 … 1 while it is read for the first time; null else */
  reading: number | null;
  failure: string | null;
}

export const libraryStore = createStore<LibraryState>(() => ({
  overview: null,
  reading: null,
  failure: null,
}));

const stored = tableNamed<{ session: unknown }>('sessions');
/** So many go over at a time: the page stays free between them. */
const BATCH = 6;

/** A name that is typed is looked for once it is typed, ms. */
const RESTS_MS = 300;

/** What tells that a session is as it was when it was read. */
const stamps = new Map<string, string>();
/** The open session as it went over. */
let openBefore: unknown = null;

const stampOf = ({ updatedAt, title }: SessionSummary, entries: readonly string[]): string =>
  `${updatedAt} ${title} ${entries.length} ${entries.at(-1) ?? ''}`;

function keysBySession(keys: readonly string[]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const key of keys) {
    const id = key.split('/')[0] ?? '';
    const own = found.get(id);
    if (own) own.push(key);
    else found.set(id, [key]);
  }
  return found;
}

/** As it is stored; nothing where it cannot be read. */
async function rawOf(summary: SessionSummary, keys: readonly string[]): Promise<unknown> {
  try {
    if (summary.unstored) return await (await import('./storage')).rawSession(summary.id);
    const found = await stored.get(summary.id);
    return await withEntries(summary.id, found?.session ?? null, keys);
  } catch {
    return null;
  }
}

async function readOnce(): Promise<void> {
  // What the list of sessions has already: no part of a page of its own.
  const { listSessions } = await import('./storage');
  const { sessions, failure } = await listSessions();
  const keys = await entryKeys().catch(() => []);
  const entries = keysBySession(keys);
  const marked = markedSummaries();
  const present = sessions.filter(({ deletedAt }) => deletedAt === null);
  const { session: open } = sessionStore.getState();
  const changed = present.filter(
    (summary) =>
      summary.id !== open?.id &&
      (marked.has(summary.id) ||
        stamps.get(summary.id) !== stampOf(summary, entries.get(summary.id) ?? [])),
  );
  const first = libraryStore.getState().overview === null;
  for (let from = 0; from < changed.length; from += BATCH) {
    if (first) libraryStore.setState({ reading: from / changed.length });
    const some = changed.slice(from, from + BATCH);
    const put = await Promise.all(
      some.map(async (summary) => ({
        id: summary.id,
        title: summary.title,
        raw: await rawOf(summary, entries.get(summary.id) ?? []),
      })),
    );
    await run('libraryTaken', { put, pieces: null, ids: null });
    for (const summary of some) {
      stamps.set(summary.id, stampOf(summary, entries.get(summary.id) ?? []));
    }
  }
  const own = open && open !== openBefore ? [{ id: open.id, title: open.title, raw: open }] : [];
  const overview = await run('libraryTaken', {
    put: own,
    pieces: await keptPieces().catch(() => []),
    ids: [...present.map(({ id }) => id), ...(open ? [open.id] : [])],
  });
  // What was open is read from the store again once another one is.
  if (open) stamps.delete(open.id);
  openBefore = open;
  libraryStore.setState({ overview, reading: null, failure });
}

/** What was read is not known any more: the worker that held it is gone. */
export function forgetLibrary(): void {
  stamps.clear();
  openBefore = null;
}

let going: Promise<void> | null = null;
let again = false;

/** Reads what changed since the last time. Asked again meanwhile it is read once more. */
export function readLibraryAnew(): Promise<void> {
  if (going) {
    again = true;
    return going;
  }
  const work = async (): Promise<void> => {
    do {
      again = false;
      await readOnce();
    } while (again);
  };
  going = work()
    .catch((error: unknown) => {
      // The worker may be gone, and what it knew with it.
      forgetLibrary();
      libraryStore.setState({ reading: null, failure: reasonOf(error) });
    })
    .finally(() => (going = null));
  return going;
}

/** The library, read when it is first looked at and whenever the journals of the open session grow. */
export function useLibrary(): LibraryState {
  const marks = useStore(sessionStore, ({ session }) => session?.marks);
  const log = useStore(sessionStore, ({ session }) => session?.log);
  const hall = useStore(sessionStore, ({ session }) => session?.venue);
  const first = useRef(true);
  useEffect(() => {
    // At once when it is looked at; after that once the hand rests.
    const timer = setTimeout(() => void readLibraryAnew(), first.current ? 0 : RESTS_MS);
    first.current = false;
    return () => clearTimeout(timer);
  }, [marks, log, hall]);
  return useStore(libraryStore);
}
