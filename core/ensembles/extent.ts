import type { Source } from '../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../units/guard';
import type { Vec3 } from '../units/vector';

/** Both ends of a source's sounding width, across the way it faces. */
export function sourceEdges({ x, y, z, facingDeg, widthM }: Source): [Vec3, Vec3] {
  const dx = (cosDeg(facingDeg) * widthM) / 2;
  const dy = (-sinDeg(facingDeg) * widthM) / 2;
  return [
    { x: x - dx, y: y - dy, z },
    { x: x + dx, y: y + dy, z },
  ];
}

/**
 * How wide a source is from a point of the plan: an instrument seen from its end is narrow.
 * @returns its width across the line of sight, m, and the angle between its ends, degrees
 */
export function seenWidth(
  source: Source,
  from: { x: number; y: number },
): { widthM: number; angleDeg: number } {
  const [left, right] = sourceEdges(source);
  const bearing = ({ x, y }: { x: number; y: number }): number =>
    Math.atan2(x - from.x, y - from.y);
  const sight = bearing(source);
  // What remains of the line between the ends across the line of sight.
  const across = (right.x - left.x) * Math.cos(sight) - (right.y - left.y) * Math.sin(sight);
  return {
    widthM: Math.abs(across),
    angleDeg: Math.abs(wrapDeg(toDeg(bearing(right) - bearing(left)))),
  };
}
