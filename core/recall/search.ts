import MiniSearch from 'minisearch';
import { isWithin, type FoundDocument, type FoundKind, type Narrowed } from './documents';
import { plainName, searchWords } from './words';

/** Finds in everything that was ever said, as one types; typing errors are forgiven. */

export interface Hit {
  doc: FoundDocument;
  /** why it was found: the words of it that matched */
  words: string[];
}

export interface Found {
  /** the best first; without words the newest first */
  hits: Hit[];
  /** how many there are in all */
  count: number;
}

/** What a search can be narrowed to, as it occurs. */
export interface Facets {
  kinds: FoundKind[];
  halls: string[];
  instruments: string[];
  arrays: string[];
}

/** Of a word so many letters may be wrong, as a part of its length; short words must be right. */
const FUZZY = 0.2;
const SHORT = 3;

/** By how many letters a typed word may be off. */
export const mayBeOff = (word: string): number =>
  word.length <= SHORT ? 0 : Math.round(FUZZY * word.length);

const byName = (a: string, b: string): number => a.localeCompare(b);

export class SearchIndex {
  readonly #bySession = new Map<string, FoundDocument[]>();
  readonly #docs = new Map<string, FoundDocument>();
  readonly #index = new MiniSearch<FoundDocument>({
    fields: ['title', 'text', 'hall', 'sessionTitle', 'kind', 'at'],
    extractField: (doc, name) => {
      const value = doc[name as keyof FoundDocument];
      if (name === 'at') return doc.at.slice(0, 10);
      return Array.isArray(value) ? value.join(' ') : String(value ?? '');
    },
    tokenize: searchWords,
    // Words are plain already.
    processTerm: (word) => word,
  });

  /** Puts in what a session, or the library, holds; what it held before goes. @param owner an id */
  put(owner: string, docs: readonly FoundDocument[]): void {
    this.remove(owner);
    this.#bySession.set(owner, [...docs]);
    for (const doc of docs) this.#docs.set(doc.id, doc);
    this.#index.addAll(docs);
  }

  remove(owner: string): void {
    for (const doc of this.#bySession.get(owner) ?? []) {
      this.#docs.delete(doc.id);
      this.#index.discard(doc.id);
    }
    this.#bySession.delete(owner);
  }

  get owners(): string[] {
    return [...this.#bySession.keys()];
  }

  get size(): number {
    return this.#docs.size;
  }

  /**
   * What has all words of a query, each of them whole, begun, or nearly so.
   * @param most of the hits that are given back, 1 … 10,000
   */
  search(query: string, narrowed: Narrowed, most = 100): Found {
    if (searchWords(query).length === 0) {
      const within = [...this.#docs.values()]
        .filter((doc) => isWithin(doc, narrowed))
        .sort((a, b) => b.at.localeCompare(a.at) || byName(a.id, b.id));
      return {
        hits: within.slice(0, most).map((doc) => ({ doc, words: [] })),
        count: within.length,
      };
    }
    const found = this.#index.search(query, {
      combineWith: 'AND',
      prefix: true,
      fuzzy: (word) => mayBeOff(word),
      boost: { title: 3, hall: 2 },
      weights: { fuzzy: 0.3, prefix: 0.6 },
      filter: ({ id }) => {
        const doc = this.#docs.get(id as string);
        return doc !== undefined && isWithin(doc, narrowed);
      },
    });
    const hits = found.slice(0, most).flatMap(({ id, terms }): Hit[] => {
      const doc = this.#docs.get(id as string);
      return doc ? [{ doc, words: terms }] : [];
    });
    return { hits, count: found.length };
  }

  /** All that occurs, by name. */
  facets(): Facets {
    const docs = [...this.#docs.values()];
    const all = (of: (doc: FoundDocument) => readonly string[]): string[] =>
      [...new Map(docs.flatMap((doc) => of(doc).map((name) => [plainName(name), name]))).values()]
        .filter((name) => name !== '')
        .sort(byName);
    return {
      kinds: [...new Set(docs.map(({ kind }) => kind))].sort(byName),
      halls: all(({ hall }) => [hall]),
      instruments: all(({ instruments }) => instruments),
      arrays: all(({ arrays }) => arrays),
    };
  }
}
