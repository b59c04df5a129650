import type { Draft } from 'immer';
import { temporal } from 'zundo';
import { immer } from 'zustand/middleware/immer';
import { createStore } from 'zustand/vanilla';
import { changeProblems, type Problem, type Session } from '../../core/session';
import { choiceStore } from '../view/choice';
import { notify } from '../view/notices';

/**
 * The open session and its history. Nothing here knows React; the binding stands in
 * use-session.ts. A session is immutable: every edit makes new objects where it changes something,
 * and what an edit makes is a session that can be stored and read again, or the edit is refused.
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

const history = () => sessionStore.temporal.getState();

/** A change in many small steps (a drag) that counts as one in the history. */
export interface Gesture {
  /** nothing once the gesture has ended */
  edit(recipe: Recipe): void;
  /** keeps the result as one undoable step */
  commit(): void;
  /** puts everything back as it was */
  cancel(): void;
  readonly ended: boolean;
}

interface OpenGesture extends Gesture {
  readonly before: Session | null;
}

/** The only gesture that is going on; the hand has just one end. */
const running: {
  gesture: OpenGesture | null;
  /** the step that edits under the same key still join, and when it was joined last, ms */
  step: { key: string; at: number } | null;
  /** the key under which edits are made just now; see asOneStep */
  joining: string | null;
} = { gesture: null, step: null, joining: null };

/** What counts as edited: a drag that is still held does not, it may be taken back. */
export function committedSession(): Session | null {
  return running.gesture ? running.gesture.before : sessionStore.getState().session;
}

const LIST_WORDS: Readonly<Record<string, string>> = {
  sources: 'players',
  arrays: 'arrays',
  sections: 'sections',
  candidates: 'candidates',
  takes: 'takes',
};

/** Says what was not done and why: what would not fit, or which figure is not allowed. */
function refuse(after: Session, [first]: readonly Problem[]): void {
  if (!first) return;
  const list = /entries; allowed: a list of up to (\d+) entries$/.exec(first.message);
  const words = LIST_WORDS[first.path];
  const count = after[first.path as 'sources']?.length;
  notify(
    list && words
      ? `Not done: a session holds up to ${list[1]} ${words}, and that would be ${count}.`
      : `Not done. ${first.path}: ${first.message}.`,
  );
}

/** Sets the session silently, without a step in the history. */
function setQuietly(session: Session | null): void {
  history().pause();
  sessionStore.setState({ session });
  history().resume();
}

function apply(recipe: Recipe): void {
  sessionStore.setState((state) => {
    if (state.session) recipe(state.session);
  });
}

/**
 * Changes the session as one step that can be undone. A change that would make a session that no
 * file may hold is taken back, and said.
 * @returns whether it was done
 */
export function edit(recipe: Recipe): boolean {
  if (running.joining !== null) return editOn(running.joining, recipe);
  endGesture();
  running.step = null;
  return guarded(() => apply(recipe));
}

function guarded(work: () => void): boolean {
  const before = sessionStore.getState().session;
  const steps = history().pastStates.length;
  work();
  const after = sessionStore.getState().session;
  if (!before || !after || after === before) return true;
  const problems = changeProblems(before, after);
  if (problems.length === 0) return true;
  setQuietly(before);
  const { pastStates } = history();
  if (pastStates.length > steps) {
    sessionStore.temporal.setState({ pastStates: pastStates.slice(0, steps) });
  }
  refuse(after, problems);
  return false;
}

/**
 * As edit, but what follows under the same key belongs to the same step: typing in one field, one
 * key pressed many times. Any other edit, undo, another key or a longer pause begins a new step.
 */
export function editOn(key: string, recipe: Recipe, longestPauseMs = Infinity): boolean {
  const { step } = running;
  const now = performance.now();
  const joins = step?.key === key && !running.gesture && now - step.at <= longestPauseMs;
  endGesture();
  const done = guarded(() => {
    if (joins) history().pause();
    apply(recipe);
    if (joins) history().resume();
  });
  running.step = done || joins ? { key, at: now } : null;
  return done;
}

/** Every edit made meanwhile belongs to the step of that key. */
export function asOneStep(key: string, work: () => void): void {
  running.joining = key;
  try {
    work();
  } finally {
    running.joining = null;
  }
}

/** Takes the step of a key back, if it is the last one, as if it had never been begun; false where it is not. */
export function takeBackStep(key: string): boolean {
  if (running.step?.key !== key) return false;
  undo();
  sessionStore.temporal.setState({ futureStates: [] });
  return true;
}

/** The next edit under any key is a step of its own. */
export function endStep(key: string): void {
  if (running.step?.key === key) running.step = null;
}

/** Opens another session, or the same one as another tab left it: history starts anew. */
export function openSession(session: Session | null): void {
  running.gesture?.cancel();
  running.step = null;
  setQuietly(session);
  history().clear();
}

/** A change that did not come from the user's hand here: no step in the history. */
export function amendSession(change: (session: Session) => Session): void {
  endGesture();
  const { session } = sessionStore.getState();
  if (session) setQuietly(change(session));
  sessionStore.temporal.setState(({ pastStates, futureStates }) => {
    const amended = (states: Partial<SessionState>[]) =>
      states.map((state) => (state.session ? { session: change(state.session) } : state));
    return { pastStates: amended(pastStates), futureStates: amended(futureStates) };
  });
}

/** In the middle of a drag, undo takes the drag back. */
export function undo(): void {
  running.step = null;
  if (running.gesture) running.gesture.cancel();
  else history().undo();
}

export function redo(): void {
  endGesture();
  running.step = null;
  history().redo();
}

/** Ends the gesture that is going on, if there is one, and keeps what it did. */
export function endGesture(): void {
  running.gesture?.commit();
}

/** Begins a drag. One that was never ended is ended first, so history can never stay paused. */
export function beginGesture(): Gesture {
  endGesture();
  running.step = null;
  const before = sessionStore.getState().session;
  history().pause();
  choiceStore.setState({ dragging: true });
  let ended = false;
  const close = (): void => {
    ended = true;
    running.gesture = null;
    choiceStore.setState({ dragging: false });
  };
  const gesture: OpenGesture = {
    before,
    get ended() {
      return ended;
    },
    edit(recipe) {
      if (!ended) apply(recipe);
    },
    commit() {
      if (ended) return;
      const after = sessionStore.getState().session;
      sessionStore.setState({ session: before });
      history().resume();
      close();
      guarded(() => sessionStore.setState({ session: after }));
    },
    cancel() {
      if (ended) return;
      sessionStore.setState({ session: before });
      history().resume();
      close();
    },
  };
  running.gesture = gesture;
  return gesture;
}
