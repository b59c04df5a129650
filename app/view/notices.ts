import { createStore } from 'zustand/vanilla';

/** A short message, with at most one thing to do about it. */
export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

export const noticeStore = createStore<{ notices: Notice[] }>(() => ({ notices: [] }));

const NOTICE_MS = 9000;

export function dismiss(id: number): void {
  noticeStore.setState(({ notices }) => ({
    notices: notices.filter((notice) => notice.id !== id),
  }));
}

/** Says what went wrong with something that was asked for. */
export function notifyFailure(error: unknown): void {
  notify(error instanceof Error ? error.message : 'That did not work.');
}

export function notify(text: string, action?: Notice['action']): void {
  const id = Math.max(0, ...noticeStore.getState().notices.map((notice) => notice.id)) + 1;
  noticeStore.setState(({ notices }) => ({
    notices: [...notices, action ? { id, text, action } : { id, text }],
  }));
  setTimeout(() => dismiss(id), NOTICE_MS);
}
