import { describe, expect, it } from 'vitest';
import { newSource, sectionFrom, sessionFrom } from '../session';
import {
  endFallOff,
  fromTemplate,
  INSTRUMENTS,
  instrumentFields,
  offRadiatingSide,
  rearranged,
  sectionFigures,
  sectionPlaces,
  sectionSources,
  TEMPLATES,
  violations,
  withLid,
} from '.';

const ids = () => {
  let next = 0;
  return () => `n${(next += 1)}`;
};
const arc = sectionFrom({
  id: 'c',
  name: 'Choir',
  kind: 'voice',
  count: 16,
  pitchM: 0.75,
  openingDeg: 140,
  x: 1,
  y: 5,
});
const apart = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  Math.hypot(a.x - b.x, a.y - b.y);

describe('a section on an arc', () => {
  // Sixteen places take a pitch each.
  const radius = (16 * 0.75) / ((140 * Math.PI) / 180);

  it('has the radius of its arc length over its opening angle', () => {
    expect(sectionFigures(arc).frontRadiusM).toBeCloseTo(radius, 9);
    expect(radius).toBeCloseTo(4.911, 3);
  });

  it('stands on that circle, a pitch apart, facing its centre, left to right', () => {
    const places = sectionPlaces(arc);
    const centre = { x: 1, y: 5 - radius };
    expect(places).toHaveLength(16);
    for (const [i, place] of places.entries()) {
      expect(apart(place, centre)).toBeCloseTo(radius, 9);
      const towards = (Math.atan2(centre.x - place.x, centre.y - place.y) * 180) / Math.PI;
      expect(Math.cos(((place.facingDeg - towards) * Math.PI) / 180)).toBeCloseTo(1, 9);
      const next = places[i + 1];
      if (next) {
        expect(next.x).toBeGreaterThan(place.x);
        // The chord of one pitch along the arc.
        expect(apart(place, next)).toBeCloseTo(2 * radius * Math.sin(0.75 / radius / 2), 9);
      }
    }
  });

  it('puts further rows behind on risers, the odd ones at the back', () => {
    const rows = sectionPlaces({ ...arc, rows: 3, riserM: 0.2, rowDepthM: 1 });
    expect([0, 1, 2].map((row) => rows.filter((p) => p.row === row).length)).toEqual([5, 5, 6]);
    expect(rows[15]?.floorM).toBeCloseTo(0.4, 12);
    const middleFront = rows[2];
    const middleBehind = rows[7];
    expect((middleBehind?.y ?? 0) - (middleFront?.y ?? 0)).toBeCloseTo(1, 9);
  });

  it('falls off nowhere at its centre, and by distance law for a straight row', () => {
    const centre = { x: 1, y: 5 - radius, z: 1.5 };
    expect(endFallOff(arc, centre, 1.5, 343)?.levelDb).toBeCloseTo(0, 9);
    const straight = { ...arc, shape: 'rows' as const };
    const end = Math.hypot(7.5 * 0.75, radius);
    const fall = endFallOff(straight, centre, 1.5, 343);
    expect(fall?.levelDb).toBeCloseTo(20 * Math.log10(radius / end), 9);
    expect(fall?.delayMs).toBeCloseTo(((end - radius) / 343) * 1000, 9);
  });

  it('turns with the way it faces', () => {
    const turned = sectionPlaces({ ...arc, count: 2, facingDeg: 90, openingDeg: 0 });
    // Faces the audience's right: its line runs along y, left end nearer the back.
    expect(turned[0]?.x).toBeCloseTo(1, 9);
    expect(turned[0]?.y).toBeCloseTo(5 - 0.375, 9);
    expect(turned[1]?.y).toBeCloseTo(5 + 0.375, 9);
  });

  it('keeps names and settings of those who are there when its figures change', () => {
    const idOf = ids();
    const before = sectionSources(arc, idOf).map((s, i) => (i === 2 ? { ...s, name: 'Solo' } : s));
    const more = rearranged({ ...arc, count: 18, y: 6 }, before, idOf);
    expect(more).toHaveLength(18);
    expect(more[2]?.name).toBe('Solo');
    expect(more[2]?.id).toBe(before[2]?.id);
    expect(rearranged({ ...arc, count: 3 }, before, idOf).map(({ id }) => id)).toEqual(
      before.slice(0, 3).map(({ id }) => id),
    );
  });
});

describe('templates', () => {
  it.each(TEMPLATES)('$name is a session that can be read, nobody inside anybody', (template) => {
    const made = fromTemplate(template, ids());
    const session = sessionFrom({ ...made });
    expect(session.sources.length).toBeGreaterThan(0);
    expect(session.arrays.length).toBeGreaterThan(0);
    expect(new Set(session.sources.map(({ id }) => id)).size).toBe(session.sources.length);
    session.sources.forEach((a, i) => {
      for (const b of session.sources.slice(i + 1)) {
        expect(apart(a, b), `${a.name} and ${b.name}`).toBeGreaterThan(0.5);
      }
    });
  });

  it('names only instruments that the catalogue knows, each once', () => {
    const kinds = INSTRUMENTS.map(({ kind }) => kind);
    expect(new Set(kinds).size).toBe(kinds.length);
    for (const { players = [], sections = [] } of TEMPLATES) {
      for (const { kind } of [...players, ...sections]) expect(kinds).toContain(kind);
    }
  });
});

describe('radiation', () => {
  it('says how far a microphone stands off the strong side', () => {
    const flute = { kind: 'flute', x: 0, y: 2, facingDeg: 180 };
    // A flute facing the audience radiates to its right: the audience's left.
    expect(offRadiatingSide(flute, { x: 0, y: 0 })?.offDeg).toBeCloseTo(90, 9);
    expect(offRadiatingSide(flute, { x: -3, y: 2 })?.offDeg).toBeCloseTo(0, 9);
    expect(offRadiatingSide(flute, { x: 0, y: 0 })?.facingForAxisDeg).toBeCloseTo(90, 9);
    expect(offRadiatingSide({ ...flute, kind: 'bassoon' }, { x: 0, y: 0 })).toBeNull();
    expect(offRadiatingSide({ ...flute, kind: 'thing' }, { x: 0, y: 0 })).toBeNull();
  });

  it('moves level and directivity with a lid, there and back', () => {
    const piano = newSource({ ...instrumentFields('grand piano') });
    const closed = { ...piano, ...withLid(piano, 'closed') };
    expect(closed.levelDb).toBe(piano.levelDb - 5);
    expect(withLid(closed, 'full-stick')).toEqual({
      lid: 'full-stick',
      levelDb: piano.levelDb,
      q: 1.8,
    });
  });
});

describe('wishes of players', () => {
  const session = (change: object) =>
    sessionFrom({
      sources: [
        {
          id: 'a',
          name: 'Alto',
          x: 0,
          y: 0,
          constraints: [
            { kind: 'sees', sourceId: 'b' },
            { kind: 'near', sourceId: 'b', mostM: 3 },
          ],
        },
        { id: 'b', name: 'Lead', x: 0, y: 2.5 },
        { id: 'c', name: 'Horn', x: 1, y: 1 },
      ],
      ...change,
    });

  it('are kept while the view is free and the distance small', () => {
    expect(violations(session({}))).toEqual([]);
  });

  it('name who stands in the way, and what', () => {
    const crowded = session({});
    const moved = crowded.sources.map((s) => (s.id === 'c' ? { ...s, x: 0.1, y: 1 } : s));
    expect(violations({ ...crowded, sources: moved })).toEqual([
      { sourceId: 'a', wish: 'sees b', message: 'Alto must see Lead; Horn stands in the way.' },
    ]);
    const column = { id: 'o', name: 'Column', kind: 'column', x: 0.3, y: 1.2, heightM: 4 };
    const behind = session({ venue: { obstacles: [{ ...column, turnDeg: 45 }] } });
    expect(violations(behind)[0]?.message).toContain('Column stands in the way');
    const low = session({ venue: { obstacles: [{ ...column, heightM: 0.5 }] } });
    expect(violations(low)).toEqual([]);
    const aside = session({ venue: { obstacles: [{ ...column, x: 2 }] } });
    expect(violations(aside)).toEqual([]);
  });

  it('measure the distance, and the row of a section', () => {
    const far = session({});
    const away = far.sources.map((s) => (s.id === 'b' ? { ...s, y: 3.5 } : s));
    expect(violations({ ...far, sources: away })[0]?.message).toMatch(/within 3\.00 m.*3\.50 m/);
    const [first] = sectionSources(arc, ids());
    if (!first) throw new Error('a singer is needed');
    const inRow = { ...first, constraints: [{ kind: 'row' as const }] };
    const choir = sessionFrom({ sections: [arc], sources: [inRow] });
    expect(violations(choir)).toEqual([]);
    expect(
      violations(sessionFrom({ sections: [arc], sources: [{ ...inRow, y: inRow.y - 0.5 }] })),
    ).toHaveLength(1);
  });
});
