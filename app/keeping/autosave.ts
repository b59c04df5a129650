import { createStore } from 'zustand/vanilla';
import {
  amendSession,
  committedSession,
  openSession,
  sessionStore,
} from '../document/session-store';
import { notify } from '../view/notices';
import { clearJournal, readJournals, writeJournal } from './journal';
import { copyOf } from './library';
import { Saver, type SaveState } from './saver';
import {
  addSession,
  loadSession,
  replaceSession,
  saveSession,
  standingOf,
  tidyPictures,
} from './storage';
import { hearTabs, isAlive } from './tabs';
import { handOverTyped } from '../document/typing';

export const saveStore = createStore<{ state: SaveState }>(() => ({
  state: { kind: 'saved', at: '' },
}));

/** The saver of this page's open session. */
export const autosave = new Saver({
  current: committedSession,
  open: openSession,
  retitle: (title) => amendSession((session) => ({ ...session, title })),
  settle: handOverTyped,
  load: loadSession,
  save: saveSession,
  replace: replaceSession,
  standing: standingOf,
  keepAside: async (session, note) => {
    const copy = copyOf(session, note);
    return (await addSession(copy)).kind === 'saved' ? copy.title : null;
  },
  writeJournal,
  clearJournal,
  readJournals,
  isAlive,
  show: (state) => saveStore.setState({ state }),
  tell: notify,
  now: () => new Date().toISOString(),
});

const TIDY_AFTER_MS = 20_000;

sessionStore.subscribe(() => autosave.changed());
hearTabs((message) => void autosave.heard(message));
addEventListener('pagehide', () => autosave.leave());
addEventListener('pageshow', () => void autosave.look());
document.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') autosave.leave();
  else void autosave.look();
});
// Pictures that nothing names are removed when nobody waits for anything.
setTimeout(() => void tidyPictures().catch(() => undefined), TIDY_AFTER_MS);
