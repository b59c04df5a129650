import { useDrag } from '@use-gesture/react';
import { useCallback, useEffect, useRef, type KeyboardEvent } from 'react';
import { changeArray, changeSource, settle } from '../state/edits';
import { beginGesture, edit, type Gesture, type Recipe } from '../state/session-store';
import { select, type Selection } from '../state/ui-store';

interface Mark extends Selection {
  x: number;
  y: number;
}

interface Running {
  gesture: Gesture;
  x: number;
  y: number;
  cancelled: boolean;
}

const toCentimetre = (metres: number): number => Math.round(metres * 100) / 100;

function moveTo({ kind, id }: Selection, x: number, y: number): Recipe {
  const place = { x: settle(x), y: settle(y) };
  return kind === 'source' ? changeSource(id, place) : changeArray(id, place);
}

/** Dragging players and arrays: one undoable step a drag, Escape puts the mark back. */
export function useMarkDrag(scale: number) {
  const running = useRef<Running | null>(null);

  useEffect(() => {
    function onKey(event: globalThis.KeyboardEvent) {
      const drag = running.current;
      if (event.key !== 'Escape' || !drag || drag.cancelled) return;
      event.stopPropagation();
      drag.cancelled = true;
      drag.gesture.cancel();
    }
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, []);

  const bind = useDrag(
    ({ args, first, last, tap, movement: [dx, dy], event }) => {
      const [mark] = args as [Mark];
      event.stopPropagation();
      if (tap) return select({ kind: mark.kind, id: mark.id });
      if (first) {
        select({ kind: mark.kind, id: mark.id });
        running.current = { gesture: beginGesture(), x: mark.x, y: mark.y, cancelled: false };
      }
      const drag = running.current;
      if (!drag) return;
      if (!drag.cancelled) {
        const x = toCentimetre(drag.x + dx / scale);
        const y = toCentimetre(drag.y - dy / scale);
        drag.gesture.edit(moveTo(mark, x, y));
        if (last) drag.gesture.commit();
      }
      if (last) running.current = null;
    },
    { filterTaps: true, threshold: 3, pointer: { keys: false } },
  );
  // The same function for every render, so that marks that did not change are not drawn again.
  const latest = useRef(bind);
  useEffect(() => {
    latest.current = bind;
  });
  return useCallback((mark: Mark): Record<string, unknown> => latest.current(mark), []);
}

export type BindMark = ReturnType<typeof useMarkDrag>;

const DIRECTIONS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Arrow keys move a mark by 1 cm, with Shift by 10 cm, with Alt by 1 mm. */
export function nudge(mark: Mark, event: KeyboardEvent): void {
  const direction = DIRECTIONS[event.key];
  if (!direction) return;
  event.preventDefault();
  const step = event.shiftKey ? 0.1 : event.altKey ? 0.001 : 0.01;
  edit(moveTo(mark, mark.x + direction[0] * step, mark.y + direction[1] * step));
}
