import { cosDeg, sinDeg } from './guard';
import { clamp } from './numbers';
import { distance, type Vec3 } from './vector';

/** A point on the plan, m. */
interface PlanPoint {
  readonly x: number;
  readonly y: number;
}

/** Where on the stretch between two points another is nearest to it. */
export interface Nearest {
  /** 0 at the first end, 1 at the second */
  fraction: number;
  distanceM: number;
}

/** The nearest place on the stretch between two points, m; the first where both ends are one. */
export function nearestOnStretch(point: Vec3, a: Vec3, b: Vec3): Nearest {
  const [dx, dy, dz] = [b.x - a.x, b.y - a.y, b.z - a.z];
  const square = dx * dx + dy * dy + dz * dz;
  const along = (point.x - a.x) * dx + (point.y - a.y) * dy + (point.z - a.z) * dz;
  const fraction = square > 0 ? clamp(along / square, 0, 1) : 0;
  const nearest = { x: a.x + fraction * dx, y: a.y + fraction * dy, z: a.z + fraction * dz };
  return { fraction, distanceM: distance(point, nearest) };
}

/** A rectangle on the floor: its centre, its sides, and how far it is turned clockwise, degrees. */
export interface TurnedRectangle extends PlanPoint {
  readonly turnDeg: number;
  readonly widthM: number;
  readonly depthM: number;
}

/** A point of the plan as a turned rectangle sees it from its centre, along its own sides, m. */
export function seenFrom(rectangle: TurnedRectangle, point: PlanPoint): PlanPoint {
  const { x, y, turnDeg } = rectangle;
  const [sine, cosine] = [sinDeg(turnDeg), cosDeg(turnDeg)];
  const [dx, dy] = [point.x - x, point.y - y];
  return { x: dx * cosine - dy * sine, y: dx * sine + dy * cosine };
}

/** How far outside of a turned rectangle a point lies along each of its sides, m; 0 inside. */
export function outsideOf(rectangle: TurnedRectangle, point: PlanPoint): PlanPoint {
  const { x, y } = seenFrom(rectangle, point);
  return {
    x: Math.max(0, Math.abs(x) - rectangle.widthM / 2),
    y: Math.max(0, Math.abs(y) - rectangle.depthM / 2),
  };
}

/** Does the stretch between two points cross a turned rectangle? (slab method) */
export function crosses(a: PlanPoint, b: PlanPoint, rectangle: TurnedRectangle): boolean {
  const [from, to] = [seenFrom(rectangle, a), seenFrom(rectangle, b)];
  let [enter, leave] = [0, 1];
  for (const [start, end, half] of [
    [from.x, to.x, rectangle.widthM / 2],
    [from.y, to.y, rectangle.depthM / 2],
  ] as const) {
    const step = end - start;
    if (Math.abs(step) < 1e-12) {
      if (Math.abs(start) > half) return false;
      continue;
    }
    const [near, far] = [(-half - start) / step, (half - start) / step];
    enter = Math.max(enter, Math.min(near, far));
    leave = Math.min(leave, Math.max(near, far));
  }
  return enter <= leave;
}
