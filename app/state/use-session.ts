import { useStore } from 'zustand';
import type { Session } from '../../core/session';
import { sessionStore } from './session-store';

/** The open session. Stations are only shown while one is open. */
export function useSession(): Session {
  const session = useStore(sessionStore, (state) => state.session);
  if (!session) throw new TypeError('no session is open');
  return session;
}

export function useUnits() {
  return useSession().settings.units;
}

export function useHistoryDepth(): { undo: number; redo: number } {
  const past = useStore(sessionStore.temporal, (state) => state.pastStates.length);
  const future = useStore(sessionStore.temporal, (state) => state.futureStates.length);
  return { undo: past, redo: future };
}
