import {
  matters,
  type JournalEntry,
  type JournalName,
  type LogEntry,
  type Matter,
  type Session,
} from '../../core/session';
import { newId } from './new-id';
import { append, sessionStore } from './session-store';
import type { NewEntry } from './steps';

/** Entries for the journals of the open session; each is saved by itself. */

type Links = 'id' | 'at' | 'strikes' | 'amends';
/** What an entry says, without what every entry has. */
export type Said<E> = E extends unknown
  ? { [K in keyof E as K extends Links ? never : K]: E[K] }
  : never;
type SaidIn<J extends JournalName> = Said<JournalEntry<J>>;
type Blobs = NewEntry['blobs'];

function made<J extends JournalName>(
  said: SaidIn<J>,
  links: { strikes?: string; amends?: string },
): JournalEntry<J> {
  const head = { id: newId(), at: new Date().toISOString(), strikes: '', amends: '', ...links };
  const entry: unknown = { ...said, ...head };
  return entry as JournalEntry<J>;
}

/** @returns the id under which it stands; empty where it was refused, which is said */
function put<J extends JournalName>(journal: J, entry: JournalEntry<J>, blobs?: Blobs): string {
  append({ journal, entry, ...(blobs && { blobs }) } as unknown as NewEntry);
  const entries: readonly { id: string }[] = sessionStore.getState().session?.[journal] ?? [];
  return entries.some(({ id }) => id === entry.id) ? entry.id : '';
}

/**
 * Says something new.
 * @param blobs the contents that it names
 * @returns its id; empty where it was refused, which is said
 */
export const enter = <J extends JournalName>(journal: J, said: SaidIn<J>, blobs?: Blobs): string =>
  put(journal, made(said, {}), blobs);

/** Says an entry anew: the one before stays readable. */
export function amend<J extends JournalName>(
  journal: J,
  id: string,
  change: Partial<SaidIn<J>>,
  blobs?: Blobs,
): string {
  const entries: readonly JournalEntry<J>[] = sessionStore.getState().session?.[journal] ?? [];
  const before = entries.find((entry) => entry.id === id);
  if (!before) return '';
  return put(
    journal,
    made({ ...before, ...change } as unknown as SaidIn<J>, { amends: id }),
    blobs,
  );
}

/**
 * Takes an entry back; both stay on record.
 * @param change what the striking says otherwise than what it strikes
 */
export function strike<J extends JournalName>(
  journal: J,
  id: string,
  change: Partial<SaidIn<J>> = {},
): string {
  const entries: readonly JournalEntry<J>[] = sessionStore.getState().session?.[journal] ?? [];
  const before = entries.find((entry) => entry.id === id);
  if (!before) return '';
  return put(journal, made({ ...before, ...change } as unknown as SaidIn<J>, { strikes: id }));
}

/** Somebody has read a caution. */
export const acknowledge = (code: string, name: string): string =>
  enter('acknowledgements', { code, name });

/** Somebody takes back that it was read. */
export const takeBackReading = (id: string, name: string): string =>
  strike('acknowledgements', id, { name });

type KindOf = LogEntry['kind'];
/** A log by kind: what stands of each matter, with all that was ever said of it. */
export interface LogIndex {
  /** the newest first */
  of<K extends KindOf>(kind: K): readonly Matter<Extract<LogEntry, { kind: K }>>[];
  /** the matter that an entry, in whatever version, belongs to */
  matterOf(id: string): Matter<LogEntry> | null;
}

const indexes = new WeakMap<Session['log'], LogIndex>();

/** The index of a log; the same for the same list. */
export function logIndex(log: Session['log']): LogIndex {
  const known = indexes.get(log);
  if (known) return known;
  const byKind = new Map<string, Matter<LogEntry>[]>();
  const byId = new Map<string, Matter<LogEntry>>();
  for (const matter of matters(log)) {
    for (const { id } of matter.history) byId.set(id, matter);
    const kind = matter.history[0]?.kind ?? '';
    const list = byKind.get(kind) ?? [];
    list.unshift(matter);
    byKind.set(kind, list);
  }
  const index: LogIndex = {
    of: <K extends KindOf>(kind: K) =>
      (byKind.get(kind) ?? []) as unknown as Matter<Extract<LogEntry, { kind: K }>>[],
    matterOf: (id) => byId.get(id) ?? null,
  };
  indexes.set(log, index);
  return index;
}
