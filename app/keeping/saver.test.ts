import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newSession, type Session } from '../../core/session';
import { moved, stepOf, type Doc, type Move } from '../document/steps';
import { Saver, type SaverParts, type SaveState } from './saver';
import type { LoadResult, SaveResult } from './storage';

const bare = (session: Session): Doc => ({ session, past: [], future: [] });

const NOW = '2026-11-23T12:00:00.000Z';
const first = newSession('a', 'First', NOW);
const other = newSession('b', 'Other', NOW);

/** A page and a database in memory; saves take as long as asked. */
class World {
  doc: Doc | null = null;
  /** what a drag began with, while it is held */
  held: Doc | null = null;
  stored = new Map<string, { session: Session; doc: Doc; revision: number; deleted?: boolean }>();
  leftovers = new Map<
    string,
    { tabId: string; session: unknown; base: number; moves: readonly Move[] }
  >();
  follows = false;
  aside: string[] = [];
  said: string[] = [];
  states: SaveState[] = [];
  saveMs = 0;
  /** a session that takes long to load */
  slow = '';
  refusing = false;
  alive = new Set<string>();
  typed: (() => void) | null = null;
  readonly saver: Saver;

  constructor() {
    for (const session of [first, other]) {
      this.stored.set(session.id, { session, doc: bare(session), revision: 1 });
    }
    const put = (doc: Doc): SaveResult => {
      const { session } = doc;
      const revision = (this.stored.get(session.id)?.revision ?? 0) + 1;
      this.stored.set(session.id, { session, doc, revision });
      return { kind: 'saved', revision, title: session.title };
    };
    const parts: SaverParts = {
      current: () => this.held ?? this.doc,
      open: (doc) => (this.doc = doc),
      retitle: (title) => (this.open = this.open && { ...this.open, title }),
      settle: () => this.typed?.(),
      load: async (id): Promise<LoadResult> => {
        if (this.slow === id) await new Promise((done) => setTimeout(done, 300));
        const known = this.stored.get(id);
        return Promise.resolve(
          known && !known.deleted
            ? { kind: 'found', ...known.doc, ...known, unstored: false }
            : { kind: 'missing' },
        );
      },
      save: async (doc, base) => {
        const { session } = doc;
        await new Promise((done) => setTimeout(done, this.saveMs));
        const known = this.stored.get(session.id);
        if (this.refusing) return { kind: 'failed', full: true, message: 'full' };
        if (!known || known.deleted) return { kind: 'deleted' };
        return known.revision === base ? put(doc) : { kind: 'conflict' };
      },
      replace: (doc) => Promise.resolve(put(doc)),
      standing: (id) => {
        const known = this.stored.get(id);
        return Promise.resolve(
          known
            ? { kind: 'stored', revision: known.revision, deleted: known.deleted === true }
            : { kind: 'missing' },
        );
      },
      keepAside: (session, note) => {
        this.aside.push(`${session.title}: ${session.brief.notes}`);
        return Promise.resolve(`${session.title} (${note})`);
      },
      writeLeftover: (session, base, moves) => {
        this.leftovers.set('me', { tabId: 'me', session, base, moves });
        return true;
      },
      clearLeftover: (_id, tabId = 'me') => void this.leftovers.delete(tabId),
      readLeftovers: (id, revision) =>
        [...this.leftovers.values()]
          .filter(({ session }) => !session || (session as Session).id === id)
          .map(({ base, ...left }) => ({ ...left, current: base === revision })),
      isAlive: (tabId) => Promise.resolve(this.alive.has(tabId)),
      follows: () => this.follows,
      show: (state) => void this.states.push(state),
      tell: (text) => void this.said.push(text),
      now: () => NOW,
    };
    this.saver = new Saver(parts);
  }

  type(notes: string): void {
    if (!this.doc) throw new Error('nothing is open');
    const made = stepOf(this.doc.session, (draft) => void (draft.brief.notes = notes));
    if (!made) return;
    const move: Move = { kind: 'step', step: made.step };
    this.doc = moved(this.doc, move);
    this.saver.did(move);
    this.saver.changed();
  }

  get open(): Session | null {
    return this.doc?.session ?? null;
  }

  set open(session: Session | null) {
    this.doc = session && this.doc && { ...this.doc, session };
  }

  notesOf(id: string): string {
    return this.stored.get(id)?.session.brief.notes ?? '';
  }

  get state(): string {
    return this.states[this.states.length - 1]?.kind ?? '';
  }
}

let world: World;
beforeEach(async () => {
  vi.useFakeTimers();
  world = new World();
  await opening('a');
});
afterEach(() => vi.useRealTimers());
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

async function opening(id: string): Promise<void> {
  const opened = world.saver.open(id);
  await pass(1000);
  await opened;
}

describe('saving', () => {
  it('is never starved: whatever the rate of editing, nothing older than half a second is open', async () => {
    for (const [everyMs, saveMs] of [
      [30, 5],
      [60, 40],
      [210, 90],
      [1000, 5],
    ] as const) {
      world.saveMs = saveMs;
      const made: { notes: string; at: number }[] = [];
      for (let i = 0; i < 60; i++) {
        const notes = `${everyMs} ${i}`;
        world.type(notes);
        made.push({ notes, at: performance.now() });
        await pass(everyMs);
        const index = made.findIndex((edit) => edit.notes === world.notesOf('a'));
        const oldestOpen = made[index + 1];
        const age = oldestOpen ? performance.now() - oldestOpen.at : 0;
        expect(age, `edits ${everyMs} ms apart`).toBeLessThanOrEqual(500);
      }
      await pass(1000);
      expect(world.notesOf('a')).toBe(`${everyMs} 59`);
    }
  });

  it('takes an edit made during a save with it when another session is opened', async () => {
    world.saveMs = 200;
    world.type('before');
    await pass(150);
    expect(world.state).toBe('saving');
    world.type('during the save');
    const opening = world.saver.open('b');
    await pass(1000);
    await opening;
    expect(world.notesOf('a')).toBe('during the save');
    expect(world.open?.id).toBe('b');
  });

  it('says “saved” only when what is open is stored', async () => {
    world.saveMs = 100;
    world.type('x');
    await pass(130);
    world.type('y');
    await pass(95);
    expect(world.notesOf('a')).toBe('x');
    expect(world.state).not.toBe('saved');
    await pass(400);
    expect([world.notesOf('a'), world.state]).toEqual(['y', 'saved']);
  });

  it('leaves a drag that is still held out, and takes what was done before it', async () => {
    world.type('before the drag');
    world.held = world.doc;
    world.type('half way');
    await pass(1000);
    expect(world.notesOf('a')).toBe('before the drag');
    world.held = null;
    world.saver.changed();
    await pass(1000);
    expect(world.notesOf('a')).toBe('half way');
  });

  it('hands over what is being typed before it saves, leaves or opens another', async () => {
    world.typed = () => world.open?.brief.notes !== 'typed' && world.type('typed');
    await opening('b');
    expect(world.notesOf('a')).toBe('typed');
  });

  it('opens what was asked for last, however long the other takes to load', async () => {
    world.slow = 'b';
    const first = world.saver.open('b');
    const second = world.saver.open('a');
    await pass(1000);
    await Promise.all([first, second]);
    expect(world.open?.id).toBe('a');
    world.type('mine');
    await pass(1000);
    expect(world.notesOf('a')).toBe('mine');
  });

  it('leaves a name that was given here to the history', async () => {
    if (world.open) world.open = { ...world.open, title: 'Given here' };
    const given = world.open;
    world.saver.changed();
    await pass(1000);
    expect(world.stored.get('a')?.session.title).toBe('Given here');
    // Nothing was amended: the open session is the very object that the edit made.
    expect(world.open).toBe(given);
  });

  it('tries again by itself while the database refuses, and keeps what is open', async () => {
    world.refusing = true;
    world.type('x');
    await pass(600);
    expect(world.state).toBe('failed');
    world.type('y');
    world.refusing = false;
    await pass(6000);
    expect([world.notesOf('a'), world.state]).toEqual(['y', 'saved']);
  });

  it('leaves it behind when another session is opened while the database refuses', async () => {
    world.refusing = true;
    world.type('kept');
    await pass(600);
    await opening('b');
    world.refusing = false;
    await opening('a');
    expect(world.open?.brief.notes).toBe('kept');
  });
});

describe('what a closed page left behind', () => {
  const leave = (notes: string, base: number, tabId = 'gone') => {
    const session = { ...first, brief: { ...first.brief, notes } };
    world.leftovers.set(tabId, { tabId, session, base, moves: [] });
  };

  it('is taken over and stored where nothing was saved since', async () => {
    leave('unsaved', 1);
    await world.saver.open('a');
    expect(world.open?.brief.notes).toBe('unsaved');
    await pass(1000);
    expect(world.notesOf('a')).toBe('unsaved');
    expect(world.leftovers.size).toBe(0);
  });

  it('is kept as a copy where something was, and where a second page left something too', async () => {
    leave('late', 0, 'late');
    leave('one', 1, 'one');
    leave('two', 1, 'two');
    await world.saver.open('a');
    expect(world.open?.brief.notes).toBe('one');
    expect(world.aside).toEqual(['First: late', 'First: two']);
    expect(world.said).toHaveLength(2);
  });

  it('is no copy where the last save of that page came through after all', async () => {
    world.type('stored in the end');
    await pass(1000);
    leave('stored in the end', 1);
    await world.saver.open('a');
    expect(world.open?.brief.notes).toBe('stored in the end');
    expect(world.aside).toEqual([]);
    expect(world.leftovers.size).toBe(0);
  });

  it('comes back with its steps of undo, also where there was room for the moves alone', async () => {
    world.type('stored');
    await pass(1000);
    world.type('left');
    world.type('left behind');
    world.saver.leave();
    const [left] = [...world.leftovers.values()];
    for (const session of [left?.session ?? null, null]) {
      const next = new World();
      next.stored = world.stored;
      const known = next.stored.get('a');
      if (known) next.stored.set('a', { ...known, revision: 2 });
      next.leftovers.set('gone', { tabId: 'gone', session, base: 2, moves: left?.moves ?? [] });
      await next.saver.open('a');
      expect(next.open?.brief.notes).toBe('left behind');
      expect(next.doc?.past).toHaveLength(3);
      expect(next.doc && moved(next.doc, { kind: 'undo' }).session.brief.notes).toBe('left');
    }
  });

  it('is left alone while the page that wrote it is still there', async () => {
    leave('its own', 1);
    world.alive.add('gone');
    await world.saver.open('a');
    expect(world.open?.brief.notes).toBe('');
    expect(world.leftovers.has('gone')).toBe(true);
  });
});

describe('a tab that follows', () => {
  it('stores nothing, takes over what it is shown, and knows the revision for when it writes', async () => {
    world.follows = true;
    const [theirs, revision] = [stepOf(first, (draft) => void (draft.brief.notes = 'theirs')), 5];
    if (!theirs) throw new Error('a change');
    world.saver.shown({ session: theirs.session, past: [theirs.step], future: [] }, revision);
    world.type('heard from there');
    await pass(2000);
    expect([world.open?.brief.notes, world.notesOf('a')]).toEqual(['heard from there', '']);
    await world.saver.heard({ kind: 'saved', id: 'a', revision: 6 });
    expect(world.saver.revisionOf('a')).toBe(6);
    expect(world.open?.brief.notes).toBe('heard from there');
  });
});

describe('other tabs', () => {
  const elsewhere = (notes: string) => {
    const known = world.stored.get('a');
    if (!known) throw new Error('not stored');
    const session = { ...known.session, brief: { ...known.session.brief, notes } };
    world.stored.set('a', { session, doc: bare(session), revision: known.revision + 1 });
    return { kind: 'saved', id: 'a', revision: known.revision + 1 } as const;
  };

  it('are followed while nothing here is unsaved', async () => {
    await world.saver.heard(elsewhere('theirs'));
    expect(world.open?.brief.notes).toBe('theirs');
    world.type('and mine');
    await pass(1000);
    expect([world.notesOf('a'), world.state]).toEqual(['and mine', 'saved']);
  });

  it('are never overwritten: both changed is a conflict that waits for a choice', async () => {
    world.type('mine');
    await world.saver.heard(elsewhere('theirs'));
    expect(world.state).toBe('conflict');
    world.type('mine, more');
    await pass(5000);
    expect(world.notesOf('a')).toBe('theirs');
    await world.saver.replaceStored();
    expect(world.notesOf('a')).toBe('mine, more');
    await pass(500);
    expect(world.state).toBe('saved');
  });

  it('give a name without a conflict', async () => {
    world.type('mine');
    await world.saver.heard({ kind: 'renamed', id: 'a', title: 'Renamed' });
    await pass(1000);
    expect(world.open?.title).toBe('Renamed');
    expect([world.notesOf('a'), world.state]).toEqual(['mine', 'saved']);
  });

  it('delete: the page asks, “bring back” brings back, “leave it” leaves it', async () => {
    const known = world.stored.get('a');
    if (known) known.deleted = true;
    await world.saver.heard({ kind: 'deleted', id: 'a' });
    expect(world.state).toBe('deleted');
    world.type('mine');
    await pass(2000);
    expect(world.stored.get('a')?.deleted).toBe(true);
    expect(await world.saver.takeStored()).toBe(false);
    await world.saver.replaceStored();
    expect([world.notesOf('a'), world.state]).toEqual(['mine', 'saved']);
  });

  it('are caught up with after a sleep', async () => {
    elsewhere('while asleep');
    await world.saver.look();
    expect(world.open?.brief.notes).toBe('while asleep');
    world.type('mine');
    elsewhere('again');
    await world.saver.look();
    expect(world.state).toBe('conflict');
  });
});
