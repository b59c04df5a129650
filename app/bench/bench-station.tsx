import { FileAudio, FolderOpen, X } from 'lucide-react';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { boundNames } from '../../core/recorded';
import { usePlan, useSession } from '../document/use-session';
import { chooseRecordings, droppedRecordings, type Shown } from '../keeping/recordings';
import { PageTabs, useStationPage } from '../parts/page-tabs';
import { BENCH_PAGES } from '../parts/station-pages';
import { notifyFailure } from '../view/notices';
import { Blends } from './blends';
import { Kept } from './kept';
import { keepOpen } from './kept-open';
import { One } from './one';
import { openRecordings } from './opening';
import {
  benchOf,
  benchStore,
  closeRecording,
  forgetRefused,
  showRecording,
  type OpenRecording,
} from './recordings';
import { ACCEPTED, Takes } from './takes';
import { ToneNotes } from './tone-notes';

interface FilesProps {
  open: readonly OpenRecording[];
  shown: OpenRecording | null;
  choose: () => void;
}

/** What is open, to go from one to another. */
function Files({ open, shown, choose }: FilesProps) {
  const { id } = useSession();
  return (
    <div
      role="group"
      aria-label="Open recordings"
      className="no-print border-hairline flex shrink-0 flex-wrap items-center gap-2 border-b px-3 py-1"
    >
      <button className="btn btn-sm" onClick={choose}>
        <FolderOpen size={15} /> Open recordings
      </button>
      {open.map((one) => (
        <span key={one.key} className="inline-flex items-center">
          <button
            className={`btn btn-sm px-2 ${one === shown ? 'btn-neutral' : 'btn-ghost font-normal'}`}
            aria-pressed={one === shown}
            onClick={() => showRecording(id, one.key)}
          >
            <FileAudio size={13} />
            <span className="max-w-48 truncate">{one.title}</span>
          </button>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Close ${one.title}`}
            onClick={() => {
              closeRecording(id, one.key);
              keepOpen(id);
            }}
          >
            <X size={12} />
          </button>
        </span>
      ))}
    </div>
  );
}

/** A recording whose channels are called like their microphones are by now. */
function useNamed(recording: OpenRecording | null): OpenRecording | null {
  const plan = usePlan();
  return useMemo(
    () =>
      recording && {
        ...recording,
        names: boundNames(plan, recording.binding, recording.own),
      },
    [recording, plan],
  );
}

/** What is on a recording, and is it what was planned? */
export function BenchStation() {
  const session = useSession();
  const { id } = session;
  const page = useStationPage(BENCH_PAGES);
  const { open, opening, shown } = useStore(benchStore, ({ of }) => benchOf(of, id));
  const current = open.find(({ key }) => key === shown) ?? open[0] ?? null;
  const recording = useNamed(current);
  const take = (files: readonly Shown[]): void => {
    forgetRefused(id);
    if (files.length > 0) openRecordings(session, files).catch(notifyFailure);
  };
  const choose = (): void => void chooseRecordings(ACCEPTED).then(take, notifyFailure);
  const close = (key: string): void => {
    closeRecording(id, key);
    keepOpen(id);
  };
  return (
    <main
      aria-label="Bench"
      className="bg-base-100 flex h-full flex-col"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void droppedRecordings(event.dataTransfer.items).then(take, notifyFailure);
      }}
    >
      {open.length > 0 && <Files open={open} shown={current} choose={choose} />}
      <PageTabs label="Pages of the bench" pages={BENCH_PAGES} shown={page} />
      <div className="relative min-h-0 flex-1 overflow-auto px-6 py-4 max-md:px-3" tabIndex={0}>
        {opening.map(({ name, problem }, i) => (
          <p
            key={`${name} ${i}`}
            role={problem === null ? 'status' : 'alert'}
            className={problem === null ? 'text-muted pb-2' : 'text-error pb-2'}
          >
            {problem === null ? `Opening ${name} …` : `${name} was not opened: ${problem}`}
          </p>
        ))}
        {recording && page.id !== 'kept' && (
          <One
            key={recording.key}
            recording={recording}
            page={page.id}
            close={() => close(recording.key)}
          />
        )}
        {page.id === 'kept' ? <Kept /> : <Takes open={open} take={take} />}
        {/* What is kept in the session needs no recording. */}
        {!recording && page.id === 'tone' && <ToneNotes />}
        {!recording && page.id === 'spots' && <Blends />}
      </div>
    </main>
  );
}
