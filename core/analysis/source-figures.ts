import { directToReverberantDb, monoSum, type MonoSum } from '../acoustics';
import {
  cuesFrom,
  nearArrivals,
  nearCues,
  schoolsFor,
  type Cues,
  type NearArrival,
  type PerSchool,
  type PreparedArray,
  type StagePlace,
} from '../localisation';
import type { Source } from '../session';
import { cosDeg, sinDeg, subtract, toDeg, wrapDeg, length, type Vec3 } from '../units';
import type { Context } from './context';

/** Everything that one array makes of one source. A null figure has no value here. */
export interface SourceFigures {
  id: string;
  /** straight line from the array's centre, m */
  distanceM: number;
  /** the same on the plan, m */
  planDistanceM: number;
  /** off the array's aim on the plan, degrees, positive right; (−180, 180] */
  azimuthDeg: number;
  /** seen from the array's centre, degrees, positive up */
  elevationDeg: number;
  /** the source is within 1 cm of a capsule, so nothing can be said */
  atCapsule: boolean;
  icldDb: number | null;
  ictdMs: number | null;
  antiphase: boolean;
  /** the image is on the other side than the player */
  mirrored: boolean;
  /** per school: place of the centre and of both edges; null in antiphase */
  image: PerSchool<StagePlace> | null;
  /** null while the room is unknown */
  directToReverbDb: number | null;
  mono: MonoSum | null;
}

/** Both ends of a source's sounding width, across the way it faces. */
export function sourceEdges({ x, y, z, facingDeg, widthM }: Source): [Vec3, Vec3] {
  const dx = (cosDeg(facingDeg) * widthM) / 2;
  const dy = (-sinDeg(facingDeg) * widthM) / 2;
  return [
    { x: x - dx, y: y - dy, z },
    { x: x + dx, y: y + dy, z },
  ];
}

/** Plan azimuth of a point off an array's aim, degrees, positive right. */
export function azimuthFrom(array: PreparedArray, point: Vec3): number {
  const dx = point.x - array.centre.x;
  const dy = point.y - array.centre.y;
  if (dx === 0 && dy === 0) return 0;
  return wrapDeg(toDeg(Math.atan2(dx, dy)) - array.aimDeg);
}

const NO_CUES = {
  icldDb: null,
  ictdMs: null,
  antiphase: false,
  mirrored: false,
  image: null,
  directToReverbDb: null,
  mono: null,
};

const usable = (cues: Cues | null): cues is Cues => cues !== null && !cues.antiphase;

function imagesOf(
  array: PreparedArray,
  centre: Cues,
  edges: readonly (Cues | null)[],
): PerSchool<StagePlace> {
  const images: PerSchool<StagePlace> = {};
  for (const school of schoolsFor(array.coincident)) {
    const shift = school.shift(centre.icldDb, centre.ictdMs);
    let left = shift;
    let right = shift;
    for (const cues of edges) {
      if (!usable(cues)) continue;
      const edge = school.shift(cues.icldDb, cues.ictdMs);
      left = Math.min(left, edge);
      right = Math.max(right, edge);
    }
    images[school.id] = { shift, left, right };
  }
  return images;
}

const SIDE_DEADBAND_DEG = 0.5;
const LEAN_DEADBAND = 0.01;

/** Is the image on the other side of the centre than the player is of the aim? */
function isMirrored(array: PreparedArray, azimuthDeg: number, cues: Cues): boolean {
  if (cues.antiphase) return false;
  if (!array.symmetric) return cues.inverted;
  const side = sinDeg(azimuthDeg);
  const lean = cues.icldDb / 15 + cues.ictdMs / 1.12;
  if (Math.abs(side) < sinDeg(SIDE_DEADBAND_DEG) || Math.abs(lean) < LEAN_DEADBAND) return false;
  return side * lean < 0;
}

function roomRatio(
  array: PreparedArray,
  arrivals: readonly NearArrival[],
  q: number,
  criticalDistanceM: number,
): number | null {
  const paths = arrivals.map(({ towards, distanceM }, index) => {
    const route = array.routes[index];
    const weight = route ? route.left ** 2 + route.right ** 2 : 0;
    return { share: array.capsules[index]?.share ?? 1, towards, distanceM, weight };
  });
  if (!paths.some(({ weight }) => weight > 0)) return null;
  return directToReverberantDb(paths, q, criticalDistanceM);
}

/** All figures of one source at one array. */
export function sourceFigures(
  array: PreparedArray,
  source: Source,
  { speed, criticalDistanceM }: Context,
): SourceFigures {
  const line = subtract(source, array.centre);
  const planDistanceM = Math.hypot(line.x, line.y);
  const place = {
    id: source.id,
    distanceM: length(line),
    planDistanceM,
    azimuthDeg: azimuthFrom(array, source),
    elevationDeg: toDeg(Math.atan2(line.z, planDistanceM)),
  };
  const arrivals = nearArrivals(array, source, speed);
  if (!arrivals) return { ...place, ...NO_CUES, atCapsule: true };
  const cues = cuesFrom(array, arrivals);
  const edges =
    source.widthM > 0 ? sourceEdges(source).map((edge) => nearCues(array, edge, speed)) : [];
  return {
    ...place,
    atCapsule: false,
    icldDb: cues.icldDb,
    ictdMs: cues.ictdMs,
    antiphase: cues.antiphase,
    mirrored: isMirrored(array, place.azimuthDeg, cues),
    image: cues.antiphase ? null : imagesOf(array, cues, edges),
    directToReverbDb:
      criticalDistanceM === null ? null : roomRatio(array, arrivals, source.q, criticalDistanceM),
    mono: monoSum(cues.left, cues.right, cues.ictdMs),
  };
}
