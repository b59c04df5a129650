import { HardDriveDownload } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { ageText } from '../../core/recall';
import { isArchive } from '../contents/names';
import { autosave } from '../keeping/autosave';
import { chooseFile } from '../keeping/files';
import { readLibraryAnew } from '../keeping/library-read';
import { keptPieces } from '../keeping/library-store';
import { outsideStore, REMIND_AFTER, remindAfter } from '../keeping/outside';
import type { SessionSummary } from '../keeping/storage';
import { OutsideReminder, TakingLine, usePacking, type Taking } from '../parts/copy-everything';
import { notify, notifyFailure } from '../view/notices';

interface Here {
  sessions: SessionSummary[];
  pieces: number;
  usedMB: number | null;
}

async function whatIsHere(): Promise<Here> {
  await autosave.flush();
  const { listSessions } = await import('../keeping/storage');
  const [{ sessions }, pieces, used] = await Promise.all([
    listSessions(),
    keptPieces().catch(() => []),
    navigator.storage?.estimate?.().catch(() => null) ?? null,
  ]);
  return {
    sessions: sessions.filter(({ deletedAt }) => deletedAt === null),
    pieces: pieces.length,
    usedMB: used?.usage === undefined ? null : used.usage / 1e6,
  };
}

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

/** Everything as one file: out of this browser, and in again. */
export function CopiesPage() {
  const outside = useStore(outsideStore);
  const [here, setHere] = useState<Here | null>(null);
  const [taking, setTaking] = useState<Taking | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const pack = usePacking(setTaking);
  const refresh = useCallback(() => void whatIsHere().then(setHere, notifyFailure), []);
  useEffect(refresh, [refresh]);
  const takeIn = async (file: File): Promise<void> => {
    setSaid(null);
    if (!(await isArchive(file))) {
      return setSaid(
        `“${file.name}” is no archive: import single sessions on the list of sessions.`,
      );
    }
    const stop = new AbortController();
    const what = `Unpacking “${file.name}”`;
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { importArchive } = await import('../keeping/archive');
      const result = await importArchive(file, { signal: stop.signal, onProgress: tell });
      if (result.kind === 'everything') setSaid(result.said);
      else if (result.kind === 'imported') {
        setSaid(['One session came in.', result.said ?? ''].join(' ').trim());
      } else if (result.kind === 'clash') {
        setSaid(
          `“${result.session.title}” is here already: import it on the list of sessions, which asks what to keep.`,
        );
      } else setSaid(result.problems.map(({ message }) => message).join('; '));
      refresh();
      await readLibraryAnew();
    } catch (error) {
      if (!stop.signal.aborted) notifyFailure(error);
    } finally {
      setTaking(null);
    }
  };
  return (
    <>
      {here && <OutsideReminder sessions={here.sessions} />}
      <p role="status" aria-label="Kept outside" className="max-w-[64ch] pb-3 text-[17px]">
        {outside.lastAt === null
          ? 'Nothing has been kept outside this browser yet.'
          : `Everything was kept outside this browser ${ageText(outside.lastAt, new Date().toISOString())}.`}
      </p>
      {here && (
        <p className="text-muted max-w-[64ch] pb-3">
          In this browser: {counted(here.sessions.length, 'session')},{' '}
          {counted(here.pieces, 'piece')} of the library
          {here.usedMB === null ? '' : `, ${here.usedMB.toFixed(0)} MB in all`}. One file holds all
          of it: sessions with their journals, photographs and kept clips, versions, the library.
          Recordings are not in it; they stay where they are. Another machine takes it in without
          loss, and nothing that is there is written over.
        </p>
      )}
      <div className="flex flex-wrap items-end gap-4 pb-2">
        <button
          className="btn btn-sm btn-primary"
          disabled={taking !== null || here === null || here.sessions.length + here.pieces === 0}
          onClick={() => void pack()}
        >
          <HardDriveDownload size={15} /> Copy of everything
        </button>
        <button
          className="btn btn-sm"
          disabled={taking !== null}
          onClick={() =>
            void chooseFile('.zip,application/zip')
              .then((file) => file && takeIn(file))
              .catch(notifyFailure)
          }
        >
          Take a copy in
        </button>
        <label className="flex items-center gap-2">
          <span className="text-muted">Remind me</span>
          <select
            className="select select-sm w-auto"
            value={outside.days}
            onChange={(event) => {
              remindAfter(Number(event.currentTarget.value));
              notify('The reminder is set.');
            }}
          >
            {[...new Set([...REMIND_AFTER, outside.days])].map((days) => (
              <option key={days} value={days}>
                {days === 0 ? 'never' : `after ${counted(days, 'day')} without a copy`}
              </option>
            ))}
          </select>
        </label>
      </div>
      <TakingLine taking={taking} />
      {said !== null && (
        <p role="status" aria-label="Taken in" className="pt-2">
          {said}
        </p>
      )}
    </>
  );
}
