import { freeName } from '../session/names';
import type { Source } from '../session/schema';
import { instrumentOf } from './instruments';

type Named = Pick<Source, 'id' | 'name' | 'group' | 'kind'>;

/** A number or a part at the end: "Violin 2", "Violin II". */
const NUMBER = /\s+(\d+|[ivx]+)$/i;
const bare = (name: string): string => name.trim().replace(NUMBER, '').toLowerCase();

/** "violin" and "violins", "bass" and "basses", "cello" and "celli" */
function wordsOf(kind: string): ReadonlySet<string> {
  const instrument = instrumentOf(kind);
  const words = [kind, instrument?.name ?? ''].map((word) => word.trim().toLowerCase());
  return new Set(
    words.flatMap((word) =>
      word === ''
        ? []
        : [word, `${word}s`, `${word}es`, ...(word.endsWith('o') ? [`${word.slice(0, -1)}i`] : [])],
    ),
  );
}

/**
 * Whether a player has a name that somebody gave it: not that of its instrument or section, and no
 * number.
 */
export function hasOwnName({ name, group, kind }: Omit<Named, 'id'>): boolean {
  const words = bare(name);
  if (words === '' || words === 'player' || NUMBER.test(name.trim())) return false;
  const section = bare(group);
  return ![words, `${words}s`].includes(section) && !wordsOf(kind).has(words);
}

/**
 * Name and section of a player whose instrument becomes another one. A name that somebody gave
 * stays; one that is the old instrument's, or a number alone, follows, and so does a section that
 * was named after the instrument: to that of others who play the new one, else to none.
 * @param kind the new instrument
 * @param sources all players, he among them
 * @returns what changes of them; empty for an instrument that the catalogue does not know
 */
export function renamedFor(
  source: Named,
  kind: string,
  sources: readonly Named[],
): Partial<Pick<Source, 'name' | 'group'>> {
  const instrument = instrumentOf(kind);
  if (!instrument) return {};
  const old = wordsOf(source.kind);
  const isOld = (name: string): boolean => bare(name) === 'player' || old.has(bare(name));
  const others = sources.filter(({ id }) => id !== source.id);
  const alike = others.filter((other) => instrumentOf(other.kind) === instrument);
  const change: Partial<Pick<Source, 'name' | 'group'>> = {};
  if (isOld(source.name)) {
    change.name = freeName(instrument.name, new Set(others.map(({ name }) => name)));
  }
  if (source.group !== '' && isOld(source.group)) {
    change.group = alike.find(({ group }) => group !== '')?.group ?? '';
  }
  return change;
}
