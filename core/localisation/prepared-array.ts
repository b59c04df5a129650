import { randomEnergyEfficiency } from '../acoustics/patterns';
import { placeCapsules, type ArrayPlacement, type Capsule } from '../arrays/capsules';
import { arrayFrame, type ArrayFrame } from '../arrays/frame';
import { routes, type ChannelStrip, type Route } from '../arrays/routing';
import { dot, subtract, type Vec3 } from '../units/vector';
import { eventGroups, type EventGroup } from './event-groups';

/** An array made ready for many sources: capsules placed, routes worked out. */
export interface PreparedArray {
  centre: Vec3;
  aimDeg: number;
  capsules: readonly Capsule[];
  routes: readonly Route[];
  /** which capsules are heard together */
  groups: readonly EventGroup[];
  /** all capsules at one point and no delays: level is the only cue */
  coincident: boolean;
  /** right half mirrors left half, so one side of a scan speaks for both */
  symmetric: boolean;
  /** of a pair or mid-side whose strips were set, the routes that it has without them; else null */
  bareRoutes: readonly Route[] | null;
  /** exactly one capsule a channel, unchanged: the common pair, computed without the mix */
  plainPair: boolean;
  /** capsules in the array's own plane of right and aim, for distant sources in that plane */
  plane: readonly PlaneCapsule[];
  /** the array's own axes where it looks down or up so steeply that the plan says nothing of it */
  steep: ArrayFrame | null;
  /** each capsule's part of the energy in both channels together */
  weights: readonly number[];
  /** each capsule's random energy efficiency */
  diffuse: readonly number[];
  /** sum of weight and random energy efficiency over the capsules; 0 where none is heard */
  diffuseEnergy: number;
}

/** A capsule by the components along the array's right and aim that a level plane wave meets. */
interface PlaneCapsule {
  patternA: number;
  axisRight: number;
  axisForward: number;
  right: number;
  forward: number;
}

/** From this tilt on, down or up, an array is judged in its own plane of right and aim, degrees. */
const STEEP_DEG = 60;

/** Whether an array is judged in its own plane, because it looks down or up steeply. */
export const looksSteeply = ({ tiltDeg }: { tiltDeg: number }): boolean =>
  Math.abs(tiltDeg) >= STEEP_DEG;

/** Techniques whose right half mirrors the left one, whatever their numbers. */
const MIRRORED: ReadonlySet<string> = new Set(['pair', 'mid-side']);

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
  const diffuse = capsules.map(({ patternA }) => randomEnergyEfficiency(patternA));
  const weights = capsuleRoutes.map(({ left, right }) => left * left + right * right);
  return {
    centre,
    aimDeg: array.aimDeg,
    plane: inPlane(capsules, array),
    steep: looksSteeply(array) ? arrayFrame(array.aimDeg, array.tiltDeg) : null,
    capsules,
    routes: capsuleRoutes,
    groups: eventGroups(array.technique),
    coincident: onePoint && capsuleRoutes.every(({ delayMs }) => delayMs === 0),
    symmetric: strips.length === 0 && array.technique.kind !== 'custom',
    bareRoutes:
      strips.length > 0 && MIRRORED.has(array.technique.kind) ? routes(array.technique, []) : null,
    plainPair: strips.length === 0 && array.technique.kind === 'pair',
    weights,
    diffuse,
    diffuseEnergy: weights.reduce((sum, weight, i) => sum + weight * (diffuse[i] ?? 0), 0),
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
