import { useGesture } from '@use-gesture/react';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { useSize } from '../../parts/use-size';
import {
  type View,
  type Projection,
  type Box,
  zoomAt,
  viewOf,
  projection,
} from '../../../paper/projection';

/** A rectangle drawn over the ground, px. */
export interface Marquee {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

interface Options {
  /** what is to be seen at first, and again with "Show all" */
  whole: () => Box;
  onTapGround: (x: number, y: number) => void;
  onMarquee: (box: Box) => void;
}

const PAN_PX = 60;

/** A drawing's window: pan by dragging the ground, zoom by wheel, pinch and keys, Shift selects. */
export function useFloorView({ whole, onTapGround, onMarquee }: Options) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  // Until the user moves it, the view shows everything, whatever the size of the drawing.
  const [own, setOwn] = useState<View | null>(null);
  const [first, setFirst] = useState<{ box: Box; width: number; height: number } | null>(null);
  if (width > 0 && height > 0 && (first?.width !== width || first.height !== height)) {
    setFirst({ box: whole(), width, height });
  }
  const fitted = useMemo(() => first && viewOf(first.box, first.width, first.height), [first]);
  const view = own ?? fitted;
  const setView = (change: (known: View) => View) =>
    setOwn((known) => {
      const now = known ?? fitted;
      return now && change(now);
    });
  const [marquee, setMarquee] = useState<Marquee | null>(null);
  const shown = useMemo(
    () => (view ? projection(view, width, height) : null),
    [view, width, height],
  );

  const zoom = (factor: number, px = width / 2, py = height / 2) =>
    setView((known) => zoomAt(known, factor, px, py, width, height));
  const pan = (dx: number, dy: number) =>
    setView((known) => ({
      ...known,
      x: known.x - dx / known.scale,
      y: known.y + dy / known.scale,
    }));
  const showAll = () => {
    setOwn(null);
    setFirst({ box: whole(), width, height });
  };

  function inside(clientX: number, clientY: number): [number, number] {
    const frame = box.current?.getBoundingClientRect();
    return [clientX - (frame?.left ?? 0), clientY - (frame?.top ?? 0)];
  }

  function finishMarquee(area: Marquee, projected: Projection) {
    setMarquee(null);
    const [x0, x1] = [projected.fromX(area.x0), projected.fromX(area.x1)];
    const [y0, y1] = [projected.fromY(area.y0), projected.fromY(area.y1)];
    onMarquee({
      minX: Math.min(x0, x1),
      maxX: Math.max(x0, x1),
      minY: Math.min(y0, y1),
      maxY: Math.max(y0, y1),
    });
  }

  useGesture(
    {
      onDrag: ({ delta: [dx, dy], tap, last, event, shiftKey, initial, xy, memo }) => {
        const ground =
          event.target === event.currentTarget ||
          (event.target as Element).matches('[data-ground]');
        const mode =
          (memo as 'pan' | 'marquee' | 'none' | undefined) ??
          (ground ? (shiftKey ? 'marquee' : 'pan') : 'none');
        if (mode === 'none' || !shown) return mode;
        if (tap) {
          const [px, py] = inside(...xy);
          onTapGround(shown.fromX(px), shown.fromY(py));
        } else if (mode === 'marquee') {
          const [x0, y0] = inside(...initial);
          const [x1, y1] = inside(...xy);
          const area = { x0, y0, x1, y1 };
          if (last) finishMarquee(area, shown);
          else setMarquee(area);
        } else pan(dx, dy);
        return mode;
      },
      onWheel: ({ event, delta: [, dy] }) => {
        event.preventDefault();
        zoom(Math.exp(-dy * 0.0012), ...inside(event.clientX, event.clientY));
      },
      onPinch: ({ delta: [factor], origin, event }) => {
        event.preventDefault();
        zoom(1 + factor, ...inside(...origin));
      },
    },
    {
      target: box,
      drag: { filterTaps: true, pointer: { keys: false } },
      // The page under it neither scrolls nor zooms along.
      wheel: { eventOptions: { passive: false } },
      pinch: { eventOptions: { passive: false } },
    },
  );

  function onKeyDown(event: KeyboardEvent) {
    const own = event.target === event.currentTarget;
    const arrows: Readonly<Record<string, [number, number]>> = {
      ArrowLeft: [PAN_PX, 0],
      ArrowRight: [-PAN_PX, 0],
      ArrowUp: [0, PAN_PX],
      ArrowDown: [0, -PAN_PX],
    };
    const step = arrows[event.key];
    if (event.ctrlKey || event.metaKey) return;
    if (event.key === '+' || event.key === '=') zoom(1.25);
    else if (event.key === '-') zoom(0.8);
    else if (event.key === '0') showAll();
    else if (own && step) pan(...step);
    else return;
    event.preventDefault();
  }

  return { box, width, height, shown, marquee, zoom, showAll, onKeyDown };
}
