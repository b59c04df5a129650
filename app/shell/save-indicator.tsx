import { useStore } from 'zustand';
import { autosave, saveStore, type SaveState } from '../state/autosave';
import { exportSession } from '../state/files';
import { addSession, copyOf } from '../state/library';
import { sessionStore } from '../state/session-store';
import { notify } from '../state/ui-store';

function clock(iso: string): string {
  const date = new Date(iso);
  if (Number.isNaN(date.getTime())) return '';
  const two = (part: number) => `${part}`.padStart(2, '0');
  return ` ${two(date.getHours())}:${two(date.getMinutes())}`;
}

function words(state: SaveState): string {
  switch (state.kind) {
    case 'saved':
      return `Saved${clock(state.at)}`;
    case 'unsaved':
    case 'saving':
      return 'Saving …';
    case 'conflict':
      return 'Not saved: two tabs';
    case 'failed':
      return state.full ? 'Not saved: storage full' : 'Not saved';
  }
}

export function SaveIndicator() {
  const state = useStore(saveStore, (store) => store.state);
  const alarming = state.kind === 'conflict' || state.kind === 'failed';
  return (
    <span
      role="status"
      aria-label="Save state"
      className={`w-[92px] text-[12.5px] ${alarming ? 'text-error font-semibold' : 'text-muted'}`}
    >
      {words(state)}
    </span>
  );
}

async function keepMineAsCopy(): Promise<void> {
  const { session } = sessionStore.getState();
  if (!session) return;
  const copy = copyOf(session, 'from this tab');
  if ((await addSession(copy)).kind !== 'saved') {
    notify('The copy could not be stored. Export the session instead.');
    return;
  }
  await autosave.takeStored();
  notify(`Yours is kept as “${copy.title}”. This page now shows the other tab’s version.`);
}

/** Asks when a save would overwrite another tab, and says what to do when storage fails. */
export function SaveBanner() {
  const state = useStore(saveStore, (store) => store.state);
  const session = useStore(sessionStore, (store) => store.session);
  if (!session || (state.kind !== 'conflict' && state.kind !== 'failed')) return null;
  return (
    <div
      role="alert"
      className="no-print border-error text-base-content flex flex-wrap items-center gap-3 border-b-2 px-4 py-2"
    >
      {state.kind === 'conflict' ? (
        <>
          <strong>Another tab changed this session too.</strong>
          <span>Nothing has been overwritten. Choose:</span>
          <button className="btn btn-sm" onClick={() => void autosave.takeStored()}>
            Take the other tab’s
          </button>
          <button className="btn btn-sm" onClick={() => void keepMineAsCopy()}>
            Keep mine as a copy
          </button>
          <button className="btn btn-sm" onClick={() => void autosave.replaceStored()}>
            Replace it with mine
          </button>
        </>
      ) : (
        <>
          <strong>
            {state.full ? 'The browser’s storage is full.' : 'The browser could not store this.'}
          </strong>
          <span>Your changes are only in this page. Export them now. {state.message}</span>
          <button className="btn btn-sm" onClick={() => exportSession(session)}>
            Export the session
          </button>
          <button className="btn btn-sm" onClick={() => void autosave.flush()}>
            Try again
          </button>
        </>
      )}
    </div>
  );
}
