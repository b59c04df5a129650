import { FilePlus2, FolderOpen, HardDriveDownload } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { autosave } from '../keeping/autosave';
import { ensureDemo } from '../keeping/library';
import { listSessions, type SessionList, type SessionSummary } from '../keeping/storage';
import { focusRow } from '../shell/focus';
import { Notices } from '../shell/notices';
import { stationPath } from '../stations';
import { chooseFile } from '../keeping/files';
import { OutsideReminder, TakingLine } from '../parts/copy-everything';
import { notifyFailure } from '../view/notices';
import { ImportClash, ImportRefused } from './import-parts';
import { NewSessionDialog } from './new-session';
import { useFiles } from './use-files';
import { dayOf, DeletedList, SessionTable } from './session-table';

function useSessionList() {
  const [list, setList] = useState<SessionList | null>(null);
  const refresh = useCallback(() => {
    void listSessions().then(setList);
  }, []);
  useEffect(() => {
    void autosave.flush().then(refresh);
    addEventListener('focus', refresh);
    return () => removeEventListener('focus', refresh);
  }, [refresh]);
  return { list, refresh };
}

/** Come from elsewhere to begin a session. */
const askedToBegin = (state: unknown): boolean =>
  typeof state === 'object' && state !== null && 'beginning' in state;

/** The browser's storage does not answer. */
function Unreadable({ failure, again }: { failure: string; again: () => void }) {
  return (
    <div role="alert" className="border-error my-4 border-l-2 pl-4">
      <p className="font-semibold">The browser’s storage cannot be read: {failure}.</p>
      <p className="pb-2">
        What is stored has not been touched. What you make now lives in this page only: export it
        before you close the page.
      </p>
      <button className="btn btn-sm" onClick={again}>
        Try again
      </button>
    </div>
  );
}

interface ActionsProps {
  files: ReturnType<typeof useFiles>;
  begin: () => void;
  openIt: (id: string) => void;
  /** there are sessions */
  any: boolean;
}

/** Ways to a session. */
function Actions({ files, begin, openIt, any }: ActionsProps) {
  return (
    <div className="flex flex-wrap gap-2 pb-4">
      <button className="btn btn-sm btn-primary" onClick={begin}>
        <FilePlus2 size={15} /> New session
      </button>
      <button
        className="btn btn-sm"
        onClick={() =>
          void chooseFile('.json,.zip,.pdf,application/json,application/zip,application/pdf')
            .then((file) => file && files.takeFile(file))
            .catch(notifyFailure)
        }
      >
        <FolderOpen size={15} /> Import a file
      </button>
      {any && (
        <button
          className="btn btn-sm"
          disabled={files.taking !== null}
          onClick={() => void files.pack()}
        >
          <HardDriveDownload size={15} /> Copy of everything
        </button>
      )}
      <button className="btn btn-sm" onClick={() => void ensureDemo().then(openIt, notifyFailure)}>
        Open the demo sessions
      </button>
      <Link className="btn btn-sm btn-ghost" to="/guide">
        Guide
      </Link>
    </div>
  );
}

/** All sessions of this browser: make, open, rename, duplicate, delete, import, export. */
export function SessionsPage() {
  const navigate = useNavigate();
  const { list, refresh } = useSessionList();
  const [beginning, setBeginning] = useState(askedToBegin(useLocation().state));
  const [find, setFind] = useState('');

  useEffect(() => {
    document.title = 'Rotunda';
  }, []);

  // A row that was deleted or filed away takes the focus with it.
  const focused = useRef<number | null>(null);
  useEffect(() => focusRow(focused.current), [list]);

  const openIt = (id: string) => void navigate(stationPath(id, 'floor'));
  const files = useFiles(openIt, refresh);
  const { taking, refused, clash, takeFile } = files;

  const { sessions, failure } = list ?? { sessions: [], failure: null };
  const kept = sessions.filter(({ deletedAt }) => deletedAt === null);
  const present = kept.filter(({ archivedAt }) => archivedAt === null);
  const archived = kept.filter(({ archivedAt }) => archivedAt !== null);
  const wanted = find.trim().toLowerCase().split(/\s+/);
  const found = ({ title, venue, date }: SessionSummary): boolean => {
    const text = `${title} ${venue} ${date} ${dayOf(date)}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  };
  const deleted = sessions.filter(({ deletedAt }) => deletedAt !== null);

  return (
    <main
      className="mx-auto max-w-5xl px-6 py-8"
      onFocus={({ target }) => {
        const row = target.closest('tbody tr');
        const rows = row?.parentElement?.children ?? [];
        focused.current = row ? [...rows].indexOf(row) : 0;
      }}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) takeFile(file).catch(notifyFailure);
      }}
    >
      <h1 className="text-primary text-[30px] leading-none">Rotunda</h1>
      <p className="text-muted pt-2 pb-6">
        A workbench for recording acoustic music in stereo. Sessions are kept in this browser, on
        this device.
      </p>
      {!isSecureContext && (
        <p role="note" className="text-muted pb-4">
          This address is plain http from another machine. Everything is kept as usual, but the
          browser lets such a page neither start without the network nor copy to the clipboard.
        </p>
      )}
      <OutsideReminder sessions={sessions} />
      <Actions
        files={files}
        begin={() => setBeginning(true)}
        openIt={openIt}
        any={kept.length > 0}
      />
      <TakingLine taking={taking} />
      {refused && <ImportRefused {...refused} />}
      {failure !== null && <Unreadable failure={failure} again={refresh} />}
      {list !== null && failure === null && present.length === 0 && (
        <div className="border-hairline border-y py-10">
          <h2 className="text-[16px]">No sessions yet</h2>
          <p className="text-muted pt-2">
            Begin with a new session: place the players on the floor, put up one pair, and read
            where everybody will sit between the loudspeakers. Or look at the demo session first.
          </p>
        </div>
      )}
      {kept.length > 3 && (
        <label className="flex items-center gap-2 pb-3">
          <span className="text-muted">Find</span>
          <input
            type="search"
            className="input input-sm w-72"
            placeholder="Title, hall or date"
            value={find}
            onChange={(event) => setFind(event.currentTarget.value)}
          />
        </label>
      )}
      <SessionTable sessions={present.filter(found)} onChanged={refresh} />
      {find !== '' && !kept.some(found) && (
        <p className="text-muted py-4">No session of that title, hall or date.</p>
      )}
      {archived.length > 0 && (
        <details className="pt-8" open={find !== '' && archived.some(found)}>
          <summary className="text-muted cursor-pointer">Archive ({archived.length})</summary>
          <SessionTable sessions={archived.filter(found)} onChanged={refresh} />
        </details>
      )}
      <DeletedList sessions={deleted} onChanged={refresh} />
      {beginning && (
        <NewSessionDialog
          sessions={kept.filter(({ damage }) => damage === null)}
          onClose={() => setBeginning(false)}
          onBegun={(made) => void made.then((id) => id && openIt(id), notifyFailure)}
        />
      )}
      {clash && <ImportClash session={clash} onChoice={files.settleClash} />}
      <Notices />
    </main>
  );
}
