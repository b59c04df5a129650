import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { PIECES, readLibrary, readPiece, writeLibrary, type Piece } from './library';

const session = demoSession('2026-11-30T12:00:00Z');
const kept = { id: 'p1', at: '2026-11-30', name: 'Kept', from: { session: session.id } };

describe('a library', () => {
  it('holds pieces of sessions as they were, and kinds that it does not know', () => {
    const raw = [
      { ...kept, kind: 'hall', venue: session.venue },
      { ...kept, id: 'p2', kind: 'ensemble', sources: session.sources, sections: session.sections },
      { ...kept, id: 'p3', kind: 'arrays', arrays: session.arrays },
      { ...kept, id: 'p4', kind: 'kit', kit: session.kit },
      { ...kept, id: 'p5', kind: 'rig', rig: session.rig },
      { ...kept, id: 'p6', kind: 'spot', mark: { name: 'By the pillar', x: 1, y: 2, z: 2.8 } },
      { ...kept, id: 'p7', kind: 'chandelier', lamps: 12 },
      { ...kept, id: 'p8', kind: 'heard', by: 'Anna', levelDb: 4, delayMs: -0.2, shift: 0.4 },
    ];
    const pieces = raw.map((each): Piece => {
      const read = readPiece(each);
      if (!read.ok) throw new Error(JSON.stringify(read.problems));
      return read.piece;
    });
    expect(pieces[0]).toMatchObject({ venue: session.venue });
    expect(pieces[1]).toMatchObject({ sources: session.sources });
    expect(pieces[6]).toMatchObject({ kind: 'chandelier', lamps: 12 });
    expect(pieces[7]).toMatchObject({ through: 'loudspeakers', shift: 0.4, coincident: false });
    const library = { pieces, archived: ['s1'] };
    expect(readLibrary(writeLibrary(library))).toEqual({ library, problems: [] });
  });

  it('of which a piece is wrong keeps the others, and says what is wrong', () => {
    const text = JSON.stringify({
      format: 'rotunda-library',
      version: 1,
      pieces: [
        { id: 'a', kind: 'kit', kit: { microphones: 7 } },
        { id: 'b', kind: 'drill' },
        { kind: 'drill' },
        7,
      ],
    });
    const { library, problems } = readLibrary(text);
    expect(library.pieces.map(({ id }) => id)).toEqual(['b']);
    expect(problems.map(({ path }) => path)).toEqual([
      'pieces[0].kit.microphones',
      'pieces[2].id',
      'pieces[3]',
    ]);
  });

  it('that is none is a problem of the whole', () => {
    for (const text of ['', '{', '7', '[]', '{"format":"rotunda-session","version":2}']) {
      const { library, problems } = readLibrary(text);
      expect(library).toEqual({ pieces: [], archived: [] });
      expect(problems.length).toBeGreaterThan(0);
    }
    expect(Object.keys(PIECES)).toHaveLength(11);
  });
});
