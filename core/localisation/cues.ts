import { mean } from 'd3-array';
import { clamp } from '../units/numbers';
import { amplitudeDb, checkSpeed, cosDeg, GAIN_FLOOR, inRange, sinDeg } from '../units/guard';
import { randomEnergyEfficiency, sensitivity } from '../acoustics/patterns';
import type { MonoWave } from '../acoustics/coherent-mono';
import { placeCapsules, type ArrayPlacement, type Capsule } from '../arrays/capsules';
import { arrayFrame } from '../arrays/frame';
import { routes, type ChannelStrip, type Route } from '../arrays/routing';
import { dot, subtract, type Vec3 } from '../units/vector';

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
  capsules: readonly Capsule[];
  routes: readonly Route[];
  /** all capsules at one point and no delays: level is the only cue */
  coincident: boolean;
  /** right half mirrors left half, so one side of a scan speaks for both */
  symmetric: boolean;
  /** exactly one capsule a channel, unchanged: the common pair, computed without the mix */
  plainPair: boolean;
  /** capsules in the array's own plane of right and aim, for distant sources in that plane */
  plane: readonly PlaneCapsule[];
  /** each capsule's part of the energy in both channels together */
  weights: readonly number[];
  /** each capsule's random energy efficiency */
  diffuse: readonly number[];
}

/** A capsule by the components along the array's right and aim that a level plane wave meets. */
interface PlaneCapsule {
  patternA: number;
  axisRight: number;
  axisForward: number;
  right: number;
  forward: number;
}

/** A capsule closer than this to a source has no meaningful far pattern: figures are refused. */
export const NEAREST_M = 0.01;

/** What follows the first wavefront within this time counts in full, s. */
const FUSION_S = 0.005;
/** What follows later than this is not part of the image, s. */
const LONG_LEAD_S = 0.03;
/** A lead of more than this no longer holds what follows, s. */
const LOST_LEAD_S = 0.04;
/** A first wave leads in full down to so far below the strongest, dB, … */
const FULL_LEAD_DB = 10;
/** … and no longer at all at this, dB. */
const WEAK_LEAD_DB = 15;
/** Energy fraction of what follows after the fusion: 10 dB less. */
const SUPPRESSED = 0.1;
/** Arrivals closer than this add as one wave, s. */
const SAME_ARRIVAL_S = 2e-6;

/** No figure within 1 cm of a capsule; what is not a distance at all is a programming error. */
function tooClose(distanceM: number): null {
  inRange('distanceM', distanceM, 0, NEAREST_M, 'm');
  return null;
}

/** A session is at most some 700 m across; farther sources belong to the far field. */
const FARTHEST_M = 2000;

/**
 * Places an array's capsules and works out its routes.
 * @param strips in the technique's order; an empty list means the usual pans
 * @throws RangeError for a place or technique outside of a session's limits
 */
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
  const centre = { x: array.x, y: array.y, z: array.z };
  return {
    centre,
    aimDeg: array.aimDeg,
    plane: inPlane(capsules, array),
    capsules,
    routes: capsuleRoutes,
    coincident: onePoint && capsuleRoutes.every(({ delayMs }) => delayMs === 0),
    symmetric: strips.length === 0 && array.technique.kind !== 'custom',
    plainPair: strips.length === 0 && array.technique.kind === 'pair',
    weights: capsuleRoutes.map(({ left, right }) => left * left + right * right),
    diffuse: capsules.map(({ patternA }) => randomEnergyEfficiency(patternA)),
  };
}

/** Capsules in an array's own plane of right and aim, wherever they really are. */
export function inPlane(
  capsules: readonly Capsule[],
  { x, y, z, aimDeg, tiltDeg }: Omit<ArrayPlacement, 'technique'>,
): PlaneCapsule[] {
  const frame = arrayFrame(aimDeg, tiltDeg);
  return capsules.map(({ position, axis, patternA }) => {
    const offset = subtract(position, { x, y, z });
    return {
      patternA,
      axisRight: dot(axis, frame.right),
      axisForward: dot(axis, frame.forward),
      right: dot(offset, frame.right),
      forward: dot(offset, frame.forward),
    };
  });
}

/** One capsule's arrival, before routing. */
export interface Arrival {
  /** signed amplitude */
  gain: number;
  timeS: number;
}

/**
 * A real source at every capsule: spherical wave, gain s(θ)/r, arrival r/c, in three dimensions.
 * @param speed speed of sound, m/s
 * @returns null where the source is within 1 cm of a capsule
 * @throws RangeError where speed is outside 250 … 450 m/s, distanceM is outside 0 … 2000 m
 */
export function nearArrivals(array: PreparedArray, source: Vec3, speed: number): Arrival[] | null {
  checkSpeed(speed);
  const arrivals: Arrival[] = [];
  for (const { position, axis, patternA } of array.capsules) {
    const dx = source.x - position.x;
    const dy = source.y - position.y;
    const dz = source.z - position.z;
    const distanceM = Math.sqrt(dx * dx + dy * dy + dz * dz);
    if (!(distanceM >= NEAREST_M)) return tooClose(distanceM);
    if (distanceM > FARTHEST_M) inRange('distanceM', distanceM, 0, FARTHEST_M, 'm');
    const cosine = (dx * axis.x + dy * axis.y + dz * axis.z) / distanceM;
    arrivals.push({ gain: sensitivity(patternA, cosine) / distanceM, timeS: distanceM / speed });
  }
  return arrivals;
}

/** Each capsule's wave on its way into the mono sum of an array or a mix. */
export function monoWaves(array: PreparedArray, arrivals: readonly Arrival[]): MonoWave[] {
  return arrivals.flatMap(({ gain, timeS }, i) => {
    const route = array.routes[i];
    const weight = array.weights[i] ?? 0;
    if (!route || weight === 0 || gain === 0) return [];
    return {
      gain: gain * (route.left + route.right),
      energy: gain * gain * weight,
      timeS: timeS + route.delayMs / 1000,
    };
  });
}

/**
 * Cues of a real source: spherical wave, in three dimensions.
 * @param speed speed of sound, m/s
 * @returns null where it is within 1 cm of a capsule
 */
export function nearCues(array: PreparedArray, source: Vec3, speed: number): Cues | null {
  const [left, right] = array.capsules;
  if (array.plainPair && left && right) return pairCues(left, right, source, speed);
  const arrivals = nearArrivals(array, source, speed);
  return arrivals && cuesFrom(array, arrivals);
}

/**
 * Cues of a distant source (plane wave): no distance loss, arrival by projection.
 * @param azimuthDeg in the array's own plane of right and aim, positive right of the aim
 * @throws RangeError where speed is outside 250 … 450 m/s, azimuthDeg is outside −360 … 360°
 */
export function farCues(array: PreparedArray, azimuthDeg: number, speed: number): Cues {
  checkSpeed(speed);
  inRange('azimuthDeg', azimuthDeg, -360, 360, '°');
  const sine = sinDeg(azimuthDeg);
  const cosine = cosDeg(azimuthDeg);
  const [first, second] = array.plane;
  if (array.plainPair && first && second) {
    return cuesBetween(
      sensitivity(first.patternA, sine * first.axisRight + cosine * first.axisForward),
      -(sine * first.right + cosine * first.forward) / speed,
      sensitivity(second.patternA, sine * second.axisRight + cosine * second.axisForward),
      -(sine * second.right + cosine * second.forward) / speed,
    );
  }
  const arrivals: Arrival[] = [];
  for (const { patternA, axisRight, axisForward, right, forward } of array.plane) {
    arrivals.push({
      gain: sensitivity(patternA, sine * axisRight + cosine * axisForward),
      timeS: -(sine * right + cosine * forward) / speed,
    });
  }
  return cuesFrom(array, arrivals);
}

/**
 * The two channels' difference once every arrival has taken its route. Several capsules on one
 * channel are an estimate by the first wavefront.
 * Source: H. Wallach, E. B. Newman & M. R. Rosenzweig (1949); H. Haas (1951).
 */
export function cuesFrom(array: PreparedArray, arrivals: readonly Arrival[]): Cues {
  const [first, second] = arrivals;
  if (array.plainPair && first && second) {
    return cuesBetween(first.gain, first.timeS, second.gain, second.timeS);
  }
  return mixedCues(array, arrivals);
}

/** The size of a gain, not below the floor, so that no ratio is infinite. */
const audible = (gain: number): number => Math.max(Math.abs(gain), GAIN_FLOOR);

function cuesBetween(left: number, leftS: number, right: number, rightS: number): Cues {
  return {
    left,
    right,
    icldDb: 20 * Math.log10(audible(right) / audible(left)),
    ictdMs: (leftS - rightS) * 1000,
    antiphase: left * right < 0,
    inverted: left < 0 && right < 0,
  };
}

/** Cues of a real source at two capsules, one a channel: the inner loop of every scan. */
function pairCues(left: Capsule, right: Capsule, source: Vec3, speed: number): Cues | null {
  checkSpeed(speed);
  const lx = source.x - left.position.x;
  const ly = source.y - left.position.y;
  const lz = source.z - left.position.z;
  const rx = source.x - right.position.x;
  const ry = source.y - right.position.y;
  const rz = source.z - right.position.z;
  const leftM = Math.sqrt(lx * lx + ly * ly + lz * lz);
  const rightM = Math.sqrt(rx * rx + ry * ry + rz * rz);
  if (!(leftM >= NEAREST_M && rightM >= NEAREST_M)) return tooClose(Math.min(leftM, rightM));
  if (leftM > FARTHEST_M) inRange('distanceM', leftM, 0, FARTHEST_M, 'm');
  const leftCosine = (lx * left.axis.x + ly * left.axis.y + lz * left.axis.z) / leftM;
  const rightCosine = (rx * right.axis.x + ry * right.axis.y + rz * right.axis.z) / rightM;
  return cuesBetween(
    sensitivity(left.patternA, leftCosine) / leftM,
    leftM / speed,
    sensitivity(right.patternA, rightCosine) / rightM,
    rightM / speed,
  );
}

/** The general way, through every capsule's route; exported to be tested against the fast one. */
export function mixedCues(array: PreparedArray, arrivals: readonly Arrival[]): Cues {
  const left = busSignal(array.routes, arrivals, 'left');
  const right = busSignal(array.routes, arrivals, 'right');
  return cuesBetween(left.gain, left.timeS, right.gain, right.timeS);
}

/** What reaches a bus at one moment: waves within 2 µs of each other, summed in amplitude. */
interface Wave {
  timeS: number;
  gain: number;
}

function wavesOn(
  capsuleRoutes: readonly Route[],
  arrivals: readonly Arrival[],
  side: 'left' | 'right',
): Wave[] {
  const single: Wave[] = [];
  for (const [i, { timeS, gain }] of arrivals.entries()) {
    const route = capsuleRoutes[i];
    if (!route || route[side] === 0 || gain === 0) continue;
    single.push({ timeS: timeS + route.delayMs / 1000, gain: gain * route[side] });
  }
  single.sort((a, b) => a.timeS - b.timeS);
  const waves: Wave[] = [];
  for (const wave of single) {
    const last = waves[waves.length - 1];
    if (last && wave.timeS - last.timeS <= SAME_ARRIVAL_S) last.gain += wave.gain;
    else waves.push(wave);
  }
  return waves;
}

/** How far the first of several waves leads: 1 unless a later one is much louder, then less. */
function lead(belowStrongestDb: number, aheadS: number): number {
  const byLevel = (WEAK_LEAD_DB - belowStrongestDb) / (WEAK_LEAD_DB - FULL_LEAD_DB);
  const byTime = (LOST_LEAD_S - aheadS) / (LOST_LEAD_S - LONG_LEAD_S);
  return clamp(byLevel, 0, 1) * clamp(byTime, 0, 1);
}

/**
 * One bus as a single arrival. One capsule, or several at one point, is exact. Otherwise an
 * estimate by the first wavefront: its time is that of the earliest wave, unless one that follows
 * is more than 10 dB louder; its energy is that of all that follows within 5 ms, and 10 dB less of
 * what follows within 30 ms.
 */
function busSignal(
  capsuleRoutes: readonly Route[],
  arrivals: readonly Arrival[],
  side: 'left' | 'right',
): Arrival {
  const waves = wavesOn(capsuleRoutes, arrivals, side);
  const [only] = waves;
  if (!only) return { gain: 0, timeS: meanTime(arrivals) };
  if (waves.length === 1) return only;
  const strongest = waves.reduce((most, wave) =>
    Math.abs(wave.gain) > Math.abs(most.gain) ? wave : most,
  );
  if (strongest.gain === 0) return { gain: 0, timeS: only.timeS };
  let timeS = 0;
  let open = 1;
  for (const wave of waves) {
    const below = amplitudeDb(Math.abs(strongest.gain)) - amplitudeDb(Math.abs(wave.gain));
    const patternA =
      wave === strongest ? open : open * lead(below, Math.max(0, strongest.timeS - wave.timeS));
    timeS += patternA * wave.timeS;
    open -= patternA;
    if (open <= 0) break;
  }
  let energy = 0;
  for (const wave of waves) {
    const after = wave.timeS - timeS;
    if (after > LONG_LEAD_S) continue;
    energy += wave.gain * wave.gain * (after > FUSION_S ? SUPPRESSED : 1);
  }
  return { gain: Math.sign(strongest.gain) * Math.sqrt(energy), timeS };
}

function meanTime(arrivals: readonly Arrival[]): number {
  return mean(arrivals, ({ timeS }) => timeS) ?? 0;
}

/**
 * A point at a plan azimuth (relative to the aim), distance and height, seen from the array.
 * @throws RangeError where azimuthDeg is outside −360 … 360°, distanceM is outside 0 … 1000 m,
 *   heightM is outside −400 … 400 m
 */
export function pointAround(
  array: PreparedArray,
  azimuthDeg: number,
  distanceM: number,
  heightM: number,
): Vec3 {
  inRange('azimuthDeg', azimuthDeg, -360, 360, '°');
  inRange('distanceM', distanceM, 0, 1000, 'm');
  inRange('heightM', heightM, -400, 400, 'm');
  return {
    x: array.centre.x + distanceM * sinDeg(array.aimDeg + azimuthDeg),
    y: array.centre.y + distanceM * cosDeg(array.aimDeg + azimuthDeg),
    z: heightM,
  };
}
