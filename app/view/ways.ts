import { createStore } from 'zustand/vanilla';

/** The way to another page, for what stands outside of the pages; null while no session is shown. */
export const wayStore = createStore<{ go: ((path: string) => void) | null }>(() => ({ go: null }));
