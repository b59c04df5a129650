import { createStore } from 'zustand/vanilla';

/** A short message, with at most one thing to do about it. */
export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
  /** a later message of the same key takes its place */
  key?: string;
}

export const noticeStore = createStore<{ notices: Notice[] }>(() => ({ notices: [] }));

const NOTICE_MS = 9000;

export function dismiss(id: number): void {
  noticeStore.setState(({ notices }) => ({
    notices: notices.filter((notice) => notice.id !== id),
  }));
}

/** Nothing is said of what was before. */
export const dismissAll = (): void => noticeStore.setState({ notices: [] });

/** What a message said is no longer so. */
export function dismissKeyed(key: string): void {
  noticeStore.setState(({ notices }) => ({
    notices: notices.filter((notice) => notice.key !== key),
  }));
}

/** Says what went wrong with something that was asked for. */
export function notifyFailure(error: unknown): void {
  notify(error instanceof Error ? error.message : 'That did not work.');
}

/**
 * Says something for a while. The same words are not said twice at once.
 * @param key a message of the same key gives way to this one
 */
export function notify(text: string, action?: Notice['action'], key?: string): void {
  const { notices } = noticeStore.getState();
  const id = Math.max(0, ...notices.map((notice) => notice.id)) + 1;
  const others = notices.filter((notice) =>
    key === undefined ? notice.text !== text : notice.key !== key,
  );
  const notice = { id, text, ...(action ? { action } : {}), ...(key === undefined ? {} : { key }) };
  noticeStore.setState({ notices: [...others, notice] });
  setTimeout(() => dismiss(id), NOTICE_MS);
}
