import type { Session } from '../../core/session';
import { editSaying } from './edits';
import { sessionStore } from './session-store';

/** Parts of a session that are no plan. */
const BESIDE = new Set([
  'log',
  'takes',
  'marks',
  'acknowledgements',
  'createdAt',
  'updatedAt',
  'id',
]);

/**
 * The plan becomes what another session is, as one step that can be taken back; parts that are the same
 * object stay as they are.
 * @param said what was done, in words
 */
export function takeOver(said: string, next: Session): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  editSaying(said, (draft) => {
    for (const key of Object.keys(next)) {
      if (BESIDE.has(key) || next[key] === session[key]) continue;
      (draft as Record<string, unknown>)[key] = next[key];
    }
    // Contents that it names and that nothing named meanwhile; others name what they named.
    for (const blob of next.blobs) {
      if (!draft.blobs.some(({ id }) => id === blob.id)) draft.blobs.push(blob);
    }
  });
}
