import { describe, expect, it } from 'vitest';
import { matters, standing } from './journals';
import { readSession } from './read';

const entry = (id: string, change: { strikes?: string; amends?: string } = {}) => ({
  id,
  strikes: '',
  amends: '',
  ...change,
});

describe('a journal', () => {
  it('keeps all that was said, and knows what stands', () => {
    const entries = [
      entry('a'),
      entry('b'),
      entry('a2', { amends: 'a' }),
      entry('x', { strikes: 'b' }),
      entry('a3', { amends: 'a2' }),
      entry('c', { amends: 'nobody' }),
    ];
    expect(standing(entries).map(({ id }) => id)).toEqual(['a3', 'c']);
    expect(matters(entries).map(({ history }) => history.map(({ id }) => id))).toEqual([
      ['a', 'a2', 'a3'],
      ['b', 'x'],
      ['c'],
    ]);
  });

  it('can take a striking back by another entry', () => {
    const entries = [entry('a'), entry('x', { strikes: 'a' }), entry('y', { amends: 'x' })];
    expect(standing(entries).map(({ id }) => id)).toEqual(['y']);
  });

  it('takes over cautions that a file of version 1 kept in its rig', () => {
    const rig = { headroomDb: 12, acknowledged: [{ code: 'lid', name: 'A', at: '2026-01-01' }] };
    const read = readSession({ format: 'rotunda-session', version: 1, rig });
    expect(read.ok && read.session.acknowledgements).toMatchObject([
      { id: 'read1', code: 'lid', name: 'A', at: '2026-01-01', strikes: '', amends: '' },
    ]);
    expect(read.ok && read.session.rig).not.toHaveProperty('acknowledged');
    expect(read.ok && read.session.rig.headroomDb).toBe(12);
  });
});
