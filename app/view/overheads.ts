import { createStore } from 'zustand/vanilla';

/** What the search for equal distances goes by: it stays while other pages are looked at. */
export interface Equidistant {
  form: 'mirrored' | 'over-side';
  anchorId: string;
  otherId: string;
  /** the first microphone from the anchor, m, and the line of the second */
  numbers: { right: number; back: number; up: number; sideUp: number; sideBack: number };
}

export const EQUIDISTANT: Equidistant = {
  form: 'mirrored',
  anchorId: '',
  otherId: '',
  numbers: { right: -0.5, back: 0, up: 1.2, sideUp: 0.4, sideBack: -0.3 },
};

/** For each array its own. */
export const overheadsStore = createStore<{ byArray: Readonly<Record<string, Equidistant>> }>(
  () => ({ byArray: {} }),
);

export const keepEquidistant = (arrayId: string, now: Equidistant): void =>
  overheadsStore.setState(({ byArray }) => ({ byArray: { ...byArray, [arrayId]: now } }));
