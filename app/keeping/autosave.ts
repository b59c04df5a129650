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
import { MoveStream, type Transport, type WriterRole } from './move-stream';
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
const writing: WriterRole = new Writing(locks, roleChanged);
const tabs: Transport = { tell: tellTabs, hear: hearTabs };
const openId = (): string => sessionStore.getState().session?.id ?? '';

/** The moves of the open session, between the tabs that show it. */
const stream = new MoveStream(tabs, {
  role: () => writing.role,
  document: committedDocument,
  revision: () => autosave.revisionOf(openId()),
  receive,
  shown: (doc, revision) => autosave.shown(doc, revision),
  saves: (move) => autosave.did(move),
  keepEntry: (session) =>
    void keepAround(session).catch(() => notify('The entry could not be stored.')),
  handOver: (id) => void handOver(id),
  refused() {
    writing.refused();
    notify('The other tab has something that it cannot store, so it goes on writing. Look there.');
  },
});

/** Counts openings, so that a late end of one does not end the next. */
let openings = 0;

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
  stream.obey(role);
}

function roleChanged(role: Role): void | Promise<void> {
  const id = openId();
  if (autosave.revisionOf(id) === null) return;
  if (role === 'following') return obey(role);
  // What the other tab has stored counts, and what it left behind. Nothing is edited here before
  // that is open, or it would be lost by the opening; then those that follow are shown it.
  return autosave.open(id).then(() => {
    obey(writing.role);
    if (writing.role === 'writing') stream.show();
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

function heard(message: TabMessage): void {
  if (message.id !== openId() || autosave.revisionOf(message.id) === null) return;
  switch (message.kind) {
    case 'saved':
    case 'renamed':
    case 'deleted':
    case 'back':
      return void autosave.heard(message);
    default:
      stream.heard(message);
  }
}

const TIDY_AFTER_MS = 20_000;

onMove((move) => stream.did(move));
sessionStore.subscribe(() => autosave.changed());
tabs.hear(heard);
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
