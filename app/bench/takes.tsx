import { FileAudio, FolderOpen, FolderSearch } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { FileReference, Take } from '../../core/session';
import { strike } from '../document/journals';
import { useSession } from '../document/use-session';
import {
  canShowFolder,
  chooseFolder,
  chooseRecordings,
  relink,
  type Shown,
} from '../keeping/recordings';
import { notifyFailure } from '../view/notices';
import { knownOf, openKnown, reopen, type Known } from './known';
import { messageOf, type OpenRecording } from './recordings';
import { simulateAgain, simulateHere, SIMULATED, type Simulated } from './simulate';

export const ACCEPTED = '.wav,.wave,.rf64,.bw64,.bwf,.flac,audio/*';

interface RowProps {
  known: Known;
  simulating: boolean;
  simulate: (take: Take) => void;
}

/** One recording that can be opened again, or shown where it is. */
function Row({ known, simulating, simulate }: RowProps) {
  const session = useSession();
  const [state, setState] = useState<{ missing: FileReference[]; words: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const attempt = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      notifyFailure(new Error(messageOf(error)));
    } finally {
      setBusy(false);
    }
  };
  const open = async (): Promise<void> => setState(await openKnown(session, known));
  const among = async (files: Iterable<Shown> | AsyncIterable<Shown>): Promise<void> => {
    const { missing } = await relink(state?.missing ?? [], files);
    await open();
    if (missing.length > 0) {
      setState({
        missing,
        words: `Not among them: ${missing.map(({ name }) => name).join(', ')}. Files are told by what is in them, not by their names.`,
      });
    }
  };
  const { take } = known;
  return (
    <li className="border-hairline border-b py-2">
      <div className="flex flex-wrap items-center gap-3">
        <span className="min-w-0 flex-1 truncate" title={known.name}>
          {known.name}
          {take?.simulation && <span className="text-muted"> · made of the plan</span>}
          {known.files.length > 1 && (
            <span className="text-muted"> · {known.files.length} files</span>
          )}
        </span>
        {take?.simulation ? (
          <button className="btn btn-sm" disabled={simulating} onClick={() => simulate(take)}>
            Make it
          </button>
        ) : (
          <button className="btn btn-sm" disabled={busy} onClick={() => void attempt(open)}>
            <FileAudio size={13} /> Open<span className="sr-only"> {known.name}</span>
          </button>
        )}
        {take && (
          <button
            className="btn btn-sm btn-ghost font-normal"
            onClick={() => strike('takes', take.id)}
          >
            Strike<span className="sr-only"> {known.name}</span>
          </button>
        )}
      </div>
      {state && state.missing.length > 0 && (
        <div role="alert" className="pt-1">
          <p>{state.words}</p>
          <div className="flex flex-wrap gap-2 pt-1">
            <button
              className="btn btn-sm"
              disabled={busy}
              onClick={() =>
                void attempt(async () => {
                  const shown = await chooseRecordings(ACCEPTED);
                  if (shown.length > 0) await among(shown);
                })
              }
            >
              <FolderOpen size={13} /> Show me the {state.missing.length === 1 ? 'file' : 'files'}
            </button>
            {canShowFolder() && (
              <button
                className="btn btn-sm"
                disabled={busy}
                onClick={() =>
                  void attempt(async () => {
                    const folder = await chooseFolder();
                    if (folder) await among(folder);
                  })
                }
              >
                <FolderSearch size={13} /> Look in a folder
              </button>
            )}
          </div>
        </div>
      )}
    </li>
  );
}

/** More takes than these are not made unasked. */
const MOST_MADE = 3;
/** Sessions whose simulated takes were made unasked in this page. */
const madeFor = new Set<string>();

/** Work on a simulated take, in its own place. */
function useSimulating() {
  const [progress, setProgress] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const begin = (
    work: (help: { signal: AbortSignal; onProgress: (done: number) => void }) => Promise<void>,
  ): void => {
    stop.current?.abort();
    const own = new AbortController();
    stop.current = own;
    setProgress(0);
    work({ signal: own.signal, onProgress: setProgress })
      .catch((error: unknown) => {
        if (!own.signal.aborted) notifyFailure(new Error(`No take was made: ${messageOf(error)}`));
      })
      .finally(() => {
        if (stop.current === own) setProgress(null);
      });
  };
  return { progress, begin, cancel: () => stop.current?.abort() };
}

interface TakesProps {
  open: readonly OpenRecording[];
  take: (files: readonly Shown[]) => void;
}

/** What can be put on the bench: recordings of the session, files, or the plan itself. */
export function Takes({ open, take }: TakesProps) {
  const session = useSession();
  const { progress, begin, cancel } = useSimulating();
  const [kind, setKind] = useState<Simulated>('music');
  const known = useMemo(() => knownOf(session, open), [session, open]);
  useEffect(() => {
    void (async () => {
      await reopen(session);
      if (madeFor.has(session.id) || open.length > 0) return;
      madeFor.add(session.id);
      const all = knownOf(session, []);
      // A session that holds nothing but takes of its plan shows them, the newest first.
      if (all.length > 0 && all.length <= MOST_MADE && all.every((one) => one.take?.simulation)) {
        begin(async (help) => {
          for (const { take: made } of all) if (made) await simulateAgain(made, true, help);
        });
      }
    })().catch(notifyFailure);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once a session
  }, [session.id]);
  return (
    <section aria-label="Recordings" className={open.length > 0 ? 'pt-8 pb-6' : 'pb-6'}>
      {open.length === 0 && (
        <div className="border-hairline mb-4 border-2 border-dashed px-8 py-8 max-md:px-4">
          <h2 className="text-[16px]">What is on a recording?</h2>
          <p className="text-muted max-w-[64ch] pt-2 pb-4">
            Drop recordings here, or open them: WAV, RF64 and BW64 of every width, and FLAC; the
            files of one take together. They stay where they are, and nothing is sent anywhere. What
            is wrong with them comes first, as sentences that lead to the place; then their curves.
          </p>
          <button
            className="btn btn-sm btn-primary"
            onClick={() => void chooseRecordings(ACCEPTED).then(take, notifyFailure)}
          >
            <FolderOpen size={15} /> Open recordings
          </button>
        </div>
      )}
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <label className="flex items-center gap-2">
          <span className="text-muted">Try it on the plan</span>
          <select
            className="select select-sm w-auto"
            value={kind}
            disabled={progress !== null}
            onChange={(event) => setKind(event.currentTarget.value as Simulated)}
          >
            {Object.entries(SIMULATED).map(([id, { name }]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <button
          className="btn btn-sm"
          disabled={progress !== null}
          onClick={() => begin((help) => simulateHere(kind, help))}
        >
          Simulate this plan
        </button>
        {progress !== null && (
          <p role="status" aria-label="Being made" className="flex items-center gap-3">
            A take of the plan is being made: {Math.round(100 * progress)} %
            <button className="btn btn-xs" onClick={cancel}>
              Cancel
            </button>
          </p>
        )}
      </div>
      {known.length > 0 && (
        <>
          <h2 className="pt-2 pb-1 text-[15px]">Recordings of this session</h2>
          <ul aria-label="Recordings of this session">
            {known.map((one) => (
              <Row
                key={one.key}
                known={one}
                simulating={progress !== null}
                simulate={(made) => begin((help) => simulateAgain(made, false, help))}
              />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
