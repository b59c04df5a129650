import { versionText, type BlobReference, type Session } from '../../core/session';
import { takeInText } from './blobs';

/** The plan as it stands, kept as a content: what an entry that belongs to it names. */
export const keptVersion = (session: Session): BlobReference =>
  takeInText(versionText(session), 'application/json', 'Version of the plan.json');
