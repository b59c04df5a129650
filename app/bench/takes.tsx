import { FileAudio, FolderOpen, FolderSearch } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { standing, type FileReference, type Session, type Take } from '../../core/session';
import { strike } from '../document/journals';
import { useSession } from '../document/use-session';
import {
  allowRecording,
  canShowFolder,
  chooseFolder,
  chooseRecordings,
  findRecording,
  relink,
  type Shown,
} from '../keeping/recordings';
import { notifyFailure } from '../view/notices';
import { wasOpen } from './kept-open';
import { openRecordings, takeOf } from './opening';
import { messageOf, type OpenRecording } from './recordings';
import { simulateAgain, simulateHere, SIMULATED, type Simulated } from './simulate';

export const ACCEPTED = '.wav,.wave,.rf64,.bw64,.bwf,.flac,audio/*';

/** A recording that the session knows of and that is not open: of a take, or of before the page was loaded. */
interface Known {
  key: string;
  name: string;
  files: readonly FileReference[];
  take: Take | null;
}

const keyOf = (files: readonly FileReference[]): string =>
  files
    .map(({ fingerprint }) => fingerprint)
    .sort()
    .join(' ');

function knownOf(session: Session, open: readonly OpenRecording[]): Known[] {
  const here = new Set(open.map(({ key }) => key));
  const openTakes = new Set(open.map((one) => takeOf(session, one)?.id));
  const takes = standing(session.takes)
    .filter((take) => !openTakes.has(take.id) && (take.simulation || take.files.length > 0))
    .map((take): Known => ({
      key: take.simulation ? take.id : keyOf(take.files),
      name: `Take ${take.number}${take.name === '' ? '' : `: ${take.name}`}`,
      files: take.files,
      take,
    }))
    .reverse();
  const named = new Set(takes.map(({ key }) => key));
  const before = wasOpen(session.id)
    .filter((files) => !named.has(keyOf(files)))
    .map((files): Known => ({
      key: keyOf(files),
      name: files.map(({ name }) => name).join(', '),
      files,
      take: null,
    }));
  return [...takes, ...before].filter(({ key }) => !here.has(key));
}

/** Why a file is not here, with what would bring it. */
const MISSING = {
  gone: 'is not where it was, or this browser may not look for it: show it.',
  changed: 'is another file by now: show the one that was measured.',
  'not allowed': 'may not be read without being allowed to: open it again, and allow it.',
} as const;

/** Opens what is here; of what is not, it says why. @returns what is missing, with words */
async function openKnown(
  session: Session,
  known: Known,
  unasked = false,
): Promise<{ missing: FileReference[]; words: string }> {
  const files: Shown[] = [];
  const missing: FileReference[] = [];
  let words = '';
  for (const reference of known.files) {
    const first = await findRecording(reference);
    const found = first.state === 'not allowed' ? await allowRecording(reference) : first;
    if (found.state === 'here') files.push({ file: found.file, handle: null });
    else {
      missing.push(reference);
      words ||= `${reference.name} ${MISSING[found.state]}`;
    }
  }
  if (missing.length === 0) {
    await openRecordings(session, files, { takeId: known.take?.id ?? null, unasked });
  }
  return { missing, words };
}

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
/** Sessions whose recordings of before were looked for in this page. */
const lookedFor = new Set<string>();

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
    if (lookedFor.has(session.id) || open.length > 0) return;
    lookedFor.add(session.id);
    // What was open before the page was loaded is open again, where nobody has to be asked.
    void (async () => {
      const all = knownOf(session, []);
      const before = new Set(wasOpen(session.id).map(keyOf));
      for (const one of all.filter(({ key }) => before.has(key)).reverse()) {
        const found = await Promise.all(one.files.map(findRecording));
        if (found.every(({ state }) => state === 'here')) await openKnown(session, one, true);
      }
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
