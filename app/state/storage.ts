import localforage from 'localforage';
import { readSession, type Problem, type Session } from '../../core/session';

/** A session as the browser keeps it; the revision counts saves, so that tabs notice each other. */
interface StoredSession {
  session: Session;
  revision: number;
  /** set while it lies among the deleted ones */
  deletedAt?: string;
  /** set while it lies in the archive */
  archivedAt?: string;
}

export interface SessionSummary {
  id: string;
  title: string;
  venue: string;
  date: string;
  updatedAt: string;
  players: number;
  deletedAt: string | null;
  archivedAt: string | null;
}

export type LoadResult =
  | { kind: 'found'; session: Session; revision: number }
  | { kind: 'missing' }
  | { kind: 'damaged'; problems: Problem[]; raw: unknown };

export type SaveResult =
  | { kind: 'saved'; revision: number }
  | { kind: 'conflict' }
  | { kind: 'failed'; full: boolean; message: string };

const sessions = localforage.createInstance({ name: 'rotunda', storeName: 'sessions' });

/** One writer at a time per session, over all tabs. */
function exclusively<T>(id: string, work: () => Promise<T>): Promise<T> {
  if (!('locks' in navigator)) return work();
  return navigator.locks.request(`rotunda-session-${id}`, work);
}

export async function listSessions(): Promise<SessionSummary[]> {
  const summaries: SessionSummary[] = [];
  await sessions.iterate<Partial<StoredSession>, void>((stored, id) => {
    const session = stored.session;
    summaries.push({
      id,
      title: session?.title ?? id,
      venue: session?.venue?.name ?? '',
      date: session?.brief?.date ?? '',
      updatedAt: session?.updatedAt ?? '',
      players: session?.sources?.length ?? 0,
      deletedAt: stored.deletedAt ?? null,
      archivedAt: stored.archivedAt ?? null,
    });
  });
  return summaries.sort((a, b) => b.updatedAt.localeCompare(a.updatedAt));
}

export async function loadSession(id: string): Promise<LoadResult> {
  const stored = await sessions.getItem<StoredSession>(id);
  if (!stored || stored.deletedAt) return { kind: 'missing' };
  const read = readSession(stored.session);
  if (!read.ok) return { kind: 'damaged', problems: read.problems, raw: stored.session };
  return { kind: 'found', session: read.session, revision: stored.revision };
}

export async function sessionExists(id: string): Promise<boolean> {
  const stored = await sessions.getItem<StoredSession>(id);
  return stored !== null && !stored.deletedAt;
}

function failure(error: unknown): SaveResult {
  const name = error instanceof Error ? error.name : '';
  const message = error instanceof Error ? error.message : String(error);
  return { kind: 'failed', full: /quota/i.test(name + message), message };
}

/**
 * Saves unless somebody else saved in between.
 * @param baseRevision the revision the changes were made on; null replaces whatever is there
 */
export async function saveSession(
  session: Session,
  baseRevision: number | null,
): Promise<SaveResult> {
  try {
    return await exclusively(session.id, async () => {
      const stored = await sessions.getItem<StoredSession>(session.id);
      const current = stored?.revision ?? 0;
      if (baseRevision !== null && current !== baseRevision) return { kind: 'conflict' };
      const next: StoredSession = { session, revision: current + 1, ...archiveOf(stored) };
      await sessions.setItem(session.id, next);
      return { kind: 'saved', revision: next.revision };
    });
  } catch (error) {
    return failure(error);
  }
}

/** Moves a session to the deleted ones, or back. */
export async function setDeleted(id: string, deletedAt: string | null): Promise<void> {
  await exclusively(id, async () => {
    const stored = await sessions.getItem<StoredSession>(id);
    if (!stored) return;
    const kept: StoredSession = {
      session: stored.session,
      revision: stored.revision + 1,
      ...archiveOf(stored),
    };
    await sessions.setItem(id, deletedAt === null ? kept : { ...kept, deletedAt });
  });
}

const archiveOf = (stored: StoredSession | null) =>
  stored?.archivedAt === undefined ? {} : { archivedAt: stored.archivedAt };

/** Lays a session into the archive, or takes it out; it stays whole and can be opened there. */
export async function setArchived(id: string, archivedAt: string | null): Promise<void> {
  await exclusively(id, async () => {
    const stored = await sessions.getItem<StoredSession>(id);
    if (!stored) return;
    const { archivedAt: _before, ...rest } = stored;
    const next = { ...rest, revision: stored.revision + 1 };
    await sessions.setItem(id, archivedAt === null ? next : { ...next, archivedAt });
  });
}

export async function removeForGood(id: string): Promise<void> {
  await exclusively(id, () => sessions.removeItem(id));
}
