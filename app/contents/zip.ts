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

/**
 * The session of an archive, or all of an archive of everything, with the contents that they name;
 * everything else in it is left.
 * @param roomFor on the disk, for large contents
 */
export async function unpackArchive(
  file: Blob,
  step: Step = () => undefined,
  roomFor: RoomFor = () => Promise.resolve(null),
): Promise<Unpacked> {
  const reader = new ZipReader(new BlobReader(file));
  try {
    const entries = (await reader.getEntries()).filter((entry) => !entry.directory);
    const wanted = entries.filter(
      ({ filename }) =>
        filename.endsWith(SESSION_ENDING) ||
        filename === LIBRARY_FILE ||
        hashOfFile(filename) !== null,
    );
    const byName = new Map<string, FileEntry>();
    for (const entry of wanted) {
      const { filename } = entry;
      if (byName.has(filename)) {
        return refused(`two files are called “${filename}”; allowed: one of each name`);
      }
      byName.set(filename, entry);
    }
    const shelf = byName.get(LIBRARY_FILE) ?? null;
    const files = wanted.filter(({ filename }) => filename.endsWith(SESSION_ENDING));
    if (!shelf && files.length !== 1) {
      return refused(
        `${files.length} session files in the archive; allowed: one file that ends in ${SESSION_ENDING}`,
      );
    }
    const texts: Blob[] = [];
    const seen = new Set<string>();
    let bytes = 0;
    for (const entry of shelf ? [shelf, ...files] : files) {
      if (entry.uncompressedSize > MOST_BYTES) {
        return refused(
          `${entry.filename} of ${megabytes(entry.uncompressedSize)}; allowed: up to ${MOST_BYTES / 1e6} MB`,
        );
      }
      bytes += entry.uncompressedSize;
      if (bytes > MOST_UNPACKED) return refused(TOO_MUCH);
      const { file: content } = await contentOf(entry, () => undefined, roomFor);
      texts.push(content);
      for (const hash of (await content.text()).match(HASH) ?? []) seen.add(hash);
      await step(0);
    }
    const open = [...seen];
    const library = shelf ? (texts.shift() ?? null) : null;
    const contents: { hash: string; file: Blob }[] = [];
    const wrong: string[] = [];
    for (let done = 0; done < open.length; done++) {
      const hash = open[done] ?? '';
      const entry = byName.get(pathOfHash(hash));
      if (!entry) continue;
      bytes += entry.uncompressedSize;
      if (bytes > MOST_UNPACKED) return refused(TOO_MUCH);
      const part = (fraction: number) => step((done + fraction) / open.length);
      const content = await contentOf(entry, part, roomFor);
      if (content.hash !== hash) {
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
    return { kind: 'unpacked', sessions: texts, library, contents, wrong };
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
