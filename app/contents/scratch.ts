/**
 * The browser's private files, only as room for an export on its way to the downloads: what lies there
 * is nobody's, and goes.
 */
const FOLDER = 'exports';
/** A download is read from there for as long. */
const KEPT_MS = 3_600_000;

type Folder = FileSystemDirectoryHandle & { keys(): AsyncIterable<string> };

async function folder(): Promise<Folder | null> {
  try {
    const root = await navigator.storage.getDirectory();
    return await root.getDirectoryHandle(FOLDER, { create: true });
  } catch {
    return null;
  }
}

/** Room for one file; null where the browser has none. */
export async function scratchFile(): Promise<{
  stream: WritableStream;
  file(): Promise<File>;
} | null> {
  const room = await folder();
  if (!room) return null;
  try {
    const handle = await room.getFileHandle(
      `${Date.now()}-${Math.random().toString(36).slice(2)}`,
      {
        create: true,
      },
    );
    return { stream: await handle.createWritable(), file: () => handle.getFile() };
  } catch {
    return null;
  }
}

/** Removes what has lain there for longer than a download takes. */
export async function sweepScratch(now = Date.now()): Promise<void> {
  const room = await folder();
  if (!room) return;
  for await (const name of room.keys()) {
    if (now - Number.parseInt(name, 10) < KEPT_MS) continue;
    await room.removeEntry(name).catch(() => undefined);
  }
}
