import type { Draft } from 'immer';
import { temporal } from 'zundo';
import { immer } from 'zustand/middleware/immer';
import { createStore } from 'zustand/vanilla';
import type { Session } from '../../core/session';
import { uiStore } from './ui-store';

/**
 * The open session and its history. Nothing here knows React; the binding stands in
 * use-session.ts. A session is immutable: every edit makes new objects where it changes something.
 */
export interface SessionState {
  session: Session | null;
}

const UNDO_LIMIT = 500;

export const sessionStore = createStore<SessionState>()(
  temporal(
    immer((): SessionState => ({ session: null })),
    {
      limit: UNDO_LIMIT,
      equality: (past, current) => past.session === current.session,
    },
  ),
);

export type Recipe = (session: Draft<Session>) => void;

/** Changes the session as one step that can be undone. */
export function edit(recipe: Recipe): void {
  sessionStore.setState((state) => {
    if (state.session) recipe(state.session);
  });
}

/** Opens another session, or the same one as another tab left it: history starts anew. */
export function openSession(session: Session | null): void {
  const history = sessionStore.temporal.getState();
  history.pause();
  sessionStore.setState({ session });
  history.resume();
  history.clear();
}

export const undo = (): void => sessionStore.temporal.getState().undo();
export const redo = (): void => sessionStore.temporal.getState().redo();

/** A change in many small steps (a drag) that counts as one in the history. */
export interface Gesture {
  edit(recipe: Recipe): void;
  /** keeps the result as one undoable step */
  commit(): void;
  /** puts everything back as it was */
  cancel(): void;
}

export function beginGesture(): Gesture {
  const history = () => sessionStore.temporal.getState();
  const before = sessionStore.getState().session;
  history().pause();
  uiStore.setState({ dragging: true });
  return {
    edit,
    commit() {
      const after = sessionStore.getState().session;
      sessionStore.setState({ session: before });
      history().resume();
      sessionStore.setState({ session: after });
      uiStore.setState({ dragging: false });
    },
    cancel() {
      sessionStore.setState({ session: before });
      history().resume();
      uiStore.setState({ dragging: false });
    },
  };
}
