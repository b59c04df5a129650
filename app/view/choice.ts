import { createStore } from 'zustand/vanilla';

/** What is chosen and looked at: never stored in a session, never undone. */
export interface Selection {
  kind: 'source' | 'array' | 'obstacle' | 'seats' | 'datum' | 'corner';
  id: string;
}

export interface Choice {
  /** what was chosen last of all that is selected; null when nothing is */
  selection: Selection | null;
  /** all that is selected, the one chosen last at the end */
  selected: readonly Selection[];
  hoveredSourceId: string | null;
  /** a drag on a drawing is going on */
  dragging: boolean;
  /** the one that is worked on at the Array station; null: the one that rules the floor */
  activeArrayId: string | null;
  /** from which the floor is ruled, by an act of its own; null: the first main array in use */
  ruledFromId: string | null;
  /** which the image line shows; null: the one that rules the floor */
  lineArrayId: string | null;
  /** candidate whose images stand as ghosts on the image line */
  ghostId: string | null;
  /** the image line shows one array, or the estimate of the whole mix */
  imageLineOf: 'array' | 'mix';
}

export const choiceStore = createStore<Choice>(() => ({
  selection: null,
  selected: [],
  hoveredSourceId: null,
  dragging: false,
  activeArrayId: null,
  ruledFromId: null,
  lineArrayId: null,
  ghostId: null,
  imageLineOf: 'array',
}));

/** Another session is opened: nothing of it is chosen yet. */
export function chooseNothing(): void {
  select(null);
  choiceStore.setState({
    hoveredSourceId: null,
    activeArrayId: null,
    ruledFromId: null,
    lineArrayId: null,
    ghostId: null,
  });
}

export const same = (a: Selection | null | undefined, b: Selection | null | undefined): boolean =>
  a?.kind === b?.kind && a?.id === b?.id;

/** An array that is chosen is the one that is worked on, wherever it was chosen. */
export function selectMany(selected: readonly Selection[]): void {
  const selection = selected[selected.length - 1] ?? null;
  choiceStore.setState({
    selected,
    selection,
    ...(selection?.kind === 'array' ? { activeArrayId: selection.id } : {}),
  });
}

export const select = (selection: Selection | null): void =>
  selectMany(selection ? [{ kind: selection.kind, id: selection.id }] : []);

/** Adds one to what is selected, or takes it out. */
export function toggleSelected(one: Selection): void {
  const { selected } = choiceStore.getState();
  const others = selected.filter((entry) => !same(entry, one));
  selectMany(
    others.length < selected.length ? others : [...selected, { kind: one.kind, id: one.id }],
  );
}

export const isSelected = (selected: readonly Selection[], kind: string, id: string): boolean =>
  selected.some((entry) => entry.kind === kind && entry.id === id);

export function hover(hoveredSourceId: string | null): void {
  if (choiceStore.getState().hoveredSourceId !== hoveredSourceId) {
    choiceStore.setState({ hoveredSourceId });
  }
}
