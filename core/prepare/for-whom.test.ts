import { describe, expect, it } from 'vitest';
import { newArray, newSource, type MicArray } from '../session';
import { forWhomText, playersOf } from './for-whom';

const SPEED = 343;
const single = (pattern: 'omni' | 'cardioid' | 'figure-eight'): MicArray['technique'] => ({
  kind: 'single',
  pattern,
});
const players = [
  newSource({ id: 'a', name: 'Flute', x: -1, y: 2, z: 1.2, levelDb: 80 }),
  newSource({ id: 'b', name: 'Oboe', x: 0, y: 2, z: 1.2, levelDb: 80 }),
  newSource({ id: 'c', name: 'Timpani', x: 0.4, y: 4, z: 1, levelDb: 120, widthM: 1.6 }),
  newSource({ id: 'd', name: 'Viola 1', x: 3, y: 2, group: 'Violas' }),
  newSource({ id: 'e', name: 'Viola 2', x: 3.6, y: 2.4, group: 'Violas' }),
];
const idsOf = (array: MicArray, list = players): string[] =>
  playersOf(array, list, SPEED).map(({ id }) => id);
const spot = (change: Partial<MicArray>): MicArray =>
  newArray({
    id: 's',
    role: 'spot',
    x: 0,
    y: 1.4,
    z: 1.5,
    technique: single('cardioid'),
    ...change,
  });

describe('for whom an array is', () => {
  it.each(['main', 'outrigger', 'ambience', 'surround'] as const)('%s: everybody', (role) => {
    expect(playersOf(newArray({ id: 'm', role }), players, SPEED)).toBe(players);
  });

  it('a spot: whom it hears nearest, however loud another is', () => {
    expect(idsOf(spot({}))).toEqual(['b']);
    expect(idsOf(spot({ x: -0.9 }))).toEqual(['a']);
    expect(idsOf(spot({ x: 0.4, y: 3.2, z: 1.2 }))).toEqual(['c']);
  });

  it('a spot that is turned away is for the one whom it is turned to', () => {
    // The oboe is nearer, behind a cardioid or beside a figure-eight.
    const between = { y: 2.5, z: 1.2, aimDeg: 15 };
    expect(idsOf(spot(between))).toEqual(['c']);
    expect(idsOf(spot({ ...between, technique: single('omni') }))).toEqual(['b']);
    expect(idsOf(spot({ x: 0.4, y: 2, z: 1.2, technique: single('figure-eight') }))).toEqual(['c']);
  });

  it('overheads: the instrument below, a wide one by its edge', () => {
    const over = newArray({ id: 'o', role: 'overhead', x: 0.1, y: 3.1, z: 2.4, tiltDeg: -90 });
    expect(idsOf(over)).toEqual(['c']);
    expect(idsOf({ ...over, x: -0.2, y: 2.2 })).toEqual(['b']);
  });

  it('those who are chosen, in the order of the list, sections as a whole', () => {
    const chosen = (sources: string[], groups: string[] = []): MicArray =>
      spot({ for: { kind: 'some', groups, sources } });
    expect(idsOf(chosen(['c', 'a']))).toEqual(['a', 'c']);
    expect(idsOf(chosen([], ['Violas']))).toEqual(['d', 'e']);
    expect(idsOf(chosen(['gone']))).toEqual(['b']);
    expect(idsOf(spot({ for: { kind: 'all' } }))).toHaveLength(5);
  });

  it('nobody where nobody is, and one at the capsule itself where one is', () => {
    expect(idsOf(spot({}), [])).toEqual([]);
    const at = newSource({ id: 'at', x: 0, y: 1.4, z: 1.5 });
    expect(idsOf(spot({}), [...players, at])).toEqual(['at']);
  });

  it('is told by name, briefly', () => {
    const text = (array: MicArray, list = players): string => forWhomText(array, list, SPEED);
    expect(text(newArray({ id: 'm' }))).toBe('everybody');
    expect(text(spot({}))).toBe('Oboe');
    expect(text(spot({ for: { kind: 'some', groups: [], sources: ['a', 'b', 'c', 'd'] } }))).toBe(
      'Flute, Oboe and 2 more',
    );
    expect(text(spot({}), [])).toBe('nobody yet');
    expect(
      text(spot({ for: { kind: 'some', groups: [], sources: players.map(({ id }) => id) } })),
    ).toBe('everybody');
  });
});
