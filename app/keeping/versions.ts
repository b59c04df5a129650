import { versionText, type BlobReference, type Session } from '../../core/session';
import { takeInBlob } from './blobs';

/** The plan as it stands, kept as a content: what an entry that belongs to it names. */
export const keptVersion = (session: Session): Promise<BlobReference> =>
  takeInBlob(
    new Blob([versionText(session)], { type: 'application/json' }),
    'Version of the plan.json',
  );
