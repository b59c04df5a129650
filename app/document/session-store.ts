import { createStore } from 'zustand/vanilla';
import { changeProblems, JOURNALS, type Problem, type Session } from '../../core/session';
import { choiceStore } from '../view/choice';
import { foreignMove, type Sender } from './move-schema';
import { notify } from '../view/notices';
import {
  composed,
  condensed,
  MOST_STEPS,
  moved,
  stepOf,
  type Doc,
  type Move,
  type NewEntry,
  type Recipe,
  type Step,
} from './steps';

export type { Recipe } from './steps';

/**
 * The open session and its history. Nothing here knows React; the binding stands in
 * use-session.ts. A session is immutable: every edit makes new objects where it changes something,
 * and what an edit makes is a session that can be stored and read again, or the edit is refused.
 * Every change goes out as a move; see steps.ts.
 */
export interface SessionState {
  session: Session | null;
  past: readonly Step[];
  future: readonly Step[];
}

const CLOSED: SessionState = { session: null, past: [], future: [] };

export const sessionStore = createStore<SessionState>()(() => CLOSED);

type Listener = (move: Move) => void;
const listeners = new Set<Listener>();

/** Hears every move that is made here, drags when they end. @returns takes the registration back */
export function onMove(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

function tell(move: Move): void {
  for (const listener of [...listeners]) listener(move);
}

/** The sessions that a step leads from and to, so that undo gives the very objects back. */
const around = new WeakMap<Step, { before: Session; after: Session }>();

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
  readonly before: Session;
  /** an entry came meanwhile: it is there before the drag as well, whatever becomes of that */
  takeIn(journals: Partial<Session>): void;
}

/** The only gesture that is going on; the hand has just one end. */
const running: {
  gesture: OpenGesture | null;
  /** the step that edits under the same key still join, and when it was joined last, ms */
  step: { key: string; at: number } | null;
  /** the key under which edits are made just now; see asOneStep */
  joining: string | null;
  /** says why nothing may be edited here; null where it may */
  closed: (() => void) | null;
} = { gesture: null, step: null, joining: null, closed: null };

/** While another tab edits the session, every edit here is refused and said. */
export function closeForEditing(say: (() => void) | null): void {
  if (say) running.gesture?.cancel();
  running.closed = say;
}

function refusedHere(): boolean {
  running.closed?.();
  return running.closed !== null;
}

/** What counts as edited: a drag that is still held does not, it may be taken back. */
export function committedDocument(): Doc | null {
  const { session, past, future } = sessionStore.getState();
  if (!session) return null;
  return { session: running.gesture?.before ?? session, past, future };
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

/** A new state of the open session as a step, unless no file may hold it. */
function keep(before: Session, after: Session, step: Step, joins = false): boolean {
  if (JOURNALS.some((journal) => after[journal] !== before[journal])) {
    throw new TypeError('a journal grows by entries; see append');
  }
  const problems = changeProblems(before, after);
  if (problems.length > 0) {
    if (sessionStore.getState().session !== before) sessionStore.setState({ session: before });
    refuse(after, problems);
    return false;
  }
  const { past } = sessionStore.getState();
  const last = joins ? past[past.length - 1] : undefined;
  const from = last && beforeStep(last, before);
  const whole = last && from ? composed(from, [...last.patches, ...step.patches]) : step;
  const rest = last ? past.slice(0, -1) : past;
  if (!whole) {
    // It came back to where it began: no step is left of it.
    sessionStore.setState({ session: after, past: rest, future: [] });
    tell({ kind: 'take back' });
    return true;
  }
  around.set(whole, { before: from ?? before, after });
  sessionStore.setState({
    session: after,
    past: [...rest, whole].slice(-MOST_STEPS),
    future: [],
  });
  tell({ kind: last ? 'join' : 'step', step: whole });
  return true;
}

function beforeStep(step: Step, session: Session): Session {
  const known = around.get(step);
  if (known?.after === session) return known.before;
  return moved({ session, past: [step], future: [] }, { kind: 'undo' }).session;
}

function apply(recipe: Recipe, joins: boolean): boolean {
  const { session } = sessionStore.getState();
  const made = session && stepOf(session, recipe);
  return made ? keep(session, made.session, made.step, joins) : true;
}

/**
 * Changes the session as one step that can be undone. A change that would make a session that no
 * file may hold is taken back, and said.
 * @returns whether it was done
 */
export function edit(recipe: Recipe): boolean {
  if (running.joining !== null) return editOn(running.joining, recipe);
  if (refusedHere()) return false;
  endGesture();
  running.step = null;
  return apply(recipe, false);
}

/**
 * As edit, but what follows under the same key belongs to the same step: typing in one field, one
 * key pressed many times. Any other edit, undo, another key or a longer pause begins a new step.
 */
export function editOn(key: string, recipe: Recipe, longestPauseMs = Infinity): boolean {
  if (refusedHere()) return false;
  const { step } = running;
  const now = performance.now();
  const joins = step?.key === key && !running.gesture && now - step.at <= longestPauseMs;
  endGesture();
  const steps = sessionStore.getState().past;
  const done = apply(recipe, joins);
  const changed = sessionStore.getState().past !== steps;
  running.step = (done && changed) || joins ? { key, at: now } : null;
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
  running.step = null;
  travel({ kind: 'take back' });
  return true;
}

/** The next edit under any key is a step of its own. */
export function endStep(key: string): void {
  if (running.step?.key === key) running.step = null;
}

/** Opens another session, or the same one as another tab left it, with the history it comes with. */
export function openDocument(doc: Doc | null): void {
  running.gesture?.cancel();
  running.step = null;
  sessionStore.setState(doc ?? CLOSED);
}

/** A change that did not come from the user's hand here: no step in the history. */
export function amendSession(recipe: Recipe): void {
  endGesture();
  const { session } = sessionStore.getState();
  const made = session && stepOf(session, recipe);
  if (!made) return;
  sessionStore.setState({ session: made.session });
  tell({ kind: 'amend', patches: made.step.patches });
}

/** An entry, whoever made it: a drag that is held goes on. @throws where no file may hold it */
function takeIn(
  move: Move & { kind: 'entry' },
  refused: (after: Session, problems: Problem[]) => void,
): boolean {
  const { session, past, future } = sessionStore.getState();
  if (!session) return false;
  const after = moved({ session, past, future }, move);
  if (after.session === session) return false;
  const problems = changeProblems(session, after.session);
  if (problems.length > 0) {
    refused(after.session, problems);
    return false;
  }
  sessionStore.setState(after);
  const { blobs } = after.session;
  running.gesture?.takeIn({ [move.journal]: after.session[move.journal], blobs });
  return true;
}

/** Puts an entry into a journal; it is no step, and only another entry takes it back. */
export function append(entry: NewEntry): void {
  const move = { kind: 'entry' as const, ...entry };
  if (takeIn(move, refuse)) tell(move);
}

/**
 * A move that was made elsewhere.
 * @param raw as it came
 * @throws where it is none, its sender may not make it, it does not fit what is open, or no file may hold
 *   what would be
 */
export function receive(raw: unknown, sender: Sender = 'tab'): void {
  const refused = (_after: Session, [problem]: readonly Problem[]): never => {
    throw new RangeError(`${problem?.path ?? ''}: ${problem?.message ?? ''}`);
  };
  const move = foreignMove(raw, sender);
  if (move.kind === 'entry') {
    takeIn(move, refused);
    return;
  }
  const before = committedDocument();
  if (!before) return;
  const after = moved(before, move);
  const problems = changeProblems(before.session, after.session);
  if (problems.length > 0) refused(after.session, problems);
  running.gesture?.cancel();
  sessionStore.setState(after);
}

/** Along the history: the very session from before where it is still known. */
function travel(move: { kind: 'undo' | 'redo' | 'take back' }): boolean {
  const { session, past, future } = sessionStore.getState();
  const step = move.kind === 'redo' ? future[0] : past[past.length - 1];
  if (!session || !step) return false;
  const known = around.get(step);
  const [from, to] =
    move.kind === 'redo' ? (['before', 'after'] as const) : (['after', 'before'] as const);
  let next: Doc;
  try {
    next = moved({ session, past, future }, move);
  } catch {
    // A stored history that does not fit what is stored: better none than a wrong one.
    sessionStore.setState({ past: [], future: [] });
    notify('The history does not fit this session any more and begins anew.');
    return false;
  }
  sessionStore.setState(known?.[from] === session ? { ...next, session: known[to] } : next);
  tell(move);
  return true;
}

/** What undo or redo has changed. */
export interface Travelled {
  before: Session;
  after: Session;
}

function travelled(move: { kind: 'undo' | 'redo' }): Travelled | null {
  running.step = null;
  const before = sessionStore.getState().session;
  if (!travel(move)) return null;
  const after = sessionStore.getState().session;
  return before && after ? { before, after } : null;
}

/** In the middle of a drag, undo takes the drag back. */
export function undo(): Travelled | null {
  if (refusedHere()) return null;
  if (!running.gesture) return travelled({ kind: 'undo' });
  running.gesture.cancel();
  return null;
}

export function redo(): Travelled | null {
  if (refusedHere()) return null;
  endGesture();
  return travelled({ kind: 'redo' });
}

/** Whether a hand holds something at this moment. */
export const gestureHeld = (): boolean => running.gesture !== null;

/** Ends the gesture that is going on, if there is one, and keeps what it did. */
export function endGesture(): void {
  running.gesture?.commit();
}

const NO_GESTURE: Gesture = {
  edit: () => undefined,
  commit: () => undefined,
  cancel: () => undefined,
  ended: true,
};

/** Begins a drag. One that was never ended is ended first, so history can never stay paused. */
export function beginGesture(): Gesture {
  endGesture();
  running.step = null;
  const begun = sessionStore.getState().session;
  if (!begun || refusedHere()) return NO_GESTURE;
  let before: Session = begun;
  choiceStore.setState({ dragging: true });
  let ended = false;
  let patches: Step['patches'] = [];
  const close = (): void => {
    ended = true;
    running.gesture = null;
    choiceStore.setState({ dragging: false });
  };
  const gesture: OpenGesture = {
    get before() {
      return before;
    },
    takeIn(journals) {
      before = { ...before, ...journals };
    },
    get ended() {
      return ended;
    },
    edit(recipe) {
      const { session } = sessionStore.getState();
      const made = ended || !session ? null : stepOf(session, recipe);
      if (!made) return;
      patches = condensed(patches, made.step.patches);
      sessionStore.setState({ session: made.session });
    },
    commit() {
      if (ended) return;
      close();
      const after = sessionStore.getState().session;
      const step = composed(before, patches);
      if (after && step) keep(before, after, step);
      else sessionStore.setState({ session: before });
    },
    cancel() {
      if (ended) return;
      close();
      sessionStore.setState({ session: before });
    },
  };
  running.gesture = gesture;
  return gesture;
}
