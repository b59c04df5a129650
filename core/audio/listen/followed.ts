import { faceArea } from '../../acoustics/faced-room';
import { ROOM_SURFACES, type Room } from '../../acoustics/reflections';
import type { Venue } from '../../session/schema';
import { dot, length, scale, subtract, type Vec3 } from '../../units/vector';

/** As high as most play, m. */
const PLAYED_M = 1.2;

/**
 * The surfaces whose first reflections follow the hand: all of a box; of any other hall the six that
 * give most back of what is played in the middle of the stage. They depend on the hall alone, so that
 * a hand that moves something changes nothing of what follows it.
 */
export function followedSurfaces(room: Room | null, stage: Venue['stage']): readonly string[] {
  if (!room || !('faces' in room)) return ROOM_SURFACES;
  const from = { x: 0, y: stage.depthM / 2, z: stage.heightM + PLAYED_M };
  const given = room.faces
    .filter(({ reflects }) => reflects)
    .map((face) => {
      const middle = scale(
        face.corners.reduce<Vec3>(
          (sum, { x, y, z }) => ({ x: sum.x + x, y: sum.y + y, z: sum.z + z }),
          { x: 0, y: 0, z: 0 },
        ),
        1 / face.corners.length,
      );
      const far = dot(face.normal, from) - face.offset;
      const away = Math.max(length(subtract(middle, from)), 0.5);
      const seen = far > 0 ? (faceArea(face) * far) / away ** 3 : 0;
      return { id: face.id, energy: seen * (1 - (room.absorption[face.id] ?? 0)) };
    });
  return given
    .sort((a, b) => b.energy - a.energy)
    .slice(0, ROOM_SURFACES.length)
    .map(({ id }) => id);
}
