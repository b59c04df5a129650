import { describe, expect, it } from 'vitest';
import { matters, standing } from './journals';
import { flag, oneOf, record, text } from './fields';
import { readSession } from './read';
import { sessionFrom } from './create';
import { LOG_KINDS } from './schema-journals';
import { versionText } from './version';

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

describe('a kind of entry', () => {
  it('is one line of the table: read, checked and kept by it', () => {
    const kinds = LOG_KINDS as Record<string, unknown>;
    kinds.weather = record({
      id: text(100).default(''),
      kind: oneOf(['weather']),
      rain: flag().default(false),
    });
    try {
      const read = readSession({
        format: 'rotunda-session',
        version: 2,
        log: [{ kind: 'weather' }, { kind: 'weather', rain: 'cats' }],
      });
      expect(!read.ok && read.problems.map(({ path }) => path)).toEqual(['log[1].rain']);
      const right = readSession({
        format: 'rotunda-session',
        version: 2,
        log: [{ kind: 'weather' }],
      });
      expect(right.ok && right.session.log[0]).toMatchObject({ kind: 'weather', rain: false });
    } finally {
      delete kinds.weather;
    }
    // And without it, it is kept as it is.
    const later = readSession({
      format: 'rotunda-session',
      version: 2,
      log: [{ kind: 'weather', rain: 'cats' }],
    });
    expect(later.ok && later.session.log[0]).toMatchObject({ kind: 'weather', rain: 'cats' });
  });
});

describe('a version of the plan', () => {
  const session = sessionFrom({ id: 's', title: 'Trio', updatedAt: '2026-12-01' });

  it('is one text for equal plans, whatever was said of them or saved meanwhile', () => {
    const later = {
      ...session,
      id: 'copy',
      updatedAt: '2026-12-02',
      log: [{ id: 'n', kind: 'note', text: 'Door closed' }] as never,
      blobs: [{ id: 'b-1', hash: '', type: '', bytes: 1, name: 'of an entry', data: null }],
    };
    expect(versionText(later)).toBe(versionText(session));
    const turned = Object.fromEntries(Object.entries(session).reverse()) as typeof session;
    expect(versionText(turned)).toBe(versionText(session));
    expect(versionText({ ...session, title: 'Quartet' })).not.toBe(versionText(session));
  });

  it('is read again as a session', () => {
    const read = readSession(JSON.parse(versionText(session)));
    expect(read.ok && read.session.title).toBe('Trio');
  });
});
