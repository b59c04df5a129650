import { versionText, type BlobReference, type Session } from '../../core/session';
import { hashing } from '../contents/hashing';
import { takeInNow } from './blobs';

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
