import { describe, expect, it } from 'vitest';
import { newArray, newSession, newSource, type Source } from '../session';
import { anatomyOf, fromFaces, onPlan, placeFromFace, surfacesOf } from './anatomy';
import { seenWidth, sourceEdges } from './extent';
import { instrumentFields, INSTRUMENTS, withState } from './instruments';
import { casesOf, joinedPieces, piecesWith, replacePlayers, splitIntoPieces } from './pieces';
import { heightWords, placeWords, referenceOf, referencesFor } from './surfaces';

const instrument = (kind: string, change: Partial<Source> = {}): Source =>
  newSource({ ...instrumentFields(kind), id: 'it', name: 'It', ...change });
const counted = () => {
  let n = 0;
  return () => `new-${++n}`;
};

describe('what sounds of an instrument with a depth', () => {
  const grand = instrument('grand piano', { x: 0, y: 3, facingDeg: 90 });

  it('is as deep as its strings from the lid side, and as wide as its keys from its end', () => {
    const far = { x: 0, y: -1e6 };
    expect(seenWidth(grand, far).widthM).toBeCloseTo(1.6, 3);
    expect(seenWidth({ ...grand, facingDeg: 0 }, far).widthM).toBeCloseTo(1.5, 3);
    const between = seenWidth({ ...grand, facingDeg: 45 }, far).widthM;
    expect(between).toBeCloseTo(Math.hypot(1.5, 1.6) * Math.SQRT1_2, 3);
  });

  it('has its left end first, wherever it is seen from', () => {
    for (let deg = 0; deg < 360; deg += 15) {
      const from = { x: 5 * Math.sin(deg), y: 3 + 5 * Math.cos(deg) };
      const [left, right] = sourceEdges(grand, from);
      const side = (p: { x: number; y: number }) =>
        (grand.x - from.x) * (p.y - from.y) - (grand.y - from.y) * (p.x - from.x);
      expect(side(left)).toBeGreaterThan(0);
      expect(side(right)).toBeLessThan(0);
    }
  });

  it('without a depth is its width alone, from everywhere', () => {
    const harp = instrument('harp', { facingDeg: 30 });
    expect(sourceEdges(harp, { x: 9, y: 2 })).toEqual(sourceEdges(harp));
  });
});

describe('surfaces of an instrument', () => {
  it('lie above the floor of their player, riser included', () => {
    const piano = instrument('grand piano');
    expect(surfacesOf(piano).map(({ name, heightM }) => [name, heightM])).toEqual([
      ['strings', 0.9],
      ['rim', 1],
      ['soundboard', 0.82],
      ['keys', 0.72],
    ]);
    expect(surfacesOf({ ...piano, z: 1.4 })[0]?.heightM).toBe(1.3);
    expect(surfacesOf(instrument('oboe'))).toEqual([]);
  });

  it('are what the height of a microphone near by can be set out from', () => {
    const session = newSession('s', 'Piano', '');
    session.sources = [instrument('grand piano', { x: 0, y: 2, name: 'Piano' })];
    const near = newArray({ id: 'near', x: 0, y: 2, z: 1.18 });
    expect(referencesFor(session, near).map(({ name }) => name)).toContain('strings of Piano');
    expect(referencesFor(session, { ...near, y: -3 })).toEqual([]);
    expect(heightWords(session, near, 'metric')).toBeNull();
    const set = { ...near, measuredFrom: { sourceId: 'it', surface: 'strings' } };
    expect(heightWords(session, set, 'metric')).toBe('28.0 cm above the strings of Piano');
    expect(heightWords(session, { ...set, z: 0.7 }, 'metric')).toBe(
      '20.0 cm below the strings of Piano',
    );
    expect(heightWords({ ...session, sources: [] }, set, 'metric')).toBeNull();
  });

  it('tell how far a microphone is from an upright’s soundboard', () => {
    const upright = instrument('upright piano', { x: 1, y: 2, facingDeg: 180 });
    const [soundboard] = fromFaces(upright, { x: 1, y: 1.28, z: 1 });
    expect(soundboard?.name).toBe('soundboard');
    expect(soundboard?.metres).toBeCloseTo(0.5, 6);
  });

  it('let a microphone be put so far from a face, from wherever it is', () => {
    for (const facingDeg of [0, 77, 180, 250]) {
      const upright = instrument('upright piano', { x: 1, y: 2, facingDeg });
      for (const at of [
        { x: 1, y: -1 },
        { x: 3.5, y: 2.2 },
        { x: -4, y: 4 },
      ]) {
        const put = placeFromFace(upright, 'soundboard', at, 0.35);
        const [board] = fromFaces(upright, { x: 9, y: 9, ...put, z: 1 });
        expect(board?.metres).toBeCloseTo(0.35, 9);
        // On the same side as before.
        const again = placeFromFace(upright, 'soundboard', put ?? at, 2);
        const back = placeFromFace(upright, 'soundboard', again ?? at, 0.35);
        expect(back?.x).toBeCloseTo(put?.x ?? 99, 9);
      }
      const on = placeFromFace(upright, 'soundboard', { x: 1, y: 2 }, 0);
      const off = placeFromFace(upright, 'soundboard', on ?? { x: 0, y: 0 }, 0.5);
      const [found] = fromFaces(upright, { x: 9, y: 9, ...off, z: 1 });
      expect(found?.metres).toBeCloseTo(0.5, 9);
    }
    expect(placeFromFace(instrument('oboe'), 'soundboard', { x: 0, y: 0 }, 1)).toBeNull();
  });

  it('and faces near by are told together', () => {
    const session = newSession('s', 'Upright', '');
    session.sources = [
      instrument('upright piano', { x: 1, y: 2, facingDeg: 180, name: 'Upright' }),
    ];
    const near = newArray({ id: 'near', x: 1, y: 1.28, z: 1 });
    expect(placeWords(session, near, 'metric')).toMatch(
      /^50\.0\scm from the soundboard of Upright, 67\.0\scm from the hammers of Upright$/,
    );
    expect(placeWords(session, { ...near, y: -2 }, 'metric')).toBeNull();
  });

  it('have names of their own in every instrument', () => {
    for (const { kind } of INSTRUMENTS) {
      const names = anatomyOf({ kind })?.surfaces.map(({ name }) => name) ?? [];
      expect(new Set(names).size).toBe(names.length);
    }
  });
});

describe('a set of instruments', () => {
  it('is split into pieces that are together as loud, and put together again', () => {
    const kit = instrument('drum kit', { x: 1, y: 3, z: 1.1, facingDeg: 150, levelDb: 97 });
    const pieces = splitIntoPieces(kit, counted());
    expect(pieces.map(({ name }) => name)).toContain('Hi-hat');
    expect(new Set(pieces.map(({ group }) => group))).toEqual(new Set(['It']));
    const bass = pieces[0];
    expect(bass && [bass.x, bass.y, bass.z]).toEqual([1.25, 2.567, 0.55]);
    const whole = joinedPieces(pieces);
    expect(whole).toMatchObject({ id: 'it', name: 'It', kind: 'drum kit', group: '' });
    for (const key of ['x', 'y', 'z', 'facingDeg'] as const) {
      expect(whole?.[key]).toBeCloseTo(kit[key], 2);
    }
    expect(whole?.levelDb).toBeCloseTo(97, 0);
  });

  it('moves as a whole with its pieces', () => {
    const kit = instrument('timpani', { x: 0, y: 3 });
    const moved = splitIntoPieces(kit, counted()).map((piece) => ({ ...piece, x: piece.x + 0.5 }));
    expect(joinedPieces(moved)?.x).toBeCloseTo(0.5, 3);
    expect(joinedPieces(moved.slice(1))?.x).toBeCloseTo(0.5, 3);
    expect(joinedPieces([])).toBeNull();
  });

  it('keeps who an array is for', () => {
    const session = newSession('s', 'Kit', '');
    const kit = instrument('drum kit');
    session.sources = [kit, instrument('oboe', { id: 'ob' })];
    const over = newArray({ id: 'o', for: { kind: 'some', groups: [], sources: ['it'] } });
    session.arrays = [over];
    const pieces = splitIntoPieces(kit, counted());
    replacePlayers(session, new Set(['it']), pieces);
    expect(session.sources.map(({ id }) => id)).toEqual([...pieces.map(({ id }) => id), 'ob']);
    expect(session.arrays[0]?.for).toMatchObject({ sources: pieces.map(({ id }) => id) });
    const [first] = session.sources;
    const together = first && piecesWith(first, session.sources);
    expect(together).toHaveLength(8);
    const whole = joinedPieces(together ?? []);
    if (whole) replacePlayers(session, new Set(pieces.map(({ id }) => id)), [whole]);
    expect(session.sources.map(({ id }) => id)).toEqual(['it', 'ob']);
    expect(session.arrays[0]?.for).toMatchObject({ sources: ['it'] });
  });

  it('that is one case keeps outline, surfaces and faces when its strings are split', () => {
    const piano = newSource({
      id: 'pno',
      name: 'Piano',
      kind: 'grand piano',
      x: 1,
      y: 3,
      z: 0.95,
      facingDeg: 150,
      lid: 'short-stick',
      widthM: 1.5,
    });
    const array = newArray({
      id: 'm',
      x: 0.6,
      y: 2,
      z: 1.2,
      measuredFrom: { sourceId: 'pno', surface: 'strings' },
    });
    let next = 0;
    const pieces = splitIntoPieces(piano, () => `p${(next += 1)}`);
    const before = newSession('s', 'Split', '');
    const whole = { ...before, sources: [piano], arrays: [array] };
    const split = { ...before, sources: pieces, arrays: [array] };
    expect(casesOf(pieces)).toMatchObject([{ id: 'pno', name: 'Piano', lid: 'short-stick' }]);
    expect(casesOf(pieces)[0]?.x).toBeCloseTo(1, 3);
    expect(casesOf(pieces)[0]?.y).toBeCloseTo(3, 3);
    expect(referenceOf(split, array)?.name).toBe('strings of Piano');
    expect(referenceOf(split, array)?.heightM).toBeCloseTo(
      referenceOf(whole, array)?.heightM ?? NaN,
      3,
    );
    expect(casesOf([piano])).toEqual([]);
    // The pieces of a kit are all there is of it.
    const kit = newSource({ id: 'k', name: 'Kit', kind: 'drum kit' });
    expect(casesOf(splitIntoPieces(kit, () => `k${(next += 1)}`))).toEqual([]);
  });

  it('is nothing that an oboe has', () => {
    expect(splitIntoPieces(instrument('oboe'), counted())).toEqual([]);
  });
});

describe('how a piano stands', () => {
  it('changes its level by each panel and by the felt, and back', () => {
    const upright = instrument('upright piano');
    const open = withState(upright, { openPanels: ['top lid', 'upper panel'] });
    expect(open.levelDb).toBe(91);
    const felt = withState({ ...upright, ...open }, { felt: true });
    expect(felt.levelDb).toBe(81);
    expect(
      withState({ ...upright, ...open, ...felt }, { felt: false, openPanels: [] }).levelDb,
    ).toBe(88);
  });

  it('is placed on the plan as its player sees it', () => {
    const facing = instrument('grand piano', { x: 0, y: 0, facingDeg: 90 });
    const tail = onPlan(facing, [0, 1]);
    expect(tail.x).toBeCloseTo(1, 9);
    expect(tail.y).toBeCloseTo(0, 9);
    expect(onPlan(facing, [1, 0]).y).toBeCloseTo(-1, 9);
  });
});
