// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { demoSession, newSession, writeSessionText } from '../../core/session';
import { clearJournal, readJournal, writeJournal } from './journal';
import {
  addSession,
  copyOf,
  duplicateStored,
  ensureDemo,
  importAsCopy,
  importText,
} from './library';
import {
  listSessions,
  loadSession,
  removeForGood,
  saveSession,
  sessionExists,
  setDeleted,
} from './storage';

const NOW = '2026-11-23T12:00:00.000Z';
let count = 0;
const fresh = (title = 'T') => newSession(`s${(count += 1)}`, title, NOW);

describe('storing', () => {
  it('keeps a session and counts its saves', async () => {
    const session = fresh();
    expect(await saveSession(session, null)).toEqual({ kind: 'saved', revision: 1 });
    expect(await saveSession({ ...session, title: 'U' }, 1)).toEqual({
      kind: 'saved',
      revision: 2,
    });
    expect(await loadSession(session.id)).toMatchObject({
      kind: 'found',
      revision: 2,
      session: { title: 'U' },
    });
  });

  it('refuses a save on an outdated revision and leaves what is stored alone', async () => {
    const session = fresh('mine');
    await saveSession(session, null);
    await saveSession({ ...session, title: 'theirs' }, 1);
    expect(await saveSession({ ...session, title: 'late' }, 1)).toEqual({ kind: 'conflict' });
    expect(await loadSession(session.id)).toMatchObject({ session: { title: 'theirs' } });
    expect(await saveSession({ ...session, title: 'on purpose' }, null)).toMatchObject({
      revision: 3,
    });
  });

  it('deletes so that it can be undone, and for good only when told', async () => {
    const session = fresh('gone');
    await saveSession(session, null);
    await setDeleted(session.id, NOW);
    expect(await sessionExists(session.id)).toBe(false);
    expect(await loadSession(session.id)).toEqual({ kind: 'missing' });
    const listed = (await listSessions()).find(({ id }) => id === session.id);
    expect(listed).toMatchObject({ title: 'gone', deletedAt: NOW });
    await setDeleted(session.id, null);
    expect(await sessionExists(session.id)).toBe(true);
    await removeForGood(session.id);
    expect((await listSessions()).some(({ id }) => id === session.id)).toBe(false);
  });

  it('says what is wrong with stored content that no longer fits', async () => {
    const broken = { ...fresh(), sources: [{ x: 1e9 }] };
    await saveSession(broken as never, null);
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
    const before = (await listSessions()).length;
    expect(await importText('{"format":"rotunda-session","version":1,"sources":7}')).toMatchObject({
      kind: 'refused',
      problems: [{ path: 'sources' }],
    });
    expect((await listSessions()).length).toBe(before);
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
    await saveSession({ ...demoSession(NOW), title: 'changed by me' }, null);
    expect(await ensureDemo()).toBe(id);
    expect(await loadSession(id)).toMatchObject({ session: { title: 'changed by me' } });
  });
});

describe('the journal of what was not saved', () => {
  it('is current on the revision it was made on, outdated on another, and can be cleared', () => {
    const session = fresh('unsaved');
    expect(readJournal(session.id, 1)).toBeNull();
    writeJournal(session, 1);
    expect(readJournal(session.id, 1)).toEqual({ session, current: true });
    expect(readJournal(session.id, 2)).toEqual({ session, current: false });
    clearJournal(session.id);
    expect(readJournal(session.id, 1)).toBeNull();
  });

  it('that was damaged is no journal', () => {
    localStorage.setItem('rotunda-unsaved-x', '{"sess');
    expect(readJournal('x', 1)).toBeNull();
  });
});
