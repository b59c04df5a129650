import { describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { JOURNALS } from '../../core/session';
import { enter } from './journals';
import { planOf } from './plan';
import { edit, sessionStore, undo } from './session-store';
import { openSession } from '../fixtures';

const session = () => {
  const { session: open } = sessionStore.getState();
  if (!open) throw new Error('none is open');
  return open;
};

describe('the plan of a session', () => {
  it('is the same object through any number of entries, and another one after an edit', () => {
    openSession(demoSession('2026-11-30T12:00:00Z'));
    const plan = planOf(session());
    const before = session();
    for (let i = 0; i < 100; i++) {
      enter('log', { kind: 'note', by: '', text: `${i}`, about: [] });
      enter('acknowledgements', { code: 'lid', name: 'A' });
    }
    expect(session()).not.toBe(before);
    expect(planOf(session())).toBe(plan);
    expect(planOf(plan)).toBe(plan);
    edit((draft) => void (draft.venue.temperatureC = 11));
    const changed = planOf(session());
    expect(changed).not.toBe(plan);
    expect(changed.venue.temperatureC).toBe(11);
    // Its players are the very objects of the session: whatever is remembered of them holds on.
    expect(changed.sources).toBe(session().sources);
    undo();
    expect(planOf(session()).venue).toEqual(plan.venue);
  });

  it('has no journals, and all else', () => {
    openSession(demoSession('2026-11-30T12:00:00Z'));
    enter('acknowledgements', { code: 'lid', name: 'A' });
    const plan = planOf(session());
    for (const journal of JOURNALS) expect(plan[journal]).toEqual([]);
    expect({ ...plan, acknowledgements: session().acknowledgements }).toEqual(session());
  });
});
