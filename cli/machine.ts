import { open, readFile, rename, rm, stat } from 'node:fs/promises';
import { resolve } from 'node:path';
import type { Machine } from './session-file';

// Relative to where the command was typed, also when a script runner changed folders.
const whole = (file: string): string => resolve(process.env.INIT_CWD ?? process.cwd(), file);

/** A file to be read; a folder has no content, and a pipe may never have one. */
async function readable(file: string): Promise<string> {
  const path = whole(file);
  const found = await stat(path);
  if (found.isDirectory()) throw new Error('it is a folder; allowed: a file');
  if (!found.isFile()) throw new Error('it is a pipe or a device; allowed: a file');
  return path;
}

/** The files of the machine that a command runs on. */
export const machineFiles: Pick<Machine, 'read' | 'open' | 'write'> = {
  read: async (file) => readFile(await readable(file)),
  async open(file) {
    const handle = await open(await readable(file), 'r');
    const { size } = await handle.stat();
    return {
      source: {
        size,
        async read(offset, length, into) {
          const wanted = Math.max(0, Math.min(length, size - offset));
          const bytes = into?.subarray(0, wanted) ?? new Uint8Array(wanted);
          const { bytesRead } = await handle.read(bytes, 0, bytes.length, offset);
          return bytes.subarray(0, bytesRead);
        },
      },
      close: () => handle.close(),
    };
  },
  async write(file, parts) {
    const path = whole(file);
    // A pipe or a device takes what comes; a file is under its name once it is whole.
    const there = await stat(path).catch(() => null);
    const into = there && !there.isFile() ? path : `${path}.part`;
    const handle = await open(into, 'w');
    try {
      for await (const part of parts) await handle.writeFile(part);
      await handle.close();
      if (into !== path) await rename(into, path);
    } catch (error) {
      await handle.close().catch(() => undefined);
      if (into !== path) await rm(into, { force: true });
      throw error;
    }
  },
};
