import * as z from 'zod';
import type { FileReference } from '../../core/session';
import { fileReference } from '../../core/session/schema-journals';
import { benchOf, benchStore } from './recordings';

/** Which recordings were open in this browser, by session: a page that is loaded again finds them. */

const KEY = 'rotunda-open-recordings';
/** Of so many sessions, the newest first, and so many recordings of each. */
const [SESSIONS, EACH] = [12, 24];

type Remembered = Record<string, FileReference[][]>;

function read(): Remembered {
  try {
    const known: unknown = JSON.parse(localStorage.getItem(KEY) ?? '{}');
    return typeof known === 'object' && known !== null ? (known as Remembered) : {};
  } catch {
    return {};
  }
}

/** Remembers what is open now. */
export function keepOpen(id: string): void {
  const open = benchOf(benchStore.getState().of, id)
    // What was made of the plan is a take, and is made again.
    .open.filter(({ simulation }) => simulation === null)
    .slice(-EACH)
    .map(({ files }) => files.map(({ reference }) => reference));
  const others = Object.entries(read()).filter(([other]) => other !== id);
  try {
    const all = [...(open.length > 0 ? [[id, open] as const] : []), ...others].slice(0, SESSIONS);
    localStorage.setItem(KEY, JSON.stringify(Object.fromEntries(all)));
  } catch {
    // Without it they are opened by hand again.
  }
}

const remembered = z.array(z.array(fileReference)).catch([]);

/** The files of each recording that was open; none where what was remembered cannot be read. */
export const wasOpen = (id: string): FileReference[][] => remembered.parse(read()[id] ?? []);
