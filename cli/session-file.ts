import type { ByteSource } from '../core/audio';
import { readSessionText, type Session } from '../core/session';
import { isPdf, sessionInside } from '../paper/attached-session';

/** What a command needs of the machine that it runs on. */
export interface Machine {
  /** the bytes of a file, whatever they are */
  read(file: string): Promise<Uint8Array>;
  /** a file to be read in slices */
  open(file: string): Promise<{ source: ByteSource; close: () => Promise<void> }>;
  /** writes a file, part after part */
  write(file: string, parts: Iterable<Uint8Array> | AsyncIterable<Uint8Array>): Promise<void>;
  /** how far something long has come, 0 … 1 */
  progress(what: string, fraction: number): void;
}

/** A session from a file, or the problems as lines: file, path inside it, what, what is allowed. */
export async function loadSession(
  file: string,
  machine: Machine,
): Promise<{ session: Session; ownMissing?: true } | { errors: string[] }> {
  let text: string;
  try {
    const bytes = await machine.read(file);
    if (isPdf(bytes)) {
      const inside = await sessionInside(bytes);
      if (!inside.ok) return { errors: [`${file}: ${inside.message}`] };
      text = inside.text;
    } else text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch (error) {
    const reason =
      error instanceof TypeError
        ? 'not UTF-8 text; allowed: a session file'
        : (error as Error).message;
    return { errors: [`${file}: cannot be read (${reason})`] };
  }
  const read = readSessionText(text);
  if (read.ok) return { session: read.session, ...(read.ownMissing && { ownMissing: true }) };
  return {
    errors: read.problems.map(({ path, message }) =>
      path === '' ? `${file}: ${message}` : `${file}: ${path}: ${message}`,
    ),
  };
}
