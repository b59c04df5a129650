// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { describe, expect, it, vi } from 'vitest';
import { newSession } from '../../core/session';
import { entryKeys, keepEntries } from './entries';
import {
  addSession,
  listSessions,
  loadSession,
  rawSession,
  removeForGood,
  saveSession,
  setDeleted,
} from './storage';

const NOW = '2026-11-23T12:00:00.000Z';
let count = 0;
const fresh = (title = 'T') => newSession(`e${(count += 1)}`, title, NOW);

describe('journals', () => {
  const entry = (id: string, change: object = {}) => ({
    id,
    at: NOW,
    strikes: '',
    amends: '',
    code: 'lid',
    name: 'A',
    ...change,
  });

  it('are records of their own: one more writes one, and the session row holds none', async () => {
    const session = { ...fresh('read'), acknowledgements: [entry('one')] };
    await addSession(session);
    const put = vi.spyOn(IDBObjectStore.prototype, 'put');
    const more = { ...session, acknowledgements: [entry('one'), entry('two', { strikes: 'one' })] };
    await saveSession(more, 1);
    // The entry, the session, and what a list shows of it.
    expect(put).toHaveBeenCalledTimes(3);
    expect(JSON.stringify(put.mock.calls[1])).not.toContain('strikes":"one');
    put.mockRestore();
    expect(await loadSession(session.id)).toMatchObject({
      session: { acknowledgements: [{ id: 'one' }, { id: 'two' }] },
    });
  });

  it('are folded once they are many: one record, none lost, and two tabs may add at once', async () => {
    const list = Array.from({ length: 300 }, (_, i) => entry(`e${i}`));
    const session = { ...fresh('folded'), acknowledgements: list };
    await addSession(session);
    const keysOf = async () =>
      (await entryKeys()).filter((key) => key.startsWith(`${session.id}/`));
    expect(await keysOf()).toHaveLength(1);
    // One by one they are folded as well, in time.
    for (let i = 0; i < 2; i++) {
      const more = Array.from({ length: 20 * (i + 1) }, (_, k) => entry(`later ${k}`));
      await saveSession({ ...session, acknowledgements: [...list, ...more] }, 1 + i);
      expect(await keysOf()).toHaveLength(i === 0 ? 21 : 2);
    }
    await removeForGood(session.id);
    await addSession(session);
    // Another tab, which knows nothing of the folding, adds one at the same place as this one does.
    const there = { ...session, acknowledgements: [...list, entry('there')] };
    await keepEntries(there, () => 'there');
    await saveSession({ ...session, acknowledgements: [...list, entry('here')] }, 1);
    expect(await keysOf()).toHaveLength(3);
    const loaded = await loadSession(session.id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    const ids = loaded.session.acknowledgements.map(({ id }) => id);
    expect(ids.slice(0, 300)).toEqual(list.map(({ id }) => id));
    expect(ids.slice(300).sort()).toEqual(['here', 'there']);
  });

  it('stand at all times: one that goes away while it is folded is not lost, nor there twice', async () => {
    const list = Array.from({ length: 40 }, (_, i) => entry(`e${i}`));
    const session = { ...fresh('half folded'), acknowledgements: list.slice(0, 20) };
    await addSession(session);
    const remove = vi.spyOn(IDBObjectStore.prototype, 'delete').mockImplementation(() => {
      throw new DOMException('gone', 'AbortError');
    });
    const saved = await saveSession({ ...session, acknowledgements: list }, 1);
    expect(saved).toMatchObject({ kind: 'saved' });
    expect(remove).toHaveBeenCalled();
    remove.mockRestore();
    const keys = (await entryKeys()).filter((key) => key.startsWith(`${session.id}/`));
    expect(keys).toHaveLength(41);
    const loaded = await loadSession(session.id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    expect(loaded.session.acknowledgements.map(({ id }) => id)).toEqual(list.map(({ id }) => id));
  });

  it('go with the session to another identity, and with it for good', async () => {
    const session = { ...fresh('moving'), acknowledgements: [entry('one')] };
    await addSession(session);
    await setDeleted(session.id, NOW);
    await addSession({ ...session, acknowledgements: [] });
    expect(await loadSession(session.id)).toMatchObject({ session: { acknowledgements: [] } });
    const { sessions } = await listSessions();
    const old = sessions.find(({ title, deletedAt }) => title === 'moving' && deletedAt !== null);
    await setDeleted(old?.id ?? '', null);
    expect(await loadSession(old?.id ?? '')).toMatchObject({
      session: { acknowledgements: [{ id: 'one' }] },
    });
    await removeForGood(old?.id ?? '');
    expect(await rawSession(old?.id ?? '')).toBeNull();
  });
});
