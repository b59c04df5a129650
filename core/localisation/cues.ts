import { sensitivity } from '../acoustics/patterns';
import type { MonoWave } from '../acoustics/coherent-mono';
import type { Capsule } from '../arrays/capsules';
import type { Route } from '../arrays/routing';
import { checkSpeed, cosDeg, inRange, sinDeg } from '../units/guard';
import { add, scale, type Vec3 } from '../units/vector';
import type { EventGroup } from './event-groups';
import {
  eventsOf,
  isAntiphase,
  levelDifferenceDb,
  weighEvents,
  type ImageEvent,
  type WeighedEvents,
} from './events';
import type { PreparedArray } from './prepared-array';

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
  /** the channels have opposite polarity and like levels: less than half a phantom image */
  antiphase: boolean;
  /** the channels have opposite polarity, however far apart in level */
  opposed: boolean;
  /** both channels are inverted */
  inverted: boolean;
  /**
   * What is heard one after the other, where that is more than one wave a channel: then the image
   * comes from it. Level difference is that of the channels' powers, time difference a mean by pull.
   */
  events?: WeighedEvents;
}

/** A capsule closer than this to a source has no meaningful far pattern: figures are refused. */
export const NEAREST_M = 0.01;

/** No figure within 1 cm of a capsule; what is not a distance at all is a programming error. */
function tooClose(distanceM: number): null {
  inRange('distanceM', distanceM, 0, NEAREST_M, 'm');
  return null;
}

/** A session is at most some 700 m across; farther sources belong to the far field. */
const FARTHEST_M = 2000;

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

/** Cues to be filled: for scans, which look at one place after the other and keep none. */
export const unfilledCues = (): Cues => ({
  left: 0,
  right: 0,
  icldDb: 0,
  ictdMs: 0,
  antiphase: false,
  opposed: false,
  inverted: false,
});

/**
 * Cues of a real source: spherical wave, in three dimensions.
 * @param speed speed of sound, m/s
 * @param into where a plain pair's cues are written, instead of making them anew
 * @returns null where it is within 1 cm of a capsule
 */
export function nearCues(
  array: PreparedArray,
  source: Vec3,
  speed: number,
  into?: Cues,
): Cues | null {
  if (array.plainPair) {
    // By index, not taken apart: the inner loop of every scan.
    const left = array.capsules[0];
    const right = array.capsules[1];
    if (left && right) return pairCues(left, right, source, speed, into);
  }
  const arrivals = nearArrivals(array, source, speed);
  return arrivals && cuesFrom(array, arrivals);
}

/**
 * Cues of a distant source (plane wave): no distance loss, arrival by projection.
 * @param azimuthDeg in the array's own plane of right and aim, positive right of the aim
 * @param into where a plain pair's cues are written, instead of making them anew
 * @throws RangeError where speed is outside 250 … 450 m/s, azimuthDeg is outside −360 … 360°
 */
export function farCues(
  array: PreparedArray,
  azimuthDeg: number,
  speed: number,
  into?: Cues,
): Cues {
  checkSpeed(speed);
  inRange('azimuthDeg', azimuthDeg, -360, 360, '°');
  const sine = sinDeg(azimuthDeg);
  const cosine = cosDeg(azimuthDeg);
  const first = array.plane[0];
  const second = array.plane[1];
  if (array.plainPair && first && second) {
    return cuesBetween(
      sensitivity(first.patternA, sine * first.axisRight + cosine * first.axisForward),
      -(sine * first.right + cosine * first.forward) / speed,
      sensitivity(second.patternA, sine * second.axisRight + cosine * second.axisForward),
      -(sine * second.right + cosine * second.forward) / speed,
      into,
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
 * channel are an estimate by events.
 */
export function cuesFrom(array: PreparedArray, arrivals: readonly Arrival[]): Cues {
  const [first, second] = arrivals;
  if (array.plainPair && first && second) {
    return cuesBetween(first.gain, first.timeS, second.gain, second.timeS);
  }
  return mixedCues(array, arrivals);
}

function cuesBetween(
  left: number,
  leftS: number,
  right: number,
  rightS: number,
  into: Cues = unfilledCues(),
): Cues {
  into.left = left;
  into.right = right;
  into.icldDb = levelDifferenceDb(left, right);
  into.ictdMs = (leftS - rightS) * 1000;
  into.opposed = left * right < 0;
  into.antiphase = into.opposed && isAntiphase(left, right);
  into.inverted = left < 0 && right < 0;
  return into;
}

/** Cues of a real source at two capsules, one a channel: the inner loop of every scan. */
function pairCues(
  left: Capsule,
  right: Capsule,
  source: Vec3,
  speed: number,
  into?: Cues,
): Cues | null {
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
    into,
  );
}

/**
 * The general way, by the events of all capsules through their routes. Two capsules to hard pans,
 * a microphone alone and a decoder that is right are exact; anything else is an estimate.
 */
export function mixedCues(array: PreparedArray, arrivals: readonly Arrival[]): Cues {
  const { groups, routes: ways } = array;
  const exact = exactCues(groups, ways, arrivals);
  if (exact) return exact;
  const events = eventsOf(groups, ways, arrivals);
  const weighed = weighEvents(events);
  const [left, right] = [
    busAmplitude(ways, arrivals, 'left'),
    busAmplitude(ways, arrivals, 'right'),
  ];
  const cues: Cues = {
    left,
    right,
    icldDb: levelDifferenceDb(left, right),
    ictdMs: 0,
    antiphase: false,
    opposed: false,
    inverted: false,
  };
  if (!weighed) return cues;
  const mostly = (of: (event: ImageEvent) => number): number =>
    events.reduce((sum, event, i) => sum + (weighed.pulls[i] ?? 0) * of(event), 0);
  cues.ictdMs = mostly(({ parts, half }) => half * (parts[0]?.ictdMs ?? 0));
  cues.inverted = mostly(({ inverted }) => (inverted ? 1 : 0)) > 0.5;
  cues.antiphase = weighed.antiphaseShare > 0.5;
  cues.opposed = cues.antiphase;
  cues.events = weighed;
  return cues;
}

/** Amplitude of all that reaches a bus, added in power. */
function busAmplitude(
  ways: readonly Route[],
  arrivals: readonly Arrival[],
  side: 'left' | 'right',
): number {
  let power = 0;
  for (const [i, { gain }] of arrivals.entries()) power += (gain * (ways[i]?.[side] ?? 0)) ** 2;
  return Math.sqrt(power);
}

const onlyLeft = ({ left, right }: Route): boolean => right === 0 && left !== 0;
const onlyRight = ({ left, right }: Route): boolean => left === 0 && right !== 0;

/** The two channels where each is one wave: no estimate needed. */
function exactCues(
  groups: readonly EventGroup[],
  ways: readonly Route[],
  arrivals: readonly Arrival[],
): Cues | null {
  const [group, more] = groups;
  if (!group || more) return null;
  const at = (i: number): Wave | null => {
    const [way, arrival] = [ways[i], arrivals[i]];
    if (!way || !arrival) return null;
    return { way, gain: arrival.gain, timeS: arrival.timeS + way.delayMs / 1000 };
  };
  if (group.kind === 'single') {
    const only = at(group.capsule);
    if (!only) return null;
    const { way, gain, timeS } = only;
    return { ...cuesBetween(gain * way.left, timeS, gain * way.right, timeS), inverted: false };
  }
  if (group.kind === 'decoded') return together(group.capsules.map(at));
  const [a, b] = [at(group.left), at(group.right)];
  if (!a || !b) return null;
  const [l, r] = onlyLeft(a.way) && onlyRight(b.way) ? [a, b] : [b, a];
  if (!onlyLeft(l.way) || !onlyRight(r.way)) return null;
  return cuesBetween(l.gain * l.way.left, l.timeS, r.gain * r.way.right, r.timeS);
}

/** Waves at one point add as they are, where all of them come at one time; null where not. */
function together(waves: readonly (Wave | null)[]): Cues | null {
  const [first] = waves;
  if (!first) return null;
  let [left, right] = [0, 0];
  for (const wave of waves) {
    if (!wave || wave.timeS !== first.timeS) return null;
    left += wave.gain * wave.way.left;
    right += wave.gain * wave.way.right;
  }
  return cuesBetween(left, first.timeS, right, first.timeS);
}

interface Wave {
  way: Route;
  gain: number;
  timeS: number;
}

/** Farther off the aim than this nothing of a level plane is met, degrees. */
const ALONG_PLANE_DEG = 89;

/** Nor is what lies farther than any session is across, m. */
const LONGEST_ALONG_M = 1000;

/**
 * A point at an angle off the aim, at a distance on the plan and a height. For an array that looks
 * steeply, where its own plane of right and aim meets that height; its distance is not used then.
 * @returns null where a steep array's plane does not meet the height at that angle
 * @throws RangeError where azimuthDeg is outside −360 … 360°, distanceM is outside 0 … 1000 m,
 *   heightM is outside −400 … 400 m
 */
export function pointAround(
  { centre, aimDeg, steep }: PreparedArray,
  azimuthDeg: number,
  distanceM: number,
  heightM: number,
): Vec3 | null {
  inRange('azimuthDeg', azimuthDeg, -360, 360, '°');
  inRange('distanceM', distanceM, 0, 1000, 'm');
  inRange('heightM', heightM, -400, 400, 'm');
  if (!steep) {
    return {
      x: centre.x + distanceM * sinDeg(aimDeg + azimuthDeg),
      y: centre.y + distanceM * cosDeg(aimDeg + azimuthDeg),
      z: heightM,
    };
  }
  const along = (heightM - centre.z) / steep.forward.z;
  if (!(along > 0) || Math.abs(azimuthDeg) > ALONG_PLANE_DEG) return null;
  const aside = (along * sinDeg(azimuthDeg)) / cosDeg(azimuthDeg);
  if (Math.hypot(along, aside) > LONGEST_ALONG_M) return null;
  return add(centre, add(scale(steep.forward, along), scale(steep.right, aside)));
}
