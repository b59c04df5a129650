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
    // Another tab, which knows nothing of the folding, adds one at the same place as this one does.
    await keepEntries({ ...session, acknowledgements: [...list, entry('there')] });
    await saveSession({ ...session, acknowledgements: [...list, entry('here')] }, 1);
    expect(await keysOf()).toHaveLength(3);
    const loaded = await loadSession(session.id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    const ids = loaded.session.acknowledgements.map(({ id }) => id);
    expect(ids.slice(0, 300)).toEqual(list.map(({ id }) => id));
    expect(ids.slice(300).sort()).toEqual(['here', 'there']);
  });

  it('stand at all times: one that goes away while it is folded is not lost, nor there twice', async () => {
    const list = Array.from({ length: 200 }, (_, i) => entry(`e${i}`));
    const session = { ...fresh('half folded'), acknowledgements: list };
    const remove = vi.spyOn(IDBObjectStore.prototype, 'delete').mockImplementation(() => {
      throw new DOMException('gone', 'AbortError');
    });
    await addSession(session).catch(() => undefined);
    remove.mockRestore();
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
