import type { PlanPoint } from '../units/polygon';
import { insidePolygon } from '../units/polygon';
import { remembered } from '../units/remember';
import { cross, dot, length, scale, subtract, type Vec3 } from '../units/vector';

/** One plane surface of a hall. */
export interface Face {
  /** as its absorption is kept under, e.g. floor, wall 3 */
  id: string;
  /** its outline, anticlockwise as somebody in the hall sees it, m */
  corners: readonly Vec3[];
  /** unit vector into the hall */
  normal: Vec3;
  /** normal · p of every point p of its plane, m */
  offset: number;
  /** large enough to answer like a mirror; all faces keep sound from what is behind them */
  reflects: boolean;
}

/** What fills a part of a hall: everything behind all of its planes, normal · p ≤ offset. */
export interface Solid {
  /** what it is, for people */
  name: string;
  planes: readonly { normal: Vec3; offset: number }[];
  corners: readonly Vec3[];
  /** pairs of its corners that have an edge between them */
  edges: readonly (readonly [number, number])[];
}

/** A part of a ceiling: its outline on the plan, and its height z = ax·x + ay·y + c, m. */
export interface CeilingPiece {
  outline: readonly PlanPoint[];
  ax: number;
  ay: number;
  c: number;
}

/** A hall of plane faces in the plan frame. */
export interface FacedRoom {
  /** the box around it, m */
  min: Vec3;
  max: Vec3;
  faces: readonly Face[];
  /** the floor's corners, anticlockwise, m */
  outline: readonly PlanPoint[];
  ceiling: readonly CeilingPiece[];
  solids: readonly Solid[];
  /** absorption coefficient by face, 0 … 1; null where it is not known */
  absorption: Readonly<Record<string, number | null>>;
}

/** Rounding may put a point so far outside of a face, m. */
export const ROUNDING_M = 1e-6;

/**
 * A face by its corners.
 * @param corners three or more in one plane, anticlockwise as seen from the hall, m
 */
export function faceOf(id: string, corners: readonly Vec3[], reflects = true): Face {
  let sum: Vec3 = { x: 0, y: 0, z: 0 };
  const [first] = corners;
  for (let i = 1; i + 1 < corners.length; i++) {
    const [a, b] = [corners[i], corners[i + 1]];
    if (!first || !a || !b) continue;
    const each = cross(subtract(a, first), subtract(b, first));
    sum = { x: sum.x + each.x, y: sum.y + each.y, z: sum.z + each.z };
  }
  const normal = scale(sum, 1 / Math.max(length(sum), 1e-30));
  return { id, corners, normal, offset: first ? dot(normal, first) : 0, reflects };
}

/** Area of a face, m². */
export function faceArea({ corners }: Pick<Face, 'corners'>): number {
  const [first] = corners;
  let sum: Vec3 = { x: 0, y: 0, z: 0 };
  for (let i = 1; i + 1 < corners.length; i++) {
    const [a, b] = [corners[i], corners[i + 1]];
    if (!first || !a || !b) continue;
    const each = cross(subtract(a, first), subtract(b, first));
    sum = { x: sum.x + each.x, y: sum.y + each.y, z: sum.z + each.z };
  }
  return length(sum) / 2;
}

/** How high the ceiling is over a point of the plan, m; null where there is none. */
export function ceilingAt({ ceiling }: Pick<FacedRoom, 'ceiling'>, at: PlanPoint): number | null {
  const over = ceiling.filter(({ outline }) => insidePolygon(at, outline, ROUNDING_M));
  if (over.length === 0) return null;
  return Math.min(...over.map(({ ax, ay, c }) => ax * at.x + ay * at.y + c));
}

/** Whether a point is in what a solid fills, deeper than rounding. */
export const isWithin = ({ planes }: Solid, point: Vec3): boolean =>
  planes.every(({ normal, offset }) => dot(normal, point) < offset - ROUNDING_M);

/** Whether a point, m, is in a hall of faces: between its walls, over its floor, under its ceiling, in no solid. */
export function isInFaces(room: FacedRoom, point: Vec3): boolean {
  if (point.z < room.min.z - 1e-9 || point.z > room.max.z + 1e-9) return false;
  if (!insidePolygon(point, room.outline)) return false;
  const top = ceilingAt(room, point);
  if (top !== null && point.z > top + 1e-9) return false;
  return !room.solids.some((solid) => isWithin(solid, point));
}

/** A face as rays are tried against it. */
interface Ready {
  nx: number;
  ny: number;
  nz: number;
  d: number;
  convex: boolean;
  /** of a convex face: inward plane of every edge, four numbers each */
  edges: Float64Array;
  /** of any other: which two coordinates it is looked at in, and its corners in them */
  drop: 'x' | 'y' | 'z';
  flat: PlanPoint[];
}

/** A hall's faces as images are looked for in them. */
export interface ReadyFaces {
  faces: readonly Face[];
  ready: readonly Ready[];
  /** those that can stand between two points of the hall */
  blockers: readonly number[];
  /** those that answer */
  mirrors: readonly number[];
  /** of each: the mirrors that sound can go on to from it */
  next: readonly (readonly number[])[];
}

const flatOf = ({ x, y, z }: Vec3, drop: 'x' | 'y' | 'z'): PlanPoint =>
  drop === 'x' ? { x: y, y: z } : drop === 'y' ? { x, y: z } : { x, y };

function readyOf({ corners, normal, offset }: Face): Ready {
  const edges = new Float64Array(4 * corners.length);
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length] ?? a;
    const along = subtract(b, a);
    // Into the face, at right angles to its edge.
    const inward = cross(normal, scale(along, 1 / Math.max(length(along), 1e-30)));
    edges.set([inward.x, inward.y, inward.z, dot(inward, a)], 4 * i);
  });
  let convex = true;
  for (const corner of corners) {
    for (let i = 0; i < corners.length && convex; i++) {
      const [x = 0, y = 0, z = 0, d = 0] = edges.subarray(4 * i, 4 * i + 4);
      if (x * corner.x + y * corner.y + z * corner.z < d - ROUNDING_M) convex = false;
    }
  }
  const [ax, ay, az] = [Math.abs(normal.x), Math.abs(normal.y), Math.abs(normal.z)];
  const drop = az >= ax && az >= ay ? 'z' : ax >= ay ? 'x' : 'y';
  const flat = convex ? [] : corners.map((corner) => flatOf(corner, drop));
  return { nx: normal.x, ny: normal.y, nz: normal.z, d: offset, convex, edges, drop, flat };
}

const before = ({ nx, ny, nz, d }: Ready, { x, y, z }: Vec3): number =>
  nx * x + ny * y + nz * z - d;

/** The faces of a hall, made ready once. */
export const readyFaces: (faces: readonly Face[]) => ReadyFaces = remembered(
  (faces: readonly Face[]): ReadyFaces => {
    const ready = faces.map(readyOf);
    const anyBefore = (i: number, of: Face): boolean =>
      of.corners.some((corner) => before(ready[i] as Ready, corner) > ROUNDING_M);
    const anyBehind = (i: number): boolean =>
      faces.some(({ corners }) =>
        corners.some((corner) => before(ready[i] as Ready, corner) < -ROUNDING_M),
      );
    const indices = faces.map((_, i) => i);
    const mirrors = indices.filter((i) => faces[i]?.reflects);
    return {
      faces,
      ready,
      blockers: indices.filter(anyBehind),
      mirrors,
      next: indices.map((i) =>
        mirrors.filter(
          (j) => j !== i && anyBefore(i, faces[j] as Face) && anyBefore(j, faces[i] as Face),
        ),
      ),
    };
  },
);

function inFace(ready: Ready, x: number, y: number, z: number): boolean {
  if (!ready.convex) {
    return insidePolygon(flatOf({ x, y, z }, ready.drop), ready.flat, ROUNDING_M);
  }
  const { edges } = ready;
  for (let i = 0; i < edges.length; i += 4) {
    const over =
      (edges[i] as number) * x + (edges[i + 1] as number) * y + (edges[i + 2] as number) * z;
    if (over < (edges[i + 3] as number) - ROUNDING_M) return false;
  }
  return true;
}

/** The face that stands between two points, first in the hall's order; −1 where none does. */
function blockerOf({ ready, blockers }: ReadyFaces, a: Vec3, b: Vec3): number {
  for (const i of blockers) if (crosses(ready[i] as Ready, a, b)) return i;
  return -1;
}

function crosses(face: Ready, a: Vec3, b: Vec3): boolean {
  const [da, db] = [before(face, a), before(face, b)];
  if (!((da > ROUNDING_M && db < -ROUNDING_M) || (da < -ROUNDING_M && db > ROUNDING_M))) {
    return false;
  }
  const t = da / (da - db);
  return inFace(face, a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z));
}

/** Whether a face is between two points of a hall, m. */
export const isFaceBetween = (room: Pick<FacedRoom, 'faces'>, a: Vec3, b: Vec3): boolean =>
  blockerOf(readyFaces(room.faces), a, b) >= 0;

/** Whether the straight line between two points, m, goes through any of some faces, whatever hall they are of. */
export const isAnyCrossed = (faces: readonly Face[], a: Vec3, b: Vec3): boolean =>
  readyFaces(faces).ready.some((face) => crosses(face, a, b));

/** Those of some faces that the straight line between two points, m, goes through, whatever hall they are of. */
export function facesCrossed(faces: readonly Face[], a: Vec3, b: Vec3): Face[] {
  const { ready } = readyFaces(faces);
  return faces.filter((_, i) => crosses(ready[i] as Ready, a, b));
}

/** All images of one point over one or two faces that sound could come from somewhere in the hall. */
interface Images {
  /** two numbers an image: the faces in the order in which they are met; the second −1 where it is one */
  over: Int16Array;
  /** three numbers an image: where it is */
  at: Float64Array;
  /** of each second-order image: which first-order one it is of, in this list */
  parent: Int32Array;
  /** how many are of first order; those come first */
  single: number;
}

function mirroredIn({ nx, ny, nz, d }: Ready, { x, y, z }: Vec3): Vec3 {
  const twice = 2 * (nx * x + ny * y + nz * z - d);
  return { x: x - twice * nx, y: y - twice * ny, z: z - twice * nz };
}

function imagesOf({ ready, mirrors, next }: ReadyFaces, source: Vec3): Images {
  const over: number[] = [];
  const at: number[] = [];
  const parent: number[] = [];
  for (const i of mirrors) {
    const mirror = ready[i] as Ready;
    // What is behind a face is not mirrored in it.
    if (before(mirror, source) < -ROUNDING_M) continue;
    const { x, y, z } = mirroredIn(mirror, source);
    over.push(i, -1);
    at.push(x, y, z);
    parent.push(-1);
  }
  const single = parent.length;
  for (let k = 0; k < single; k++) {
    const i = over[2 * k] as number;
    const image = { x: at[3 * k] ?? 0, y: at[3 * k + 1] ?? 0, z: at[3 * k + 2] ?? 0 };
    for (const j of next[i] ?? []) {
      const mirror = ready[j] as Ready;
      if (before(mirror, image) < -ROUNDING_M) continue;
      const { x, y, z } = mirroredIn(mirror, image);
      over.push(i, j);
      at.push(x, y, z);
      parent.push(k);
    }
  }
  return {
    over: Int16Array.from(over),
    at: Float64Array.from(at),
    parent: Int32Array.from(parent),
    single,
  };
}

/** So many points have their images remembered, by hall. */
const MOST_KEPT = 1024;
const kept = new WeakMap<ReadyFaces, Map<string, Images>>();

function imagesKept(faces: ReadyFaces, source: Vec3): Images {
  const key = `${source.x} ${source.y} ${source.z}`;
  const known = kept.get(faces) ?? new Map<string, Images>();
  kept.set(faces, known);
  const found = known.get(key);
  if (found) return found;
  const made = imagesOf(faces, source);
  // The oldest goes: what stands in the hall is asked for again and again.
  if (known.size >= MOST_KEPT) known.delete(known.keys().next().value ?? '');
  known.set(key, made);
  return made;
}

/** One way over faces that sound takes. */
export interface FaceWay {
  surfaces: string[];
  image: Vec3;
  /** on each face in turn, m */
  corners: Vec3[];
}

const SAME_IMAGE_M = 1e-6;

/** Where the straight way from a receiver to an image meets the image's last face. */
function hitOf(face: Ready, from: Vec3, image: Vec3): Vec3 | null {
  const near = before(face, from);
  if (near < -ROUNDING_M) return null;
  const far = -before(face, image);
  const total = near + far;
  // Both on the face itself: the way is the straight one.
  const t = total > 1e-12 ? Math.max(0, near) / total : 0.5;
  const x = from.x + t * (image.x - from.x);
  const y = from.y + t * (image.y - from.y);
  const z = from.z + t * (image.z - from.z);
  return inFace(face, x, y, z) ? { x, y, z } : null;
}

/**
 * The ways over one or two faces from a point to another that meet every face inside its outline with
 * nothing between.
 * @param order 1 or 2: faces met at most
 * @returns those over one face first
 * Source: J. Borish, JASA 75 (1984).
 */
export function waysOverFaces(
  room: Pick<FacedRoom, 'faces'>,
  source: Vec3,
  receiver: Vec3,
  order: 1 | 2 = 2,
): FaceWay[] {
  const faces = readyFaces(room.faces);
  const { ready } = faces;
  const { over, at, parent, single } = imagesKept(faces, source);
  const free = faces.blockers.length === 0;
  const open = (a: Vec3, b: Vec3): boolean => free || blockerOf(faces, a, b) < 0;
  const found: FaceWay[] = [];
  const count = order === 1 ? single : parent.length;
  for (let k = 0; k < count; k++) {
    const image = {
      x: at[3 * k] as number,
      y: at[3 * k + 1] as number,
      z: at[3 * k + 2] as number,
    };
    const i = over[2 * k] as number;
    const j = over[2 * k + 1] as number;
    const hit = hitOf(ready[j < 0 ? i : j] as Ready, receiver, image);
    if (!hit) continue;
    const idI = faces.faces[i]?.id ?? '';
    if (j < 0) {
      if (!open(source, hit) || !open(hit, receiver)) continue;
      if (!isKnownImage(found, image)) found.push({ surfaces: [idI], image, corners: [hit] });
      continue;
    }
    const p = parent[k] as number;
    const first = {
      x: at[3 * p] as number,
      y: at[3 * p + 1] as number,
      z: at[3 * p + 2] as number,
    };
    const begin = hitOf(ready[i] as Ready, hit, first);
    if (!begin || !open(source, begin) || !open(begin, hit) || !open(hit, receiver)) continue;
    if (isKnownImage(found, image)) continue;
    found.push({ surfaces: [idI, faces.faces[j]?.id ?? ''], image, corners: [begin, hit] });
  }
  return found;
}

/** Walls at right angles, and walls in one plane, make one image in more than one way. */
function isKnownImage(found: readonly FaceWay[], { x, y, z }: Vec3): boolean {
  for (const { image } of found) {
    if (
      Math.abs(image.x - x) < SAME_IMAGE_M &&
      Math.abs(image.y - y) < SAME_IMAGE_M &&
      Math.abs(image.z - z) < SAME_IMAGE_M
    )
      return true;
  }
  return false;
}
