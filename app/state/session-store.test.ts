import { beforeEach, describe, expect, it } from 'vitest';
import { demoSession } from '../../core/session';
import { changeArray, changeSource } from './edits';
import { settle } from './things';
import { beginGesture, edit, openSession, redo, sessionStore, undo } from './session-store';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const session = () => {
  const open = sessionStore.getState().session;
  if (!open) throw new Error('a session is open');
  return open;
};
const depth = () => sessionStore.temporal.getState().pastStates.length;
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

describe('settling a position', () => {
  it('keeps millimetres and the session’s limits, and knows no negative zero', () => {
    expect(settle(1.23456)).toBe(1.235);
    expect(settle(1e6)).toBe(200);
    expect(settle(-1e6)).toBe(-200);
    expect(Object.is(settle(-0.0001), 0)).toBe(true);
  });
});
