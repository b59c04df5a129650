import { matters, type Matter } from '../session/journals';
import type { LogEntry, Session, Take } from '../session/schema';
import { letterOf } from './slate';

/** The diary of a soundcheck as it stands: read from the journals of a session. */

export type OptionEntry = Extract<LogEntry, { kind: 'option' }>;

/** An option of the diary as it stands. */
export interface Option {
  /** of its first entry: the same whatever was said anew */
  key: string;
  /** A, B …: its own for good, whatever is struck */
  letter: string;
  entry: OptionEntry;
  history: readonly OptionEntry[];
}

const known = new WeakMap<Session['log'], Matter<LogEntry>[]>();

/** Matters of a log, the oldest first; read once for a list. */
function mattersOf(log: Session['log']): Matter<LogEntry>[] {
  const found = known.get(log) ?? matters(log);
  known.set(log, found);
  return found;
}

/** All matters of one kind, the oldest first, struck ones among them. */
export const ofKind = <K extends LogEntry['kind']>(
  { log }: Pick<Session, 'log'>,
  kind: K,
): Matter<Extract<LogEntry, { kind: K }>>[] =>
  mattersOf(log).filter(({ history }) => history[0]?.kind === kind) as unknown as Matter<
    Extract<LogEntry, { kind: K }>
  >[];

/** All options in the order in which they were made; struck ones are left out, and keep their letter. */
export const optionsOf = (session: Pick<Session, 'log'>): Option[] =>
  ofKind(session, 'option').flatMap(({ standing, history }, place): Option[] => {
    const [first] = history;
    return standing && first
      ? [{ key: first.id, letter: letterOf(place), entry: standing, history }]
      : [];
  });

/** The letter that the next option has. */
export const nextLetter = (session: Pick<Session, 'log'>): string =>
  letterOf(ofKind(session, 'option').length);

/** "Option C: closer" */
export const optionName = ({ letter, entry: { name } }: Option): string =>
  name === '' ? `Option ${letter}` : `Option ${letter}: ${name}`;

/** A take as it stands, with all that was ever said of it. */
export interface TakeMatter {
  key: string;
  take: Take;
  history: readonly Take[];
}

/** All takes, in the order in which they were entered; struck ones are left out. */
export const takesOf = ({ takes }: Pick<Session, 'takes'>): TakeMatter[] =>
  matters(takes).flatMap(({ standing, history }): TakeMatter[] => {
    const [first] = history;
    return standing && first ? [{ key: first.id, take: standing, history }] : [];
  });

/** An option by any of its versions; null where there is none. */
export const optionById = (options: readonly Option[], id: string): Option | null =>
  (id !== '' && options.find(({ history }) => history.some((entry) => entry.id === id))) || null;

/**
 * The option that one is held against: the one that it was made from, else the one before it.
 * @param place of the option, from 0, 0 … 9,999
 * @returns null for the first
 */
export function heldAgainst(options: readonly Option[], place: number): Option | null {
  const own = options[place];
  const from = own ? optionById(options, own.entry.from) : null;
  return (from && from.key !== own?.key ? from : options[place - 1]) ?? null;
}

/** The option that a take was made with, in whatever version it names it; null without one. */
export const optionOfTake = (options: readonly Option[], { option }: Take): Option | null =>
  optionById(options, option);
