import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Plan, Session } from '../../core/session';
import { planOf } from './plan';
import { sessionStore } from './session-store';

/** An older state of the session for parts that may lag behind the hand; see state/behind.tsx. */
export const SessionSnapshot = createContext<Session | null>(null);

/** The open session. Stations are only shown while one is open. */
export function useSession(): Session {
  const snapshot = useContext(SessionSnapshot);
  const current = useStore(sessionStore, (state) => (snapshot ? null : state.session));
  const session = snapshot ?? current;
  if (!session) throw new TypeError('no session is open');
  return session;
}

/** Its plan alone: what is computed with, and does not change with an entry of a journal. */
export const usePlan = (): Plan => planOf(useSession());

export function useHistoryDepth(): { undo: number; redo: number } {
  const past = useStore(sessionStore, (state) => state.past.length);
  const future = useStore(sessionStore, (state) => state.future.length);
  return { undo: past, redo: future };
}
