import { useMemo } from 'react';
import { useStore } from 'zustand';
import { choiceStore } from '../view/choice';

const NOTHING_LIFTED: ReadonlySet<string> = new Set();

/** The players that are dragged just now; none while anything else moves with them. */
export function useLifted(): ReadonlySet<string> {
  const dragging = useStore(choiceStore, (state) => state.dragging);
  const selected = useStore(choiceStore, (state) => state.selected);
  return useMemo(
    () =>
      dragging && selected.every(({ kind }) => kind === 'source')
        ? new Set(selected.map(({ id }) => id))
        : NOTHING_LIFTED,
    [dragging, selected],
  );
}
