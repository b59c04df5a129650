import { newId } from '../document/new-id';
import type { Doc, Move } from '../document/steps';

/** This page among the other tabs of the same browser: who is alive, who says what. */

export type TabMessage =
  | { kind: 'saved'; id: string; revision: number }
  | { kind: 'renamed'; id: string; title: string }
  | { kind: 'deleted'; id: string }
  | { kind: 'back'; id: string }
  /** the writing tab did something, the nth since it began to write */
  | { kind: 'did'; id: string; n: number; move: Move }
  /** a tab wants to follow: the writing one says what is there */
  | { kind: 'asks'; id: string }
  | { kind: 'shows'; id: string; n: number; revision: number; doc: Doc }
  /** an entry for a journal, from whichever tab */
  | { kind: 'entered'; id: string; move: Move & { kind: 'entry' } }
  /** a tab wants to write */
  | { kind: 'wants to write'; id: string }
  | { kind: 'keeps writing'; id: string };

export const TAB_ID = newId();

const lockOf = (tabId: string): string => `rotunda-tab-${tabId}`;
const hasLocks = (): boolean => typeof navigator !== 'undefined' && 'locks' in navigator;

// Held for as long as the page lives; the browser lets go of it when the page ends in any way.
if (hasLocks()) void navigator.locks.request(lockOf(TAB_ID), () => new Promise(() => undefined));

/** Whether another tab is still open; null where the browser cannot tell. */
export async function isAlive(tabId: string): Promise<boolean | null> {
  if (!hasLocks()) return null;
  const { held = [] } = await navigator.locks.query();
  return held.some(({ name }) => name === lockOf(tabId));
}

/** One at a time over all tabs; where there are no locks, one at a time in this page. */
const queues = new Map<string, Promise<unknown>>();

export function exclusively<T>(name: string, work: () => Promise<T>): Promise<T> {
  if (hasLocks()) return navigator.locks.request(`rotunda-${name}`, work);
  const before = queues.get(name) ?? Promise.resolve();
  const mine = before.then(work, work);
  const settled = mine.catch(() => undefined);
  queues.set(name, settled);
  void settled.then(() => queues.get(name) === settled && queues.delete(name));
  return mine;
}

const channel =
  typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('rotunda-sessions');

export function tellTabs(message: TabMessage): void {
  channel?.postMessage(message);
}

export function hearTabs(listener: (message: TabMessage) => void): void {
  channel?.addEventListener('message', (event: MessageEvent<TabMessage>) => listener(event.data));
}
