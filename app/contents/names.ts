const HASHED = /^blobs\/([0-9a-f]{64})$/;

/** The hash that a file of an archive stands for; null where it is something else. */
export const hashOfFile = (path: string): string | null => HASHED.exec(path)?.[1] ?? null;
export const pathOfHash = (hash: string): string => `blobs/${hash}`;

/** How the name of a session file in an archive ends. */
export const SESSION_ENDING = '.rotunda.json';

/** The library in an archive of everything: only with it an archive holds more than one session. */
export const LIBRARY_FILE = 'library.json';

/** One file of an archive. */
export interface PackedFile {
  path: string;
  content: Blob | string;
}

/** Whether a file is an archive: told by its first bytes, whatever it is called. */
export async function isArchive(file: Blob): Promise<boolean> {
  const [p, k, one, two] = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  const kind = (one ?? 0) * 256 + (two ?? 0);
  // A file, nothing, or a part of a divided archive.
  return p === 0x50 && k === 0x4b && [0x0304, 0x0506, 0x0708].includes(kind);
}
