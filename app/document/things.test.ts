import { produce } from 'immer';
import { describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { sessionFrom, type Session } from '../../core/session';
import { enter } from './journals';
import { sessionStore } from './session-store';
import { removeThings, type Thing } from './things';
import { openSession } from '../fixtures';

const demo = demoSession('2026-12-01T00:00:00Z');
const [one, two, three] = demo.sources.map(({ id }) => id) as [string, string, string];
const at = { x: 0, y: 0, z: 0 };
const full: Session = sessionFrom({
  ...demo,
  sources: demo.sources.map((source) =>
    source.id === three
      ? {
          ...source,
          constraints: [
            { kind: 'near', sourceId: one },
            { kind: 'near', sourceId: two },
          ],
        }
      : source,
  ),
  venue: {
    ...demo.venue,
    obstacles: ['pillar', 'desk'].map((id) => ({ id, name: id, ...at, widthM: 1, depthM: 1 })),
    seats: ['block', 'row'].map((id) => ({ id, name: id, ...at, widthM: 4, depthM: 2 })),
  },
});

const without = (kind: Thing['kind'], id: string): Session =>
  produce(full, (draft) => removeThings(draft, [{ kind, id }]));
const ids = (list: readonly { id: string }[]): string[] => list.map(({ id }) => id);

describe('what is taken away', () => {
  it('an array takes its photographs along, and contents that nothing else names', () => {
    const [first, second] = ids(full.arrays) as [string, string];
    const shot = (id: string, arrayId: string, picture: string) => ({
      ...{ id, arrayId, picture, widthPx: 100, heightPx: 100 },
    });
    const blob = (id: string) => ({ id, hash: '0'.repeat(64), bytes: 1 });
    const session = sessionFrom({
      ...full,
      blobs: [blob('own'), blob('shared')],
      rig: {
        ...full.rig,
        photographs: [
          ...[shot('a', first, 'own'), shot('b', first, 'shared'), shot('c', second, 'shared')],
        ],
      },
    });
    const left = produce(session, (draft) => removeThings(draft, [{ kind: 'array', id: first }]));
    expect(ids(left.rig.photographs)).toEqual(['c']);
    expect(ids(left.blobs)).toEqual(['shared']);
  });

  it.each([
    ['obstacle', 'pillar', (session: Session) => ids(session.venue.obstacles), ['desk']],
    ['seats', 'block', (session: Session) => ids(session.venue.seats), ['row']],
    ['datum', 'a', (session: Session) => ids(session.venue.datumPoints), ['b']],
  ] as const)('%s: that one alone, and nothing of another kind', (kind, id, left, others) => {
    const after = without(kind, id);
    expect(left(after)).toEqual(others);
    for (const list of [
      (session: Session) => ids(session.sources),
      (session: Session) => ids(session.arrays),
      (session: Session) => ids(session.venue.obstacles),
      (session: Session) => ids(session.venue.seats),
      (session: Session) => ids(session.venue.datumPoints),
    ]) {
      const [was, is] = [list(full), list(after)];
      expect(is).toEqual(was.filter((each) => each !== id));
    }
  });

  it('a player goes with the wishes about him, and with no others', () => {
    const after = without('source', one);
    expect(ids(after.sources)).not.toContain(one);
    const wishes = after.sources.find(({ id }) => id === three)?.constraints ?? [];
    expect(wishes.map((wish) => (wish.kind === 'row' ? '' : wish.sourceId))).toEqual([two]);
  });
});

it('an entry that is said while no session is open is nowhere, and nothing breaks', () => {
  openSession(null);
  expect(enter('log', { kind: 'note', by: '', text: 'Nobody hears it', about: [] })).toBe('');
  expect(sessionStore.getState().session).toBeNull();
});
