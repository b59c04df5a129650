import { createStore } from 'zustand/vanilla';

/** The page that each station was left on, by the station's address. */
export const pageStore = createStore<{ last: Readonly<Record<string, string>> }>(() => ({
  last: {},
}));

export function rememberPage(station: string, page: string): void {
  pageStore.setState(({ last }) => ({ last: { ...last, [station]: page } }));
}
