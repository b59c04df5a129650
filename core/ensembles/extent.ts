import type { Source } from '../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../units/guard';
import type { Vec3 } from '../units/vector';

/**
 * Both ends of what sounds of a source: of its width across the way it faces, and where it has a
 * depth as well, of the ellipse of both as it is seen.
 * @param from where it is seen from, m on the plan; null: from the audience
 * @param across to the right of who looks, where that is not across the line of sight: the right of
 *   an array that hangs over it, as a unit vector on the plan
 * @returns of a width alone both ends as the player has them, of an ellipse left and right as seen
 */
export function sourceEdges(
  { x, y, z, facingDeg, widthM, depthM }: Source,
  from: { x: number; y: number } | null = null,
  across: { x: number; y: number } | null = null,
): [Vec3, Vec3] {
  let dx = (cosDeg(facingDeg) * widthM) / 2;
  let dy = (-sinDeg(facingDeg) * widthM) / 2;
  if (depthM > 0 && widthM > 0) {
    // Across the line of sight, to the right of who looks.
    const sight = from && (from.x !== x || from.y !== y) ? Math.atan2(x - from.x, y - from.y) : 0;
    const [nx, ny] = across ? [across.x, across.y] : [Math.cos(sight), -Math.sin(sight)];
    const [ux, uy] = [cosDeg(facingDeg), -sinDeg(facingDeg)];
    const [a, b] = [widthM / 2, depthM / 2];
    const [wide, deep] = [a * (nx * ux + ny * uy), b * (-nx * uy + ny * ux)];
    const reach = Math.hypot(wide, deep);
    // The widest points of the ellipse, the first at the left of who looks.
    dx = (a * wide * ux - b * deep * uy) / reach;
    dy = (a * wide * uy + b * deep * ux) / reach;
  }
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
  const [left, right] = sourceEdges(source, from);
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
