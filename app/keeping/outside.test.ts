// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from 'vitest';

const DAY_MS = 86_400_000;
const NOW = Date.parse('2026-12-01T12:00:00.000Z');
const at = (daysAgo: number): string => new Date(NOW - daysAgo * DAY_MS).toISOString();
const session = (daysAgo: number, deletedAt: string | null = null) => ({
  updatedAt: at(daysAgo),
  deletedAt,
});

async function fresh(stored: unknown) {
  localStorage.clear();
  if (stored !== undefined) {
    localStorage.setItem(
      'rotunda-outside',
      typeof stored === 'string' ? stored : JSON.stringify(stored),
    );
  }
  vi.resetModules();
  return import('./outside');
}

describe('the reminder', () => {
  beforeEach(() => vi.useFakeTimers({ now: NOW }));

  it('comes when the chosen time has gone, and something changed since', async () => {
    const { reminderText } = await fresh(undefined);
    const of = (lastAt: string | null, days: number, laterAt = '') => ({
      ...{ lastAt, sinceAt: at(40), days, laterAt },
    });
    const sessions = [session(3), session(60), session(1, at(1))];
    expect(reminderText(of(at(15), 14), sessions, NOW)).toBe(
      'Nothing was kept outside this browser for 15 days; 1 session has changed since.',
    );
    expect(reminderText(of(at(13), 14), sessions, NOW)).toBeNull();
    expect(reminderText(of(at(14), 14), sessions, NOW)).not.toBeNull();
    expect(reminderText(of(at(15), 0), sessions, NOW)).toBeNull();
    expect(reminderText(of(at(2), 1), sessions, NOW)).toBeNull();
    expect(reminderText(of(null, 14), sessions, NOW)).toBe(
      'Nothing has ever been kept outside this browser, and it has held sessions for 40 days.',
    );
    expect(reminderText(of(null, 14), [], NOW)).toBeNull();
    expect(reminderText(of(at(15), 14, at(-0.5)), sessions, NOW)).toBeNull();
    expect(reminderText(of(at(15), 14, at(0.5)), sessions, NOW)).not.toBeNull();
  });

  it('keeps what was chosen, and takes no broken note for one', async () => {
    const first = await fresh(undefined);
    first.remindAfter(30);
    first.keptOutside();
    vi.resetModules();
    const { outsideStore } = await import('./outside');
    expect(outsideStore.getState()).toMatchObject({ days: 30, lastAt: at(0) });
    for (const broken of ['{', '[]', '{"days":-1,"lastAt":5}', 'null']) {
      const { outsideStore: store } = await fresh(broken);
      expect(store.getState()).toMatchObject({ days: 14, lastAt: null, laterAt: '' });
    }
    const { remindLater, reminderText, outsideStore: again } = await fresh({ lastAt: at(20) });
    expect(reminderText(again.getState(), [session(1)], NOW)).not.toBeNull();
    remindLater();
    expect(reminderText(again.getState(), [session(1)], NOW)).toBeNull();
    expect(reminderText(again.getState(), [session(1)], NOW + 1.1 * DAY_MS)).not.toBeNull();
  });
});
