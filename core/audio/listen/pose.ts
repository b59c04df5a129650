import type { Shoebox } from '../../acoustics/reflections';
import { isInside, ROOM_SURFACES } from '../../acoustics/reflections';
import type { Scene, ScenePoint } from './scene';

/**
 * Where everything that follows the hand is, as numbers that can be sent and followed: each point's
 * place and amplitude, each capsule's place, axis, pattern, both amplitudes and delay.
 */
export interface Pose {
  /** x, y, z in m, amplitude, and which ways are heard of every point: 0 all, 1 direct, 2 the room's */
  points: Float64Array;
  /** x, y, z in m, axis, patternA, left, right, delay in s of every capsule */
  capsules: Float64Array;
  /** the room's least and greatest corner in m, and what its surfaces leave of an amplitude; null without one */
  room: Float64Array | null;
  speed: number;
}

export const POINT = 5;
const WAYS_NUMBER: Readonly<Record<ScenePoint['ways'], number>> = { all: 0, direct: 1, room: 2 };
export const CAPSULE = 10;
/** Direct, and over each of the six surfaces. */
export const WAYS = 1 + ROOM_SURFACES.length;

/** The places that follow the hand: every point, or the middle of every stem. */
export function livePoints({ live, points, stems }: Scene): ScenePoint[] {
  if (live === 'always') return points;
  return stems.map((_, s) => {
    // What is spread counts once, by what it brings to the room.
    const own = points.filter(({ stem, ways }) => stem === s && ways !== 'direct');
    const power = own.reduce((sum, { amplitude }) => sum + amplitude * amplitude, 0);
    const mean = (axis: 'x' | 'y' | 'z'): number =>
      own.reduce(
        (sum, { position, amplitude }) => sum + position[axis] * amplitude * amplitude,
        0,
      ) / Math.max(power, 1e-30);
    return {
      ...(own[0] as ScenePoint),
      position: { x: mean('x'), y: mean('y'), z: mean('z') },
      amplitude: Math.sqrt(power),
      ways: 'all' as const,
    };
  });
}

/** The pose of a scene's live points and capsules. */
export function poseOf(scene: Scene): Pose {
  const points = livePoints(scene);
  const capsules = scene.capsules.filter(({ live }) => live);
  return {
    points: Float64Array.from(
      points.flatMap(({ position: { x, y, z }, amplitude, ways }) => [
        ...[x, y, z, amplitude],
        WAYS_NUMBER[ways],
      ]),
    ),
    capsules: Float64Array.from(
      capsules.flatMap(({ receiver: { position, axis, patternA }, left, right, delayS }) => [
        ...[position.x, position.y, position.z],
        ...[axis.x, axis.y, axis.z],
        ...[patternA, left, right, delayS],
      ]),
    ),
    // Reflections that do not follow the hand are none here.
    room: scene.room && scene.live !== 'direct by stem' ? roomNumbers(scene.room, scene) : null,
    speed: scene.speed,
  };
}

function roomNumbers(room: Shoebox, scene: Scene): Float64Array | null {
  const inside =
    scene.points.every(({ position }) => isInside(room, position)) &&
    scene.capsules.every(({ receiver }) => isInside(room, receiver.position));
  if (!inside) return null;
  const { min, max, absorption } = room;
  return Float64Array.from([
    ...[min.x, min.y, min.z, max.x, max.y, max.z],
    ...ROOM_SURFACES.map((surface) => Math.sqrt(1 - (absorption[surface] ?? 0))),
  ]);
}

/** Of each surface: its axis, and where its wall stands among a room's numbers. */
const SURFACES = ROOM_SURFACES.map((surface) => {
  const axis = { left: 0, right: 0, front: 1, back: 1, floor: 2, ceiling: 2 }[surface];
  const high = surface === 'right' || surface === 'back' || surface === 'ceiling';
  return [axis, high ? 3 + axis : axis] as const;
});
const ROOM_GAINS = 6;
/** As directPath has it: this runs where nothing else of the render is loaded. */
const NEAREST_M = 0.05;

/**
 * Direct sound and first reflections from a point to a capsule, as directPath and earlyPaths have them.
 * @param p of the point, c of the capsule, from 0
 * @param out delay in s and amplitude of each way in turn; nothing over the surfaces without a room
 */
export function waysOf(
  { points, capsules, room, speed }: Pose,
  p: number,
  c: number,
  out: Float64Array,
): void {
  const at = p * POINT;
  const mic = c * CAPSULE;
  const amplitude = points[at + 3] as number;
  const pattern = capsules[mic + 6] as number;
  const delay = capsules[mic + 9] as number;
  const heardWays = points[at + 4] as number;
  for (let way = 0; way < WAYS; way++) {
    if (heardWays !== 0 && (way === 0) !== (heardWays === 1)) {
      out[2 * way] = 0;
      out[2 * way + 1] = 0;
      continue;
    }
    const surface = way === 0 ? null : SURFACES[way - 1];
    const left = surface ? (room ? (room[ROOM_GAINS + way - 1] as number) : 0) : 1;
    let [square, along] = [0, 0];
    for (let axis = 0; axis < 3; axis++) {
      let place = points[at + axis] as number;
      if (surface && room && surface[0] === axis) place = 2 * (room[surface[1]] as number) - place;
      const off = place - (capsules[mic + axis] as number);
      square += off * off;
      along += off * (capsules[mic + 3 + axis] as number);
    }
    const distance = Math.max(Math.sqrt(square), NEAREST_M);
    const heard = pattern + ((1 - pattern) * along) / distance;
    out[2 * way] = distance / speed + delay;
    out[2 * way + 1] = (amplitude * left * heard) / distance;
  }
}
