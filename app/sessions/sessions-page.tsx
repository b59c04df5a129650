import {
  Archive,
  ArchiveRestore,
  Copy,
  Download,
  FilePlus2,
  FolderOpen,
  Trash2,
} from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Problem, Session } from '../../core/session';
import { Notices } from '../shell/notices';
import { autosave } from '../state/autosave';
import { chooseFile, exportSession } from '../state/files';
import {
  createSession,
  duplicateStored,
  ensureDemo,
  importAsCopy,
  importReplacing,
  importText,
} from '../state/library';
import {
  listSessions,
  loadSession,
  removeForGood,
  saveSession,
  setArchived,
  setDeleted,
  type SessionSummary,
} from '../state/storage';
import { notify, notifyFailure } from '../state/ui-store';

const dayAndTime = (iso: string): string => {
  const date = new Date(iso);
  return Number.isNaN(date.getTime())
    ? '—'
    : date.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
};

function ImportRefused({ file, problems }: { file: string; problems: Problem[] }) {
  return (
    <div role="alert" className="border-error my-4 border-l-2 pl-4">
      <p className="font-semibold">“{file}” was not imported. Nothing has been changed.</p>
      <ul className="list-disc pl-5">
        {problems.slice(0, 8).map(({ path, message }) => (
          <li key={path + message}>
            {path !== '' && <strong>{path}: </strong>}
            {message}
          </li>
        ))}
      </ul>
      {problems.length > 8 && <p>and {problems.length - 8} more</p>}
    </div>
  );
}

interface ClashProps {
  session: Session;
  onChoice: (choice: 'copy' | 'replace' | 'cancel') => void;
}

function ImportClash({ session, onChoice }: ClashProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-labelledby="clash-title"
      onClose={() => onChoice('cancel')}
      className="bg-base-200 text-base-content border-hairline m-auto max-w-md border p-6 backdrop:bg-black/30"
    >
      <h2 id="clash-title" className="text-[16px]">
        “{session.title}” is already here
      </h2>
      <p className="py-3">A session with the same identity is stored in this browser.</p>
      <div className="flex flex-wrap gap-2">
        <button className="btn btn-sm btn-primary" onClick={() => onChoice('copy')}>
          Keep both
        </button>
        <button className="btn btn-sm" onClick={() => onChoice('replace')}>
          Replace the stored one
        </button>
        <button className="btn btn-sm" onClick={() => onChoice('cancel')}>
          Cancel
        </button>
      </div>
    </dialog>
  );
}

interface RowProps {
  summary: SessionSummary;
  onChanged: () => void;
}

function SessionRow({ summary, onChanged }: RowProps) {
  const { id, title, venue, date, players, updatedAt, archivedAt } = summary;
  const [naming, setNaming] = useState<string | null>(null);

  async function rename(name: string) {
    setNaming(null);
    const loaded = await loadSession(id);
    if (name.trim() === '' || name === title || loaded.kind !== 'found') return;
    const renamed = { ...loaded.session, title: name.trim(), updatedAt: new Date().toISOString() };
    const result = await saveSession(renamed, loaded.revision);
    if (result.kind !== 'saved') notify('The new name could not be stored.');
    onChanged();
  }

  async function remove() {
    await setDeleted(id, new Date().toISOString());
    onChanged();
    notify(`“${title}” deleted.`, {
      label: 'Undo',
      run: () => void setDeleted(id, null).then(onChanged),
    });
  }

  return (
    <tr>
      <td className="w-full">
        {naming === null ? (
          <Link className="font-semibold hover:underline" to={`/session/${id}/floor`}>
            {title}
          </Link>
        ) : (
          <input
            autoFocus
            aria-label={`New name for ${title}`}
            className="input input-sm w-full"
            maxLength={200}
            value={naming}
            onChange={(event) => setNaming(event.currentTarget.value)}
            onBlur={() => void rename(naming)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') void rename(naming);
              if (event.key === 'Escape') setNaming(null);
            }}
          />
        )}
        <span className="text-muted block text-[12.5px]">
          {[venue, date].filter(Boolean).join(' · ') || 'No venue or date yet'}
        </span>
      </td>
      <td className="num">{players}</td>
      <td className="whitespace-nowrap">{dayAndTime(updatedAt)}</td>
      <td className="whitespace-nowrap">
        <button className="btn btn-ghost btn-sm" onClick={() => setNaming(title)}>
          Rename<span className="sr-only"> {title}</span>
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={`Duplicate ${title}`}
          title="Duplicate"
          onClick={() => void duplicateStored(id).then(onChanged, notifyFailure)}
        >
          <Copy size={15} />
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={`Export ${title}`}
          title="Export"
          onClick={() =>
            void loadSession(id).then((l) => l.kind === 'found' && exportSession(l.session))
          }
        >
          <Download size={15} />
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={`${archivedAt === null ? 'Archive' : 'Take out of the archive:'} ${title}`}
          title={archivedAt === null ? 'Archive' : 'Take out of the archive'}
          onClick={() =>
            void setArchived(id, archivedAt === null ? new Date().toISOString() : null).then(
              onChanged,
              notifyFailure,
            )
          }
        >
          {archivedAt === null ? <Archive size={15} /> : <ArchiveRestore size={15} />}
        </button>
        <button
          className="btn btn-ghost btn-sm btn-square"
          aria-label={`Delete ${title}`}
          title="Delete"
          onClick={() => void remove()}
        >
          <Trash2 size={15} />
        </button>
      </td>
    </tr>
  );
}

function DeletedList({
  sessions,
  onChanged,
}: {
  sessions: SessionSummary[];
  onChanged: () => void;
}) {
  if (sessions.length === 0) return null;
  return (
    <details className="pt-8">
      <summary className="text-muted cursor-pointer">Deleted ({sessions.length})</summary>
      <ul className="pt-2">
        {sessions.map(({ id, title }) => (
          <li key={id} className="border-hairline flex items-center gap-2 border-b py-1">
            <span className="flex-1">{title}</span>
            <button
              className="btn btn-ghost btn-sm"
              onClick={() => void setDeleted(id, null).then(onChanged)}
            >
              Bring back<span className="sr-only"> {title}</span>
            </button>
            <button
              className="btn btn-ghost btn-sm text-error"
              onClick={() => void removeForGood(id).then(onChanged)}
            >
              Delete for good<span className="sr-only"> {title}</span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

interface TableProps {
  sessions: readonly SessionSummary[];
  onChanged: () => void;
}

function SessionTable({ sessions, onChanged }: TableProps) {
  if (sessions.length === 0) return null;
  return (
    <table className="ledger-table w-full">
      <thead>
        <tr>
          <th>Session</th>
          <th className="num">Players</th>
          <th>Changed</th>
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {sessions.map((summary) => (
          <SessionRow key={summary.id} summary={summary} onChanged={onChanged} />
        ))}
      </tbody>
    </table>
  );
}

function useSessionList() {
  const [sessions, setSessions] = useState<SessionSummary[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  const refresh = useCallback(() => {
    listSessions().then(setSessions, (reason: unknown) => setError(String(reason)));
  }, []);
  useEffect(() => {
    void autosave.flush().then(refresh);
  }, [refresh]);
  return { sessions, error, refresh };
}

/** All sessions of this browser: make, open, rename, duplicate, delete, import, export. */
export function SessionsPage() {
  const navigate = useNavigate();
  const { sessions, error, refresh } = useSessionList();
  const [refused, setRefused] = useState<{ file: string; problems: Problem[] } | null>(null);
  const [clash, setClash] = useState<Session | null>(null);

  useEffect(() => {
    document.title = 'Rotunda';
  }, []);

  const openIt = (id: string) => void navigate(`/session/${id}/floor`);

  async function takeFile(file: File) {
    setRefused(null);
    const result = await importText(await file.text());
    if (result.kind === 'refused') setRefused({ file: file.name, problems: result.problems });
    else if (result.kind === 'clash') setClash(result.session);
    else openIt(result.id);
  }

  function settleClash(choice: 'copy' | 'replace' | 'cancel') {
    const session = clash;
    setClash(null);
    if (!session || choice === 'cancel') return;
    const work = choice === 'copy' ? importAsCopy(session) : importReplacing(session);
    work.then(openIt, notifyFailure);
  }

  const kept = sessions?.filter(({ deletedAt }) => deletedAt === null) ?? [];
  const present = kept.filter(({ archivedAt }) => archivedAt === null);
  const archived = kept.filter(({ archivedAt }) => archivedAt !== null);
  const deleted = sessions?.filter(({ deletedAt }) => deletedAt !== null) ?? [];

  return (
    <main
      className="mx-auto max-w-4xl px-6 py-8"
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
      <div className="flex flex-wrap gap-2 pb-4">
        <button
          className="btn btn-sm btn-primary"
          onClick={() => void createSession().then(openIt, notifyFailure)}
        >
          <FilePlus2 size={15} /> New session
        </button>
        <button
          className="btn btn-sm"
          onClick={() =>
            void chooseFile('.json,application/json')
              .then((file) => file && takeFile(file))
              .catch(notifyFailure)
          }
        >
          <FolderOpen size={15} /> Import a file
        </button>
        <button
          className="btn btn-sm"
          onClick={() => void ensureDemo().then(openIt, notifyFailure)}
        >
          Open the demo sessions
        </button>
      </div>
      {refused && <ImportRefused {...refused} />}
      {error !== null && (
        <p role="alert" className="text-error py-4">
          The browser’s storage cannot be read: {error}. Sessions cannot be kept until it can; files
          can still be checked with the headless command.
        </p>
      )}
      {sessions !== null && present.length === 0 && (
        <div className="border-hairline border-y py-10">
          <h2 className="text-[16px]">No sessions yet</h2>
          <p className="text-muted pt-2">
            Begin with a new session: place the players on the floor, put up one pair, and read
            where everybody will sit between the loudspeakers. Or look at the demo session first.
          </p>
        </div>
      )}
      <SessionTable sessions={present} onChanged={refresh} />
      {archived.length > 0 && (
        <details className="pt-8">
          <summary className="text-muted cursor-pointer">Archive ({archived.length})</summary>
          <SessionTable sessions={archived} onChanged={refresh} />
        </details>
      )}
      <DeletedList sessions={deleted} onChanged={refresh} />
      {clash && <ImportClash session={clash} onChoice={settleClash} />}
      <Notices />
    </main>
  );
}
