import { faceArea, type Face } from '../acoustics/faced-room';
import type { Room } from '../acoustics/reflections';
import { insidePolygon, type PlanPoint } from '../units/polygon';
import { remembered } from '../units/remember';
import { cross, dot, length, scale, subtract, vec, type Vec3 } from '../units/vector';

/** A plane surface that is looked at for what it does with another one. */
export interface Plane {
  id: string;
  normal: Vec3;
  offset: number;
  corners: readonly Vec3[];
  absorption: number | null;
}

/** The large plane surfaces of a hall, a box's as well. */
export const planesOf: (room: Room) => readonly Plane[] = remembered(
  (room: Room): readonly Plane[] => {
    if ('faces' in room) {
      return room.faces
        .filter((face) => face.reflects)
        .map(({ id, normal, offset, corners }) => ({
          ...{ id, normal, offset, corners },
          absorption: room.absorption[id] ?? null,
        }));
    }
    const { min, max, absorption } = room;
    const plane = (id: keyof typeof absorption, normal: Vec3, corners: Vec3[]): Plane => ({
      ...{ id, normal, corners, absorption: absorption[id] },
      offset: dot(normal, corners[0] ?? min),
    });
    const at = (x: 0 | 1, y: 0 | 1, z: 0 | 1): Vec3 =>
      vec(x ? max.x : min.x, y ? max.y : min.y, z ? max.z : min.z);
    return [
      plane('left', vec(1, 0, 0), [at(0, 0, 0), at(0, 1, 0), at(0, 1, 1), at(0, 0, 1)]),
      plane('right', vec(-1, 0, 0), [at(1, 1, 0), at(1, 0, 0), at(1, 0, 1), at(1, 1, 1)]),
      plane('front', vec(0, 1, 0), [at(1, 0, 0), at(0, 0, 0), at(0, 0, 1), at(1, 0, 1)]),
      plane('back', vec(0, -1, 0), [at(0, 1, 0), at(1, 1, 0), at(1, 1, 1), at(0, 1, 1)]),
      plane('floor', vec(0, 0, 1), [at(0, 0, 0), at(1, 0, 0), at(1, 1, 0), at(0, 1, 0)]),
      plane('ceiling', vec(0, 0, -1), [at(0, 1, 1), at(1, 1, 1), at(1, 0, 1), at(0, 0, 1)]),
    ];
  },
);

/** Two faces that look at each other. */
export interface Facing {
  first: Plane;
  second: Plane;
  distanceM: number;
}

/** Within this of parallel sound goes to and fro many times: cosine of 1.5°. */
const PARALLEL = Math.cos((1.5 * Math.PI) / 180);
/** A face smaller than this throws nothing back whole, m². */
const LEAST_M2 = 1;

/** Pairs of parallel faces that look at each other, from 1 m apart. */
export const facingPairs: (room: Room) => readonly Facing[] = remembered(
  (room: Room): readonly Facing[] => {
    const planes = planesOf(room).filter((plane) => faceArea(plane) >= LEAST_M2);
    return planes.flatMap((first, i) =>
      planes.slice(i + 1).flatMap((second): Facing[] => {
        if (dot(first.normal, second.normal) > -PARALLEL) return [];
        const distanceM = -(first.offset + second.offset);
        return distanceM > 1 ? [{ first, second, distanceM }] : [];
      }),
    );
  },
);

/** Whether a point of the hall is between two such faces: straight before both of them. */
export function isBetween({ first, second }: Facing, point: Vec3): boolean {
  return isStraightBefore(first, point) && isStraightBefore(second, point);
}

function isStraightBefore(face: Pick<Face, 'normal' | 'corners' | 'offset'>, point: Vec3): boolean {
  const [a, b] = face.corners;
  if (!a || !b || dot(face.normal, point) < face.offset) return false;
  const along = subtract(b, a);
  const u = scale(along, 1 / Math.max(length(along), 1e-12));
  const v = cross(face.normal, u);
  const flat = (p: Vec3): PlanPoint => ({ x: dot(subtract(p, a), u), y: dot(subtract(p, a), v) });
  return insidePolygon(flat(point), face.corners.map(flat), 1e-6);
}
