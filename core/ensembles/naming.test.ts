import { describe, expect, it } from 'vitest';
import { newSource } from '../session';
import { renamedFor } from './naming';

const player = (id: string, name: string, kind: string, group = '') =>
  newSource({ id, name, kind, group });

describe('a player whose instrument becomes another', () => {
  it('is named after it where nobody had named him', () => {
    const all = [
      player('a', 'Player 1', ''),
      player('b', 'Violin', 'violin'),
      player('c', 'Oboe 2', 'oboe', 'Oboes'),
      player('d', 'Cello', 'cello', 'Celli'),
      player('e', 'Violin II', 'violin', 'Violins'),
    ];
    const of = (id: string, kind: string) => {
      const source = all.find((one) => one.id === id);
      if (!source) throw new Error('a player');
      return renamedFor(source, kind, all);
    };
    expect(of('a', 'violin')).toEqual({ name: 'Violin 2' });
    expect(of('c', 'violin')).toEqual({ name: 'Violin 2', group: 'Violins' });
    expect(of('d', 'double bass')).toEqual({ name: 'Double bass', group: '' });
    expect(of('e', 'viola')).toEqual({ name: 'Viola', group: '' });
    // What the catalogue does not know has no name to give.
    expect(of('a', 'musette')).toEqual({});
  });

  it('keeps a name and a section that somebody gave', () => {
    const anna = player('a', 'Anna', 'violin', 'Front desk');
    expect(renamedFor(anna, 'viola', [anna])).toEqual({});
    const mixed = player('b', 'Violin', 'violin', 'Front desk');
    expect(renamedFor(mixed, 'viola', [mixed])).toEqual({ name: 'Viola' });
  });
});
