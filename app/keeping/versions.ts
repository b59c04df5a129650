import {
  readSession,
  versionText,
  type BlobReference,
  type Plan,
  type Session,
} from '../../core/session';
import { hashing } from '../contents/hashing';
import { planOf } from '../document/plan';
import { blobContent, takeInNow } from './blobs';

/**
 * The plan as it stands, kept as a content: what an entry that belongs to it names. At once, as the entry is
 * made in the same turn: no page can be left between.
 */
export function keptVersion(session: Session): BlobReference {
  const bytes = new TextEncoder().encode(versionText(session));
  const hash = hashing();
  hash.add(bytes);
  const content = new Blob([bytes], { type: 'application/json' });
  return takeInNow(hash.hex(), content, 'Version of the plan.json');
}

const read = new Map<string, Promise<Plan | null>>();

async function readVersion(id: string, hash: string): Promise<Plan | null> {
  const kept = await blobContent(hash);
  if (!kept) return null;
  const found = readSession(JSON.parse(await kept.content.text()));
  return found.ok ? planOf({ ...found.session, id }) : null;
}

/**
 * A version of the plan as it was kept; the same object whenever it is asked for.
 * @returns null where it is not here any more, or cannot be read
 */
export function planOfVersion({ id }: Pick<Session, 'id'>, hash: string): Promise<Plan | null> {
  if (hash === '') return Promise.resolve(null);
  const key = `${id} ${hash}`;
  const known = read.get(key);
  if (known) return known;
  const asked = readVersion(id, hash).catch(() => null);
  read.set(key, asked);
  // What was not there may come: an archive that is opened later brings it.
  void asked.then((plan) => plan === null && read.delete(key));
  return asked;
}
