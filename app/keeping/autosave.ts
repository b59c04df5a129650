import { createStore } from 'zustand/vanilla';
import { sweepScratch } from '../contents/scratch';
import {
  amendSession,
  closeForEditing,
  committedDocument,
  endGesture,
  onMove,
  openDocument,
  receive,
  sessionStore,
} from '../document/session-store';
import type { Move } from '../document/steps';
import { handOverTyped } from '../document/typing';
import { dismissKeyed, notify } from '../view/notices';
import { clearLeftover, readLeftovers, writeLeftover } from './leftovers';
import { copyOf } from './library';
import { Saver, type SaveState } from './saver';
import {
  addSession,
  isKnown,
  keepAround,
  loadSession,
  replaceSession,
  saveSession,
  standingOf,
  tidyBlobs,
  type LoadResult,
} from './storage';
import { hearTabs, isAlive, tellTabs, type TabMessage } from './tabs';
import { Writing, type Locks, type Role } from './writing';

export const saveStore = createStore<{ state: SaveState }>(() => ({
  state: { kind: 'saved', at: '' },
}));

/** The saver of this page's open session. */
export const autosave = new Saver({
  current: committedDocument,
  open: openDocument,
  retitle: (title) => amendSession((draft) => void (draft.title = title)),
  settle: handOverTyped,
  load: loadSession,
  save: (doc, revision, title) => saveSession(doc.session, revision, title, doc),
  replace: (doc) => replaceSession(doc.session, doc),
  standing: standingOf,
  keepAside: async (session, note) => {
    const copy = copyOf(session, note);
    return (await addSession(copy)).kind === 'saved' ? copy.title : null;
  },
  writeLeftover,
  clearLeftover,
  readLeftovers,
  isAlive,
  follows: () => writing.role === 'following',
  show: (state) => saveStore.setState({ state }),
  tell: notify,
  now: () => new Date().toISOString(),
});

const locks: Locks | null = 'locks' in navigator ? navigator.locks : null;
const writing = new Writing(locks, roleChanged);

/** How many moves this tab has told, or has heard of the writing one; null: not in step with it. */
let counted: number | null = 0;
/** Counts openings, so that a late end of one does not end the next. */
let openings = 0;

const openId = (): string => sessionStore.getState().session?.id ?? '';

function sayFollowing(): void {
  notify(
    'Not done: another tab edits this session, and this one follows it.',
    { label: 'Edit here', run: takeOver },
    'following',
  );
}

function obey(role: Role): void {
  closeForEditing(role === 'following' ? sayFollowing : null);
  if (role !== 'following') dismissKeyed('following');
  counted = role === 'following' ? null : 0;
}

function roleChanged(role: Role): void {
  const id = openId();
  if (autosave.revisionOf(id) === null) return;
  if (role === 'following') {
    obey(role);
    tellTabs({ kind: 'asks', id });
    return;
  }
  // What the other tab has stored counts, and what it left behind. Nothing is edited here before
  // that is open, or it would be lost by the opening; then those that follow are shown it.
  void autosave.open(id).then(() => {
    obey(writing.role);
    if (writing.role === 'writing') answer({ kind: 'asks', id });
  });
}

/** Opens a session in this page; another tab that has it open goes on writing. */
export async function openStored(id: string): Promise<LoadResult> {
  openings += 1;
  await autosave.close();
  const role = await writing.begin(id);
  let loaded = await autosave.open(id);
  // The other tab was closed meanwhile: it may have stored more since.
  if (role !== writing.role) loaded = await autosave.open(id);
  obey(writing.role);
  if (writing.role === 'following') tellTabs({ kind: 'asks', id });
  return loaded;
}

/** The session is not shown any more: stored, and free for another tab to write. */
export async function closeStored(): Promise<void> {
  const mine = openings;
  await autosave.close();
  if (openings === mine) writing.end();
}

/** Asks the tab that writes to let this one write. */
export function takeOver(): void {
  const id = openId();
  void writing.takeOver(() => tellTabs({ kind: 'wants to write', id }));
}

/** Another tab wants to write: everything here is stored first. */
async function handOver(id: string): Promise<void> {
  endGesture();
  await autosave.flush();
  if (saveStore.getState().state.kind === 'saved') writing.handOver();
  else tellTabs({ kind: 'keeps writing', id });
}

/** Something was done here: it is saved, and told to the tabs that follow. */
function did(move: Move): void {
  const { session } = sessionStore.getState();
  if (!session) return;
  const { id } = session;
  if (writing.role === 'writing') {
    autosave.did(move);
    counted = (counted ?? 0) + 1;
    tellTabs({ kind: 'did', id, n: counted, move });
  } else if (move.kind === 'entry') {
    // Journals only grow: any tab may add to them.
    keepAround(session).catch(() => notify('The entry could not be stored.'));
    tellTabs({ kind: 'entered', id, move });
  }
}

/** As a tab that follows: does what the writing one did, or asks where it is out of step. */
function follow(message: TabMessage): void {
  if (message.kind === 'shows') {
    autosave.shown(message.doc, message.revision);
    counted = message.n;
  } else if (message.kind === 'did') {
    try {
      if (counted === null || message.n !== counted + 1) throw new RangeError('out of step');
      receive(message.move);
      counted = message.n;
    } catch {
      counted = null;
      tellTabs({ kind: 'asks', id: message.id });
    }
  } else if (message.kind === 'keeps writing') {
    writing.refused();
    notify('The other tab has something that it cannot store, so it goes on writing. Look there.');
  }
}

/** As the tab that writes: says what is there, and hands over when it is asked. */
function answer(message: TabMessage): void {
  const { id } = message;
  if (message.kind === 'wants to write') void handOver(id);
  if (message.kind !== 'asks') return;
  const doc = committedDocument();
  const revision = autosave.revisionOf(id);
  if (doc && revision !== null) tellTabs({ kind: 'shows', id, n: counted ?? 0, revision, doc });
}

function heard(message: TabMessage): void {
  if (message.id !== openId() || autosave.revisionOf(message.id) === null) return;
  switch (message.kind) {
    case 'saved':
    case 'renamed':
    case 'deleted':
    case 'back':
      return void autosave.heard(message);
    case 'entered':
      try {
        receive(message.move);
      } catch {
        // What no file may hold is not taken from another tab either.
        return;
      }
      if (writing.role === 'writing') autosave.did(message.move);
      return;
    default:
      if (writing.role === 'following') follow(message);
      else answer(message);
  }
}

const TIDY_AFTER_MS = 20_000;

onMove(did);
sessionStore.subscribe(() => autosave.changed());
hearTabs(heard);
addEventListener('pagehide', () => autosave.leave());
addEventListener('pageshow', () => void autosave.look());
document.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') autosave.leave();
  else void autosave.look();
});
/** A database that was deleted under the page is noticed by looking, ms. */
const LOOK_MS = 8000;
setInterval(() => {
  const id = openId();
  const { kind } = saveStore.getState().state;
  if (document.visibilityState === 'hidden' || id === '' || kind !== 'saved') return;
  if (autosave.revisionOf(id) === null) return;
  void isKnown(id).then(
    (known) => (known ? undefined : autosave.look()),
    () => undefined,
  );
}, LOOK_MS);
// What nothing refers to is removed when nobody waits for anything.
setTimeout(() => {
  void tidyBlobs().catch(() => undefined);
  void sweepScratch().catch(() => undefined);
}, TIDY_AFTER_MS);
