import { Archive, ArchiveRestore, Copy, Download, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { duplicateStored } from '../keeping/library';
import {
  loadSession,
  rawSession,
  removeForGood,
  renameSession,
  setArchived,
  setDeleted,
  type SessionSummary,
} from '../keeping/storage';
import { stationPath } from '../stations';
import { download, exportSession, fileName } from '../keeping/files';
import { notify, notifyFailure } from '../view/notices';

const dayAndTime = (iso: string): string => {
  const date = new Date(iso);
  return Number.isNaN(date.getTime())
    ? '—'
    : date.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
};

/** "6 Feb 2027"; what is no date stands as it was typed. */
export const dayOf = (iso: string): string => {
  const date = new Date(`${iso}T12:00:00`);
  return iso === '' || Number.isNaN(date.getTime())
    ? iso
    : date.toLocaleDateString('en-GB', { dateStyle: 'medium' });
};

/** The session's file; content that does not fit the format goes out as it is. */
async function exportStored(id: string, title: string): Promise<void> {
  const loaded = await loadSession(id);
  if (loaded.kind === 'found') return exportSession(loaded.session);
  if (loaded.kind === 'failed') throw new Error(`It cannot be read: ${loaded.message}.`);
  const raw = loaded.kind === 'damaged' ? loaded.raw : await rawSession(id);
  download(fileName(title, 'json'), new Blob([JSON.stringify(raw, null, 2)]));
}

interface RowProps {
  summary: SessionSummary;
  onChanged: () => void;
}

function SessionRow({ summary, onChanged }: RowProps) {
  const { id, title, venue, date, players, updatedAt, archivedAt, damage, unstored } = summary;
  const [naming, setNaming] = useState<string | null>(null);

  async function rename(name: string) {
    setNaming(null);
    if (name.trim() === '' || name.trim() === title) return;
    await renameSession(id, name.trim()).catch(() => notify('The new name could not be stored.'));
    onChanged();
  }

  async function remove() {
    try {
      await setDeleted(id, new Date().toISOString());
    } catch (error) {
      return notifyFailure(error);
    }
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
          <Link className="font-semibold hover:underline" to={stationPath(id, 'floor')}>
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
        {unstored && (
          <span className="text-error block text-[12.5px]">
            Not stored: only in this page. Export it, or open it to try again.
          </span>
        )}
        {damage !== null && (
          <span className="text-error block text-[12.5px]">Cannot be read: {damage}.</span>
        )}
      </td>
      <td data-label="Hall" className="max-w-48 truncate" title={venue}>
        {venue || <span className="text-muted">not said</span>}
      </td>
      <td data-label="Date" className="whitespace-nowrap">
        {dayOf(date) || <span className="text-muted">not said</span>}
      </td>
      <td data-label="Players" className="num">
        {players}
      </td>
      <td data-label="Changed" className="whitespace-nowrap">
        {dayAndTime(updatedAt)}
      </td>
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
          onClick={() => void exportStored(id, title).catch(notifyFailure)}
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

/** Deleted sessions, which can be brought back. */
export function DeletedList({
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

type SortKey = 'title' | 'venue' | 'date' | 'players' | 'updatedAt';

const COLUMNS: readonly (readonly [SortKey, string])[] = [
  ['title', 'Session'],
  ['venue', 'Hall'],
  ['date', 'Date'],
  ['players', 'Players'],
  ['updatedAt', 'Changed'],
];

function compared(key: SortKey, a: SessionSummary, b: SessionSummary): number {
  if (key === 'players') return a.players - b.players;
  // What is not said stands at the end of the alphabet.
  if ((a[key] === '') !== (b[key] === '')) return a[key] === '' ? 1 : -1;
  return a[key].localeCompare(b[key], 'en', { numeric: true, sensitivity: 'base' });
}

/** Sessions as a table that can be ordered by every column, each with what can be done with it. */
export function SessionTable({ sessions, onChanged }: TableProps) {
  const [sort, setSort] = useState<{ key: SortKey; up: boolean }>({ key: 'updatedAt', up: false });
  if (sessions.length === 0) return null;
  const ordered = [...sessions].sort(
    (a, b) => compared(sort.key, a, b) * (sort.up ? 1 : -1) || a.title.localeCompare(b.title),
  );
  return (
    <table className="ledger-table stacked w-full">
      <thead>
        <tr>
          {COLUMNS.map(([key, label]) => (
            <th
              key={key}
              className={key === 'players' ? 'num' : ''}
              aria-sort={sort.key === key ? (sort.up ? 'ascending' : 'descending') : undefined}
            >
              <button
                className="whitespace-nowrap hover:underline"
                onClick={() =>
                  setSort({ key, up: sort.key === key ? !sort.up : key !== 'updatedAt' })
                }
              >
                {label}
                <span aria-hidden="true" className="inline-block w-3">
                  {sort.key === key ? (sort.up ? '↑' : '↓') : ''}
                </span>
              </button>
            </th>
          ))}
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {ordered.map((summary) => (
          <SessionRow key={summary.id} summary={summary} onChanged={onChanged} />
        ))}
      </tbody>
    </table>
  );
}
