import { createStore } from 'zustand/vanilla';

/** What is looked at, not what is planned: never stored in a session, never undone. */
export interface Selection {
  kind: 'source' | 'array';
  id: string;
}

export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

export interface UiState {
  selection: Selection | null;
  hoveredSourceId: string | null;
  /** a drag on a drawing is going on */
  dragging: boolean;
  /** null: the first enabled main array */
  activeArrayId: string | null;
  inspectorOpen: boolean;
  playbackOpen: boolean;
  paletteOpen: boolean;
  notices: Notice[];
  /** fields whose typed content is not valid, by key `source:ID:field` */
  invalid: Readonly<Record<string, string>>;
}

export const uiStore = createStore<UiState>(() => ({
  selection: null,
  hoveredSourceId: null,
  dragging: false,
  activeArrayId: null,
  inspectorOpen: true,
  playbackOpen: true,
  paletteOpen: false,
  notices: [],
  invalid: {},
}));

export const select = (selection: Selection | null): void => uiStore.setState({ selection });

export function hover(hoveredSourceId: string | null): void {
  if (uiStore.getState().hoveredSourceId !== hoveredSourceId) {
    uiStore.setState({ hoveredSourceId });
  }
}

export function setInvalid(key: string, message: string | null): void {
  uiStore.setState(({ invalid }) => {
    if ((invalid[key] ?? null) === message) return {};
    const { [key]: _gone, ...others } = invalid;
    return { invalid: message === null ? others : { ...others, [key]: message } };
  });
}

const NOTICE_MS = 9000;

export function dismiss(id: number): void {
  uiStore.setState(({ notices }) => ({ notices: notices.filter((notice) => notice.id !== id) }));
}

export function notify(text: string, action?: Notice['action']): void {
  const id = Math.max(0, ...uiStore.getState().notices.map((notice) => notice.id)) + 1;
  uiStore.setState(({ notices }) => ({
    notices: [...notices, action ? { id, text, action } : { id, text }],
  }));
  setTimeout(() => dismiss(id), NOTICE_MS);
}
