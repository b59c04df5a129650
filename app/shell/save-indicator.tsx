import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { autosave, saveStore, takeOver } from '../keeping/autosave';
import { writingStore } from '../keeping/writing';
import type { SaveState } from '../keeping/saver';
import { exportSession } from '../keeping/files';
import { sessionStore } from '../document/session-store';
import { notify } from '../view/notices';

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
    case 'deleted':
      return 'Not saved: deleted';
    case 'failed':
      return state.full ? 'Not saved: storage full' : 'Not saved';
  }
}

export function SaveIndicator() {
  const state = useStore(saveStore, (store) => store.state);
  const role = useStore(writingStore, (store) => store.role);
  const alarming = !['saved', 'unsaved', 'saving'].includes(state.kind);
  return (
    <span
      role="status"
      aria-label="Save state"
      className={`w-[92px] text-[12.5px] ${alarming ? 'text-error font-semibold' : 'text-muted'}`}
    >
      {role === 'following' && !alarming ? 'Following' : words(state)}
    </span>
  );
}

async function keepMineAsCopy(): Promise<void> {
  const title = await autosave.keepAsCopy();
  if (title === null) {
    notify('The copy could not be stored. Export the session instead.');
    return;
  }
  await autosave.takeStored();
  notify(`Yours is kept as “${title}”. This page now shows the other tab’s version.`);
}

interface ChoiceProps {
  leave: () => void;
}

function ConflictChoices({ leave }: ChoiceProps) {
  return (
    <>
      <strong>Another tab changed this session too.</strong>
      <span>Nothing has been overwritten. Choose:</span>
      <button
        className="btn btn-sm"
        onClick={() => void autosave.takeStored().then((there) => there || leave())}
      >
        Take the other tab’s
      </button>
      <button className="btn btn-sm" onClick={() => void keepMineAsCopy()}>
        Keep mine as a copy
      </button>
      <button className="btn btn-sm" onClick={() => void autosave.replaceStored()}>
        Replace it with mine
      </button>
    </>
  );
}

function DeletedChoices({ leave }: ChoiceProps) {
  return (
    <>
      <strong>Another tab deleted this session.</strong>
      <span>What you see is only in this page. Choose:</span>
      <button className="btn btn-sm" onClick={() => void autosave.replaceStored()}>
        Bring it back as it is here
      </button>
      <button
        className="btn btn-sm"
        onClick={() => {
          autosave.letGo();
          leave();
        }}
      >
        Leave it deleted
      </button>
    </>
  );
}

/** Says that another tab edits, and offers to edit here. */
export function FollowingBanner() {
  const role = useStore(writingStore, (store) => store.role);
  if (role !== 'following') return null;
  return (
    <div
      role="note"
      className="no-print border-hairline bg-base-200 flex flex-wrap items-center gap-3 border-b px-4 py-1.5"
    >
      <strong>Another tab edits this session.</strong>
      <span className="text-muted">What it does is followed here, live.</span>
      <button className="btn btn-sm" onClick={takeOver}>
        Edit here
      </button>
    </div>
  );
}

/** Asks when a save would overwrite another tab, and says what to do when storage fails. */
export function SaveBanner() {
  const state = useStore(saveStore, (store) => store.state);
  const session = useStore(sessionStore, (store) => store.session);
  const navigate = useNavigate();
  const leave = () => void navigate('/');
  if (!session || !['conflict', 'deleted', 'failed'].includes(state.kind)) return null;
  return (
    <div
      role="alert"
      className="no-print border-error text-base-content flex flex-wrap items-center gap-3 border-b-2 px-4 py-2"
    >
      {state.kind === 'conflict' && <ConflictChoices leave={leave} />}
      {state.kind === 'deleted' && <DeletedChoices leave={leave} />}
      {state.kind === 'failed' && (
        <>
          <strong>
            {state.full ? 'The browser’s storage is full.' : 'The browser could not store this.'}
          </strong>
          <span>
            {state.full ? '' : `Reason: ${state.message}. `}
            Your changes are only in this page; export them. It is tried again by itself.
          </span>
          <button className="btn btn-sm" onClick={() => void exportSession(session)}>
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
