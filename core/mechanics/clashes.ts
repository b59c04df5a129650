import { enabledArrays } from '../session/lists';
import { placeCapsules } from '../arrays/capsules';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import type { MicArray, Obstacle, Session, Source } from '../session/schema';
import { nearestOnStretch, outsideOf } from '../units/geometry';
import { distance, type Vec3 } from '../units/vector';
import { sourceEdges } from '../ensembles/extent';

/** A microphone that is too close to something else, in three dimensions. */
export interface Clash {
  arrayId: string;
  arrayName: string;
  label: string;
  with: 'player' | 'microphone' | 'obstacle';
  /** id of the player, the other array or the obstacle */
  id: string;
  name: string;
  /** 0 where the microphone is inside */
  distanceM: number;
  /** what should be kept, m */
  leastM: number;
}

/** Two microphones of different arrays: their bodies and mounts, m. */
const BODIES_M = 0.06;
/** A microphone that is for somebody may be as near to him as it does not touch, m. */
const TOUCHING_M = 0.05;
/** Roles that are put close to whom they are for. */
const CLOSE_ROLES: ReadonlySet<MicArray['role']> = new Set(['spot', 'overhead']);

/** Distance from a point to a turned box, m; 0 inside. What stands on the floor reaches below it too. */
function toObstacle(point: Vec3, obstacle: Obstacle): number {
  const { x, y } = outsideOf(obstacle, point);
  const [low, high] = [obstacle.baseM, obstacle.baseM + obstacle.heightM];
  return Math.hypot(x, y, Math.max(0, point.z - high, obstacle.baseM > 0 ? low - point.z : 0));
}

/** One thing that a microphone of an array can come too close to. */
interface Neighbour {
  kind: Clash['with'];
  id: string;
  name: string;
  leastM: number;
  distanceTo: (at: Vec3) => number;
}

function neighboursOf(session: Session, array: MicArray): Neighbour[] {
  const { clearanceM } = session.rig;
  const others = session.arrays.filter(({ enabled, id }) => enabled && id !== array.id);
  const own = CLOSE_ROLES.has(array.role)
    ? new Set(playersOf(array, session.sources, contextOf(session).speed))
    : new Set<Source>();
  return [
    ...session.sources.map((source): Neighbour => {
      const ends = source.widthM > 0 ? sourceEdges(source) : ([source, source] as const);
      return {
        kind: 'player',
        id: source.id,
        name: source.name,
        leastM: own.has(source) ? Math.min(clearanceM, TOUCHING_M) : clearanceM,
        distanceTo: (at) => nearestOnStretch(at, ends[0], ends[1]).distanceM,
      };
    }),
    ...session.venue.obstacles.map((obstacle): Neighbour => ({
      kind: 'obstacle',
      id: obstacle.id,
      name: obstacle.name,
      // A riser carries players and stands: only what is inside it is wrong.
      leastM: obstacle.kind === 'riser' ? 1e-9 : clearanceM,
      distanceTo: (at) => toObstacle(at, obstacle),
    })),
    ...others.flatMap((other) =>
      placeCapsules(other).map(({ position }): Neighbour => ({
        kind: 'microphone',
        id: other.id,
        name: other.name,
        leastM: BODIES_M,
        distanceTo: (at) => distance(position, at),
      })),
    ),
  ];
}

function clashesOf(session: Session, array: MicArray): Clash[] {
  const neighbours = neighboursOf(session, array);
  return placeCapsules(array).flatMap(({ label, position }) =>
    neighbours.flatMap(({ kind, id, name, leastM, distanceTo }) => {
      const distanceM = distanceTo(position);
      if (distanceM >= leastM) return [];
      return [
        {
          arrayId: array.id,
          arrayName: array.name,
          label,
          with: kind,
          id,
          name,
          distanceM,
          leastM,
        },
      ];
    }),
  );
}

/**
 * Microphones of enabled arrays that are closer to a player, an obstacle or another array's
 * microphone than the rig allows; the nearest of each pair of things, nearest first.
 */
export function clashes(session: Session): Clash[] {
  const nearest = new Map<string, Clash>();
  for (const array of enabledArrays(session)) {
    for (const clash of clashesOf(session, array)) {
      const pair =
        clash.with === 'microphone'
          ? [clash.arrayId, clash.id].sort().join()
          : `${clash.arrayId},${clash.with},${clash.id}`;
      const known = nearest.get(pair);
      if (!known || clash.distanceM < known.distanceM) nearest.set(pair, clash);
    }
  }
  return [...nearest.values()].sort((a, b) => a.distanceM - b.distanceM);
}

/** Whether all microphones of an array keep clear of everything where it stands. */
export const clashFree = (session: Session, array: MicArray): boolean =>
  clashesOf(session, array).length === 0;
