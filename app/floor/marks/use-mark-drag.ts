import { useDrag } from '@use-gesture/react';
import { useCallback, useEffect, useRef, type FocusEvent, type KeyboardEvent } from 'react';
import type { Session } from '../../../core/session';
import { activeArray } from '../../figures/figures';
import { editOn, sessionStore, type Recipe } from '../../document/session-store';
import { useSessionGesture } from '../../document/use-session-gesture';
import { placeThing, thingOf, thingsOf, type Placement, type Thing } from '../../document/things';
import { type Selection, choiceStore, isSelected, select, toggleSelected } from '../../view/choice';
import { measureFrom, toolStore } from '../../view/floor-tools';
import { snap, type SnapScene } from './snap';

/** The plan is seen from above (right and upstage), the section from the side (upstage and up). */
export type Plane = 'plan' | 'section';

interface Running {
  /** the mark under the pointer, where it was */
  primary: Thing;
  /** all that moves with it, where it was */
  starts: readonly Thing[];
  scene: SnapScene;
}

const SNAP_PX = 7;
/** Presses of an arrow key closer together than this are one step of undo. */
const NUDGE_PAUSE_MS = 1500;
const toCentimetre = (metres: number): number => Math.round(metres * 100) / 100;

function sceneOf(session: Session, moving: readonly Thing[]): SnapScene {
  const moves = (kind: string, id: string) => isSelected(moving, kind, id);
  const array = activeArray(session, choiceStore.getState().ruledFromId);
  const centre =
    array && !moves('array', array.id) ? { x: array.x, y: array.y, aimDeg: array.aimDeg } : null;
  return {
    centre,
    units: session.settings.units,
    others: [
      ...session.sources.map((s) => ({ ...s, kind: 'source', player: true })),
      ...session.arrays.map((a) => ({ ...a, kind: 'array', player: false })),
    ]
      .filter(({ kind, id }) => !moves(kind, id))
      .map(({ name, x, y, player }) => ({ name, x, y, player })),
  };
}

function start(mark: Selection): Running | null {
  const { session } = sessionStore.getState();
  const primary = session && thingOf(session, mark);
  if (!session || !primary) return null;
  if (!isSelected(choiceStore.getState().selected, mark.kind, mark.id)) select(mark);
  const starts = thingsOf(session, choiceStore.getState().selected);
  const scene = sceneOf(session, starts);
  return { primary, starts, scene };
}

function showSnap(snapped: ReturnType<typeof snap> | null): void {
  if (snapped || toolStore.getState().snapped) toolStore.setState({ snapped });
}

/** Where the mark under the pointer goes on the plan, and why it settles there. */
function planTarget(drag: Running, dx: number, dy: number, scale: number, free: boolean) {
  const { primary, scene } = drag;
  const [x, y] = [primary.x + dx / scale, primary.y - dy / scale];
  const held = free ? { x, y, reasons: [] } : snap(scene, x, y, SNAP_PX / scale);
  showSnap(held.reasons.length > 0 ? held : null);
  return held.reasons.length > 0 ? held : { x: toCentimetre(x), y: toCentimetre(y) };
}

const moveAll =
  ({ starts }: Running, by: Placement): Recipe =>
  (draft) => {
    for (const thing of starts) {
      placeThing(draft, thing, {
        x: thing.x + (by.x ?? 0),
        y: thing.y + (by.y ?? 0),
        ...(thing.z === null ? {} : { z: thing.z + (by.z ?? 0) }),
      });
    }
  };

/** The change that a drag has come to so far. */
function follow(
  drag: Running,
  plane: Plane,
  dx: number,
  dy: number,
  scale: number,
  free: boolean,
): Recipe {
  const { primary } = drag;
  if (plane === 'section') {
    const y = toCentimetre(primary.y + dx / scale) - primary.y;
    const z = primary.z === null ? 0 : toCentimetre(primary.z - dy / scale) - primary.z;
    return moveAll(drag, { y, z });
  }
  const target = planTarget(drag, dx, dy, scale, free);
  return moveAll(drag, { x: target.x - primary.x, y: target.y - primary.y });
}

function tapped(mark: Selection, shift: boolean): void {
  if (toolStore.getState().tool === 'measure') measureFrom({ kind: mark.kind, id: mark.id });
  else if (shift) toggleSelected(mark);
  else select(mark);
}

/** Dragging whatever is selected: one undoable step a drag, Escape puts all back. */
export function useMarkDrag(scale: number, plane: Plane = 'plan') {
  const running = useRef<Running | null>(null);
  const gesture = useSessionGesture(() => {
    running.current = null;
    showSnap(null);
  });

  const bind = useDrag(
    ({ args, first, last, canceled, tap, movement: [dx, dy], event, altKey, shiftKey }) => {
      const [mark] = args as [Selection];
      event.stopPropagation();
      if (tap) return tapped(mark, shiftKey);
      if (first) {
        gesture.begin();
        running.current = start(mark);
      }
      const drag = running.current;
      if (!drag || !gesture.active) return;
      const free = altKey || !toolStore.getState().snap;
      gesture.step(
        { first: false, last, canceled, event },
        follow(drag, plane, dx, dy, scale, free),
      );
    },
    { filterTaps: true, threshold: 3, pointer: { keys: false } },
  );
  // The same function for every render, so that marks that did not change are not drawn again.
  const latest = useRef(bind);
  useEffect(() => {
    latest.current = bind;
  });
  return useCallback((mark: Selection): Record<string, unknown> => latest.current(mark), []);
}

export type BindMark = ReturnType<typeof useMarkDrag>;

const PLAN_KEYS: Readonly<Record<string, Placement>> = {
  ArrowLeft: { x: -1 },
  ArrowRight: { x: 1 },
  ArrowUp: { y: 1 },
  ArrowDown: { y: -1 },
  PageUp: { z: 1 },
  PageDown: { z: -1 },
};
const SECTION_KEYS: Readonly<Record<string, Placement>> = {
  ArrowLeft: { y: -1 },
  ArrowRight: { y: 1 },
  ArrowUp: { z: 1 },
  ArrowDown: { z: -1 },
  PageUp: { z: 1 },
  PageDown: { z: -1 },
};

/** Arrow keys move what is selected by 1 cm, with Shift by 10 cm, with Alt by 1 mm. */
export function nudge(mark: Selection, event: KeyboardEvent, plane: Plane = 'plan'): void {
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault();
    select(mark);
    return;
  }
  const direction = (plane === 'plan' ? PLAN_KEYS : SECTION_KEYS)[event.key];
  const { session } = sessionStore.getState();
  if (!direction || !session) return;
  event.preventDefault();
  event.stopPropagation();
  const step = event.shiftKey ? 0.1 : event.altKey ? 0.001 : 0.01;
  const { selected } = choiceStore.getState();
  const moving = isSelected(selected, mark.kind, mark.id) ? selected : [mark];
  // Presses in a row are one step of undo, as one drag is.
  const key = `nudge ${moving.map(({ kind, id }) => `${kind} ${id}`).join(' ')}`;
  editOn(
    key,
    (draft) => {
      for (const thing of thingsOf(session, moving)) {
        placeThing(draft, thing, {
          x: thing.x + (direction.x ?? 0) * step,
          y: thing.y + (direction.y ?? 0) * step,
          ...(thing.z === null ? {} : { z: thing.z + (direction.z ?? 0) * step }),
        });
      }
    },
    NUDGE_PAUSE_MS,
  );
}

/** Reached by the Tab key, a mark is chosen; a pointer chooses by itself. */
export function focused(mark: Selection, event: FocusEvent<Element>): void {
  if (!event.currentTarget.matches(':focus-visible')) return;
  if (!isSelected(choiceStore.getState().selected, mark.kind, mark.id)) select(mark);
}
