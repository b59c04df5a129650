import { beforeEach, describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { changeArray, changeSource } from './edits';
import { settle } from './things';
import {
  amendSession,
  append,
  asOneStep,
  beginGesture,
  committedDocument,
  edit,
  editOn,
  endStep,
  receive,
  redo,
  sessionStore,
  takeBackStep,
  undo,
} from './session-store';
import { choiceStore } from '../view/choice';
import { noticeStore } from '../view/notices';
import { openSession } from '../fixtures';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const session = () => {
  const open = sessionStore.getState().session;
  if (!open) throw new Error('a session is open');
  return open;
};
const depth = () => sessionStore.getState().past.length;
const xOf = (id: string) => session().sources.find((source) => source.id === id)?.x;

beforeEach(() => openSession(demo));

describe('the open session', () => {
  it('begins without a history', () => {
    expect(session()).toBe(demo);
    expect(depth()).toBe(0);
  });

  it('an edit is one step, leaves the old state alone and shares what did not change', () => {
    edit(changeSource('p1', { x: 1 }));
    expect(xOf('p1')).toBe(1);
    expect(demo.sources[0]?.x).toBe(-2.1);
    expect(session().sources[1]).toBe(demo.sources[1]);
    expect(session().arrays).toBe(demo.arrays);
    expect(depth()).toBe(1);
  });

  it('an edit that changes nothing is no step', () => {
    edit(changeSource('p1', { x: -2.1 }));
    edit(changeSource('nobody', { x: 5 }));
    expect(depth()).toBe(0);
  });

  it('undo and redo restore the very states, a hundred times over', () => {
    const states = [session()];
    for (let i = 1; i <= 120; i++) {
      edit(changeSource('p2', { y: i / 10 }));
      states.push(session());
    }
    for (let i = 119; i >= 0; i--) {
      undo();
      expect(session()).toBe(states[i]);
    }
    for (let i = 1; i <= 120; i++) {
      redo();
      expect(session()).toBe(states[i]);
    }
    redo();
    expect(session()).toBe(states[120]);
  });

  it('a new edit after an undo drops what could have been redone', () => {
    edit(changeSource('p1', { x: 1 }));
    undo();
    edit(changeSource('p1', { x: 2 }));
    redo();
    expect(xOf('p1')).toBe(2);
    undo();
    expect(session()).toBe(demo);
  });

  it('opening another session forgets the history', () => {
    edit(changeSource('p1', { x: 1 }));
    openSession({ ...demo, id: 'other' });
    undo();
    expect(session().id).toBe('other');
  });
});

describe('a gesture', () => {
  const entry = (id: string) => ({
    journal: 'acknowledgements' as const,
    entry: { id, at: '2026-11-23T12:00:00.000Z', strikes: '', amends: '', code: 'lid', name: 'A' },
  });

  it.each(['commit', 'cancel'] as const)(
    'goes on while entries come from here and from elsewhere, and its %s keeps them',
    (end) => {
      const before = xOf('p1');
      const drag = beginGesture();
      drag.edit(changeSource('p1', { x: 1 }));
      append(entry('mine'));
      receive({ kind: 'entry', ...entry('theirs') });
      expect([drag.ended, xOf('p1')]).toEqual([false, 1]);
      // What is stored meanwhile has the entries and not the drag.
      const stored = committedDocument()?.session;
      expect(stored?.acknowledgements).toHaveLength(2);
      expect(stored?.sources[0]?.x).toBe(before);
      drag.edit(changeSource('p1', { x: 2 }));
      drag[end]();
      expect(xOf('p1')).toBe(end === 'commit' ? 2 : before);
      expect(session().acknowledgements.map(({ id }) => id)).toEqual(['mine', 'theirs']);
      if (end === 'commit') undo();
      expect(xOf('p1')).toBe(before);
      expect(session().acknowledgements).toHaveLength(2);
    },
  );

  it('is held through a thousand entries from elsewhere', () => {
    const drag = beginGesture();
    for (let i = 1; i <= 1000; i++) {
      receive({ kind: 'entry', ...entry(`n${i}`) });
      if (i % 50 === 0) drag.edit(changeSource('p1', { x: i / 1000 }));
    }
    expect([drag.ended, xOf('p1'), depth()]).toEqual([false, 1, 0]);
    drag.commit();
    expect([xOf('p1'), depth(), session().acknowledgements.length]).toEqual([1, 1, 1000]);
  });

  it('is not touched by an entry that no file may hold', () => {
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 1 }));
    const bad = { ...entry('bad'), entry: { ...entry('bad').entry, code: 7 as never } };
    expect(() => receive({ kind: 'entry', ...bad })).toThrow(/acknowledgements/);
    expect([drag.ended, xOf('p1'), session().acknowledgements]).toEqual([false, 1, []]);
    drag.cancel();
  });

  it('moves in many steps and is undone as one', () => {
    const drag = beginGesture();
    for (let i = 1; i <= 30; i++) drag.edit(changeArray('main', { x: i / 100 }));
    expect(session().arrays[0]?.x).toBe(0.3);
    expect(depth()).toBe(0);
    drag.commit();
    expect(depth()).toBe(1);
    expect(session().arrays[0]?.x).toBe(0.3);
    undo();
    expect(session()).toBe(demo);
    redo();
    expect(session().arrays[0]?.x).toBe(0.3);
  });

  it('cancelled puts everything back and leaves no step', () => {
    edit(changeSource('p1', { x: 1 }));
    const before = session();
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 9 }));
    drag.cancel();
    expect(session()).toBe(before);
    expect(depth()).toBe(1);
    edit(changeSource('p1', { x: 3 }));
    expect(depth()).toBe(2);
  });

  it('that ends where it began is no step', () => {
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 9 }));
    drag.edit(changeSource('p1', { x: -2.1 }));
    drag.commit();
    expect(xOf('p1')).toBe(-2.1);
    expect(depth()).toBeLessThanOrEqual(1);
  });
});

describe('a gesture that nobody ended', () => {
  const alive = () => {
    expect(choiceStore.getState().dragging).toBe(false);
    const before = depth();
    edit(changeSource('p2', { x: 7.5 }));
    expect(depth()).toBe(before + 1);
    undo();
    expect(xOf('p2')).not.toBe(7.5);
  };

  it('is put back when another session is opened, and history goes on', () => {
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 9 }));
    openSession(demo);
    drag.edit(changeSource('p1', { x: 8 }));
    drag.commit();
    expect(session()).toBe(demo);
    alive();
  });

  it('is kept when the next begins or something else is edited, each a step of its own', () => {
    beginGesture().edit(changeSource('p1', { x: 9 }));
    const second = beginGesture();
    second.edit(changeSource('p1', { x: 10 }));
    edit(changeSource('p2', { x: 1 }));
    second.cancel();
    expect([xOf('p1'), xOf('p2'), depth()]).toEqual([10, 1, 3]);
    alive();
  });

  it('is taken back by undo, and the step before it stays', () => {
    edit(changeSource('p1', { x: 1 }));
    beginGesture().edit(changeSource('p1', { x: 9 }));
    undo();
    expect([xOf('p1'), depth()]).toEqual([1, 1]);
    alive();
  });

  it('is not what counts as edited', () => {
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 9 }));
    expect(committedDocument()?.session).toBe(demo);
    drag.commit();
    expect(committedDocument()?.session).toBe(session());
  });
});

describe('edits that belong together', () => {
  it('are one step under one key, until another edit, an end or a pause', () => {
    for (const x of [1, 2, 3]) editOn('nudge', changeSource('p1', { x }));
    expect(depth()).toBe(1);
    edit(changeSource('p2', { x: 1 }));
    editOn('nudge', changeSource('p1', { x: 4 }));
    expect(depth()).toBe(3);
    endStep('nudge');
    editOn('nudge', changeSource('p1', { x: 5 }));
    editOn('nudge', changeSource('p1', { x: 6 }), -1);
    expect(depth()).toBe(5);
    undo();
    expect(xOf('p1')).toBe(5);
  });

  it('typed in a field are taken back as if they had never been', () => {
    asOneStep('field', () => edit(changeSource('p1', { name: 'F' })));
    asOneStep('field', () => edit(changeSource('p1', { name: 'Fl' })));
    expect(depth()).toBe(1);
    expect(takeBackStep('field')).toBe(true);
    expect([session(), depth()]).toEqual([demo, 0]);
    expect(takeBackStep('field')).toBe(false);
  });
});

describe('what no file may hold', () => {
  const many = (count: number) => (draft: { sources: unknown[] }) => {
    for (let i = 0; i < count; i++) {
      draft.sources.push({ ...structuredClone(demo.sources[0]), id: `new${i}` });
    }
  };

  it('is refused as an edit and as a drag, said, and leaves no step', () => {
    expect(edit(many(492))).toBe(false);
    expect(edit(changeSource('p1', { x: 900 }))).toBe(false);
    expect(edit(changeSource('p1', { x: Number.NaN }))).toBe(false);
    expect(edit(changeArray('main', { tiltDeg: 91 }))).toBe(false);
    const drag = beginGesture();
    drag.edit(changeSource('p1', { x: 900 }));
    drag.commit();
    expect([session(), depth()]).toEqual([demo, 0]);
    const texts = noticeStore.getState().notices.map(({ text }) => text);
    expect(texts[0]).toMatch(
      /^Not done: a session holds up to 500 players, and that would be 501\.$/,
    );
    expect(texts.join()).toMatch(/sources\[0\]\.x: 900; allowed: a number from -200 to 200 m/);
  });

  it('is taken at its limits', () => {
    expect(edit(many(491))).toBe(true);
    expect(edit(changeSource('p1', { x: 200, widthM: 100, levelDb: 0 }))).toBe(true);
    expect(session().sources).toHaveLength(500);
  });

  it('does not let two entries have one id', () => {
    expect(edit((draft) => void draft.sources.push({ ...demo.sources[0] } as never))).toBe(false);
  });
});

describe('a name from another tab', () => {
  it('is in the session and in all its steps, and is no step itself', () => {
    edit(changeSource('p1', { x: 1 }));
    amendSession((draft) => void (draft.title = 'Renamed'));
    expect([session().title, depth()]).toEqual(['Renamed', 1]);
    undo();
    expect([session().title, xOf('p1')]).toEqual(['Renamed', -2.1]);
  });
});

describe('settling a position', () => {
  it('keeps millimetres and the session’s limits, and knows no negative zero', () => {
    expect(settle(1.23456)).toBe(1.235);
    expect(settle(1e6)).toBe(200);
    expect(settle(-1e6)).toBe(-200);
    expect(Object.is(settle(-0.0001), 0)).toBe(true);
  });
});
