import type { FileReference } from '../../core/session';
import { run, type Options } from '../workers/run';
import type { OpenedRecording } from '../workers/tasks';
import { tableNamed } from './database';
import { chooseFiles } from './files';

/**
 * Recordings stay where they are: a session names them, and here is how each is found again. A file
 * that is not here is a state, never an error.
 */
export type Found =
  | { state: 'here'; file: File }
  /** the browser may not read it without being allowed to again */
  | { state: 'not allowed' }
  /** there is a file of its name, and it is another one by now */
  | { state: 'changed' }
  | { state: 'gone' };

/** What the browser gives for a file that may be read again later, as far as it is needed here. */
export interface FileHandle {
  readonly kind: string;
  readonly name: string;
  getFile(): Promise<File>;
  queryPermission?(): Promise<PermissionState>;
  requestPermission?(): Promise<PermissionState>;
}

/** Handles by the fingerprint of their file: where the browser has them. */
const handles = tableNamed<FileHandle>('recordings');
/** Files that were shown in this page, by fingerprint. */
const shown = new Map<string, File>();

/** What a recording is, so that it is known again; asked of a worker. */
async function asked(file: File, help: Options): Promise<OpenedRecording> {
  if (typeof Worker !== 'undefined') return run('opened', { file }, help);
  return (await import('../workers/recordings')).openedRecording(file);
}

/** A recording as a session names it. */
export interface Referred extends OpenedRecording {
  reference: FileReference;
}

/**
 * Takes a recording in: from now on it is here.
 * @param handle where the browser gave one: it is found again after the page was closed
 * @throws where it is no recording that can be read
 */
export async function referTo(
  file: File,
  handle: FileHandle | null = null,
  help: Options = {},
): Promise<Referred> {
  const opened = await asked(file, help);
  const { fingerprint, info } = opened;
  await remember(fingerprint, file, handle);
  return {
    ...opened,
    reference: {
      name: file.name.slice(0, 500),
      bytes: file.size,
      modified: new Date(file.lastModified).toISOString(),
      fingerprint,
      sampleRateHz: info.format.sampleRateHz,
      channels: Array.from({ length: info.format.channels }, () => null),
    },
  };
}

async function remember(fingerprint: string, file: File, handle: FileHandle | null): Promise<void> {
  shown.set(fingerprint, file);
  // Without it the file is asked for again, which is said then.
  if (handle) await handles.set(fingerprint, handle).catch(() => undefined);
}

const isSameFile = (file: File, { bytes, modified }: FileReference): boolean =>
  file.size === bytes && new Date(file.lastModified).toISOString() === modified;

/** How a recording stands just now. Nobody is asked for anything. */
export async function findRecording(reference: FileReference): Promise<Found> {
  const { fingerprint } = reference;
  const known = shown.get(fingerprint);
  // A file that was changed or moved since it was shown cannot be read any more.
  if (known && (await isReadable(known))) return { state: 'here', file: known };
  shown.delete(fingerprint);
  const handle = await handles.get(fingerprint).catch(() => null);
  if (!handle) return { state: 'gone' };
  try {
    if (((await handle.queryPermission?.()) ?? 'granted') !== 'granted') {
      return { state: 'not allowed' };
    }
    return await taken(reference, await handle.getFile());
  } catch {
    return { state: 'gone' };
  }
}

async function isReadable(file: File): Promise<boolean> {
  try {
    await file.slice(0, 1).arrayBuffer();
    return true;
  } catch {
    return false;
  }
}

/** A file that may be the one: by its size and time, else by what is in it. */
async function taken(reference: FileReference, file: File): Promise<Found> {
  const { fingerprint } = reference;
  const same =
    isSameFile(file, reference) ||
    (file.size === reference.bytes && (await fingerprintOfFile(file)) === fingerprint);
  if (!same) return { state: 'changed' };
  shown.set(fingerprint, file);
  return { state: 'here', file };
}

async function fingerprintOfFile(file: File): Promise<string | null> {
  try {
    return (await asked(file, {})).fingerprint;
  } catch {
    return null;
  }
}

/** Asks the user to allow it again: for a click. */
export async function allowRecording(reference: FileReference): Promise<Found> {
  const handle = await handles.get(reference.fingerprint).catch(() => null);
  if (!handle) return { state: 'gone' };
  try {
    const answer = (await handle.requestPermission?.()) ?? 'granted';
    return answer === 'granted'
      ? await taken(reference, await handle.getFile())
      : { state: 'not allowed' };
  } catch {
    return { state: 'gone' };
  }
}

/** A file that somebody shows, with its handle where there is one. */
export interface Shown {
  file: File;
  handle: FileHandle | null;
}

/**
 * Finds recordings again among files that were shown: one, or all of a folder. Only files of a size that
 * is looked for are read, and none but by its fingerprint is one of them, whatever it is called.
 * @returns fingerprints that were found, and the references that were not
 */
export async function relink(
  references: readonly FileReference[],
  files: Iterable<Shown> | AsyncIterable<Shown>,
  { signal, onProgress }: Options = {},
): Promise<{ found: Set<string>; missing: FileReference[] }> {
  const sizes = new Set(references.map(({ bytes }) => bytes));
  const wanted = new Set(references.map(({ fingerprint }) => fingerprint));
  const found = new Set<string>();
  for await (const { file, handle } of files) {
    signal?.throwIfAborted();
    if (!sizes.has(file.size)) continue;
    const fingerprint = await fingerprintOfFile(file);
    if (fingerprint === null || !wanted.has(fingerprint)) continue;
    await remember(fingerprint, file, handle);
    found.add(fingerprint);
    onProgress?.(found.size / wanted.size);
    if (found.size === wanted.size) break;
  }
  return { found, missing: references.filter(({ fingerprint }) => !found.has(fingerprint)) };
}

/** What the browser offers for choosing files that can be read again later. */
interface Picking {
  showOpenFilePicker?: (options: { multiple: boolean }) => Promise<FileHandle[]>;
  showDirectoryPicker?: () => Promise<FolderHandle>;
  showSaveFilePicker?: (options: {
    suggestedName: string;
    types: { description: string; accept: Record<string, string[]> }[];
  }) => Promise<FileSystemFileHandle>;
}
const picking = (): Picking => globalThis as Picking;

/** Lets the user choose recordings, with handles where the browser has them; none when they think better of it. */
export async function chooseRecordings(accept: string): Promise<Shown[]> {
  const { showOpenFilePicker } = picking();
  if (!showOpenFilePicker) {
    return (await chooseFiles(accept)).map((file) => ({ file, handle: null }));
  }
  try {
    const chosen = await showOpenFilePicker.call(globalThis, { multiple: true });
    return await Promise.all(
      chosen.map(async (handle) => ({ file: await handle.getFile(), handle })),
    );
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return [];
    throw error;
  }
}

/**
 * Lets the user say where a sound file goes.
 * @returns null where the browser cannot ask, so that it goes to the downloads; 'none' where they thought
 * better of it
 */
export async function pickedFile(
  suggestedName: string,
): Promise<FileSystemFileHandle | null | 'none'> {
  const { showSaveFilePicker } = picking();
  if (!showSaveFilePicker) return null;
  try {
    const types = [{ description: 'WAV', accept: { 'audio/wav': ['.wav'] } }];
    return await showSaveFilePicker.call(globalThis, { suggestedName, types });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return 'none';
    throw error;
  }
}

/** Whether a whole folder can be shown. */
export const canShowFolder = (): boolean => picking().showDirectoryPicker !== undefined;

/** Lets the user show a folder; null when they think better of it. */
export async function chooseFolder(): Promise<AsyncIterable<Shown> | null> {
  try {
    const folder = await picking().showDirectoryPicker?.();
    return folder ? filesIn(folder) : null;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw error;
  }
}

/** What of a folder may be a recording. */
const RECORDING = /\.(wav|wave|rf64|bw64|bwf|flac)$/i;

/** What a drop holds, with handles where the browser gives them: asked for before anything is waited for. Of a folder, the recordings in it. */
export async function droppedRecordings(items: DataTransferItemList): Promise<Shown[]> {
  const asked = [...items].flatMap((item) => {
    const file = item.kind === 'file' ? item.getAsFile() : null;
    const { getAsFileSystemHandle } = item as {
      getAsFileSystemHandle?: () => Promise<FileHandle | FolderHandle>;
    };
    if (item.kind !== 'file') return [];
    const handle = getAsFileSystemHandle?.call(item) ?? Promise.resolve(null);
    return [{ file, handle: handle.catch(() => null) }];
  });
  const found: Shown[] = [];
  for (const { file, handle } of asked) {
    const of = await handle;
    if (of && 'values' in of) {
      for await (const one of filesIn(of)) if (RECORDING.test(one.file.name)) found.push(one);
    } else if (file) found.push({ file, handle: of });
  }
  return found;
}

/** A folder as the browser gives it. */
interface FolderHandle {
  readonly kind: string;
  values(): AsyncIterable<FileHandle | FolderHandle>;
}

/** Folders within folders are looked into so deeply. */
const DEEPEST = 8;

/** All files of a folder, and of those in it. */
export async function* filesIn(folder: FolderHandle, depth = 0): AsyncGenerator<Shown> {
  for await (const entry of folder.values()) {
    if ('values' in entry) {
      if (depth < DEEPEST) yield* filesIn(entry, depth + 1);
    } else {
      yield { file: await entry.getFile(), handle: entry };
    }
  }
}

/** So many handles may be kept of which nobody knows: they are small, and looking for them is not. */
const MOST_HANDLES = 200;

/**
 * Lets the handles of recordings go that nothing names any more, where they have become many.
 * @param everything all that anything stored names, piece by piece
 */
export async function sweepRecordings(
  everything: () => AsyncIterable<readonly string[]>,
  most = MOST_HANDLES,
): Promise<number> {
  const keys = await handles.keys();
  if (keys.length <= most) return 0;
  const unknown = new Set(keys.filter((fingerprint) => !shown.has(fingerprint)));
  for await (const named of everything()) for (const hash of named) unknown.delete(hash);
  for (const fingerprint of unknown) await handles.remove(fingerprint);
  return unknown.size;
}
