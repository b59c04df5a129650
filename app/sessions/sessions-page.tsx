import { FilePlus2, FolderOpen, HardDriveDownload } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { MOST_BYTES, type Problem, type Session } from '../../core/session';
import { autosave } from '../keeping/autosave';
import {
  ensureDemo,
  importAsCopy,
  importReplacing,
  importText,
  type ImportResult,
} from '../keeping/library';
import { listSessions, type SessionList, type SessionSummary } from '../keeping/storage';
import { focusRow } from '../shell/focus';
import { Notices } from '../shell/notices';
import { stationPath } from '../stations';
import { isArchive } from '../contents/names';
import { chooseFile, download } from '../keeping/files';
import { notify, notifyFailure } from '../view/notices';
import { ImportClash, ImportRefused } from './import-parts';
import { NewSessionDialog } from './new-session';
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

/** An archive that is being packed or unpacked. */
interface Taking {
  what: string;
  /** 0 … 1 */
  done: number;
  stop: () => void;
}

/** All sessions of this browser: make, open, rename, duplicate, delete, import, export. */
export function SessionsPage() {
  const navigate = useNavigate();
  const { list, refresh } = useSessionList();
  const [refused, setRefused] = useState<{ file: string; problems: Problem[] } | null>(null);
  const [clash, setClash] = useState<Session | null>(null);
  const [beginning, setBeginning] = useState(askedToBegin(useLocation().state));
  const [find, setFind] = useState('');
  const [taking, setTaking] = useState<Taking | null>(null);

  useEffect(() => {
    document.title = 'Rotunda';
  }, []);

  // A row that was deleted or filed away takes the focus with it.
  const focused = useRef<number | null>(null);
  useEffect(() => focusRow(focused.current), [list]);

  const openIt = (id: string) => void navigate(stationPath(id, 'floor'));

  /** What an archive holds; null where it was given up. */
  async function unpacked(file: File): Promise<ImportResult | null> {
    const stop = new AbortController();
    const what = `Unpacking “${file.name}”`;
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { importArchive } = await import('../keeping/archive');
      return await importArchive(file, { signal: stop.signal, onProgress: tell });
    } catch (error) {
      if (stop.signal.aborted) return null;
      throw error;
    } finally {
      setTaking(null);
    }
  }

  /** Everything of this browser as one file. */
  async function pack() {
    const stop = new AbortController();
    const what = 'Packing all sessions';
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { packEverything } = await import('../keeping/everything');
      const packed = await packEverything({ signal: stop.signal, onProgress: tell });
      download(`rotunda-${new Date().toISOString().slice(0, 10)}.zip`, packed.archive);
      const { damaged, missing } = packed;
      const said = [
        ...(damaged.length > 0
          ? [`${damaged.length} cannot be read and are in it as they are stored`]
          : []),
        ...(missing > 0 ? [`${missing} pictures and sounds are not here`] : []),
      ];
      if (said.length > 0) notify(`The archive was made; of its sessions ${said.join(', ')}.`);
    } catch (error) {
      if (!stop.signal.aborted) notifyFailure(error);
    } finally {
      setTaking(null);
    }
  }

  async function takeFile(file: File) {
    setRefused(null);
    const zipped = await isArchive(file);
    if (!zipped && file.size > MOST_BYTES) {
      const message = `${Math.round(file.size / 1e6)} MB; allowed: a file of up to ${MOST_BYTES / 1e6} MB`;
      return setRefused({ file: file.name, problems: [{ path: '', message }] });
    }
    const result = zipped ? await unpacked(file) : await importText(await file.text());
    if (!result) return;
    if ('said' in result && result.said !== undefined) notify(result.said);
    if (result.kind === 'refused') setRefused({ file: file.name, problems: result.problems });
    else if (result.kind === 'clash') setClash(result.session);
    else if (result.kind === 'everything') refresh();
    else {
      openIt(result.id);
      if (result.modelAssumed) {
        notify(
          'This file is of version 1 and names no localisation model: its images now come from the consensus of three. “Image by” chooses another.',
        );
      }
    }
  }

  function settleClash(choice: 'copy' | 'replace' | 'cancel') {
    const session = clash;
    setClash(null);
    if (!session || choice === 'cancel') return;
    const work = choice === 'copy' ? importAsCopy(session) : importReplacing(session);
    work.then(openIt, notifyFailure);
  }

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
      <div className="flex flex-wrap gap-2 pb-4">
        <button className="btn btn-sm btn-primary" onClick={() => setBeginning(true)}>
          <FilePlus2 size={15} /> New session
        </button>
        <button
          className="btn btn-sm"
          onClick={() =>
            void chooseFile('.json,.zip,application/json,application/zip')
              .then((file) => file && takeFile(file))
              .catch(notifyFailure)
          }
        >
          <FolderOpen size={15} /> Import a file
        </button>
        {kept.length > 0 && (
          <button className="btn btn-sm" disabled={taking !== null} onClick={() => void pack()}>
            <HardDriveDownload size={15} /> Copy of everything
          </button>
        )}
        <button
          className="btn btn-sm"
          onClick={() => void ensureDemo().then(openIt, notifyFailure)}
        >
          Open the demo sessions
        </button>
        <Link className="btn btn-sm btn-ghost" to="/guide">
          Guide
        </Link>
      </div>
      {taking && (
        <p role="status" className="flex items-center gap-3 py-2">
          {taking.what}: {Math.round(100 * taking.done)} %
          <button className="btn btn-xs" onClick={taking.stop}>
            Stop
          </button>
        </p>
      )}
      {refused && <ImportRefused {...refused} />}
      {failure !== null && (
        <div role="alert" className="border-error my-4 border-l-2 pl-4">
          <p className="font-semibold">The browser’s storage cannot be read: {failure}.</p>
          <p className="pb-2">
            What is stored has not been touched. What you make now lives in this page only: export
            it before you close the page.
          </p>
          <button className="btn btn-sm" onClick={refresh}>
            Try again
          </button>
        </div>
      )}
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
      {clash && <ImportClash session={clash} onChoice={settleClash} />}
      <Notices />
    </main>
  );
}
