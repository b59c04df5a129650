/** A drawing's window onto the floor: which point lies in the middle, and how large a metre is. */
export interface View {
  /** plan coordinates of the middle, m */
  x: number;
  y: number;
  /** pixels per metre */
  scale: number;
}

export interface Box {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
}

export interface Projection {
  toX: (x: number) => number;
  toY: (y: number) => number;
  fromX: (px: number) => number;
  fromY: (px: number) => number;
  scale: number;
}

const LEAST_SCALE = 2;
const MOST_SCALE = 1200;

/** Plan metres to pixels and back; y grows upwards on the plan and downwards on the screen. */
export function projection(view: View, width: number, height: number): Projection {
  return {
    toX: (x) => width / 2 + (x - view.x) * view.scale,
    toY: (y) => height / 2 - (y - view.y) * view.scale,
    fromX: (px) => view.x + (px - width / 2) / view.scale,
    fromY: (py) => view.y - (py - height / 2) / view.scale,
    scale: view.scale,
  };
}

/** The box around points, with a margin on all sides, m. */
export function boxAround(points: readonly { x: number; y: number }[], margin: number): Box {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  return {
    minX: Math.min(...xs) - margin,
    maxX: Math.max(...xs) + margin,
    minY: Math.min(...ys) - margin,
    maxY: Math.max(...ys) + margin,
  };
}

const clampScale = (scale: number): number => Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));

/** The view that shows a box whole. */
export function viewOf(box: Box, width: number, height: number): View {
  return {
    x: (box.minX + box.maxX) / 2,
    y: (box.minY + box.maxY) / 2,
    scale: clampScale(Math.min(width / (box.maxX - box.minX), height / (box.maxY - box.minY))),
  };
}

/** Zooms so that the plan point under a pixel stays there. */
export function zoomAt(
  view: View,
  factor: number,
  px: number,
  py: number,
  width: number,
  height: number,
): View {
  const before = projection(view, width, height);
  const scale = clampScale(view.scale * factor);
  const [x, y] = [before.fromX(px), before.fromY(py)];
  return { scale, x: x - (px - width / 2) / scale, y: y + (py - height / 2) / scale };
}
