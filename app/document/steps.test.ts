import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newSource, type Session } from '../../core/session';
import { demoSession } from '../../core/demo';
import {
  composed,
  condensed,
  moved,
  stepOf,
  withMove,
  type Doc,
  type Move,
  type Recipe,
} from './steps';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const begin: Doc = { session: demo, past: [], future: [] };

/** Changes of every kind: figures, whole objects, lists that grow, shrink and turn round. */
const recipes = fc.oneof(
  fc.tuple(fc.nat(8), fc.integer({ min: -50, max: 50 })).map(([at, x]): Recipe => (draft) => {
    const source = draft.sources[at % Math.max(1, draft.sources.length)];
    if (source) source.x = x / 10;
  }),
  fc.nat(20).map(
    (at): Recipe =>
      (draft) =>
        void draft.sources.splice(at % (draft.sources.length + 1), 1),
  ),
  fc.uuid().map(
    (id): Recipe =>
      (draft) =>
        void draft.sources.splice(1, 0, newSource({ id, name: id })),
  ),
  fc.constant<Recipe>((draft) => void draft.sources.reverse()),
  fc.nat(90).map((angle): Recipe => (draft) => {
    for (const array of draft.arrays) {
      array.technique = {
        kind: 'pair',
        pattern: 'cardioid',
        spacingM: 0.2,
        includedAngleDeg: angle,
      };
    }
  }),
  fc.string({ maxLength: 5 }).map(
    (text): Recipe =>
      (draft) =>
        void (draft.brief.notes = text),
  ),
);

const acts = fc.array(
  fc.oneof(
    { weight: 4, arbitrary: fc.record({ recipe: recipes, joins: fc.boolean() }) },
    { weight: 1, arbitrary: fc.constantFrom('undo' as const, 'redo' as const) },
  ),
  { maxLength: 25 },
);

/** The moves that such acts make, each with the document after it. */
function play(list: readonly ({ recipe: Recipe; joins: boolean } | 'undo' | 'redo')[]) {
  let doc = begin;
  const moves: Move[] = [];
  for (const act of list) {
    if (typeof act === 'string') {
      moves.push({ kind: act });
      doc = moved(doc, { kind: act });
      continue;
    }
    const made = stepOf(doc.session, act.recipe);
    if (!made) continue;
    const last = act.joins ? doc.past[doc.past.length - 1] : undefined;
    const before = last && moved({ ...doc, past: [last] }, { kind: 'undo' }).session;
    const whole = last && before && composed(before, [...last.patches, ...made.step.patches]);
    const move: Move = whole ? { kind: 'join', step: whole } : { kind: 'step', step: made.step };
    if (last && !whole) continue;
    moves.push(move);
    doc = moved(doc, move);
    expect(doc.session).toEqual(made.session);
  }
  return { doc, moves };
}

const overTheWire = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

describe('moves', () => {
  it('made again elsewhere give the same document, kept as text or told one by one', () => {
    fc.assert(
      fc.property(acts, (list) => {
        const { doc, moves } = play(list);
        const told = overTheWire(moves).reduce(moved, begin);
        expect(told.session).toEqual(doc.session);
        const kept = overTheWire(moves.reduce<readonly Move[]>(withMove, []));
        const left = kept.reduce(moved, begin);
        expect(left.session).toEqual(doc.session);
        expect(left.past).toHaveLength(doc.past.length);
      }),
      { numRuns: 150 },
    );
  });

  it('are all taken back by undo, and all made again by redo', () => {
    fc.assert(
      fc.property(acts, (list) => {
        const { doc } = play(list);
        let back = overTheWire(doc);
        const steps = back.past.length;
        for (let i = 0; i < steps; i++) back = moved(back, { kind: 'undo' });
        expect(back.session).toEqual(demo);
        for (let i = 0; i < steps; i++) back = moved(back, { kind: 'redo' });
        expect(back.session).toEqual(doc.session);
      }),
      { numRuns: 150 },
    );
  });

  it('of a long drag are condensed to where it ended', () => {
    let session: Session = demo;
    let patches: readonly { op: 'replace' | 'remove' | 'add'; path: (string | number)[] }[] = [];
    for (let i = 1; i <= 500; i++) {
      const made = stepOf(session, (draft) => {
        for (const source of draft.sources) source.x = i / 1000;
      });
      if (!made) throw new Error('a change');
      session = made.session;
      patches = condensed(patches, made.step.patches);
    }
    expect(patches).toHaveLength(demo.sources.length);
    const step = composed(demo, patches);
    expect(step && moved(begin, { kind: 'step', step }).session).toEqual(session);
  });

  it('that do not fit are refused, never made in part', () => {
    const made = stepOf(demo, (draft) => void (draft.arrays[0] && (draft.arrays[0].x = 3)));
    if (!made) throw new Error('a change');
    const none: Doc = { ...begin, session: { ...demo, arrays: [] } };
    expect(() => moved(none, { kind: 'step', step: made.step })).toThrow();
  });

  it('put an entry into a journal once, and undo leaves it there', () => {
    const entry = { id: 'e', at: '', strikes: '', amends: '', code: 'lid', name: 'A' };
    const made = stepOf(demo, (draft) => void (draft.brief.notes = 'x'));
    if (!made) throw new Error('a change');
    const moves: Move[] = [
      { kind: 'step', step: made.step },
      { kind: 'entry', journal: 'acknowledgements', entry },
      { kind: 'entry', journal: 'acknowledgements', entry },
      { kind: 'undo' },
    ];
    const { session } = moves.reduce(moved, begin);
    expect(session.acknowledgements).toEqual([entry]);
    expect(session.brief.notes).toBe(demo.brief.notes);
  });
});

describe('contents of entries', () => {
  const blob = (name: string) => ({
    id: `b-${name}`,
    hash: name.repeat(64),
    type: 'image/png',
    bytes: 3,
    name,
    data: null,
  });
  const entry = (id: string, words: string) => ({
    id,
    at: '2026-11-23T12:00:00.000Z',
    strikes: '',
    amends: '',
    code: words,
    name: 'A',
  });
  const step = (doc: Doc, recipe: Recipe): Doc => {
    const made = stepOf(doc.session, recipe);
    return made ? moved(doc, { kind: 'step', step: made.step }) : doc;
  };
  const ids = ({ session }: Doc) => session.blobs.map(({ id }) => id);

  it('come with them, and no undo takes them away; those of the plan go as before', () => {
    let doc = step(begin, (draft) => void draft.blobs.push(blob('a')));
    doc = moved(doc, {
      kind: 'entry',
      journal: 'acknowledgements',
      entry: entry('one', 'b-c'),
      blobs: [blob('c')],
    });
    expect(ids(doc)).toEqual(['b-a', 'b-c']);
    doc = moved(doc, { kind: 'undo' });
    expect(ids(doc)).toEqual(['b-c']);
    doc = moved(doc, { kind: 'redo' });
    expect(ids(doc).sort()).toEqual(['b-a', 'b-c']);
    doc = step(doc, (draft) => void (draft.blobs = []));
    expect(ids(doc)).toEqual(['b-c']);
    // The same content once more is there once.
    doc = moved(doc, {
      kind: 'entry',
      journal: 'acknowledgements',
      entry: entry('two', 'b-c'),
      blobs: [blob('c')],
    });
    expect(ids(doc)).toEqual(['b-c']);
  });
});
