import { useEffect, useMemo, useRef } from 'react';
import { beginGesture, type Gesture, type Recipe } from './session-store';

/** What a drag library says of one step of a drag. */
export interface DragStep {
  first: boolean;
  last: boolean;
  canceled?: boolean;
  /** tells whether the system took the pointer away */
  event?: { type: string };
}

export interface SessionGesture {
  /** begins a drag; whatever was still open is ended first */
  readonly begin: () => void;
  /** changes the session as part of the drag; nothing once it has ended */
  readonly edit: (recipe: Recipe) => void;
  /** keeps what the drag did as one step */
  readonly commit: () => void;
  /** puts everything back */
  readonly cancel: () => void;
  /** one step of a drag, from its first to its last */
  readonly step: (step: DragStep, recipe: Recipe) => void;
  /** a drag is going on and was not taken back */
  readonly active: boolean;
}

/**
 * A drag on the session, for every drawing that is dragged on. It ends in every case: released it
 * is kept; Escape, undo, a pointer that the system takes away and another session take it back;
 * leaving the drawing or the window keeps what it has done so far.
 * @param onEnd called once at the end, however it ended
 */
export function useSessionGesture(onEnd?: () => void): SessionGesture {
  const open = useRef<Gesture | null>(null);
  const end = useRef(onEnd);
  useEffect(() => {
    end.current = onEnd;
  });

  const gesture = useMemo<SessionGesture>(() => {
    const finish = (how: 'commit' | 'cancel'): void => {
      const was = open.current;
      if (!was) return;
      open.current = null;
      was[how]();
      end.current?.();
    };
    const edit = (recipe: Recipe): void => open.current?.edit(recipe);
    const begin = (): void => {
      finish('commit');
      open.current = beginGesture();
    };
    return {
      begin,
      edit,
      commit: () => finish('commit'),
      cancel: () => finish('cancel'),
      step({ first, last, canceled, event }, recipe) {
        if (first) begin();
        if (canceled === true || event?.type === 'pointercancel') return finish('cancel');
        edit(recipe);
        if (last) finish('commit');
      },
      get active() {
        return open.current !== null && !open.current.ended;
      },
    };
  }, []);

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || !gesture.active) return;
      event.stopPropagation();
      gesture.cancel();
    };
    const onBlur = (): void => gesture.commit();
    addEventListener('keydown', onKey, true);
    addEventListener('blur', onBlur);
    return () => {
      removeEventListener('keydown', onKey, true);
      removeEventListener('blur', onBlur);
      gesture.commit();
    };
  }, [gesture]);
  return gesture;
}
