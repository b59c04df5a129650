import { endGesture, gestureHeld, sessionStore } from '../document/session-store';
import { notify } from '../view/notices';
import { autosave } from './autosave';
import { copySessionFile } from './files';

/** The page is loaded anew only where nothing is lost by it. */

/** The database is waited for so long before what is not stored is left where it takes no time, ms. */
const STORED_WITHIN_MS = 3000;
/** A hand that holds something is looked at so often, ms. */
const LOOK_MS = 200;

/**
 * As somebody asked for it: once everything stands somewhere; else the session's file is offered.
 * @param reload in which way
 * @returns whether it is loaded anew
 */
export async function loadedAnew(reload: () => void = () => location.reload()): Promise<boolean> {
  endGesture();
  if (await autosave.secure(STORED_WITHIN_MS)) {
    reload();
    return true;
  }
  const { session } = sessionStore.getState();
  notify(
    'Not loaded anew: what was done last can be stored nowhere, and would be lost.',
    session
      ? { label: 'Copy the session file', run: () => void copySessionFile(session) }
      : undefined,
    'not loaded anew',
  );
  return false;
}

/** As nobody asked for it: not while a hand holds something. */
export async function loadedAnewUnasked(): Promise<void> {
  while (gestureHeld()) await new Promise((done) => setTimeout(done, LOOK_MS));
  await loadedAnew();
}

// The browser asks before it throws away what stands nowhere.
addEventListener('beforeunload', (event) => {
  if (!autosave.leave()) event.preventDefault();
});
