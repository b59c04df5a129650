// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { Blob as NodeBlob } from 'node:buffer';
import { describe, expect, it, vi } from 'vitest';
import { newSession, writeSessionText } from '../../core/session';
import { demoSession } from '../../core/demo';
import { clearLeftover, readLeftovers, writeLeftover } from './leftovers';
import { moved, stepOf, type Doc } from '../document/steps';
import { blobContent, takeInBlob, withContents, withReferences } from './blobs';
import { copyOf, duplicateStored, ensureDemo, importAsCopy, importText } from './library';
import {
  addSession,
  listSessions,
  loadSession,
  removeForGood,
  renameSession,
  replaceSession,
  saveSession,
  sessionExists,
  setDeleted,
  tidyBlobs,
  unstoredStore,
} from './storage';
import { markedSummaries, markSummary, summaries } from './summaries';

// The one of the test's page cannot be stored.
vi.stubGlobal('Blob', NodeBlob);

const NOW = '2026-11-23T12:00:00.000Z';
let count = 0;
const fresh = (title = 'T') => newSession(`s${(count += 1)}`, title, NOW);

describe('storing', () => {
  it('keeps a session and counts its saves', async () => {
    const session = fresh();
    expect(await addSession(session)).toEqual({ kind: 'saved', revision: 1, title: 'T' });
    expect(await saveSession({ ...session, title: 'U' }, 1)).toEqual({
      kind: 'saved',
      revision: 2,
      title: 'U',
    });
    expect(await loadSession(session.id)).toMatchObject({
      kind: 'found',
      revision: 2,
      session: { title: 'U' },
    });
  });

  it('refuses a save on an outdated revision and leaves what is stored alone', async () => {
    const session = fresh('mine');
    await addSession(session);
    await saveSession({ ...session, title: 'theirs' }, 1);
    expect(await saveSession({ ...session, title: 'late' }, 1)).toEqual({ kind: 'conflict' });
    expect(await loadSession(session.id)).toMatchObject({ session: { title: 'theirs' } });
    expect(await replaceSession({ ...session, title: 'on purpose' })).toMatchObject({
      revision: 3,
    });
  });

  it('deletes so that it can be undone, and for good only when told', async () => {
    const session = fresh('gone');
    await addSession(session);
    await setDeleted(session.id, NOW);
    expect(await sessionExists(session.id)).toBe(false);
    expect(await loadSession(session.id)).toEqual({ kind: 'missing' });
    const listed = (await listSessions()).sessions.find(({ id }) => id === session.id);
    expect(listed).toMatchObject({ title: 'gone', deletedAt: NOW });
    await setDeleted(session.id, null);
    expect(await sessionExists(session.id)).toBe(true);
    await removeForGood(session.id);
    expect((await listSessions()).sessions.some(({ id }) => id === session.id)).toBe(false);
  });

  it('says what is wrong with stored content that no longer fits', async () => {
    const broken = { ...fresh(), sources: [{ x: 1e9 }] };
    await addSession(broken as never);
    expect(await loadSession(broken.id)).toMatchObject({
      kind: 'damaged',
      problems: [{ path: 'sources[0].x' }],
    });
  });
});

describe('taking in files', () => {
  it('imports, asks on a clash, and keeps both under two identities', async () => {
    const session = fresh('file');
    const text = writeSessionText(session);
    expect(await importText(text)).toEqual({ kind: 'imported', id: session.id });
    const again = await importText(text);
    expect(again.kind).toBe('clash');
    const copy = await importAsCopy(session);
    expect(copy).not.toBe(session.id);
    expect(await loadSession(copy)).toMatchObject({ session: { title: 'file (imported)' } });
  });

  it('refuses a bad file with its problems and stores nothing', async () => {
    const before = (await listSessions()).sessions.length;
    expect(await importText('{"format":"rotunda-session","version":1,"sources":7}')).toMatchObject({
      kind: 'refused',
      problems: [{ path: 'sources' }],
    });
    expect((await listSessions()).sessions.length).toBe(before);
  });

  it('gives a file without an identity one', async () => {
    const result = await importText('{"format":"rotunda-session","version":1}');
    expect(result.kind === 'imported' && result.id.length).toBeGreaterThan(10);
  });
});

describe('copies and the demo', () => {
  it('duplicates a stored session, and knows when there is none', async () => {
    const session = fresh('first');
    await addSession(session);
    const id = await duplicateStored(session.id);
    expect(await loadSession(id ?? '')).toMatchObject({ session: { title: 'first (copy)' } });
    expect(await duplicateStored('nobody')).toBeNull();
    expect(copyOf(session, 'x').title).toBe('first (x)');
  });

  it('makes the demo once and then leaves it as the user left it', async () => {
    const id = await ensureDemo();
    await replaceSession({ ...demoSession(NOW), title: 'changed by me' });
    expect(await ensureDemo()).toBe(id);
    expect(await loadSession(id)).toMatchObject({ session: { title: 'changed by me' } });
  });
});

describe('what was not saved', () => {
  it('is current on the revision it was made on, outdated on another, and can be cleared', () => {
    const session = fresh('unsaved');
    expect(readLeftovers(session.id, 1)).toEqual([]);
    expect(writeLeftover(session, 1, [])).toBe(true);
    expect(readLeftovers(session.id, 1)).toMatchObject([{ session, current: true }]);
    expect(readLeftovers(session.id, 2)).toMatchObject([{ session, current: false }]);
    clearLeftover(session.id);
    expect(readLeftovers(session.id, 1)).toEqual([]);
  });

  it('of two tabs are two', () => {
    const session = fresh('two tabs');
    writeLeftover(session, 1, [], 'first');
    writeLeftover({ ...session, title: 'other' }, 1, [], 'second');
    writeLeftover(fresh('another session'), 1, [], 'first');
    const left = readLeftovers(session.id, 1);
    expect(left.map(({ tabId }) => tabId).sort()).toEqual(['first', 'second']);
  });

  it('that was damaged is nothing', () => {
    localStorage.setItem('rotunda-unsaved:t:x', '{"sess');
    expect(readLeftovers('x', 1)).toEqual([]);
  });
});

describe('names, deletion and other tabs', () => {
  it('takes a new name from elsewhere without a conflict, unless this tab gave one too', async () => {
    const session = fresh('old');
    await addSession(session);
    await renameSession(session.id, 'new');
    expect(await saveSession({ ...session, createdAt: 'x' }, 1, 'old')).toEqual({
      kind: 'saved',
      revision: 2,
      title: 'new',
    });
    await renameSession(session.id, 'newer');
    expect(await saveSession({ ...session, title: 'mine' }, 2, 'new')).toMatchObject({
      kind: 'saved',
      title: 'mine',
    });
  });

  it('says that a session was deleted, and never brings it back by saving', async () => {
    const session = fresh('to go');
    await addSession(session);
    await setDeleted(session.id, NOW);
    expect(await saveSession(session, 1)).toEqual({ kind: 'deleted' });
    expect(await loadSession(session.id)).toEqual({ kind: 'missing' });
    await setDeleted(session.id, null);
    expect(await saveSession(session, 1)).toMatchObject({ kind: 'saved', revision: 2 });
    await removeForGood(session.id);
    expect(await saveSession(session, 2)).toEqual({ kind: 'deleted' });
  });

  it('leaves an edited one under Deleted when one of the same identity comes in', async () => {
    const session = fresh('edited long ago');
    await addSession(session);
    await setDeleted(session.id, NOW);
    await addSession({ ...session, title: 'fresh' });
    const { sessions } = await listSessions();
    expect(sessions.find(({ id }) => id === session.id)).toMatchObject({
      title: 'fresh',
      deletedAt: null,
    });
    expect(sessions.find(({ title }) => title === 'edited long ago')?.deletedAt).toBe(NOW);
  });

  it('gives a stored session that no address can name another identity', async () => {
    const session = { ...fresh('strange'), id: 'a/b' };
    await addSession(session);
    const listed = (await listSessions()).sessions.find(({ title }) => title === 'strange');
    expect(listed?.id).toMatch(/^[0-9a-f-]{36}$/);
    expect(await loadSession(listed?.id ?? '')).toMatchObject({ kind: 'found' });
  });
});

describe('contents beside the sessions', () => {
  const underlay = (picture: string) => ({
    picture,
    widthPx: 10,
    heightPx: 10,
    x: 0,
    y: 0,
    metresPerPixel: 0.01,
    opacityPct: 45,
  });
  const inFile = (letter: string) => {
    const session = fresh(`picture ${letter}`);
    const picture = `data:image/png;base64,${letter.repeat(40)}`;
    return { ...session, venue: { ...session.venue, underlay: underlay(picture) } };
  };
  const opened = async (id: string) => {
    const loaded = await loadSession(id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    return loaded;
  };
  const taken = async (letter: string) => {
    const result = await importText(writeSessionText(inFile(letter)));
    if (result.kind !== 'imported') throw new Error(result.kind);
    return (await opened(result.id)).session;
  };

  it('are taken out of a file, stored once, referred to by hash, and stand in a file again', async () => {
    const [one, two] = [await taken('A'), await taken('A')];
    const [reference] = one.blobs;
    expect(one.venue.underlay?.picture).toBe(reference?.id);
    expect(reference).toMatchObject({ type: 'image/png', bytes: 30, data: null });
    expect(two.blobs).toEqual(one.blobs);
    expect(writeSessionText(one)).not.toContain('AAAAAAAA');
    const whole = await withContents(one);
    expect(whole.blobs[0]?.data).toBe('A'.repeat(40));
    const again = await withReferences(whole);
    expect(again.blobs).toEqual(one.blobs);
  });

  it('go an hour after nothing refers to them: neither session, nor undo, nor Deleted', async () => {
    const kept = await taken('C');
    const inUndo = await taken('D');
    const deleted = await taken('E');
    const gone = await taken('F');
    const bare = { ...inUndo, blobs: [], venue: { ...inUndo.venue, underlay: null } };
    const made = stepOf(inUndo, (draft) => void Object.assign(draft, bare));
    if (!made) throw new Error('a change');
    const history = { past: [made.step], future: [] };
    expect(await saveSession(made.session, 1, null, history)).toMatchObject({ kind: 'saved' });
    await setDeleted(deleted.id, NOW);
    await removeForGood(gone.id);
    expect(await tidyBlobs(Date.now() + 1000)).toBe(0);
    const later = Date.now() + 3_700_000;
    // Those of the tests before stay as well: their sessions are here.
    expect(await tidyBlobs(later)).toBe(1);
    expect(await tidyBlobs(later)).toBe(0);
    const { past, session } = await opened(inUndo.id);
    const before = moved({ session, past, future: [] }, { kind: 'undo' }).session;
    expect(before.blobs).toEqual(inUndo.blobs);
    expect((await opened(kept.id)).session.blobs).toHaveLength(1);
  });

  it('of long ago, stored as bytes, are read as they were', async () => {
    const hash = 'ab'.repeat(32);
    const { tableNamed } = await import('./database');
    const content = new Uint8Array([1, 2, 3]);
    await tableNamed('blobs').set(hash, { type: 'image/png', content, at: NOW });
    const found = await blobContent(hash);
    expect(found?.content.type).toBe('image/png');
    expect(new Uint8Array((await found?.content.arrayBuffer()) ?? new ArrayBuffer(0))).toEqual(
      content,
    );
    await tableNamed('blobs').remove(hash);
  });

  it('are kept where a kept text names them, and go with it', async () => {
    const session = await taken('G');
    const picture = session.blobs[0]?.hash ?? '';
    const version = JSON.stringify({ plan: { blobs: [{ hash: picture }] } });
    const plan = await takeInBlob(new Blob([version], { type: 'application/json' }), 'plan');
    const bare = { ...session, blobs: [plan], venue: { ...session.venue, underlay: null } };
    expect(await replaceSession(bare)).toMatchObject({ kind: 'saved' });
    const later = Date.now() + 3_700_000;
    expect(await tidyBlobs(later)).toBe(0);
    expect(await blobContent(picture)).not.toBeNull();
    await replaceSession({ ...bare, blobs: [] });
    expect(await tidyBlobs(later)).toBe(2);
  });
});

describe('the history', () => {
  it('is stored with the session: its last hundred steps, there and back', async () => {
    const session = fresh('steps');
    await addSession(session);
    let doc: Doc = { session, past: [], future: [] };
    for (let i = 1; i <= 130; i++) {
      const made = stepOf(doc.session, (draft) => void (draft.brief.notes = `${i}`));
      if (made) doc = moved(doc, { kind: 'step', step: made.step });
    }
    for (let i = 0; i < 3; i++) doc = moved(doc, { kind: 'undo' });
    await saveSession(doc.session, 1, null, doc);
    let loaded = await loadSession(session.id);
    if (loaded.kind !== 'found') throw new Error(loaded.kind);
    expect([loaded.past.length, loaded.future.length]).toEqual([100, 3]);
    let again: Doc = loaded;
    for (let i = 0; i < 3; i++) again = moved(again, { kind: 'redo' });
    expect(again.session.brief.notes).toBe('130');
    for (let i = 0; i < 103; i++) again = moved(again, { kind: 'undo' });
    expect(again.session.brief.notes).toBe('27');
    await replaceSession(session);
    loaded = await loadSession(session.id);
    expect(loaded).toMatchObject({ past: [], future: [] });
  });
});

describe('a list of sessions', () => {
  it('reads no session, and shows what is stored after any way a page may go', async () => {
    const session = fresh('listed');
    await addSession(session);
    await listSessions();
    const get = vi.spyOn(IDBObjectStore.prototype, 'get');
    const title = async () =>
      (await listSessions()).sessions.find(({ id }) => id === session.id)?.title;
    expect(await title()).toBe('listed');
    const tables = get.mock.contexts.map((store) => (store as IDBObjectStore).name);
    expect(new Set(tables)).toEqual(new Set(['summaries']));
    get.mockRestore();
    // As after a page that went away after the session was written and before its summary.
    const before = await summaries.get(session.id);
    await saveSession({ ...session, title: 'renamed' }, 1);
    if (before) await summaries.set(session.id, before);
    markSummary(session.id);
    expect(await title()).toBe('renamed');
    expect(markedSummaries().has(session.id)).toBe(false);
  });
});

describe('a database that was taken away under the page', () => {
  it('gets the session back with its entries and contents', async () => {
    const picture = await takeInBlob(new Blob(['a plan'], { type: 'image/png' }), 'Plan');
    const session = {
      ...fresh('taken away'),
      blobs: [picture],
      acknowledgements: [{ id: 'one', at: NOW, strikes: '', amends: '', code: 'lid', name: 'A' }],
    };
    await addSession(session);
    const { tableNamed } = await import('./database');
    for (const name of ['sessions', 'summaries', 'entries', 'blobs']) {
      const table = tableNamed(name);
      for (const key of await table.keys()) await table.remove(key);
    }
    expect(await saveSession(session, 1)).toEqual({ kind: 'deleted' });
    expect(await replaceSession(session)).toMatchObject({ kind: 'saved' });
    expect(await loadSession(session.id)).toMatchObject({
      session: { blobs: [picture], acknowledgements: [{ id: 'one' }] },
    });
    expect(await tableNamed('blobs').keys()).toEqual([picture.hash]);
  });
});

describe('a database that refuses', () => {
  it('keeps the session in the page, says so, and stores it when it can again', async () => {
    const session = fresh('refused');
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    });
    expect(await addSession(session)).toMatchObject({ kind: 'failed', full: true });
    expect(await loadSession(session.id)).toMatchObject({ kind: 'found', unstored: true });
    const listed = (await listSessions()).sessions.find(({ id }) => id === session.id);
    expect(listed?.unstored).toBe(true);
    put.mockRestore();
    expect(await saveSession(session, 0)).toMatchObject({ kind: 'saved', revision: 1 });
    expect(unstoredStore.getState().byId.has(session.id)).toBe(false);
    expect(await loadSession(session.id)).toMatchObject({ kind: 'found', unstored: false });
  });
});
