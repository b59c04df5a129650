import type { Sink } from '../../core/audio/process/exported';
import { blobSource } from '../../core/audio/wav/bytes';
import { scratchFile } from '../contents/scratch';

/** Where an export goes, piece by piece. */
export interface FileSink extends Sink {
  /** for a download; null where it lies where the user wanted it */
  blob(): Promise<Blob | null>;
}

/** A full disk in words of ours. @throws Error that says so, or what it was */
function saidFull(error: unknown): never {
  if (error instanceof DOMException && error.name === 'QuotaExceededError') {
    throw new Error('there is no room left for it; nothing of it was kept');
  }
  throw error;
}

/** A file that the user picked, with what newer browsers have. */
export type PickedFile = FileSystemFileHandle & { remove?: () => Promise<void> };

/** Straight into a file that the user picked: what was in it stays until all of the new one is there. */
export async function pickedSink(handle: PickedFile): Promise<FileSink> {
  const writer = await handle.createWritable();
  let closed = false;
  return {
    write: (part) => writer.write(part as Uint8Array<ArrayBuffer>).catch(saidFull),
    async close() {
      await writer.close().catch(saidFull);
      closed = true;
    },
    async abort() {
      if (!closed) await writer.abort().catch(() => undefined);
      // Picking made an empty file where there was none.
      const left = await handle.getFile().catch(() => null);
      if (closed || left?.size === 0) await handle.remove?.().catch(() => undefined);
    },
    source: async () => blobSource(await handle.getFile()),
    blob: () => Promise.resolve(null),
  };
}

/** Into the browser's private files, or into memory where it has none, on its way to the downloads. */
export async function downloadSink(): Promise<FileSink> {
  const room = await scratchFile();
  if (!room) {
    const pieces: Blob[] = [];
    const whole = (): Blob => new Blob(pieces, { type: 'audio/wav' });
    return {
      write(part) {
        pieces.push(new Blob([part as Uint8Array<ArrayBuffer>]));
        return Promise.resolve();
      },
      close: () => Promise.resolve(),
      abort() {
        pieces.length = 0;
        return Promise.resolve();
      },
      source: () => Promise.resolve(blobSource(whole())),
      blob: () => Promise.resolve(whole()),
    };
  }
  const writer = room.stream.getWriter() as WritableStreamDefaultWriter<Uint8Array>;
  return {
    write: (part) => writer.write(part).catch(saidFull),
    close: () => writer.close().catch(saidFull),
    abort: () => writer.abort().catch(() => undefined),
    source: async () => blobSource(await room.file()),
    blob: () => room.file(),
  };
}
