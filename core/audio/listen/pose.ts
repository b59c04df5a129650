import { waysOverFaces, type FacedRoom } from '../../acoustics/faced-room';
import { isInside, ROOM_SURFACES, type Shoebox } from '../../acoustics/reflections';
import type { Scene, SceneCapsule, ScenePoint } from './scene';

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
  /**
   * Of a hall of faces in the place of that: of each that is followed its normal, offset in m and what it
   * leaves of an amplitude
   */
  planes?: Float64Array | null;
  /** how much of each face's answer reaches each capsule from each point, 0 or 1, or on the way between */
  seen?: Float64Array | null;
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
    ...roomOf(scene, points, capsules),
    speed: scene.speed,
  };
}

/** What follows the hand of the room; reflections that do not are none here. */
function roomOf(
  scene: Scene,
  points: readonly ScenePoint[],
  capsules: readonly SceneCapsule[],
): Pick<Pose, 'room' | 'planes' | 'seen'> {
  const { room, live } = scene;
  if (!room || live === 'direct by stem') return { room: null };
  if (!('faces' in room)) return { room: roomNumbers(room, scene) };
  return { room: null, ...facesFollowed(room, scene, points, capsules) };
}

function facesFollowed(
  room: FacedRoom,
  { followed }: Scene,
  points: readonly ScenePoint[],
  capsules: readonly SceneCapsule[],
): Pick<Pose, 'planes' | 'seen'> {
  const planes = new Float64Array(PLANE * ROOM_SURFACES.length);
  followed.forEach((id, i) => {
    const face = room.faces.find((each) => each.id === id);
    if (!face) return;
    const { x, y, z } = face.normal;
    planes.set([x, y, z, face.offset, Math.sqrt(1 - (room.absorption[id] ?? 0))], PLANE * i);
  });
  const seen = new Float64Array(points.length * capsules.length * ROOM_SURFACES.length);
  points.forEach(({ position, ways }, p) => {
    if (ways === 'direct' || !isInside(room, position)) return;
    capsules.forEach(({ receiver }, c) => {
      if (!isInside(room, receiver.position)) return;
      for (const { surfaces } of waysOverFaces(room, position, receiver.position, 1)) {
        const at = followed.indexOf(surfaces[0] ?? '');
        if (at >= 0) seen[(p * capsules.length + c) * ROOM_SURFACES.length + at] = 1;
      }
    });
  });
  return { planes, seen };
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
/** Numbers of a plane: normal, offset, and what it leaves of an amplitude. */
const PLANE = 5;
/** As directPath has it: this runs where nothing else of the render is loaded. */
const NEAREST_M = 0.05;

/**
 * Direct sound and first reflections from a point to a capsule, as directPath and earlyPaths have them.
 * @param p of the point, c of the capsule, from 0
 * @param out delay in s and amplitude of each way in turn; nothing over the surfaces without a room
 */
export function waysOf(pose: Pose, p: number, c: number, out: Float64Array): void {
  const { points, capsules, room, speed } = pose;
  if (pose.planes) {
    waysOverPlanes(pose, pose.planes, p, c, out);
    return;
  }
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

/** The same in a hall of faces: what is mirrored in each plane that is followed, as far as it is seen. */
function waysOverPlanes(
  { points, capsules, seen, speed }: Pose,
  planes: Float64Array,
  p: number,
  c: number,
  out: Float64Array,
): void {
  const at = p * POINT;
  const mic = c * CAPSULE;
  const amplitude = points[at + 3] as number;
  const heardWays = points[at + 4] as number;
  const pattern = capsules[mic + 6] as number;
  const delay = capsules[mic + 9] as number;
  const first = (p * (capsules.length / CAPSULE) + c) * ROOM_SURFACES.length;
  const [x, y, z] = [points[at] as number, points[at + 1] as number, points[at + 2] as number];
  for (let way = 0; way < WAYS; way++) {
    const open = heardWays === 0 || (way === 0) === (heardWays === 1);
    let left = open ? 1 : 0;
    let [toX, toY, toZ] = [x, y, z];
    if (way > 0) {
      const k = PLANE * (way - 1);
      const [nx, ny, nz] = [planes[k] as number, planes[k + 1] as number, planes[k + 2] as number];
      const twice = 2 * (nx * x + ny * y + nz * z - (planes[k + 3] as number));
      [toX, toY, toZ] = [x - twice * nx, y - twice * ny, z - twice * nz];
      left *= (planes[k + 4] as number) * (seen?.[first + way - 1] ?? 0);
    }
    const offX = toX - (capsules[mic] as number);
    const offY = toY - (capsules[mic + 1] as number);
    const offZ = toZ - (capsules[mic + 2] as number);
    const along =
      offX * (capsules[mic + 3] as number) +
      offY * (capsules[mic + 4] as number) +
      offZ * (capsules[mic + 5] as number);
    const distance = Math.max(Math.sqrt(offX * offX + offY * offY + offZ * offZ), NEAREST_M);
    const heard = pattern + ((1 - pattern) * along) / distance;
    out[2 * way] = open ? distance / speed + delay : 0;
    out[2 * way + 1] = (amplitude * left * heard) / distance;
  }
}
