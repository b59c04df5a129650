import { amplitudeDb, cosDeg, sinDeg } from '../units/guard';
import { sensitivity } from '../acoustics/patterns';
import {
  arrayFrame,
  directionInFrame,
  placeCapsules,
  routes,
  type ArrayFrame,
  type ArrayPlacement,
  type Capsule,
  type ChannelStrip,
  type Route,
} from '../arrays';
import type { Vec3 } from '../units/vector';

/** What one source does in the two channels of an array. */
export interface Cues {
  /** signed amplitude in the left channel */
  left: number;
  /** signed amplitude in the right channel */
  right: number;
  /** 20·lg |right/left|, dB, positive pulls right; within ±120 dB */
  icldDb: number;
  /** arrival left − arrival right, ms, positive pulls right */
  ictdMs: number;
  /** the channels have opposite polarity: no stable phantom image */
  antiphase: boolean;
  /** both channels are inverted */
  inverted: boolean;
}

/** An array made ready for many sources: capsules placed, routes worked out. */
export interface PreparedArray {
  centre: Vec3;
  aimDeg: number;
  frame: ArrayFrame;
  capsules: readonly Capsule[];
  routes: readonly Route[];
  /** all capsules at one point and no delays: level is the only cue */
  coincident: boolean;
  /** right half mirrors left half, so one side of a scan speaks for both */
  symmetric: boolean;
}

/** A capsule closer than this to a source has no meaningful far pattern: figures are refused. */
export const NEAREST_M = 0.01;

/** Arrivals on one bus count towards the first image within this time of the first, s. */
const FUSION_S = 0.005;
/** Arrivals closer than this add as one wave, s. */
const SAME_ARRIVAL_S = 2e-6;

export function prepareArray(
  array: ArrayPlacement,
  strips: readonly ChannelStrip[] = [],
): PreparedArray {
  const capsules = placeCapsules(array);
  const capsuleRoutes = routes(array.technique, strips);
  const first = capsules[0]?.position;
  const onePoint = capsules.every(
    ({ position: p }) =>
      first !== undefined &&
      Math.abs(p.x - first.x) + Math.abs(p.y - first.y) + Math.abs(p.z - first.z) < 1e-9,
  );
  return {
    centre: { x: array.x, y: array.y, z: array.z },
    aimDeg: array.aimDeg,
    frame: arrayFrame(array.aimDeg, array.tiltDeg),
    capsules,
    routes: capsuleRoutes,
    coincident: onePoint && capsuleRoutes.every(({ delayMs }) => delayMs === 0),
    symmetric: strips.length === 0 && array.technique.kind !== 'custom',
  };
}

/** One capsule's arrival, before routing. */
export interface Arrival {
  /** signed amplitude */
  gain: number;
  timeS: number;
}

/** An arrival from a real source, with the path it took. */
export interface NearArrival extends Arrival {
  distanceM: number;
  /** signed sensitivity towards the source */
  towards: number;
}

/**
 * A real source at every capsule: spherical wave, gain s(θ)/r, arrival r/c, in three dimensions.
 * @param speed speed of sound, m/s
 * @returns null where the source is within 1 cm of a capsule
 */
export function nearArrivals(
  array: PreparedArray,
  source: Vec3,
  speed: number,
): NearArrival[] | null {
  const arrivals: NearArrival[] = [];
  for (const { position, axis, share } of array.capsules) {
    const dx = source.x - position.x;
    const dy = source.y - position.y;
    const dz = source.z - position.z;
    const distanceM = Math.sqrt(dx * dx + dy * dy + dz * dz);
    if (!(distanceM >= NEAREST_M)) return null;
    const towards = sensitivity(share, (dx * axis.x + dy * axis.y + dz * axis.z) / distanceM);
    arrivals.push({ gain: towards / distanceM, timeS: distanceM / speed, distanceM, towards });
  }
  return arrivals;
}

/** Cues of a real source; null where it is within 1 cm of a capsule. */
export function nearCues(array: PreparedArray, source: Vec3, speed: number): Cues | null {
  const arrivals = nearArrivals(array, source, speed);
  return arrivals && cuesFrom(array, arrivals);
}

/**
 * Cues of a distant source (plane wave): no distance loss, arrival by projection.
 * @param azimuthDeg in the array's own frame, positive right of the aim
 */
export function farCues(array: PreparedArray, azimuthDeg: number, speed: number): Cues {
  const towards = directionInFrame(array.frame, azimuthDeg, 0);
  const arrivals = array.capsules.map(({ position, axis, share }) => {
    const cosine = towards.x * axis.x + towards.y * axis.y + towards.z * axis.z;
    const lead =
      towards.x * (position.x - array.centre.x) +
      towards.y * (position.y - array.centre.y) +
      towards.z * (position.z - array.centre.z);
    return { gain: sensitivity(share, cosine), timeS: -lead / speed };
  });
  return cuesFrom(array, arrivals);
}

/** The two channels' difference once every arrival has taken its route. */
export function cuesFrom(array: PreparedArray, arrivals: readonly Arrival[]): Cues {
  const left = busSignal(array.routes, arrivals, 'left');
  const right = busSignal(array.routes, arrivals, 'right');
  return {
    left: left.gain,
    right: right.gain,
    icldDb: amplitudeDb(right.gain) - amplitudeDb(left.gain),
    ictdMs: (left.timeS - right.timeS) * 1000,
    antiphase: left.gain * right.gain < 0,
    inverted: left.gain < 0 && right.gain < 0,
  };
}

/**
 * One bus as a single arrival. One capsule, or several at one point, is exact. Otherwise an
 * estimate: what arrives as one wave adds in amplitude, what follows within 5 ms adds in energy,
 * and the time is the energy-weighted mean.
 */
function busSignal(
  capsuleRoutes: readonly Route[],
  arrivals: readonly Arrival[],
  side: 'left' | 'right',
): Arrival {
  let firstS = Infinity;
  for (const [i, { timeS, gain }] of arrivals.entries()) {
    const route = capsuleRoutes[i];
    if (route && route[side] !== 0 && gain !== 0) {
      firstS = Math.min(firstS, timeS + route.delayMs / 1000);
    }
  }
  if (firstS === Infinity) return { gain: 0, timeS: meanTime(arrivals) };
  let coherent = 0;
  let later = 0;
  let weightedTime = 0;
  for (const [i, arrival] of arrivals.entries()) {
    const route = capsuleRoutes[i];
    if (!route) continue;
    const gain = arrival.gain * route[side];
    const after = arrival.timeS + route.delayMs / 1000 - firstS;
    if (after <= SAME_ARRIVAL_S) coherent += gain;
    else if (after <= FUSION_S) {
      later += gain * gain;
      weightedTime += gain * gain * after;
    }
  }
  const energy = coherent * coherent + later;
  if (energy === 0) return { gain: 0, timeS: firstS };
  if (later === 0) return { gain: coherent, timeS: firstS };
  return {
    gain: (coherent < 0 ? -1 : 1) * Math.sqrt(energy),
    timeS: firstS + weightedTime / energy,
  };
}

function meanTime(arrivals: readonly Arrival[]): number {
  if (arrivals.length === 0) return 0;
  return arrivals.reduce((sum, { timeS }) => sum + timeS, 0) / arrivals.length;
}

/** A point at a plan azimuth (relative to the aim), distance and height, seen from the array. */
export function pointAround(
  array: PreparedArray,
  azimuthDeg: number,
  distanceM: number,
  heightM: number,
): Vec3 {
  return {
    x: array.centre.x + distanceM * sinDeg(array.aimDeg + azimuthDeg),
    y: array.centre.y + distanceM * cosDeg(array.aimDeg + azimuthDeg),
    z: heightM,
  };
}
