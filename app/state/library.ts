import { demoSessions } from '../../core/demo';
import {
  DEMO_ID,
  duplicateSession,
  newSession,
  readSessionText,
  type Problem,
  type Session,
} from '../../core/session';
import { loadSession, saveSession, sessionExists, type SaveResult } from './storage';

/** Making, copying and taking in whole sessions. */

const now = (): string => new Date().toISOString();

export const newId = (): string => crypto.randomUUID();

export function addSession(session: Session): Promise<SaveResult> {
  return saveSession(session, null);
}

export function copyOf(session: Session, note: string): Session {
  return duplicateSession(session, newId(), `${session.title} (${note})`, now());
}

/** Stores something made here and says under which id, or throws what the storage said. */
async function stored(session: Session): Promise<string> {
  const result = await addSession(session);
  if (result.kind === 'saved') return session.id;
  throw new Error(
    result.kind === 'failed' && result.full
      ? 'The browser’s storage is full. Export and delete sessions, then try again.'
      : `The browser could not store it${result.kind === 'failed' ? `: ${result.message}` : ''}.`,
  );
}

export function createSession(): Promise<string> {
  return stored(newSession(newId(), 'New session', now()));
}

/** Stores those demo sessions that are not there; gives the id of the first. */
export async function ensureDemo(): Promise<string> {
  for (const demo of demoSessions(now())) {
    if (!(await sessionExists(demo.id))) await stored(demo);
  }
  return DEMO_ID;
}

export async function duplicateStored(id: string): Promise<string | null> {
  const loaded = await loadSession(id);
  return loaded.kind === 'found' ? stored(copyOf(loaded.session, 'copy')) : null;
}

export type ImportResult =
  | { kind: 'imported'; id: string }
  | { kind: 'clash'; session: Session }
  | { kind: 'refused'; problems: Problem[] };

/** Takes in a session file; an id that is already here asks instead of overwriting. */
export async function importText(text: string): Promise<ImportResult> {
  const read = readSessionText(text);
  if (!read.ok) return { kind: 'refused', problems: read.problems };
  const session = read.session.id === '' ? { ...read.session, id: newId() } : read.session;
  if (await sessionExists(session.id)) return { kind: 'clash', session };
  return { kind: 'imported', id: await stored(session) };
}

export const importAsCopy = (session: Session): Promise<string> =>
  stored(copyOf(session, 'imported'));

export const importReplacing = (session: Session): Promise<string> => stored(session);
