import type { Source } from '../session/schema';
import { cosDeg, sinDeg } from '../units/guard';
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
