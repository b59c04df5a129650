import { planDistance } from '../../units/vector';
import { sum } from 'd3-array';
import type { Pattern } from '../../acoustics/patterns';
import type { Technique } from '../../arrays/technique';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session } from '../../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../../units/guard';

/** One array that could be put up. */
export interface TrialArray {
  technique: Technique;
  x: number;
  y: number;
  z: number;
  /** from the ensemble's middle on the plan, m */
  distanceM: number;
}

const PAIR_PATTERNS: readonly Pattern[] = [
  'subcardioid',
  'cardioid',
  'supercardioid',
  'hypercardioid',
];
const NEAR_SPACINGS_M = [0.12, 0.15, 0.17, 0.2, 0.23, 0.26, 0.3, 0.35];
const NEAR_ANGLES_DEG = [60, 70, 80, 90, 100, 110, 120, 130];
const CROSSED_ANGLES_DEG = [70, 80, 90, 100, 110, 120, 130, 140, 150, 160];
const SPACED_M = [0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5, 0.55, 0.6, 0.7, 0.8, 0.9, 1, 1.2, 1.5, 2];
const MIDS: readonly Pattern[] = [
  'omni',
  'subcardioid',
  'cardioid',
  'supercardioid',
  'figure-eight',
];
const SIDE_DB = [-8, -6, -4, -2, 0, 2, 4, 6];
const DISTANCE_FACTORS = [0.6, 0.7, 0.8, 0.9, 1, 1.1, 1.25, 1.4, 1.6, 1.9];
const HEIGHTS_M = [1.8, 2.2, 2.6, 3, 3.4, 3.8];

/** Every technique that is tried, before the kit is asked. */
export function allTechniques(): Technique[] {
  const techniques: Technique[] = [];
  const pair = (pattern: Pattern, spacingM: number, includedAngleDeg: number) =>
    techniques.push({ kind: 'pair', pattern, spacingM, includedAngleDeg });
  for (const pattern of PAIR_PATTERNS) {
    for (const angle of CROSSED_ANGLES_DEG) pair(pattern, 0, angle);
    for (const spacing of NEAR_SPACINGS_M) {
      for (const angle of NEAR_ANGLES_DEG) pair(pattern, spacing, angle);
    }
  }
  for (const angle of [70, 80, 90, 100]) pair('figure-eight', 0, angle);
  for (const pattern of ['omni', 'subcardioid'] as const) {
    for (const spacing of SPACED_M) pair(pattern, spacing, 0);
  }
  for (const midPattern of MIDS) {
    for (const sideGainDb of SIDE_DB) {
      techniques.push({ kind: 'mid-side', midPattern, sideGainDb, sidePositive: 'left' });
    }
  }
  return techniques;
}

/** Inside the room, with a hand's breadth to the walls; anywhere when the room is not known. */
function fits({ venue }: Session, { x, y, z }: { x: number; y: number; z: number }): boolean {
  const { widthM, depthM, heightM, origin } = venue;
  // Without the datum's place nobody knows where the walls are.
  const inside = (value: number, from: number | undefined, size: number | null) =>
    size === null || from === undefined || (value > from + 0.3 && value < from + size - 0.3);
  return (
    inside(x, origin === null ? undefined : -origin.x, widthM) &&
    inside(y, origin === null ? undefined : -origin.y, depthM) &&
    (heightM === null || z < heightM - 0.3)
  );
}

const NEAREST_PLAYER_M = 0.8;
const WIDEST_DEG = 85;

/** Before the ensemble, not in the middle of it, and not in anybody's way. */
function inFront(
  { sources }: Session,
  main: MicArray,
  { x, y, z }: { x: number; y: number; z: number },
): boolean {
  return sources.every((source) => {
    const [dx, dy] = [source.x - x, source.y - y];
    const away = Math.abs(wrapDeg(toDeg(Math.atan2(dx, dy)) - main.aimDeg));
    return away < WIDEST_DEG && Math.hypot(dx, dy, source.z - z) >= NEAREST_PLAYER_M;
  });
}

/** Distances and heights tried for the main array, along its aim from the ensemble's middle. */
export function positionsFor(session: Session, main: MicArray): Omit<TrialArray, 'technique'>[] {
  const count = session.sources.length;
  if (count === 0) return [];
  const middle = {
    x: sum(session.sources, ({ x }) => x) / count,
    y: sum(session.sources, ({ y }) => y) / count,
  };
  const now = Math.max(1, planDistance(main, middle));
  const positions = DISTANCE_FACTORS.flatMap((factor) =>
    HEIGHTS_M.map((z) => {
      const distanceM = Math.round(now * factor * 20) / 20;
      const x = middle.x - sinDeg(main.aimDeg) * distanceM;
      const y = middle.y - cosDeg(main.aimDeg) * distanceM;
      return { x: Math.round(x * 100) / 100, y: Math.round(y * 100) / 100, z, distanceM };
    }),
  );
  const { min, max } = BOUNDS.positionM;
  return positions.filter(
    (position) =>
      [position.x, position.y].every((at) => at >= min && at <= max) &&
      fits(session, position) &&
      inFront(session, main, position),
  );
}
