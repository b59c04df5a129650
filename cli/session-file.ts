import { readSessionText, type Session } from '../core/session';

export type ReadText = (file: string) => string;

/** A session from a file, or the problems as lines: file, path inside it, what, what is allowed. */
export function loadSession(
  file: string,
  readText: ReadText,
): { session: Session } | { errors: string[] } {
  let text: string;
  try {
    text = readText(file);
  } catch (error) {
    return { errors: [`${file}: cannot be read (${(error as Error).message})`] };
  }
  const read = readSessionText(text);
  if (read.ok) return { session: read.session };
  return {
    errors: read.problems.map(({ path, message }) =>
      path === '' ? `${file}: ${message}` : `${file}: ${path}: ${message}`,
    ),
  };
}
