import { writeSessionText, type Session } from '../../core/session';
import { notify } from '../view/notices';
import { allowedToLeave } from './ask-own';
import { withContents } from './blobs';

/** A file name that every system takes. */
export function fileName(title: string, ending: string): string {
  const plain = title
    .normalize('NFKD')
    .replaceAll('.', ' ')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .replace(/\s+/g, '-')
    .toLowerCase();
  return `${plain === '' ? 'session' : plain}.${ending}`;
}

/** Hands a file to the browser's downloads. */
export function download(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A session as the text of a file that stands on its own; null where it is not to leave after all. */
async function fileText(session: Session): Promise<string | null> {
  const allowed = await allowedToLeave(session);
  return allowed && textOf(allowed);
}

async function textOf(session: Session): Promise<string> {
  const whole = await withContents(session);
  const missing = whole.blobs.filter(({ data }) => data === null).length;
  if (missing > 0) {
    notify(
      `${missing} of its pictures and sounds are too large for the file, or not here; the archive holds them.`,
    );
  }
  return writeSessionText(whole);
}

export async function exportSession(session: Session): Promise<void> {
  const text = await fileText(session);
  if (text === null) return;
  const blob = new Blob([text], { type: 'application/json' });
  download(fileName(session.title, 'rotunda.json'), blob);
}

/** The session file to the clipboard; where the page may not, to the downloads. */
export async function copySessionFile(session: Session): Promise<void> {
  const text = await fileText(session);
  if (text === null) return;
  try {
    await navigator.clipboard.writeText(text);
    notify('The session file is in the clipboard.');
  } catch {
    download(fileName(session.title, 'rotunda.json'), new Blob([text]));
    notify('The clipboard cannot be used here, so the file went to the downloads.');
  }
}

/** Lets the user choose files; none when they think better of it. */
export function chooseFiles(accept: string): Promise<File[]> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.multiple = true;
    input.accept = accept;
    input.onchange = () => resolve([...(input.files ?? [])]);
    input.oncancel = () => resolve([]);
    input.click();
  });
}

/** Lets the user choose a file; null when they think better of it. */
export function chooseFile(accept: string): Promise<File | null> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.onchange = () => resolve(input.files?.[0] ?? null);
    input.oncancel = () => resolve(null);
    input.click();
  });
}
