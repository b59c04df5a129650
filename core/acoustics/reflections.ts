import { checkSpeed, powerDb } from '../units/guard';
import { add, length, scale, subtract, type Vec3 } from '../units/vector';
import type { Receiver } from './diffuse-field';
import { isInFaces, waysOverFaces, type FacedRoom } from './faced-room';
import { realGain, sensitivity } from './patterns';

/** A surface of a rectangular room. */
export type BoxSurface = 'left' | 'right' | 'front' | 'back' | 'floor' | 'ceiling';

/** A surface of any hall, by what its absorption is kept under: one of a box, or e.g. wall 3. */
export type RoomSurface = string;

export const ROOM_SURFACES: readonly BoxSurface[] = [
  'left',
  'right',
  'front',
  'back',
  'floor',
  'ceiling',
];

/** A rectangular room in the plan frame; front is the audience's end (least y). */
export interface Shoebox {
  min: Vec3;
  max: Vec3;
  /** absorption coefficient of each surface, 0 … 1; null where it is not known */
  absorption: Readonly<Record<BoxSurface, number | null>>;
}

/** A hall: a box, or any shape of plane faces. */
export type Room = Shoebox | FacedRoom;

/** One early reflection at one microphone, against the direct sound there. */
export interface Reflection {
  /** surfaces in the order in which they are met */
  surfaces: RoomSurface[];
  /** where the sound seems to come from */
  image: Vec3;
  pathM: number;
  /** amplitude at the microphone, pattern, distance and known absorption included */
  gain: number;
  /** amplitude of the direct sound there, as a real microphone hears it, 0 and more */
  directGain: number;
  /** later than the direct sound, ms */
  delayMs: number;
  /** against the direct sound as a real microphone hears it, pattern and distance and known absorption included, dB */
  levelDb: number;
  /** a surface's absorption is not known: the level is the most it can be */
  atMost: boolean;
  /** first dip of the comb that both make, Hz */
  firstNotchHz: number;
}

const AXES = { left: 'x', right: 'x', front: 'y', back: 'y', floor: 'z', ceiling: 'z' } as const;
const LOW_SIDE: ReadonlySet<BoxSurface> = new Set<BoxSurface>(['left', 'front', 'floor']);

function mirrored(room: Shoebox, point: Vec3, surface: BoxSurface): Vec3 {
  const axis = AXES[surface];
  const wall = LOW_SIDE.has(surface) ? room.min[axis] : room.max[axis];
  return { ...point, [axis]: 2 * wall - point[axis] };
}

/** Whether a point in the plan frame, m, is in the room; on a wall it is. */
export function isInside(room: Room, point: Vec3): boolean {
  if ('faces' in room) return isInFaces(room, point);
  const { x, y, z } = point;
  const { min, max } = room;
  return x >= min.x && x <= max.x && y >= min.y && y <= max.y && z >= min.z && z <= max.z;
}

/**
 * Every way over one or two surfaces. Two different walls meet at the same image in either order,
 * so each pair of axes appears once; there and back on one axis counts in both orders.
 */
function wayOvers(): BoxSurface[][] {
  const ways: BoxSurface[][] = ROOM_SURFACES.map((surface) => [surface]);
  ROOM_SURFACES.forEach((first, i) => {
    ROOM_SURFACES.forEach((second, j) => {
      if (first === second) return;
      if (AXES[first] === AXES[second] || i < j) ways.push([first, second]);
    });
  });
  return ways;
}

const WAYS = wayOvers();

/** Every way over one or two surfaces from a source to a point, both in the room, with its image. */
function waysIn(
  room: Room,
  source: Vec3,
  receiver: Vec3,
  order: 1 | 2,
): { surfaces: RoomSurface[]; image: Vec3 }[] {
  if ('faces' in room) return waysOverFaces(room, source, receiver, order);
  const ways = order === 1 ? WAYS.slice(0, ROOM_SURFACES.length) : WAYS;
  return ways.map((surfaces) => ({
    surfaces,
    image: surfaces.reduce((point, surface) => mirrored(room, point, surface), source),
  }));
}

/**
 * Early reflections of first and second order in a hall, by image sources, as one microphone
 * hears them, earliest first.
 * @param order 1 or 2: surfaces met on the way at most
 * @returns null where source or microphone lies outside the room
 * Source: J. B. Allen & D. A. Berkley, JASA 65 (1979); with faces J. Borish, JASA 75 (1984). Ignores diffusion, furniture and the
 * directivity of the source.
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function earlyReflections(
  room: Room,
  source: Vec3,
  receiver: Receiver,
  speed: number,
  order: 1 | 2 = 2,
): Reflection[] | null {
  checkSpeed(speed);
  if (!isInside(room, source) || !isInside(room, receiver.position)) return null;
  const heard = (from: Vec3): { pathM: number; gain: number } => {
    const line = subtract(from, receiver.position);
    const pathM = Math.max(length(line), 0.01);
    const towards = scale(line, 1 / pathM);
    const { axis, patternA } = receiver;
    const cosine = towards.x * axis.x + towards.y * axis.y + towards.z * axis.z;
    return { pathM, gain: sensitivity(patternA, cosine) / pathM };
  };
  const direct = heard(source);
  const directGain = realGain(direct.gain, direct.pathM);
  const absorptions: Readonly<Record<string, number | null>> = room.absorption;
  return waysIn(room, source, receiver.position, order)
    .map(({ surfaces, image }) => {
      const { pathM, gain } = heard(image);
      const delayS = (pathM - direct.pathM) / speed;
      let energy = 1;
      let atMost = false;
      for (const surface of surfaces) {
        const absorption = absorptions[surface] ?? null;
        if (absorption === null) atMost = true;
        else energy *= 1 - absorption;
      }
      const ratio = gain / directGain;
      return {
        surfaces,
        image,
        pathM,
        gain: gain * Math.sqrt(energy),
        directGain,
        delayMs: delayS * 1000,
        levelDb: powerDb(energy * ratio * ratio),
        atMost,
        firstNotchHz: 1 / (2 * Math.max(delayS, 1e-6)),
      };
    })
    .sort((a, b) => a.delayMs - b.delayMs);
}

/** Where the straight line from an image to a point meets the plane of a wall. */
function onWall(room: Shoebox, from: Vec3, to: Vec3, surface: BoxSurface): Vec3 {
  const axis = AXES[surface];
  const wall = LOW_SIDE.has(surface) ? room.min[axis] : room.max[axis];
  const run = to[axis] - from[axis];
  const share = Math.abs(run) < 1e-12 ? 0 : (wall - from[axis]) / run;
  return { ...add(from, scale(subtract(to, from), share)), [axis]: wall };
}

/** Rounding may put a corner so far outside of a wall, m. */
const ROUNDING_M = 1e-6;

/**
 * The way that a reflection takes, corner by corner. Two walls at right angles have one image and
 * are met in the order in which both corners lie in the room.
 * @param surfaces one way over them; empty for the direct way
 * @returns source, a point on each surface, receiver; m
 */
export function reflectionPath(
  room: Room,
  source: Vec3,
  receiver: Vec3,
  surfaces: readonly RoomSurface[],
): Vec3[] {
  if ('faces' in room) {
    const way = waysOverFaces(room, source, receiver).find(
      (each) => each.surfaces.join() === surfaces.join(),
    );
    return [source, ...(way?.corners ?? []), receiver];
  }
  return boxPath(room, source, receiver, surfaces as readonly BoxSurface[]);
}

function boxPath(
  room: Shoebox,
  source: Vec3,
  receiver: Vec3,
  surfaces: readonly BoxSurface[],
): Vec3[] {
  const path = wayOver(room, source, receiver, surfaces);
  const { min, max } = room;
  const inside = path.every(({ x, y, z }) =>
    [
      [x, min.x, max.x],
      [y, min.y, max.y],
      [z, min.z, max.z],
    ].every(([at = 0, low = 0, high = 0]) => at >= low - ROUNDING_M && at <= high + ROUNDING_M),
  );
  return inside ? path : wayOver(room, source, receiver, [...surfaces].reverse());
}

function wayOver(
  room: Shoebox,
  source: Vec3,
  receiver: Vec3,
  surfaces: readonly BoxSurface[],
): Vec3[] {
  const images = [source];
  for (const surface of surfaces) {
    images.push(mirrored(room, images[images.length - 1] ?? source, surface));
  }
  // Backwards: what is heard comes from the last image, over the last wall.
  const corners = [receiver];
  for (let i = surfaces.length - 1; i >= 0; i--) {
    const [image, surface, last] = [images[i + 1], surfaces[i], corners[0]];
    if (image && surface && last) corners.unshift(onWall(room, image, last, surface));
  }
  return [source, ...corners];
}
