import { sourceEdges } from '../ensembles/extent';
import type { PreparedArray } from '../localisation/prepared-array';
import type { Source } from '../session/schema';
import { cosDeg, sinDeg } from '../units/guard';
import { dot, subtract, type Vec3 } from '../units/vector';

/** What an array's own left and right are taken from. */
type Looking = Pick<PreparedArray, 'centre' | 'aimDeg' | 'steep'>;

/**
 * Both ends of a wide source by an array's own left and right, the left one first: across the line
 * of sight, and for an array that looks steeply down or up along its own line.
 */
export function edgesAt({ centre, aimDeg, steep }: Looking, source: Source): [Vec3, Vec3] {
  const [a, b] = sourceEdges(source, centre, steep ? steep.right : null);
  const right = steep?.right ?? { x: cosDeg(aimDeg), y: -sinDeg(aimDeg), z: 0 };
  return dot(subtract(b, a), right) >= 0 ? [a, b] : [b, a];
}

/** The middle of a source and, where it is wide, both its ends: left, middle, right. */
export function pointsAt(array: Looking, source: Source): readonly Vec3[] {
  if (source.widthM === 0) return [source];
  const [left, right] = edgesAt(array, source);
  return [left, source, right];
}
