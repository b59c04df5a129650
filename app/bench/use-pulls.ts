import { useRef, type PointerEvent, type RefObject } from 'react';
import { withEngine } from '../audio/actions';
import { within, type View } from './view';

/** A shorter pull goes to a place; a longer one makes a stretch, px. */
const LEAST_PULL = 4;

interface Held {
  frame: number;
  x: number;
}

interface Given {
  box: RefObject<HTMLDivElement | null>;
  view: View;
  setView: (next: (view: View) => View) => void;
  setStretch: (stretch: View | null) => void;
  frames: number;
}

/** What hands do to the curve: a press goes there, a pull makes a stretch, two fingers zoom. */
export function usePulls({ box, view, setView, setStretch, frames }: Given) {
  const pull = useRef<Held | null>(null);
  const fingers = useRef(new Map<number, Held>());
  const sides = () => box.current?.getBoundingClientRect() ?? { left: 0, width: 1 };
  const frameAt = (clientX: number): number => {
    const { left, width } = sides();
    return view.from + ((clientX - left) / width) * (view.to - view.from);
  };

  /** Two fingers hold what is under them: nearer and farther with them. */
  function pinched(event: PointerEvent): boolean {
    const finger = fingers.current.get(event.pointerId);
    if (finger) finger.x = event.clientX;
    const [one, other] = [...fingers.current.values()];
    if (!one || !other) return false;
    const { left, width } = sides();
    const apart = other.x - one.x;
    if (Math.abs(apart) >= LEAST_PULL && one.frame !== other.frame) {
      const each = Math.abs((other.frame - one.frame) / apart);
      const from = one.frame - (one.x - left) * each;
      setView(() => within({ from, to: from + width * each }, frames));
    }
    return true;
  }

  return {
    onPointerDown(event: PointerEvent) {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const at = { frame: frameAt(event.clientX), x: event.clientX };
      fingers.current.set(event.pointerId, { ...at });
      // A second finger makes no stretch, and goes nowhere.
      pull.current = fingers.current.size > 1 ? null : at;
    },
    onPointerMove(event: PointerEvent) {
      const from = pull.current;
      if (pinched(event) || !from || Math.abs(event.clientX - from.x) < LEAST_PULL) return;
      const at = frameAt(event.clientX);
      setStretch(within({ from: Math.min(from.frame, at), to: Math.max(from.frame, at) }, frames));
    },
    onPointerUp(event: PointerEvent) {
      fingers.current.delete(event.pointerId);
      const from = pull.current;
      pull.current = null;
      if (!from || Math.abs(event.clientX - from.x) >= LEAST_PULL) return;
      setStretch(null);
      void withEngine((engine) => engine.seek(from.frame / Math.max(1, frames - 1)));
    },
    onPointerCancel(event: PointerEvent) {
      fingers.current.delete(event.pointerId);
      pull.current = null;
    },
  };
}
