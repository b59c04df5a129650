import { createStore } from 'zustand/vanilla';

/** What is looked at, not what is planned: never stored in a session, never undone. */
export interface Selection {
  kind: 'source' | 'array' | 'obstacle' | 'seats' | 'datum';
  id: string;
}

/** What a click on the floor does. */
export type FloorTool = 'select' | 'measure' | 'scale' | 'origin';
export type FloorView = 'plan' | 'section' | 'both' | 'table';

/** One end of the tape: something on the floor, or a point of it. */
export type MeasureEnd = Selection | { x: number; y: number };

/** Guides on the floor that can be switched off one by one. */
export interface FloorLayers {
  grid: 'polar' | 'square';
  zones: boolean;
  criticalDistance: boolean;
  equalDistance: boolean;
  seats: boolean;
}

export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

export interface UiState {
  /** what was chosen last of all that is selected; null when nothing is */
  selection: Selection | null;
  /** all that is selected, the one chosen last at the end */
  selected: readonly Selection[];
  tool: FloorTool;
  /** the dialog that adds ensembles; null while it is closed */
  ensembleDialog: 'template' | 'section' | null;
  floorView: FloorView;
  layers: FloorLayers;
  /** ends of the tape of the measure tool, at most two */
  measure: readonly MeasureEnd[];
  /** where the dragged mark has settled, and why */
  snapped: { x: number; y: number; reasons: readonly string[] } | null;
  /** marks settle on grid, angles, symmetry and equal distances */
  snap: boolean;
  /** the image line shows one array, or the estimate of the whole mix */
  imageLineOf: 'array' | 'mix';
  imageLineUnit: 'percent' | 'degrees';
  /** candidate whose images stand as ghosts on the image line */
  ghostId: string | null;
  hoveredSourceId: string | null;
  /** a drag on a drawing is going on */
  dragging: boolean;
  /** null: the first enabled main array */
  activeArrayId: string | null;
  inspectorOpen: boolean;
  imageLineOpen: boolean;
  paletteOpen: boolean;
  /** what is typed in the palette, also before it was there to take it */
  paletteText: string;
  notices: Notice[];
  /** fields whose typed content is not valid, by key `source:ID:field` */
  invalid: Readonly<Record<string, string>>;
}

export const uiStore = createStore<UiState>(() => ({
  selection: null,
  selected: [],
  tool: 'select',
  ensembleDialog: null,
  floorView: 'plan',
  layers: {
    grid: 'polar',
    zones: true,
    criticalDistance: true,
    equalDistance: true,
    seats: true,
  },
  measure: [],
  snapped: null,
  snap: true,
  imageLineOf: 'array',
  imageLineUnit: 'percent',
  ghostId: null,
  hoveredSourceId: null,
  dragging: false,
  activeArrayId: null,
  inspectorOpen: true,
  imageLineOpen: true,
  paletteOpen: false,
  paletteText: '',
  notices: [],
  invalid: {},
}));

export const same = (a: Selection | null | undefined, b: Selection | null | undefined): boolean =>
  a?.kind === b?.kind && a?.id === b?.id;

export function selectMany(selected: readonly Selection[]): void {
  uiStore.setState({ selected, selection: selected[selected.length - 1] ?? null });
}

export const select = (selection: Selection | null): void =>
  selectMany(selection ? [{ kind: selection.kind, id: selection.id }] : []);

/** Adds one to what is selected, or takes it out. */
export function toggleSelected(one: Selection): void {
  const { selected } = uiStore.getState();
  const others = selected.filter((entry) => !same(entry, one));
  selectMany(
    others.length < selected.length ? others : [...selected, { kind: one.kind, id: one.id }],
  );
}

/** Puts down one end of the tape; a third end begins anew. */
export function measureFrom(end: MeasureEnd): void {
  uiStore.setState(({ measure }) => ({
    measure: measure.length === 1 ? [...measure, end] : [end],
  }));
}

export function chooseTool(tool: FloorTool): void {
  uiStore.setState({ tool, measure: [] });
}

export const isSelected = (selected: readonly Selection[], kind: string, id: string): boolean =>
  selected.some((entry) => entry.kind === kind && entry.id === id);

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

/** Says what went wrong with something that was asked for. */
export function notifyFailure(error: unknown): void {
  notify(error instanceof Error ? error.message : 'That did not work.');
}

export function notify(text: string, action?: Notice['action']): void {
  const id = Math.max(0, ...uiStore.getState().notices.map((notice) => notice.id)) + 1;
  uiStore.setState(({ notices }) => ({
    notices: [...notices, action ? { id, text, action } : { id, text }],
  }));
  setTimeout(() => dismiss(id), NOTICE_MS);
}
