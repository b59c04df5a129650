import { beginSession, type Beginning } from '../../core/planning';
import { duplicateSession, readSessionText, type Problem, type Session } from '../../core/session';
import { newId } from '../document/new-id';
import { withReferences } from './blobs';
import { addSession, copyTitle, loadSession, sessionExists } from './storage';

/** Making, copying and taking in whole sessions. */

const now = (): string => new Date().toISOString();

export function copyOf(session: Session, note: string): Session {
  return duplicateSession(session, newId(), copyTitle(session.title, note), now());
}

/**
 * Takes in something made here and says under which id. What the database refuses lives on in the
 * page, which says so.
 */
async function added(session: Session): Promise<string> {
  await addSession(session);
  return session.id;
}

/** A new session, begun with what was chosen, or empty with one pair. */
export function createSession(
  begin: Beginning = { title: 'New session', template: null, hall: null },
): Promise<string> {
  return added(beginSession(begin, newId, now()));
}

/** A copy of a session that is stored, under a name of its own. */
export async function copyNamed(id: string, title: string): Promise<string | null> {
  const loaded = await loadSession(id);
  if (loaded.kind === 'failed') throw new Error(`It cannot be read: ${loaded.message}.`);
  if (loaded.kind !== 'found') return null;
  return added({ ...copyOf(loaded.session, 'copy'), title });
}

/** Whether a session is here; where the database cannot tell, it is not. */
const isHere = (id: string): Promise<boolean> => sessionExists(id).catch(() => false);

/** Takes in those demo sessions that are not there; gives the id of the first. */
export async function ensureDemo(): Promise<string> {
  // Loaded when somebody asks for it: most sessions are the user's own.
  const { DEMO_ID, demoSessions } = await import('../../core/demo');
  for (const demo of demoSessions(now())) {
    if (!(await isHere(demo.id))) await added(demo);
  }
  return DEMO_ID;
}

export async function duplicateStored(id: string): Promise<string | null> {
  const loaded = await loadSession(id);
  if (loaded.kind === 'found') return added(copyOf(loaded.session, 'copy'));
  if (loaded.kind === 'failed') throw new Error(`It cannot be read: ${loaded.message}.`);
  return null;
}

export type ImportResult =
  | {
      kind: 'imported';
      id: string;
      modelAssumed?: true;
      /** what of it is not here, in words */
      said?: string;
    }
  | { kind: 'clash'; session: Session; said?: string }
  /** an archive of everything came in: what of it, in words */
  | { kind: 'everything'; said: string }
  | { kind: 'refused'; problems: Problem[] };

const OWN_MISSING =
  'This file was led by a listener’s own localisation model, which it does not carry: its images now come from the consensus of three.';

/** Takes in a session file; an id that is already here asks instead of overwriting. */
export async function importText(text: string): Promise<ImportResult> {
  const read = readSessionText(text);
  if (!read.ok) return { kind: 'refused', problems: read.problems };
  const named = read.session.id === '' ? { ...read.session, id: newId() } : read.session;
  const session = await withReferences(named);
  const { modelAssumed, ownMissing } = read;
  const said = ownMissing && { said: OWN_MISSING };
  if (await isHere(session.id)) return { kind: 'clash', session, ...said };
  return {
    kind: 'imported',
    id: await added(session),
    ...(modelAssumed && { modelAssumed }),
    ...said,
  };
}

export const importAsCopy = (session: Session): Promise<string> =>
  added(copyOf(session, 'imported'));

export const importReplacing = (session: Session): Promise<string> => added(session);
