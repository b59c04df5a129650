import localforage from 'localforage';
import { createStore } from 'zustand/vanilla';

/**
 * The browser's database, and nothing in its place: where it is missing or fails, that is said,
 * and what is made lives in the page until it can be stored.
 */

export type Health = { kind: 'working' } | { kind: 'failing'; message: string };

const healthStore = createStore<{ health: Health }>(() => ({
  health: { kind: 'working' },
}));

/** What is read is waited for so long, and what is written, ms: large contents take a while. */
const [READ_MS, WRITE_MS] = [3000, 10_000];
/** The slowest disk that is waited for, bytes a millisecond. */
const SLOWEST = 2000;
/** A database that gave no answer is not waited for as long again. */
const [SILENT_MS, HEARD_MS] = [200, 100];
let silent = false;

/** A failure in words that a user can do something with. */
export function reasonOf(error: unknown): string {
  if (typeof indexedDB === 'undefined') return 'this browser gives the page no database';
  if (isFull(error)) return 'the browser’s storage is full';
  return messageOf(error);
}

/** Not every exception of a browser is an Error. */
function messageOf(error: unknown): string {
  const { name = '', message = '' } = (error ?? {}) as { name?: string; message?: string };
  return message || name || String(error);
}

export function isFull(error: unknown): boolean {
  const { name = '' } = (error ?? {}) as { name?: string };
  return /quota/i.test(name + messageOf(error));
}

/** Waits for the database, but not for ever; what it says of the whole tells its health. */
async function answered<T>(work: Promise<T>, longestMs: number, tells: boolean): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const silence = new Promise<never>((_, reject) => {
    const say = (): void => {
      silent = true;
      reject(new Error('it does not answer'));
    };
    // After a page that was busy for as long, an answer that lies there is heard first.
    timer = setTimeout(() => (timer = setTimeout(say, HEARD_MS)), silent ? SILENT_MS : longestMs);
  });
  // An answer that comes late is one: the next question is waited for again.
  void work.then(
    () => (silent = false),
    () => (silent = false),
  );
  try {
    const result = await Promise.race([work, silence]);
    if (tells) healthStore.setState({ health: { kind: 'working' } });
    return result;
  } catch (error) {
    if (tells) healthStore.setState({ health: { kind: 'failing', message: reasonOf(error) } });
    throw error;
  } finally {
    clearTimeout(timer);
  }
}

let makeRoom: () => Promise<boolean> = () => Promise.resolve(false);

/** What can be made again is let go of first when the browser's storage is full. */
export function makeRoomBy(work: () => Promise<boolean>): void {
  makeRoom = work;
}

/** Writes; where the storage is full, once more after room was made. */
async function withRoom<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!isFull(error) || !(await makeRoom().catch(() => false))) throw error;
    return write();
  }
}

/** One table of the database, by key. Every call may reject; none falls back to another store. */
export interface Table<T> {
  get(key: string): Promise<T | null>;
  /** @param bytes of a large value, which is waited for longer */
  set(key: string, value: T, bytes?: number): Promise<void>;
  remove(key: string): Promise<void>;
  keys(): Promise<string[]>;
}

export function tableNamed<T>(storeName: string): Table<T> {
  const instance = localforage.createInstance({
    name: 'rotunda',
    storeName,
    driver: localforage.INDEXEDDB,
  });
  return {
    get: (key) => answered(instance.getItem<T>(key), READ_MS, false),
    set: (key, value, bytes = 0) =>
      answered(
        withRoom(() => instance.setItem(key, value)),
        WRITE_MS + bytes / SLOWEST,
        true,
      ).then(() => undefined),
    remove: (key) => answered(instance.removeItem(key), WRITE_MS, true),
    keys: () => answered(instance.keys(), READ_MS, true),
  };
}
