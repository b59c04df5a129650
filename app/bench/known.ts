import { standing, type FileReference, type Session, type Take } from '../../core/session';
import { allowRecording, findRecording, type Shown } from '../keeping/recordings';
import { wasOpen } from './kept-open';
import { openRecordings, takeOf } from './opening';
import { benchOf, benchStore, type OpenRecording } from './recordings';

/** A recording that the session knows of and that is not open: of a take, or of before the page was loaded. */
export interface Known {
  key: string;
  name: string;
  files: readonly FileReference[];
  take: Take | null;
}

export const keyOf = (files: readonly FileReference[]): string =>
  files
    .map(({ fingerprint }) => fingerprint)
    .sort()
    .join(' ');

export function knownOf(session: Session, open: readonly OpenRecording[]): Known[] {
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
export async function openKnown(
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

/** Sessions whose recordings of before were looked for in this page. */
const lookedFor = new Set<string>();

/** What was open before the page was loaded is open again, where nobody has to be asked. */
export async function reopen(session: Session): Promise<void> {
  const { open } = benchOf(benchStore.getState().of, session.id);
  if (lookedFor.has(session.id) || open.length > 0) return;
  lookedFor.add(session.id);
  const all = knownOf(session, []);
  const before = new Set(wasOpen(session.id).map(keyOf));
  for (const one of all.filter(({ key }) => before.has(key)).reverse()) {
    const found = await Promise.all(one.files.map(findRecording));
    if (found.every(({ state }) => state === 'here')) await openKnown(session, one, true);
  }
}
