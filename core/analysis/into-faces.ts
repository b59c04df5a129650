import { ceilingAt, isInFaces, type FacedRoom } from '../acoustics/faced-room';
import { clamp } from '../units/numbers';
import { distanceToOutline, insidePolygon, nearestOnLine, type PlanPoint } from '../units/polygon';
import type { Vec3 } from '../units/vector';

/** What is moved back into the hall is put so far from its walls, m. */
const CLEAR_M = 0.3;
const mm = (value: number): number => Math.round(value * 1000) / 1000;

/** The nearest point of the plan that is clear of a hall's walls; the point itself where it is inside. */
function inOutline(at: PlanPoint, outline: readonly PlanPoint[]): PlanPoint {
  if (insidePolygon(at, outline)) return at;
  const walls = outline.map((a, i) => {
    const b = outline[(i + 1) % outline.length] ?? a;
    const near = nearestOnLine(at, a, b);
    return { a, b, near, far: Math.hypot(near.x - at.x, near.y - at.y) };
  });
  walls.sort((one, other) => one.far - other.far);
  // As far from the wall as it leaves room: in a corner that is less.
  for (const clear of [CLEAR_M, CLEAR_M / 2, CLEAR_M / 4, 0.02]) {
    for (const { a, b, near } of walls) {
      const size = Math.max(Math.hypot(b.x - a.x, b.y - a.y), 1e-9);
      const [nx, ny] = [-(b.y - a.y) / size, (b.x - a.x) / size];
      for (const side of [0, 1, -1]) {
        const along = side * clear;
        const there = {
          x: near.x + clear * nx + (along * (b.x - a.x)) / size,
          y: near.y + clear * ny + (along * (b.y - a.y)) / size,
        };
        if (!insidePolygon(there, outline)) continue;
        if (distanceToOutline(there, outline) >= clear * 0.99) return there;
      }
    }
  }
  return at;
}

/**
 * The coordinates that have to change for a point, m, to be in a hall of faces, clear of its walls;
 * none where it is inside. What is in the stage, in seats or in a balcony comes up onto them.
 */
export function broughtIntoFaces(
  room: FacedRoom,
  point: Vec3,
): { x?: number; y?: number; z?: number } {
  if (isInFaces(room, point)) return {};
  const plan = inOutline(point, room.outline);
  const moved = plan.x === point.x && plan.y === point.y ? {} : { x: mm(plan.x), y: mm(plan.y) };
  const at = { ...point, ...moved };
  const top = ceilingAt(room, at) ?? room.max.z;
  const clear = Math.min(CLEAR_M, top / 2);
  const z = at.z >= 0 && at.z <= top ? at.z : clamp(at.z, clear, top - clear);
  for (const height of [z, ...upwards(z, top - clear)]) {
    const there = { ...at, z: mm(height) };
    if (isInFaces(room, there)) return there.z === point.z ? moved : { ...moved, z: there.z };
  }
  return z === point.z ? moved : { ...moved, z: mm(z) };
}

function upwards(from: number, to: number): number[] {
  const heights: number[] = [];
  for (let z = from; z <= to; z += 0.1) heights.push(z);
  return heights;
}
