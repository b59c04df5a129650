import { describe, expect, it } from 'vitest';
import { arrivalsOf, mixFigures } from '../analysis';
import { calmWith, DRUMS, PLAYERS } from '../fixtures/calm';
import { newSource, type Session } from '../session';
import { instrumentFields } from '../ensembles';
import { kitSet, presetFor, presetsFor, spotFor } from '.';

const put = (session: Session, ...arrays: Session['arrays']): Session => ({
  ...session,
  arrays: [...session.arrays, ...arrays],
});

describe('a spot for a player', () => {
  const session = calmWith({});
  const source = session.sources[4];
  if (!source) throw new Error('a player is expected');
  const spot = spotFor(session, source, 'new', 'Spot e');

  it('stands before and over it, looks at it, and is for it alone', () => {
    expect(spot).toMatchObject({ x: 2.1, y: 0.7, z: 1.8, role: 'spot', aimDeg: 0 });
    // Half a metre away and 0.6 m over it.
    expect(spot.tiltDeg).toBeCloseTo((-Math.atan2(0.6, 0.5) * 180) / Math.PI, 1);
    expect(spot.for).toEqual({ kind: 'some', groups: [], sources: ['e'] });
  });

  it('joins the main array: no lead left, and the player stays where it was', () => {
    const proposal = arrivalsOf(put(session, spot), source).proposals[0];
    expect(Math.abs(proposal?.leadsByMs ?? 9)).toBeLessThan(0.006);
    const before = mixFigures(session, source)?.image?.consensus?.shift ?? NaN;
    const after = mixFigures(put(session, spot), source)?.image?.consensus?.shift ?? NaN;
    expect(Math.abs(after - before)).toBeLessThan(0.05);
  });

  it('is only placed where there is no main array, or the player faces elsewhere', () => {
    const alone = { ...session, arrays: [] };
    expect(spotFor(alone, source, 'new', 'Spot').mix.capsules).toEqual([]);
    const turned = spotFor(alone, newSource({ ...source, facingDeg: 90 }), 'new', 'Spot');
    expect([turned.x, turned.y, turned.aimDeg]).toEqual([2.6, 1.2, -90]);
  });
});

describe('a set for a kit', () => {
  it('is a pair over it and two spots, each looking at its drum', () => {
    const session = calmWith({ sources: [...PLAYERS, DRUMS] });
    const drums = session.sources[5];
    if (!drums) throw new Error('a kit is expected');
    let next = 0;
    const set = kitSet(session, drums, () => `${(next += 1)}`);
    expect(set.map(({ name, role }) => [name, role])).toEqual([
      ['Player drums overheads', 'overhead'],
      ['Player drums bass drum', 'spot'],
      ['Player drums snare drum', 'spot'],
    ]);
    const [, bass, snare] = set;
    expect(bass).toMatchObject({ x: 4.5, y: 2.1, z: 0.35, aimDeg: 0, tiltDeg: 0 });
    expect(snare?.tiltDeg).toBeLessThan(-20);
    for (const { for: whom } of set) {
      expect(whom).toEqual({ kind: 'some', groups: [], sources: ['drums'] });
    }
  });
});

describe('microphones for one instrument', () => {
  const piano = newSource({
    ...instrumentFields('grand piano'),
    id: 'pno',
    name: 'Piano',
    x: -1,
    y: 3,
    z: 0.95,
  });
  const around: Session = { ...calmWith({}), sources: [piano] };

  it('are set out from its surface', () => {
    expect(spotFor(around, piano, 's', 'Spot').measuredFrom).toEqual({
      sourceId: 'pno',
      surface: 'strings',
    });
    const oboe = newSource({ id: 'o', kind: 'oboe' });
    expect(spotFor(around, oboe, 's', 'Spot').measuredFrom).toBeNull();
  });

  it('get level, delay and a narrow base in the image where they are a pair', () => {
    const guitar = newSource({
      ...instrumentFields('guitar'),
      id: 'g',
      name: 'Guitar',
      x: -1,
      y: 2,
    });
    const [preset] = presetsFor(guitar).filter(
      ({ array }) => array.role === 'spot' && array.technique.kind === 'pair',
    );
    if (!preset) throw new Error('a pair before a guitar');
    const heard: Session = { ...around, sources: [guitar] };
    const array = presetFor(heard, preset, guitar, 'p', 'Pair');
    const single = spotFor(heard, guitar, 's', 'Spot');
    expect(array.mix.faderDb).toBe(single.mix.faderDb);
    const [left, right] = array.mix.capsules;
    const middle = single.mix.capsules[0]?.pan ?? NaN;
    expect((right?.pan ?? NaN) - (left?.pan ?? NaN)).toBeCloseTo(0.4, 6);
    expect(((right?.pan ?? NaN) + (left?.pan ?? NaN)) / 2).toBeCloseTo(
      Math.max(-0.8, Math.min(0.8, middle)),
      1,
    );
    expect(left?.delayMs).toBeGreaterThan(0);
    expect(left?.delayMs).toBe(right?.delayMs);
  });
});
