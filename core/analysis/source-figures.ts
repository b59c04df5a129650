import { coherentMono } from '../acoustics/coherent-mono';
import { REAL_NULL_DB } from '../acoustics/patterns';
import { monoSum, type MonoSum } from '../acoustics/mono';
import { directOverDiffuseDb, directToReverberantDb } from '../acoustics/reverberant-field';
import {
  cuesFrom,
  nearArrivals,
  mixedCues,
  monoWaves,
  nearCues,
  unfilledCues,
  type Arrival,
  type Cues,
} from '../localisation/cues';
import type { PreparedArray } from '../localisation/prepared-array';
import { extentsOf, placesOf } from '../localisation/placed';
import { perModel, shiftsByModel } from '../localisation/models/index';
import type { OwnShape } from '../localisation/models/own';
import type { PerModel } from '../localisation/recording-angle';
import type { StagePlace } from '../localisation/stage';
import type { Source } from '../session/schema';
import { amplitudeDb, powerDb, toDeg, wrapDeg } from '../units/guard';
import { once } from '../units/remember';
import { dot, subtract, type Vec3 } from '../units/vector';
import type { Context } from '../prepare/context';
import { edgesAt } from './edges-at';

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
  reversed: boolean;
  /** per model: place of the centre and of both edges; null in antiphase */
  image: PerModel<StagePlace> | null;
  /** direct sound over both channels at the source's own level, dB SPL per channel */
  levelAtArrayDb: number | null;
  /** null while the room is unknown */
  directToReverberantDb: number | null;
  mono: MonoSum | null;
}

/**
 * Azimuth of a point off an array's aim, degrees, positive right: on the plan, and in its own plane
 * of right and aim where it looks steeply.
 */
export function azimuthFrom(array: PreparedArray, point: Vec3): number {
  const { steep } = array;
  if (steep) {
    const offset = subtract(point, array.centre);
    const [right, forward] = [dot(offset, steep.right), dot(offset, steep.forward)];
    return right === 0 && forward === 0 ? 0 : toDeg(Math.atan2(right, forward));
  }
  const dx = point.x - array.centre.x;
  const dy = point.y - array.centre.y;
  if (dx === 0 && dy === 0) return 0;
  return wrapDeg(toDeg(Math.atan2(dx, dy)) - array.aimDeg);
}

const usable = (cues: Cues | null): cues is Cues => cues !== null && !cues.antiphase;

const pointAt = (shift: number): StagePlace => ({ shift, left: shift, right: shift });
/** Most of what is far out is at a loudspeaker: these places are shared. */
const [AT_LEFT, AT_RIGHT] = [pointAt(-1), pointAt(1)];
const sharedPointAt = (shift: number): StagePlace =>
  shift === 1 ? AT_RIGHT : shift === -1 ? AT_LEFT : pointAt(shift);

/** Place and extent in every model that may speak; ends in antiphase are left out. */
export function imagesOf(
  array: PreparedArray,
  centre: Cues,
  edges: readonly (Cues | null)[],
  own: OwnShape | null = null,
): PerModel<StagePlace> {
  const { coincident } = array;
  if (edges.length === 0 && !centre.events) {
    return shiftsByModel(coincident, centre.icldDb, centre.ictdMs, sharedPointAt, own);
  }
  const places = placesOf(centre, coincident, own).map(pointAt);
  const spread = (place: StagePlace | undefined, left: number, right: number): void => {
    if (!place) return;
    if (left < place.left) place.left = left;
    if (right > place.right) place.right = right;
  };
  for (const edge of [centre, ...edges]) {
    if (!usable(edge)) continue;
    const extents = extentsOf(edge, coincident, own);
    placesOf(edge, coincident, own).forEach((at, i) =>
      spread(places[i], extents?.[i]?.left ?? at, extents?.[i]?.right ?? at),
    );
  }
  return perModel(coincident, places, own);
}

const SIDE_DEADBAND_DEG = 0.5;
const LEAN_DEADBAND = 0.01;

/**
 * Does an array by itself hear a player on the other side of the centre than he is of the aim? What
 * strips do to that is not its own doing.
 */
function isReversed(
  array: PreparedArray,
  azimuthDeg: number,
  mixed: Cues,
  arrivals: readonly Arrival[] | null,
): boolean {
  const { bareRoutes } = array;
  const cues =
    bareRoutes && arrivals ? mixedCues({ ...array, routes: bareRoutes }, arrivals) : mixed;
  if (cues.antiphase) return false;
  if (!array.symmetric && !bareRoutes) return cues.inverted;
  const lean = cues.icldDb / 15 + cues.ictdMs / 1.12;
  const off = Math.abs(azimuthDeg);
  if (off < SIDE_DEADBAND_DEG || off > 180 - SIDE_DEADBAND_DEG) return false;
  return Math.abs(lean) >= LEAN_DEADBAND && azimuthDeg < 0 !== lean < 0;
}

/**
 * Direct level at an array as a real microphone leaves it: where a source lies in a null of all its
 * capsules, 25 dB under what their axes would hear.
 * @returns dB SPL per channel, and whether it is a null; null at a capsule
 */
export function heardLevel(
  figures: Pick<SourceFigures, 'levelAtArrayDb' | 'distanceM'>,
  { levelDb }: Pick<Source, 'levelDb'>,
): { levelDb: number; atNull: boolean } | null {
  if (figures.levelAtArrayDb === null) return null;
  const floorDb = levelDb - amplitudeDb(Math.max(figures.distanceM, 0.01)) + REAL_NULL_DB;
  const atNull = figures.levelAtArrayDb < floorDb;
  return { levelDb: atNull ? floorDb : figures.levelAtArrayDb, atNull };
}

/** One source at one capsule, before any mixing. */
export interface CapsuleFigures {
  label: string;
  distanceM: number;
  arrivalMs: number;
  /** direct sound at the capsule, pattern included, dB SPL */
  levelDb: number;
  /** null while the room is unknown */
  directToReverberantDb: number | null;
}

/** Level, time and direct-to-reverberant ratio of a source at every capsule; null at a capsule. */
export function capsuleFigures(
  array: PreparedArray,
  source: Source,
  { speed, criticalDistanceM }: Context,
): CapsuleFigures[] | null {
  const arrivals = nearArrivals(array, source, speed);
  if (!arrivals) return null;
  return arrivals.map((arrival, i) => ({
    label: array.capsules[i]?.label ?? '',
    distanceM: arrival.timeS * speed,
    arrivalMs: arrival.timeS * 1000,
    levelDb: source.levelDb + amplitudeDb(arrival.gain),
    directToReverberantDb:
      criticalDistanceM === null
        ? null
        : directToReverberantDb(
            [arrival],
            [1],
            [array.diffuse[i] ?? 1],
            source.q,
            criticalDistanceM,
          ),
  }));
}

/** Whether each channel is one capsule's alone, so that two waves say all about the mono sum. */
function oneForEachSide({ routes, weights }: PreparedArray): boolean {
  const [first, second, more] = routes.filter((_, i) => (weights[i] ?? 0) > 0);
  if (!first || !second || more) return false;
  return (
    first.left * first.right === 0 &&
    first.left * second.left === 0 &&
    first.right * second.right === 0
  );
}

/** Energy of all capsules in the output. */
function directEnergy({ weights }: PreparedArray, arrivals: readonly Arrival[]): number {
  let energy = 0;
  for (let i = 0; i < arrivals.length; i++) {
    const gain = arrivals[i]?.gain ?? 0;
    energy += (weights[i] ?? 0) * gain * gain;
  }
  return energy;
}

const NO_EDGES: readonly Cues[] = [];
/** Cues of a plain pair that are looked at and forgotten, written anew for every source. */
const CENTRE = unfilledCues();
const EDGES = [unfilledCues(), unfilledCues()];

/** All figures of one source at one array. */
export function sourceFigures(
  array: PreparedArray,
  source: Source,
  { speed, criticalDistanceM, own }: Context,
): SourceFigures {
  const dx = source.x - array.centre.x;
  const dy = source.y - array.centre.y;
  const dz = source.z - array.centre.z;
  const planDistanceM = Math.sqrt(dx * dx + dy * dy);
  const azimuthDeg = azimuthFrom(array, source);
  const arrivals = array.plainPair ? null : nearArrivals(array, source, speed);
  const cues = array.plainPair
    ? nearCues(array, source, speed, CENTRE)
    : arrivals && cuesFrom(array, arrivals);
  const edges =
    source.widthM > 0
      ? edgesAt(array, source).map((edge, i) => nearCues(array, edge, speed, EDGES[i]))
      : NO_EDGES;
  const channelEnergy = cues ? cues.left * cues.left + cues.right * cues.right : 0;
  const channels = arrivals && !oneForEachSide(array) ? monoWaves(array, arrivals) : null;
  const figures: SourceFigures = {
    id: source.id,
    distanceM: Math.sqrt(planDistanceM * planDistanceM + dz * dz),
    planDistanceM,
    azimuthDeg,
    elevationDeg: toDeg(Math.atan2(dz, planDistanceM)),
    atCapsule: cues === null,
    icldDb: cues ? cues.icldDb : null,
    ictdMs: cues ? cues.ictdMs : null,
    antiphase: cues ? cues.antiphase : false,
    reversed: cues ? isReversed(array, azimuthDeg, cues, arrivals) : false,
    image: usable(cues) ? imagesOf(array, cues, edges, own) : null,
    levelAtArrayDb: cues ? source.levelDb + powerDb(channelEnergy / 2) : null,
    directToReverberantDb:
      cues && criticalDistanceM !== null && array.diffuseEnergy > 0
        ? directOverDiffuseDb(
            arrivals ? directEnergy(array, arrivals) : channelEnergy,
            array.diffuseEnergy,
            source.q,
            criticalDistanceM,
          )
        : null,
    mono: cues && !channels ? monoSum(cues.left, cues.right, cues.ictdMs) : null,
  };
  if (!channels) return figures;
  // A search over all frequencies: only for those who read it.
  const mono = once(() => coherentMono(channels));
  return Object.defineProperty(figures, 'mono', { get: mono, enumerable: true });
}
