import { applyPatches, enablePatches, produceWithPatches, type Draft, type Patch } from 'immer';
import {
  JOURNALS,
  type BlobReference,
  type JournalEntry,
  type JournalName,
  type Session,
} from '../../core/session';

/**
 * The document and its moves. Every change of a session is a move, and the same stream of moves
 * serves undo, saving, what a closed page left behind and the tabs that follow. All here is pure.
 */

enablePatches();

/** One undoable change of the plan, there and back. */
export interface Step {
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

export interface Doc {
  readonly session: Session;
  /** what undo takes back, the newest at the end */
  readonly past: readonly Step[];
  /** what redo does again, the next at the beginning */
  readonly future: readonly Step[];
}

/** An entry for a journal, with the contents that it names. It is no step: undo does not touch it. */
export type NewEntry = {
  [J in JournalName]: {
    journal: J;
    entry: JournalEntry<J>;
    blobs?: readonly BlobReference[];
  };
}[JournalName];

export type Move =
  | { kind: 'step'; step: Step }
  /** takes the place of the last step: one change that goes on */
  | { kind: 'join'; step: Step }
  | { kind: 'undo' }
  | { kind: 'redo' }
  /** as undo, but leaves nothing to redo */
  | { kind: 'take back' }
  /** not from the user's hand here */
  | { kind: 'amend'; patches: readonly Patch[] }
  | ({ kind: 'entry' } & NewEntry);

export const MOST_STEPS = 500;

export type Recipe = (session: Draft<Session>) => void;

/** A change as the step that it is; null where it changes nothing. */
export function stepOf(session: Session, recipe: Recipe): { session: Session; step: Step } | null {
  const [next, patches, inverse] = produceWithPatches(session, (draft) => void recipe(draft));
  return next === session ? null : { session: next, step: { patches, inverse } };
}

const patched = (session: Session, patches: readonly Patch[]): Session =>
  withNamed(session, applyPatches(session, patches as Patch[]));

/** What a step takes away of the contents is kept where an entry names it: entries are no steps. */
function withNamed(before: Session, after: Session): Session {
  if (after.blobs === before.blobs) return after;
  const there = new Set(after.blobs.map(({ id }) => id));
  const gone = before.blobs.filter(({ id }) => !there.has(id));
  if (gone.length === 0) return after;
  const said = JSON.stringify(JOURNALS.map((journal) => after[journal]));
  const named = gone.filter(({ id, hash }) => said.includes(`"${id}"`) || said.includes(hash));
  return named.length === 0 ? after : { ...after, blobs: [...after.blobs, ...named] };
}

/** One step that does what several lists of patches do one after the other. */
export function composed(before: Session, patches: readonly Patch[]): Step | null {
  return stepOf(before, (draft) => void applyPatches(draft, patches as Patch[]))?.step ?? null;
}

/** Patches of a long change without those that a later one overwrites. */
export function condensed(patches: readonly Patch[], more: readonly Patch[]): readonly Patch[] {
  const last = new Map<string, number>();
  const all = [...patches, ...more];
  // Only figures and texts put in the place of others may be passed over: nothing depends on them.
  if (all.some(({ op, value }) => op !== 'replace' || typeof value === 'object')) return all;
  for (const [index, { path }] of all.entries()) last.set(path.join('/'), index);
  return all.filter(({ path }, index) => last.get(path.join('/')) === index);
}

const withEntry = (session: Session, { journal, entry, blobs = [] }: NewEntry): Session => {
  const entries: readonly { id: string }[] = session[journal];
  if (entries.some(({ id }) => id === entry.id)) return session;
  const fresh = blobs.filter(({ id }) => !session.blobs.some((known) => known.id === id));
  return {
    ...session,
    [journal]: [...entries, entry],
    ...(fresh.length > 0 && { blobs: [...session.blobs, ...fresh] }),
  };
};

function undone({ session, past, future }: Doc): Doc {
  const step = past[past.length - 1];
  if (!step) return { session, past, future };
  return {
    session: patched(session, step.inverse),
    past: past.slice(0, -1),
    future: [step, ...future],
  };
}

/**
 * A document after a move.
 * @throws where the patches do not fit the session: the move was made on another one
 */
export function moved(doc: Doc, move: Move): Doc {
  const { session, past, future } = doc;
  switch (move.kind) {
    case 'step':
      return {
        session: patched(session, move.step.patches),
        past: [...past, move.step].slice(-MOST_STEPS),
        future: [],
      };
    case 'join':
      return moved({ ...undone(doc), future: [] }, { kind: 'step', step: move.step });
    case 'undo':
      return undone(doc);
    case 'take back':
      return { ...undone(doc), future: [] };
    case 'redo': {
      const [step, ...later] = future;
      if (!step) return doc;
      return { session: patched(session, step.patches), past: [...past, step], future: later };
    }
    case 'amend':
      return { ...doc, session: patched(session, move.patches) };
    case 'entry':
      return { ...doc, session: withEntry(session, move) };
  }
}

/** Whether a move follows from another so closely that only the second is worth keeping. */
export function withMove(moves: readonly Move[], move: Move): readonly Move[] {
  const last = moves[moves.length - 1];
  const continues = move.kind === 'join' && last && (last.kind === 'step' || last.kind === 'join');
  return continues ? [...moves.slice(0, -1), { ...last, step: move.step }] : [...moves, move];
}
