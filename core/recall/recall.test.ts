import { describe, expect, it } from 'vitest';
import { demoSessions } from '../demo';
import { alignedTo, differences, withDifferences, isEqual } from '../difference';
import { readPiece, sessionFrom, versionText, writeSessionText, type Session } from '../session';
import { seededRandom } from '../units/random';
import { completenessOf, completenessText } from './completeness';
import { documentsOf, documentOfPiece } from './documents';
import { differencesWithEffects } from './effects';
import { KEPT_KINDS, keptOf, whyNotKept, withPiece } from './kept-pieces';
import { bestSpotText, listeningRows, listeningSpots } from './listening';
import { marksOf } from './marks';

const NOW = '2026-12-01T12:00:00.000Z';
const demos = demoSessions(NOW);
const ids = (): (() => string) => {
  let count = 0;
  return () => `n${(count += 1)}`;
};

const ear = (by: string, rating: number | null, x: number, name = ''): object => ({
  ...{ id: `${by} ${x} ${rating}`, use: 'ears', by, rating, x, y: -4, z: 1.2, name },
});
const rated = (marks: object[]) => listeningSpots(marksOf(sessionFrom({ id: 's', marks })));

describe('spots that were listened from', () => {
  it('are averaged over listeners, each of whom counts once, where they agree', () => {
    const [spot, other] = rated([
      ear('Ada', 4, 0, 'row 3'),
      ear('Ada', 5, 0.3),
      ear('Tobin', 4, 0.2),
      ear('Ada', 1, 5, 'aisle'),
    ]);
    // Ada 4.5, Tobin 4
    expect(spot?.rating).toBe(4.25);
    expect(spot?.name).toBe('row 3');
    expect(other?.rating).toBe(1);
    expect(bestSpotText(rated([ear('Ada', 4, 0, 'row 3'), ear('Tobin', 5, 0)]))).toBe(
      'Best: row 3, 4.5 of 5; 2 listeners agree.',
    );
  });

  it('are shown apart where listeners do not agree, and none of those is called best', () => {
    const spots = rated([
      ear('Ada', 5, 0, 'row 3'),
      ear('Tobin', 2, 0),
      ear('Ada', 3, 4, 'aisle'),
      ear('Ines', 3, 8, 'door'),
    ]);
    expect(spots[0]).toMatchObject({ apart: true, rating: null });
    expect(bestSpotText(spots)).toBe(
      '2 spots are equally good, 3 of 5: aisle, door. The listeners do not agree on “row 3”.',
    );
    expect(bestSpotText(spots.slice(0, 1))).toBe(
      'No spot can be called best: the listeners do not agree.',
    );
    expect(bestSpotText([])).toBe('Nobody has rated a spot yet.');
    expect(bestSpotText(rated([ear('Ada', null, 0)]))).toMatch(/none is rated/);
    expect(listeningRows(spots)).toHaveLength(4);
  });

  it('do not chain through a row of seats', () => {
    const row = Array.from({ length: 12 }, (_, i) => ear('Ada', 3, i * 0.5));
    const spots = rated(row);
    expect(spots.length).toBeGreaterThanOrEqual(5);
    for (const { marks } of spots) {
      const xs = marks.map(({ mark }) => mark.x ?? 0);
      expect(Math.max(...xs) - Math.min(...xs)).toBeLessThanOrEqual(1.2);
    }
    expect(spots.reduce((sum, { marks }) => sum + marks.length, 0)).toBe(12);
  });
});

describe('kept pieces', () => {
  it('are read as they were written, and found by what is in them', () => {
    for (const session of demos) {
      for (const kind of KEPT_KINDS) {
        if (whyNotKept(session, kind) !== null) continue;
        const piece = keptOf(session, kind, { id: kind, at: NOW, name: `My ${kind}` });
        const read = readPiece(JSON.parse(JSON.stringify(piece)));
        expect(read.ok && read.piece, kind).toEqual(piece);
        expect(documentOfPiece(piece)?.text).toContain(kind);
      }
    }
  });

  it('put into an empty session make what they were kept of', () => {
    const [from] = demos as [Session];
    const empty = sessionFrom({ id: 'empty' });
    const put = (kind: (typeof KEPT_KINDS)[number], into: Session = empty): Session => {
      const piece = keptOf(from, kind, { id: kind, at: NOW, name: kind });
      const done = withPiece(into, piece, ids());
      if (!done) throw new Error(kind);
      // Nothing of it is shared, and the result is a session.
      const text = writeSessionText(done.session);
      expect(() => sessionFrom(JSON.parse(text) as Record<string, unknown>)).not.toThrow();
      return done.session;
    };
    const { venue } = put('hall');
    expect({ ...venue, underlay: null }).toEqual({
      ...from.venue,
      underlay: null,
      temperatureC: empty.venue.temperatureC,
    });
    const bare = ({
      id: _id,
      sectionId: _s,
      constraints: _c,
      ...rest
    }: Session['sources'][number]) => rest;
    const ensemble = put('ensemble');
    expect(ensemble.sources.map(bare)).toEqual(from.sources.map(bare));
    expect(new Set(ensemble.sources.map(({ id }) => id)).size).toBe(from.sources.length);
    expect(put('kit').kit).toEqual(from.kit);
    const rig = put('rig');
    expect(rig.arrays.map(({ technique, x, y, z, mix }) => ({ technique, x, y, z, mix }))).toEqual(
      from.arrays.map(({ technique, x, y, z, mix }) => ({ technique, x, y, z, mix })),
    );
    // Places go to whoever plays the same.
    const elsewhere = {
      ...from,
      sources: from.sources.map((source) => ({ ...source, x: source.x + 3, y: source.y + 1 })),
    };
    const seated = put('seating', elsewhere);
    expect(seated.sources.map(({ x, y }) => [x, y])).toEqual(
      from.sources.map(({ x, y }) => [x, y]),
    );
    const muted = {
      ...from,
      arrays: from.arrays.map((array) => ({ ...array, mix: { ...array.mix, faderDb: -30 } })),
    };
    expect(put('blend', muted).arrays.map(({ mix }) => mix)).toEqual(
      from.arrays.map(({ mix }) => mix),
    );
  });

  it('bring names and ids that are free, and say what found no room', () => {
    const [from] = demos as [Session];
    const piece = keptOf(from, 'ensemble', { id: 'e', at: NOW, name: 'e' });
    const twice = withPiece(from, piece, ids())?.session;
    expect(twice?.sources).toHaveLength(2 * from.sources.length);
    expect(new Set(twice?.sources.map(({ name }) => name)).size).toBe(2 * from.sources.length);
    const full = sessionFrom({
      sources: Array.from({ length: 495 }, (_, i) => ({ id: `q${i}`, name: `Q ${i}` })),
    });
    const done = withPiece(full, piece, ids());
    expect(done?.session.sources).toHaveLength(500);
    expect(done?.left.join()).toMatch(/4 found no room: a session holds 500/);
    const stranger = sessionFrom({ sources: [{ id: 'z', name: 'Zither', kind: 'zither' }] });
    const seating = withPiece(
      stranger,
      keptOf(from, 'seating', { id: 's', at: NOW, name: 's' }),
      ids(),
    );
    expect(seating?.left).toEqual(['without a place of it: Zither', '9 places stayed empty']);
  });

  it('of a hall bring their marks once', () => {
    const [from] = demos as [Session];
    const marks = sessionFrom({
      marks: [
        { id: 'm1', name: 'Good', hall: from.venue.name, x: 0, y: -1, z: 2, rating: 4 },
        { id: 'm2', name: 'Struck', hall: from.venue.name, x: 1, y: -1, z: 2 },
        { id: 'm3', strikes: 'm2' },
      ],
    }).marks;
    const piece = keptOf({ ...from, marks }, 'hall', { id: 'h', at: NOW, name: 'h' });
    const empty = sessionFrom({ id: 'empty' });
    expect(withPiece(empty, piece, ids())?.marks?.map(({ name }) => name)).toEqual(['Good']);
    const has = { ...empty, marks: marks.slice(0, 1) };
    expect(withPiece(has, piece, ids())?.marks).toEqual([]);
  });
});

describe('what is missing', () => {
  it('is little of the demo, and much of an empty session; every line says where it is given', () => {
    for (const session of [...demos, sessionFrom({ id: 'empty' })]) {
      const found = completenessOf(session);
      expect(found.known + found.missing.length).toBe(found.all);
      for (const { station, give, what } of found.missing) {
        expect([station, give, what].every((text) => text.length > 2)).toBe(true);
      }
      expect(new Set(found.missing.map(({ code }) => code)).size).toBe(found.missing.length);
    }
    const empty = completenessOf(sessionFrom({ id: 'empty' }));
    expect(completenessText(empty)).toMatch(/^It cannot be put up again where it stood: 3 figures/);
  });

  it('goes away one by one as it is given', () => {
    const session = sessionFrom({
      id: 's',
      venue: {
        name: 'Tithe Barn',
        widthM: 10,
        depthM: 12,
        heightM: 5,
        origin: { x: 5, y: 6 },
        rt60S: 1.2,
      },
      brief: { date: '2026-12-02' },
      sources: [{ id: 'p', name: 'Flute', kind: 'flute', x: 0, y: 2 }],
      arrays: [
        {
          id: 'a',
          name: 'Pair',
          missing: ['spacingM'],
          hung: true,
          technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 100 },
        },
      ],
      kit: {
        microphones: [
          { id: 'k', name: 'Small', patterns: ['cardioid'], count: 2, sensitivityMvPa: 12 },
        ],
      },
    });
    const codes = (one: Session): string[] => completenessOf(one).missing.map(({ code }) => code);
    expect(codes(session)[0]).toBe('spacing a');
    const whole = structuredClone(session);
    whole.arrays.forEach((array) => (array.missing = []));
    expect(codes(whole)).toEqual(
      ['gains a', 'as-built a', 'who', 'temperature', 'proof'].filter((code) =>
        codes(whole).includes(code),
      ),
    );
    expect(codes(whole)).not.toContain('spacing a');
  });
});

describe('differences with what they do', () => {
  it('put in one by one come to what both plans differ by', async () => {
    const [from] = demos as [Session];
    const after = structuredClone(from);
    const [array] = after.arrays;
    if (array?.technique.kind !== 'pair') throw new Error('no pair');
    array.technique.spacingM = 0.4;
    array.z += 0.5;
    after.brief.notes = 'other';
    const { effects } = await differencesWithEffects(from, after);
    expect(effects.steps.map(({ sounds }) => sounds)).toEqual([true, true, false]);
    expect(effects.steps[1]?.players.length).toBeGreaterThan(3);
    const once = await differencesWithEffects(from, after);
    expect(once.effects.together).toEqual(effects.together);
    await expect(
      differencesWithEffects(from, after, { signal: { aborted: true } }),
    ).rejects.toThrow('given up');
  });

  it('say players who come or go in one line, and not that it is too little', async () => {
    const [from] = demos as [Session];
    const none = { ...from, sources: from.sources.slice(0, 2) };
    const { effects } = await differencesWithEffects(none, from);
    expect(effects.steps).toHaveLength(1);
    expect(effects.steps[0]?.words).toMatch(/ and 5 others: added$/);
    expect(effects.steps[0]?.changesWho).toBe(true);
  });

  it('of two sessions go by names: a copy with ids of its own is the same plan', () => {
    const random = seededRandom(11);
    for (const session of demos) {
      // Whatever holds an id gets another one, wherever it stands.
      const ID_FIELDS = ['id', 'sourceId', 'sectionId', 'arrayId'];
      const salt = `${random()}`;
      const renamed = (value: unknown, key: string): unknown => {
        if (typeof value === 'string' && value !== '' && ID_FIELDS.includes(key)) {
          return `${value} ${salt}`;
        }
        if (Array.isArray(value)) {
          const inside = key === 'sources' || key === 'microphoneIds' ? 'id' : key;
          return value.map((one) => renamed(one, inside));
        }
        if (typeof value !== 'object' || value === null) return value;
        return Object.fromEntries(
          Object.entries(value).map(([name, of]) => [name, renamed(of, name)]),
        );
      };
      const { blobs, log, takes, marks, acknowledgements, ...plan } = structuredClone(session);
      const copy = {
        ...(renamed(plan, '') as Session),
        ...{ blobs, log, takes, marks, acknowledgements },
      };
      expect(differences(session, copy).length, session.title).toBeGreaterThan(0);
      const aligned = alignedTo(session, copy);
      expect(differences(session, aligned).map(({ words }) => words)).toEqual([]);
      const moved = structuredClone(copy);
      const [source] = moved.sources;
      if (source) source.x += 1;
      const found = differences(session, alignedTo(session, moved));
      expect(found.map(({ words }) => words)).toHaveLength(1);
      expect(
        isEqual(
          JSON.parse(versionText(withDifferences(session, found))),
          JSON.parse(versionText(alignedTo(session, moved))),
        ),
      ).toBe(true);
    }
  });
});

describe('documents', () => {
  it('are one each, and every one says where it opens', () => {
    for (const session of demos) {
      const docs = documentsOf(session);
      expect(new Set(docs.map(({ id }) => id)).size).toBe(docs.length);
      for (const { station, session: of } of docs) {
        expect(station).not.toBe('');
        expect(of).toBe(session.id);
      }
    }
  });
});
