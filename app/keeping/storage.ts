import { createStore } from 'zustand/vanilla';
import { nameWith, readSession, usableId, type Problem, type Session } from '../../core/session';
import type { Doc, Step } from '../document/steps';
import { keptHistory } from './kept-history';
import { forgetKept, keepBlobsOf, sweepBlobs, withReferences } from './blobs';
import { isFull, reasonOf, tableNamed } from './database';
import './simulations';
import {
  entryKeys,
  foldEntries,
  forgetEntries,
  handEntriesTo,
  keepEntries,
  removeEntries,
  withEntries,
  withoutEntries,
} from './entries';
import { leftBehind } from './leftovers';
import {
  hashesIn,
  hashesNamed,
  markedSummaries,
  markSummary,
  summaries,
  unmarkSummary,
  type SessionSummary,
} from './summaries';
import { newId } from '../document/new-id';
import { exclusively, TAB_ID, tellTabs } from './tabs';

/** A session as the browser keeps it; the revision counts saves, so that tabs notice each other. */
interface StoredSession {
  /** without the entries of its journals: they are records of their own */
  session: Session;
  /** the last steps of its history, there and back; missing where it has none */
  past?: readonly Step[];
  future?: readonly Step[];
  revision: number;
  /** the tab that wrote it last: tells a lost race where the browser has no locks */
  writer?: string;
  /** set while it lies among the deleted ones */
  deletedAt?: string;
  /** set while it lies in the archive */
  archivedAt?: string;
}

export type { SessionSummary };

export type LoadResult =
  | {
      kind: 'found';
      session: Session;
      past: readonly Step[];
      future: readonly Step[];
      revision: number;
      /** the database does not hold it yet */
      unstored: boolean;
    }
  | { kind: 'missing' }
  | { kind: 'failed'; message: string }
  | { kind: 'damaged'; problems: Problem[]; raw: unknown };

export type SaveResult =
  | { kind: 'saved'; revision: number; title: string }
  | { kind: 'conflict' }
  | { kind: 'deleted' }
  | { kind: 'failed'; full: boolean; message: string };

const sessions = tableNamed<StoredSession>('sessions');

/** What the database refused: kept in the page, offered for export, tried again. */
interface Unstored {
  session: Session;
  revision: number;
}

export const unstoredStore = createStore<{ byId: ReadonlyMap<string, Unstored> }>(() => ({
  byId: new Map(),
}));

function keepInPage(session: Session, revision: number): void {
  unstoredStore.setState(({ byId }) => ({
    byId: new Map(byId).set(session.id, { session, revision }),
  }));
}

function forget(id: string): void {
  if (!unstoredStore.getState().byId.has(id)) return;
  unstoredStore.setState(({ byId }) => {
    const rest = new Map(byId);
    rest.delete(id);
    return { byId: rest };
  });
}

type Loose = { [key in string]?: unknown } | null | undefined;
const text = (value: unknown): string => (typeof value === 'string' ? value : '');

function summaryOf(id: string, stored: Partial<StoredSession>): SessionSummary {
  const session = stored.session as Loose;
  const [venue, brief] = [session?.venue as Loose, session?.brief as Loose];
  const { sources } = session ?? {};
  return {
    id,
    title: text(session?.title) || id,
    venue: text(venue?.name),
    date: text(brief?.date),
    updatedAt: text(session?.updatedAt),
    players: Array.isArray(sources) ? sources.length : 0,
    deletedAt: stored.deletedAt ?? null,
    archivedAt: stored.archivedAt ?? null,
    damage: session ? null : 'nothing is stored under it',
    unstored: false,
  };
}

/**
 * Writes a session and what a list shows of it: first the session, which counts. Between both it is
 * marked, so that a page that goes away there leaves no old name behind.
 */
async function put(id: string, stored: StoredSession): Promise<void> {
  markSummary(id);
  await sessions.set(id, stored);
  await summarise(id, stored).catch(() => undefined);
}

async function summarise(id: string, stored: StoredSession): Promise<SessionSummary> {
  const summary = summaryOf(id, stored);
  const { past = [], future = [] } = stored;
  const hashes = hashesNamed(stored.session, [...past, ...future]);
  await summaries.set(id, { ...summary, hashes });
  unmarkSummary(id);
  return summary;
}

async function takeAway(id: string): Promise<void> {
  await sessions.remove(id);
  await summaries.remove(id);
  unmarkSummary(id);
}

/** A browser answers with nothing where it cannot read back what it has stored. */
const UNREADABLE = 'the browser cannot read back what it has stored';

async function summaryAt(key: string): Promise<SessionSummary> {
  try {
    const stored = await sessions.get(key);
    if (!stored) return { ...summaryOf(key, {}), damage: UNREADABLE };
    return await summarise(key, stored).catch(() => summaryOf(key, stored));
  } catch (error) {
    const empty = summaryOf(key, {});
    return { ...empty, damage: reasonOf(error) };
  }
}

async function rekey(from: string, stored: StoredSession, to: string): Promise<void> {
  await handEntriesTo(from, to);
  await put(to, { ...stored, session: { ...stored.session, id: to } });
  await takeAway(from);
}

/** A session whose identity cannot stand in an address gets one that can. */
async function mendId(key: string): Promise<string> {
  if (usableId(key)) return key;
  const stored = await sessions.get(key);
  if (!stored) return key;
  const id = newId();
  await rekey(key, stored, id);
  return id;
}

export interface SessionList {
  sessions: SessionSummary[];
  /** why the database cannot be read; what lives in the page is listed all the same */
  failure: string | null;
}

/** All sessions, newest first; one that cannot be read is listed as such and hides no other. */
export async function listSessions(): Promise<SessionList> {
  const { byId } = unstoredStore.getState();
  const inPage = [...byId].map(([id, { session, revision }]) => ({
    ...summaryOf(id, { session, revision }),
    unstored: true,
  }));
  try {
    const [keys, marked] = [await sessions.keys(), markedSummaries()];
    const stored = await Promise.all(
      keys.map(async (key) => {
        const id = await mendId(key).catch(() => key);
        const known = marked.has(id) ? null : await summaries.get(id).catch(() => null);
        return known ?? summaryAt(id);
      }),
    );
    const listed = stored.filter(({ id }) => !byId.has(id));
    return { sessions: [...inPage, ...listed].sort(byNewest), failure: null };
  } catch (error) {
    return { sessions: inPage.sort(byNewest), failure: reasonOf(error) };
  }
}

const byNewest = (a: SessionSummary, b: SessionSummary): number =>
  b.updatedAt.localeCompare(a.updatedAt);

/** What is stored under an id as it is, for an export when it cannot be read. */
export async function rawSession(id: string): Promise<unknown> {
  return withEntries(id, (await sessions.get(id))?.session ?? null);
}

/** A session as it is stored, or why there is none. */
export async function loadSession(id: string): Promise<LoadResult> {
  const inPage = unstoredStore.getState().byId.get(id);
  if (inPage) return { kind: 'found', unstored: true, past: [], future: [], ...inPage };
  try {
    const stored = await sessions.get(id);
    if (!stored && (await sessions.keys()).includes(id)) {
      return { kind: 'failed', message: UNREADABLE };
    }
    if (!stored || stored.deletedAt) return { kind: 'missing' };
    const raw = await withEntries(id, stored.session);
    const read = readSession(raw);
    if (!read.ok) return { kind: 'damaged', problems: read.problems, raw };
    // The key is the identity, whatever the content says.
    const named = read.session.id === id ? read.session : { ...read.session, id };
    const session = await withReferences(named);
    const { revision, past = [], future = [] } = stored;
    // Steps of a session that had to be brought to another form do not fit it any more.
    const fits = stored.session.version === session.version && session === named;
    return {
      kind: 'found',
      session,
      past: fits ? past : [],
      future: fits ? future : [],
      revision,
      unstored: false,
    };
  } catch (error) {
    return { kind: 'failed', message: reasonOf(error) };
  }
}

export type Standing = { kind: 'missing' } | { kind: 'stored'; revision: number; deleted: boolean };

/** Where a session stands in the database, without its content. */
export async function standingOf(id: string): Promise<Standing> {
  const stored = await sessions.get(id);
  if (!stored) return { kind: 'missing' };
  return { kind: 'stored', revision: stored.revision, deleted: stored.deletedAt !== undefined };
}

/** Whether a session is still known to the database, without reading it. */
export const isKnown = async (id: string): Promise<boolean> => (await summaries.get(id)) !== null;

export async function sessionExists(id: string): Promise<boolean> {
  if (unstoredStore.getState().byId.has(id)) return true;
  const standing = await standingOf(id);
  return standing.kind === 'stored' && !standing.deleted;
}

/** Without locks two tabs may write at once: who finds another writer has lost. */
async function write(id: string, record: StoredSession): Promise<boolean> {
  await put(id, record);
  if ('locks' in navigator) return true;
  const now = await sessions.get(id);
  return now?.writer === TAB_ID && now.revision === record.revision;
}

async function attempt(
  session: Session,
  revision: number,
  work: () => Promise<SaveResult>,
): Promise<SaveResult> {
  try {
    const result = await exclusively(`session-${session.id}`, work);
    if (result.kind === 'saved') forget(session.id);
    return result;
  } catch (error) {
    keepInPage(session, revision);
    return { kind: 'failed', full: isFull(error), message: reasonOf(error) };
  }
}

/** What a session needs around it, before the session itself is written: contents before who names them. */
export async function keepAround(session: Session): Promise<void> {
  await keepBlobsOf(session);
  await keepEntries(session, newId);
}

/**
 * Saves unless somebody else saved in between, or deleted it.
 * @param baseRevision the revision the changes were made on
 * @param history its last steps are kept with it
 * @param baseTitle the title it had then, so that a new name from elsewhere is taken over
 */
export function saveSession(
  session: Session,
  baseRevision: number,
  baseTitle: string | null = null,
  history: Pick<Doc, 'past' | 'future'> = { past: [], future: [] },
): Promise<SaveResult> {
  return attempt(session, baseRevision, async () => {
    const stored = await sessions.get(session.id);
    const isNew = baseRevision === 0;
    if (stored ? stored.deletedAt !== undefined : !isNew) return { kind: 'deleted' };
    if ((stored?.revision ?? 0) !== baseRevision) return { kind: 'conflict' };
    const given = stored?.session.title ?? session.title;
    const title = session.title === baseTitle ? given : session.title;
    await keepAround(session);
    const next: StoredSession = {
      session: { ...withoutEntries(session), title },
      ...keptHistory(history),
      revision: baseRevision + 1,
      writer: TAB_ID,
      ...archiveOf(stored),
    };
    if (!(await write(session.id, next))) return { kind: 'conflict' };
    await foldEntries(session.id, newId).catch(() => undefined);
    tellTabs({ kind: 'saved', id: session.id, revision: next.revision });
    return { kind: 'saved', revision: next.revision, title };
  });
}

/** Stores over whatever is there: only when somebody has chosen to. */
export function replaceSession(
  session: Session,
  history: Pick<Doc, 'past' | 'future'> = { past: [], future: [] },
): Promise<SaveResult> {
  return attempt(session, 0, async () => {
    const stored = await sessions.get(session.id);
    if (!stored) {
      // New here, or the database was taken away under the page: then all of it has gone.
      forgetKept();
      forgetEntries(session.id);
    }
    await keepAround(session);
    const next: StoredSession = {
      session: withoutEntries(session),
      ...keptHistory(history),
      revision: (stored?.revision ?? 0) + 1,
      writer: TAB_ID,
      ...archiveOf(stored),
    };
    await put(session.id, next);
    await foldEntries(session.id, newId).catch(() => undefined);
    tellTabs({ kind: 'saved', id: session.id, revision: next.revision });
    return { kind: 'saved', revision: next.revision, title: session.title };
  });
}

/** Stores a session that is new here. One of the same identity under Deleted stays there. */
export async function addSession(session: Session): Promise<SaveResult> {
  try {
    await exclusively(`session-${session.id}`, async () => {
      const stored = await sessions.get(session.id);
      if (stored?.deletedAt) await rekey(session.id, stored, newId());
      else await removeEntries(session.id);
    });
  } catch (error) {
    keepInPage(session, 0);
    return { kind: 'failed', full: isFull(error), message: reasonOf(error) };
  }
  return replaceSession(session);
}

/** Changes what a session is filed under; its content and revision stay. */
function refile(id: string, change: (stored: StoredSession) => StoredSession): Promise<void> {
  return exclusively(`session-${id}`, async () => {
    const stored = await sessions.get(id);
    if (stored) await put(id, change(stored));
  });
}

/** Another title, which an open tab takes over without a conflict. */
export async function renameSession(id: string, title: string): Promise<void> {
  await refile(id, (stored) => ({ ...stored, session: { ...stored.session, title } }));
  tellTabs({ kind: 'renamed', id, title });
}

/** Moves a session to the deleted ones, or back. */
export async function setDeleted(id: string, deletedAt: string | null): Promise<void> {
  if (deletedAt !== null) forget(id);
  await refile(id, ({ deletedAt: _before, ...stored }) =>
    deletedAt === null ? stored : { ...stored, deletedAt },
  );
  tellTabs({ kind: deletedAt === null ? 'back' : 'deleted', id });
}

const archiveOf = (stored: StoredSession | null) =>
  stored?.archivedAt === undefined ? {} : { archivedAt: stored.archivedAt };

/** Lays a session into the archive, or takes it out; it stays whole and can be opened there. */
export function setArchived(id: string, archivedAt: string | null): Promise<void> {
  return refile(id, ({ archivedAt: _before, ...stored }) =>
    archivedAt === null ? stored : { ...stored, archivedAt },
  );
}

export async function removeForGood(id: string): Promise<void> {
  forget(id);
  await exclusively(`session-${id}`, async () => {
    await takeAway(id);
    await removeEntries(id);
  });
  tellTabs({ kind: 'deleted', id });
}

/**
 * Removes contents that nothing refers to any more: no session, deleted and archived ones included,
 * no entry, no step of undo, nothing that was not saved.
 */
export async function tidyBlobs(now = Date.now()): Promise<number> {
  async function* everything() {
    const entries = await entryKeys();
    for (const key of await sessions.keys()) {
      yield hashesIn([await sessions.get(key), await withEntries(key, {}, entries)]);
    }
    yield hashesIn(leftBehind());
  }
  // No part of what a page needs at first.
  const { sweepRecordings } = await import('./recordings');
  await sweepRecordings(everything);
  return sweepBlobs(
    {
      // What summaries name is used; what they do not name is looked for everywhere before it goes.
      async likely() {
        const keys = await summaries.keys();
        const known = await Promise.all(keys.map((key) => summaries.get(key)));
        return new Set(known.flatMap((summary) => summary?.hashes ?? []));
      },
      everything,
    },
    now,
  );
}

/** A title for a copy, with what it is a copy of. */
export const copyTitle = (title: string, note: string): string => nameWith(title, ` (${note})`);
