import { useMemo } from 'react';
import { useStore } from 'zustand';
import { uiStore } from '../view/ui-store';

const NOTHING_LIFTED: ReadonlySet<string> = new Set();

/** The players that are dragged just now; none while anything else moves with them. */
export function useLifted(): ReadonlySet<string> {
  const dragging = useStore(uiStore, (state) => state.dragging);
  const selected = useStore(uiStore, (state) => state.selected);
  return useMemo(
    () =>
      dragging && selected.every(({ kind }) => kind === 'source')
        ? new Set(selected.map(({ id }) => id))
        : NOTHING_LIFTED,
    [dragging, selected],
  );
}
