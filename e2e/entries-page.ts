// Writes entries with contents as a page does, one after the other, until the browser is killed: built
// into one script and run in a browser.
import { missingOf, takeInBlob } from '../app/keeping/blobs';
import { addSession, loadSession, saveSession } from '../app/keeping/storage';
import { newSession, type Session } from '../core/session';

const NOW = '2026-12-01T12:00:00.000Z';

async function loaded(id: string): Promise<{ session: Session; revision: number }> {
  const found = await loadSession(id);
  if (found.kind === 'found') return found;
  if (found.kind !== 'missing') throw new Error(`the session is ${found.kind}`);
  await addSession(newSession(id, 'Entries', NOW));
  return loaded(id);
}

/** What is there of the session now. */
async function found(id: string): Promise<{ numbers: number[]; missing: number }> {
  const { session } = await loaded(id);
  const missing = await missingOf(session);
  const numbers = session.log.map((entry) => Number((entry as { text: string }).text));
  return { numbers, missing: missing.length };
}

/** Writes on and on; every entry that stands is told. */
async function write(id: string, said: (number: number) => void): Promise<void> {
  let { session, revision } = await loaded(id);
  for (let number = session.log.length; ; number++) {
    const bytes = new Uint8Array(60_000).map((_, i) => (i * 31 + number * 7) & 255);
    // No two alike: equal contents would be one.
    new DataView(bytes.buffer).setUint32(0, number);
    const picture = await takeInBlob(new Blob([bytes], { type: 'image/png' }));
    const entry = { id: `l-${number}`, at: NOW, by: '', kind: 'note', text: `${number}` };
    session = {
      ...session,
      blobs: [...session.blobs, picture],
      log: [...session.log, { ...entry, strikes: '', amends: '', blob: picture.hash }],
    };
    const saved = await saveSession(session, revision);
    if (saved.kind !== 'saved') throw new Error(saved.kind);
    revision = saved.revision;
    said(number);
  }
}

Object.assign(globalThis, { entriesPage: { found, write } });
