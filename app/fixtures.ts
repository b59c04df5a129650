import { openDocument } from './document/session-store';
import type { Session } from '../core/session';

/** Opens a session as if it were just made. */
export const openSession = (session: Session | null): void =>
  openDocument(session && { session, past: [], future: [] });
