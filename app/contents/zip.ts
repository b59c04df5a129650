import {
  BlobReader,
  BlobWriter,
  configure,
  TextReader,
  ZipReader,
  ZipWriter,
  type FileEntry,
} from '@zip.js/zip.js';
import { MOST_BYTES } from '../../core/session/size';
import { hashOfFile, LIBRARY_FILE, pathOfHash, SESSION_ENDING, type PackedFile } from './names';
import { hashing } from './hashing';
import { salvagedFiles } from './salvage';

/**
 * Archives, read and written piece by piece, beside the page: of an archive only what its session
 * names is unpacked, and nothing is in memory as a whole.
 */

// The work is beside the page already.
configure({ useWebWorkers: false });

/** What an archive may unpack to, all together, bytes. */
const MOST_UNPACKED = 4_000_000_000;
/** A kept text that names other contents is looked into up to so many bytes. */
const MOST_TEXT = 50_000_000;
/** Pieces of a content are handed to the browser when they are so large together, bytes. */
const PIECE = 2 ** 22;

const HASH = /\b[0-9a-f]{64}\b/g;

/** Told 0 … 1, and waited for; rejects where the work was given up. */
export type Step = (fraction: number) => Promise<void> | void;

export type Unpacked =
  | {
      kind: 'unpacked';
      /** the session files: one, or all of an archive of everything */
      sessions: Blob[];
      /** of an archive of everything */
      library: Blob | null;
      /** what they name and what that names, as far as it is there and is what its hash says */
      contents: { hash: string; file: Blob }[];
      /** hashes whose file is another content */
      wrong: string[];
      /** sessions and library that are in it and cannot be unpacked, by their paths */
      lost: string[];
      /** it was cut off: what is whole is here */
      cut: boolean;
    }
  | { kind: 'refused'; message: string };

const refused = (message: string): Unpacked => ({ kind: 'refused', message });
const TOO_MUCH = `more than ${MOST_UNPACKED / 1e9} GB unpacked; allowed: up to ${MOST_UNPACKED / 1e9} GB`;
const megabytes = (bytes: number): string => `${Math.ceil(bytes / 1e6)} MB`;

/** Room on the disk for one large content. */
export interface Room {
  stream: WritableStream<Uint8Array<ArrayBuffer>>;
  file(): Promise<Blob>;
}
export type RoomFor = () => Promise<Room | null>;

/** From so many bytes on a content goes through the disk: the browser keeps others in memory at first. */
export const LARGE = 2 ** 25;

/** Where the pieces of a content go: to the disk, or together into the browser's memory for files. */
async function sinkFor(bytes: number, roomFor: RoomFor) {
  const room = bytes >= LARGE ? await roomFor() : null;
  if (room) {
    const writer = room.stream.getWriter();
    return {
      write: (chunk: Uint8Array<ArrayBuffer>) => writer.write(chunk),
      drop: () => writer.abort(),
      async end() {
        await writer.close();
        return room.file();
      },
    };
  }
  const parts: Blob[] = [];
  let pieces: BlobPart[] = [];
  let held = 0;
  return {
    write(chunk: Uint8Array<ArrayBuffer>) {
      pieces.push(chunk.slice());
      held += chunk.length;
      if (held < PIECE) return;
      parts.push(new Blob(pieces));
      [pieces, held] = [[], 0];
    },
    drop: () => undefined,
    end: () => new Blob([...parts, ...pieces]),
  };
}

/** An entry's content, hashed as it comes; never more than the archive says of it. */
async function contentOf(
  entry: FileEntry,
  step: Step,
  roomFor: RoomFor,
): Promise<{ file: Blob; hash: string }> {
  const hash = hashing();
  const sink = await sinkFor(entry.uncompressedSize, roomFor);
  let [size, told] = [0, 0];
  try {
    await entry.getData(
      new WritableStream<Uint8Array<ArrayBuffer>>({
        async write(chunk) {
          size += chunk.length;
          if (size > entry.uncompressedSize) throw new Error('it is longer than the archive says');
          hash.add(chunk);
          await sink.write(chunk);
          if (size - told < PIECE) return;
          told = size;
          await step(size / Math.max(1, entry.uncompressedSize));
        },
      }),
      // A figure that changed on the disk is not taken for the one that was written.
      { checkSignature: true },
    );
    return { file: await sink.end(), hash: hash.hex() };
  } catch (error) {
    await sink.drop();
    throw error;
  }
}

/** What a text names, where it is one of ours. */
async function namedIn(file: Blob): Promise<string[]> {
  if (file.size > MOST_TEXT || (await file.slice(0, 1).text()) !== '{') return [];
  return (await file.text()).match(HASH) ?? [];
}

/** A file of an archive that can be unpacked. */
interface Entry {
  filename: string;
  bytes: number;
  read: (step: Step, roomFor: RoomFor) => Promise<{ file: Blob; hash: string }>;
}

const isWanted = (name: string): boolean =>
  name.endsWith(SESSION_ENDING) || name === LIBRARY_FILE || hashOfFile(name) !== null;

async function hashOf(file: Blob): Promise<string> {
  const hash = hashing();
  for (let at = 0; at < file.size; at += PIECE) {
    hash.add(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  }
  return hash.hex();
}

/** The files of an archive by its table; where that was cut off, as far as they are found. */
async function entriesOf(
  file: Blob,
  reader: ZipReader<Blob>,
  step: Step,
): Promise<{ entries: Entry[]; cut: boolean }> {
  let listed: FileEntry[];
  try {
    listed = (await reader.getEntries()).filter((entry): entry is FileEntry => !entry.directory);
  } catch (error) {
    const files = await salvagedFiles(file, isWanted, MOST_UNPACKED, step);
    if (files.size === 0) throw error;
    return {
      cut: true,
      entries: [...files].map(([filename, content]) => ({
        filename,
        bytes: content.size,
        read: async () => ({ file: content, hash: await hashOf(content) }),
      })),
    };
  }
  return {
    cut: false,
    entries: listed
      .filter(({ filename }) => isWanted(filename))
      .map((entry) => ({
        filename: entry.filename,
        bytes: entry.uncompressedSize,
        read: (told, roomFor) => contentOf(entry, told, roomFor),
      })),
  };
}

/** A file that cannot be unpacked takes no other with it; a task that was given up ends. */
async function readOr<T>(entry: Entry, step: Step, roomFor: RoomFor, bad: T) {
  // What is told while it is read may end the task: only what the file itself does is caught.
  let stopped: { error: unknown } | null = null;
  const told: Step = async (fraction) => {
    try {
      await step(fraction);
    } catch (error) {
      stopped = { error };
      throw error;
    }
  };
  try {
    return await entry.read(told, roomFor);
  } catch {
    const end = stopped as { error: unknown } | null;
    if (end) throw end.error;
    return bad;
  }
}

type Table = ReadonlyMap<string, Entry>;

/** Contents that are named, and what those name. */
async function contentsNamed(
  byName: Table,
  seen: Set<string>,
  before: number,
  step: Step,
  roomFor: RoomFor,
): Promise<{ contents: { hash: string; file: Blob }[]; wrong: string[] } | null> {
  const open = [...seen];
  const contents: { hash: string; file: Blob }[] = [];
  const wrong: string[] = [];
  let bytes = before;
  for (let done = 0; done < open.length; done++) {
    const hash = open[done] ?? '';
    const entry = byName.get(pathOfHash(hash));
    if (!entry) continue;
    bytes += entry.bytes;
    if (bytes > MOST_UNPACKED) return null;
    const part = (fraction: number) => step((done + fraction) / open.length);
    const content = await readOr(entry, part, roomFor, null);
    if (content?.hash !== hash) {
      wrong.push(hash);
      continue;
    }
    contents.push({ hash, file: content.file });
    for (const named of await namedIn(content.file)) {
      if (seen.has(named)) continue;
      seen.add(named);
      open.push(named);
    }
  }
  return { contents, wrong };
}

/** Where the sessions of an archive of everything are. */
const OF_EVERYTHING = 'sessions/';

/**
 * The session of an archive, or all of an archive of everything, with the contents that they name;
 * everything else in it is left. Of one that was cut off, or in which files are damaged, what is whole.
 * @param roomFor on the disk, for large contents
 */
export async function unpackArchive(
  file: Blob,
  step: Step = () => undefined,
  roomFor: RoomFor = () => Promise.resolve(null),
): Promise<Unpacked> {
  const reader = new ZipReader(new BlobReader(file));
  try {
    const { entries, cut } = await entriesOf(file, reader, step);
    const byName = new Map<string, Entry>();
    for (const entry of entries) {
      const { filename } = entry;
      if (byName.has(filename)) {
        return refused(`two files are called “${filename}”; allowed: one of each name`);
      }
      byName.set(filename, entry);
    }
    const shelf = byName.get(LIBRARY_FILE) ?? null;
    const files = entries.filter(({ filename }) => filename.endsWith(SESSION_ENDING));
    const all =
      shelf !== null || (cut && files.some(({ filename }) => filename.startsWith(OF_EVERYTHING)));
    if (!all && files.length !== 1) {
      return refused(
        `${files.length} session files in the archive; allowed: one file that ends in ${SESSION_ENDING}`,
      );
    }
    const texts: Blob[] = [];
    const lost: string[] = [];
    let library: Blob | null = null;
    const seen = new Set<string>();
    let bytes = 0;
    for (const entry of shelf ? [shelf, ...files] : files) {
      if (entry.bytes > MOST_BYTES) {
        return refused(
          `${entry.filename} of ${megabytes(entry.bytes)}; allowed: up to ${MOST_BYTES / 1e6} MB`,
        );
      }
      bytes += entry.bytes;
      if (bytes > MOST_UNPACKED) return refused(TOO_MUCH);
      const read = await readOr(entry, () => undefined, roomFor, null);
      await step(0);
      if (!read) {
        lost.push(entry.filename);
        continue;
      }
      if (entry === shelf) library = read.file;
      else texts.push(read.file);
      for (const hash of (await read.file.text()).match(HASH) ?? []) seen.add(hash);
    }
    if (!all && texts.length === 0) return refused(`${lost.join(', ')} in it cannot be unpacked`);
    const named = await contentsNamed(byName, seen, bytes, step, roomFor);
    if (!named) return refused(TOO_MUCH);
    return {
      kind: 'unpacked',
      sessions: texts,
      // Of an archive of everything the library may be what was lost.
      library: all ? (library ?? new Blob([])) : null,
      ...named,
      lost,
      cut,
    };
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return refused(`not an archive that can be unpacked (${reason}); allowed: a zip file`);
  } finally {
    await reader.close().catch(() => undefined);
  }
}

/**
 * Writes an archive, one file after the other: large archives in the form for large ones.
 * @param out where it goes; into the browser's memory for files where it is left out
 */
export async function packFiles(
  files: readonly PackedFile[],
  out: WritableStream | null,
  step: Step = () => undefined,
): Promise<Blob | null> {
  const blob = out === null ? new BlobWriter('application/zip') : null;
  const writer = new ZipWriter(blob ?? (out as WritableStream));
  try {
    await addAll(writer, files, step);
    await writer.close();
  } catch (error) {
    await out?.abort(error).catch(() => undefined);
    throw error;
  }
  return blob ? blob.getData() : null;
}

async function addAll(
  writer: ZipWriter<unknown>,
  files: readonly PackedFile[],
  step: Step,
): Promise<void> {
  for (const [done, { path, content }] of files.entries()) {
    if (typeof content === 'string') await writer.add(path, new TextReader(content));
    else {
      // Pictures and recordings are packed already, or do not become smaller.
      await writer.add(path, new BlobReader(content), {
        level: 0,
        onprogress: async (at: number, of: number) => {
          await step((done + at / Math.max(1, of)) / files.length);
          return undefined;
        },
      });
    }
    await step((done + 1) / files.length);
  }
}
