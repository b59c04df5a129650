import {
  readLibrary,
  readSessionText,
  writeLibrary,
  writeSessionText,
  type Session,
} from '../../core/session';
import { LIBRARY_FILE, SESSION_ENDING, type PackedFile } from '../contents/names';
import type { Unpacked } from '../contents/zip';
import type { Options } from '../workers/run';
import { packArchive } from './archive';
import { contentsOf, takeInHashed } from './blobs';
import { importAsCopy, importText, type ImportResult } from './library';
import { keptPieces, takeInPieces } from './library-store';
import { listSessions, loadSession, rawSession, setArchived } from './storage';

/** Everything of this browser in one archive, and out of it again. */

/** What is packed, and what could not be. */
export interface Packed {
  archive: Blob;
  sessions: number;
  /** sessions that cannot be read: what is stored of them is in the archive as it is */
  damaged: string[];
  /** contents that are named and are not here */
  missing: number;
}

/** All sessions, filed away or not, with what they name, and the library. Deleted ones stay behind. */
export async function packEverything(help: Options = {}): Promise<Packed> {
  const { sessions: listed, failure } = await listSessions();
  if (failure !== null) throw new Error(`The sessions cannot be read: ${failure}.`);
  const kept = listed.filter(({ deletedAt }) => deletedAt === null);
  const files = new Map<string, PackedFile>();
  const put = (file: PackedFile): void => void files.set(file.path, file);
  const damaged: string[] = [];
  let missing = 0;
  for (const { id, title } of kept) {
    help.signal?.throwIfAborted();
    const loaded = await loadSession(id);
    if (loaded.kind === 'found') {
      put({
        path: `sessions/${id}${SESSION_ENDING}`,
        content: new Blob([writeSessionText(loaded.session)]),
      });
      const contents = await contentsOf(loaded.session);
      for (const file of contents.files) put(file);
      missing += contents.missing.length;
    } else if (loaded.kind !== 'missing') {
      const raw = await rawSession(id).catch(() => null);
      put({ path: `damaged/${id}.json`, content: new Blob([JSON.stringify(raw)]) });
      damaged.push(title);
    }
  }
  const archived = kept.filter(({ archivedAt }) => archivedAt !== null).map(({ id }) => id);
  put({ path: LIBRARY_FILE, content: writeLibrary({ pieces: await keptPieces(), archived }) });
  const archive = await packArchive([...files.values()], help);
  return { archive, sessions: kept.length - damaged.length, damaged, missing };
}

const sameContent = (one: Session, other: Session): boolean =>
  writeSessionText({ ...one, updatedAt: '' }) === writeSessionText({ ...other, updatedAt: '' });

const counted = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

type Everything = Omit<Unpacked & { kind: 'unpacked' }, 'kind'> & { library: Blob };

/**
 * Takes in all sessions of an archive and its library. One that is here as it is there is left alone;
 * one that is here otherwise comes beside it. Nothing that is here is written over.
 */
export async function takeInEverything(found: Everything): Promise<ImportResult> {
  const { sessions, library: shelf, contents, wrong, lost, cut } = found;
  const { library, problems } =
    shelf.size === 0
      ? { library: { pieces: [], archived: [] }, problems: [] }
      : readLibrary(await shelf.text());
  // Once for what their contents are, once for themselves: never all of them at once.
  const blobs: Session['blobs'] = [];
  for (const file of sessions) {
    const read = readSessionText(await file.text());
    if (read.ok) blobs.push(...read.session.blobs);
  }
  await takeInHashed(contents, { blobs });
  const archived = new Set(library.archived);
  const counts = {
    fresh: 0,
    same: 0,
    beside: 0,
    bad: lost.filter((path) => path !== LIBRARY_FILE).length,
  };
  for (const file of sessions) {
    const text = await file.text();
    const read = readSessionText(text);
    if (!read.ok) {
      counts.bad += 1;
      continue;
    }
    const result = await importText(text);
    if (result.kind === 'imported') {
      counts.fresh += 1;
      if (archived.has(result.id)) await setArchived(result.id, new Date().toISOString());
    } else if (result.kind === 'clash') {
      const here = await loadSession(result.session.id);
      if (here.kind === 'found' && sameContent(here.session, result.session)) counts.same += 1;
      else {
        await importAsCopy(result.session);
        counts.beside += 1;
      }
    } else counts.bad += 1;
  }
  const pieces = await takeInPieces(library.pieces);
  const said = [
    `${counted(counts.fresh, 'session', 'sessions')} came in`,
    ...(counts.same > 0 ? [`${counts.same} were here already`] : []),
    ...(counts.beside > 0 ? [`${counts.beside} came beside the one that is here`] : []),
    ...(pieces > 0 ? [`${counted(pieces, 'piece', 'pieces')} of the library`] : []),
    ...(counts.bad > 0 ? [`${counts.bad} cannot be read`] : []),
    ...(wrong.length > 0 ? [`${wrong.length} pictures and sounds are damaged`] : []),
    ...(problems.length > 0 ? ['part of the library cannot be read'] : []),
    ...(shelf.size === 0 ? ['the library is not in it any more'] : []),
    ...(cut ? ['the archive is cut off: what is whole in it came in'] : []),
  ];
  return { kind: 'everything', said: `${said.join('; ')}.` };
}
