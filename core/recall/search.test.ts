import { describe, expect, it } from 'vitest';
import { seededRandom } from '../units/random';
import { Collection } from './collection';
import {
  documentsOf,
  isWithin,
  NOT_NARROWED,
  type FoundDocument,
  type Narrowed,
} from './documents';
import { manySessions } from './fixtures/large';
import { mayBeOff, SearchIndex } from './search';
import { plainName, searchWords } from './words';

/** Edit distance, as plainly as it can be written. */
function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      next[j] = Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + same);
    }
    row = next;
  }
  return row[b.length] ?? 0;
}

const wordsIn = (doc: FoundDocument): string[] => [
  ...new Set(
    [doc.title, doc.text, doc.hall, doc.sessionTitle, doc.kind, doc.at.slice(0, 10)].flatMap(
      searchWords,
    ),
  ),
];

/** Every word of the query is there, begun, or nearly so. */
function naive(docs: readonly FoundDocument[], query: string, narrowed: Narrowed): Set<string> {
  const asked = searchWords(query);
  const found = docs.filter((doc) => {
    if (!isWithin(doc, narrowed)) return false;
    const own = wordsIn(doc);
    return asked.every((word) =>
      own.some(
        (one) =>
          one.startsWith(word) ||
          (Math.abs(one.length - word.length) <= mayBeOff(word) &&
            distance(one, word) <= mayBeOff(word)),
      ),
    );
  });
  return new Set(found.map(({ id }) => id));
}

const small = manySessions(40, 10);
const docs = small.flatMap(documentsOf);

describe('search', () => {
  const index = new SearchIndex();
  for (const session of small) index.put(session.id, documentsOf(session));

  it('finds what a plain reading of every word finds, with typing errors', () => {
    const random = seededRandom(7);
    const all = [...new Set(docs.flatMap(wordsIn))];
    for (let i = 0; i < 120; i++) {
      const words = Array.from({ length: 1 + Math.floor(random() * 2) }, () => {
        const word = all[Math.floor(random() * all.length)] ?? 'warm';
        const kind = random();
        if (kind < 0.4) return word;
        if (kind < 0.7) return word.slice(0, Math.max(1, Math.ceil(word.length * random())));
        const at = Math.floor(random() * word.length);
        return `${word.slice(0, at)}${'abcdexyz'[Math.floor(random() * 8)] ?? 'a'}${word.slice(at + 1)}`;
      });
      const narrowed =
        i % 3 === 0
          ? { ...NOT_NARROWED, hall: 'tithe barn', leastRating: i % 2 ? 3 : null }
          : NOT_NARROWED;
      const query = words.join(' ');
      const { hits, count } = index.search(query, narrowed, 10_000);
      expect(new Set(hits.map(({ doc }) => doc.id)), query).toEqual(naive(docs, query, narrowed));
      expect(count).toBe(hits.length);
    }
  });

  it('does so among three hundred sessions with three thousand marks', () => {
    const many = manySessions(300, 10, 2);
    const all = many.flatMap(documentsOf);
    const large = new SearchIndex();
    for (const session of many) large.put(session.id, documentsOf(session));
    expect(all.filter(({ kind }) => kind === 'mark')).toHaveLength(3000);
    for (const query of ['warm', 'boomy heting', 'pilar aile', 'tithe barn 3', 'ada lory']) {
      const { hits } = large.search(query, NOT_NARROWED, 10_000);
      expect(new Set(hits.map(({ doc }) => doc.id)), query).toEqual(
        naive(all, query, NOT_NARROWED),
      );
    }
  });

  it('forgives a letter, knows no accents, and says why something was found', () => {
    const own = new SearchIndex();
    const [doc] = docs;
    if (!doc) throw new Error('no documents');
    own.put('x', [{ ...doc, id: 'x', title: 'Élégie für Gambe', text: '' }]);
    expect(own.search('elegje gamb', NOT_NARROWED).hits[0]?.words.sort()).toEqual([
      'elegie',
      'gambe',
    ]);
    expect(own.search('elegie cello', NOT_NARROWED).count).toBe(0);
    expect(own.search('fur', NOT_NARROWED).count).toBe(1);
    // Short words must be right.
    expect(own.search('fux', NOT_NARROWED).count).toBe(0);
  });

  it('without words gives all that is within, the newest first', () => {
    const { hits, count } = index.search(
      '  ',
      { ...NOT_NARROWED, kind: 'mark', leastRating: 5 },
      20,
    );
    expect(count).toBe(docs.filter(({ kind, rating }) => kind === 'mark' && rating === 5).length);
    const days = hits.map(({ doc }) => doc.at);
    expect(days).toEqual([...days].sort().reverse());
    const [first] = days;
    const day = (first ?? '').slice(0, 10);
    // A day counts to its end, on both sides.
    expect(index.search('', { ...NOT_NARROWED, from: day, to: day }, 1).count).toBe(
      docs.filter(({ at }) => at.slice(0, 10) === day).length,
    );
  });

  it('forgets what was taken away, and holds anew what changed', () => {
    const collection = new Collection();
    for (const session of small) collection.put(session);
    const [one, two] = small;
    if (!one || !two) throw new Error('no sessions');
    collection.put({ ...one, title: 'Quillwort' });
    expect(collection.index.search('quillwort', NOT_NARROWED).hits[0]?.doc.session).toBe(one.id);
    const before = collection.index.size;
    collection.keepOnly(new Set(small.slice(1).map(({ id }) => id)));
    expect(collection.index.search('quillwort', NOT_NARROWED).count).toBe(0);
    expect(collection.index.size).toBe(before - documentsOf(one).length);
    collection.putUnread(two.id, two.title);
    expect(collection.overview().unread).toEqual([two.title]);
  });

  it('puts halls of one name together, the newest first, with their marks', () => {
    const collection = new Collection();
    for (const session of small) collection.put(session);
    const { halls, marks, facets, all } = collection.overview();
    expect(all).toHaveLength(40);
    expect(marks).toHaveLength(400);
    expect(halls.reduce((sum, hall) => sum + hall.sessions.length, 0)).toBe(40);
    expect(halls.reduce((sum, hall) => sum + hall.marks.length, 0)).toBe(400);
    expect(new Set(halls.map(({ name }) => plainName(name))).size).toBe(halls.length);
    expect(halls.map(({ at }) => at)).toEqual(
      halls
        .map(({ at }) => at)
        .sort()
        .reverse(),
    );
    expect(facets.instruments).toContain('grand piano');
    expect(facets.kinds).toContain('mark');
  });
});
