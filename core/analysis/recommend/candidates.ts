import { mean } from 'd3-array';
import { ceilingAt, isInFaces, type FacedRoom } from '../../acoustics/faced-room';
import { roomOf } from '../../hall';
import { distanceToOutline } from '../../units/polygon';
import { threeMicTree } from '../../arrays/layouts';
import { STANDARDS, standardTechnique } from '../../arrays/standards';
import { patternAOf, type Pattern } from '../../acoustics/patterns';
import { techniqueName, type Technique, type TechniqueName } from '../../arrays/technique';
import { neededReach } from '../../mechanics/stands';
import { BOUNDS } from '../../session/bounds';
import type { Session, Source } from '../../session/schema';
import { clamp } from '../../units/numbers';
import { distance, planDistance } from '../../units/vector';
import { toDeg, wrapDeg } from '../../units/guard';
import { FEW_PLAYERS, OVER_PEOPLE_FROM_M, OVER_PEOPLE_M } from '../criteria';
import { ensembleFrame, fromFrame, type EnsembleFrame } from '../ensemble-frame';
import { highestM } from '../room';
import { isAmong } from '../seats';

/** A way of working that an engineer chooses between before any numbers. */
export type Family = Exclude<TechniqueName, 'single' | 'custom'> | 'tree';

/** Where an array could stand. */
export interface Place {
  x: number;
  y: number;
  z: number;
  aimDeg: number;
  tiltDeg: number;
  /** before the front row, m; and from the ensemble's middle on the plan, m */
  beforeM: number;
  distanceM: number;
  /** somebody sits or stands under it */
  overPeople: boolean;
}

/** One array that could be put up. */
export interface TrialArray extends Place {
  technique: Technique;
  family: Family;
}

const CROSSED_PATTERNS = ['subcardioid', 'cardioid', 'supercardioid', 'hypercardioid'] as const;
const NEAR_PATTERNS = ['subcardioid', 'cardioid', 'supercardioid'] as const;
const SPACED_PATTERNS = ['omni', 'subcardioid'] as const;
const CROSSED_DEG = [70, 80, 90, 100, 110, 120, 135];
const NEAR_M = [0.1, 0.12, 0.15, 0.17, 0.2, 0.24, 0.28, 0.32, 0.38, 0.45];
const NEAR_DEG = [60, 70, 80, 90, 100, 110, 120];
const SPACED_M = [0.3, 0.35, 0.4, 0.45, 0.5, 0.6, 0.7, 0.8, 1, 1.2, 1.5, 2];
const EIGHTS_DEG = [80, 90, 100];
const MIDS: readonly Pattern[] = [
  'omni',
  'subcardioid',
  'cardioid',
  'supercardioid',
  'figure-eight',
];
const SIDE_DB = [-8, -6, -4, -2, 0, 2, 4];
const TREE_BASE_M = [1, 1.4, 2];
const TREE_DEPTH_M = [0.5, 0.9];

/** Spacings and included angles in which pairs of one pattern are customarily used. */
export interface CustomaryStretch {
  name: 'coincident' | 'near-coincident' | 'spaced';
  spacingM: { min: number; max: number };
  angleDeg: { min: number; max: number };
}

const span = (values: readonly number[]) => ({
  min: Math.min(...values),
  max: Math.max(...values),
});

/**
 * The customary stretches of a pattern, the same that a recommendation tries.
 * @param pattern by name or by its omnidirectional part, 0 … 1; none for one of its own making
 */
export function customaryStretches(pattern: Pattern): CustomaryStretch[] {
  const among = (list: readonly Pattern[]) =>
    list.some((known) => patternAOf(known) === patternAOf(pattern));
  const none = { min: 0, max: 0 };
  const stretches: CustomaryStretch[] = [];
  const crossed = among(CROSSED_PATTERNS) ? CROSSED_DEG : among(['figure-eight']) ? EIGHTS_DEG : [];
  if (crossed.length > 0) {
    stretches.push({ name: 'coincident', spacingM: none, angleDeg: span(crossed) });
  }
  if (among(NEAR_PATTERNS)) {
    stretches.push({ name: 'near-coincident', spacingM: span(NEAR_M), angleDeg: span(NEAR_DEG) });
  }
  if (among(SPACED_PATTERNS)) {
    stretches.push({ name: 'spaced', spacingM: span(SPACED_M), angleDeg: none });
  }
  return stretches;
}

/** A family of arrays, by their technique. */
export function familyOf(technique: Technique): Family {
  const name = techniqueName(technique);
  return name === 'custom' || name === 'single' ? 'tree' : name;
}

/** Every technique that is tried, in customary ranges, before the kit is asked. */
export function allTechniques(): Technique[] {
  const techniques: Technique[] = [];
  const pair = (pattern: Pattern, spacingM: number, includedAngleDeg: number) =>
    techniques.push({ kind: 'pair', pattern, spacingM, includedAngleDeg });
  for (const pattern of CROSSED_PATTERNS) for (const angle of CROSSED_DEG) pair(pattern, 0, angle);
  for (const standard of STANDARDS) techniques.push(standardTechnique(standard));
  for (const pattern of NEAR_PATTERNS) {
    for (const spacing of NEAR_M) {
      for (const angle of NEAR_DEG) {
        const same = STANDARDS.some(
          (one) =>
            one.pattern === pattern && one.spacingM === spacing && one.includedAngleDeg === angle,
        );
        if (!same) pair(pattern, spacing, angle);
      }
    }
  }
  for (const angle of EIGHTS_DEG) pair('figure-eight', 0, angle);
  for (const pattern of SPACED_PATTERNS) {
    for (const spacing of SPACED_M) pair(pattern, spacing, 0);
  }
  for (const midPattern of MIDS) {
    for (const sideGainDb of SIDE_DB) {
      techniques.push({ kind: 'mid-side', midPattern, sideGainDb, sidePositive: 'left' });
    }
  }
  for (const base of TREE_BASE_M) {
    for (const depth of TREE_DEPTH_M) {
      techniques.push({ kind: 'custom', capsules: threeMicTree(base, depth, 'omni').capsules });
    }
  }
  return techniques;
}

/** Before the front row, m: from arm's length on in so many steps of a like share. */
const NEAREST_BEFORE_M = 0.5;
const BEFORE_STEPS = 10;
const HEIGHT_STEPS = 6;
/** An ensemble is looked at from between these heights, m; what sounds lower or higher widens them. */
const USUAL_HEIGHTS_M = { min: 1.3, max: 3.3 };
/** Above the middle of what sounds a main array goes no higher than this, m. */
const MOST_ABOVE_M = 2.2;
const LOWEST_M = 0.5;

const tenths = (metres: number): number => Math.round(metres * 20) / 20;

/** Distances before the front row, as far as such an ensemble is heard as a whole, m. */
function distancesBefore(frame: EnsembleFrame): number[] {
  const most = farthestBefore(frame);
  const factor = (most / NEAREST_BEFORE_M) ** (1 / (BEFORE_STEPS - 1));
  return [
    ...new Set(
      Array.from({ length: BEFORE_STEPS }, (_, i) => tenths(NEAREST_BEFORE_M * factor ** i)),
    ),
  ];
}

/** Heights by what sounds, the hall and the stands at hand, m. */
function heightsFor(session: Session, sources: readonly Source[]): number[] {
  const zs = sources.map(({ z }) => z);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const middle = (mean(zs) ?? 1.2) + MOST_ABOVE_M;
  const most = Math.min(
    highestM(session),
    Math.max(USUAL_HEIGHTS_M.max, Math.min(high + 0.5, middle + 2)),
  );
  // Before many a low stand sees music stands and knees.
  const lowest = sources.length <= FEW_PLAYERS ? low + 0.1 : USUAL_HEIGHTS_M.min;
  const least = clamp(Math.min(USUAL_HEIGHTS_M.min, lowest), LOWEST_M, most);
  return [
    ...new Set(
      Array.from({ length: HEIGHT_STEPS }, (_, i) =>
        tenths(least + ((most - least) * i) / (HEIGHT_STEPS - 1)),
      ),
    ),
  ];
}
/** A hand's breadth to walls, and room above a microphone, m. */
const WALL_M = 0.3;
const NEAREST_PLAYER_M = 0.6;
/** Nobody sits farther to the side than this, seen from a main array, degrees. */
const WIDEST_DEG = 85;
/** What is wider than this is heard as a whole from farther away, m. */
const NARROW_M = 4;
/** Farther than this for the width and depth of what plays nobody puts a main pair. */
const farthestBefore = ({ leftM, rightM, frontM, backM }: EnsembleFrame): number =>
  1.6 + 0.5 * (rightM - leftM) + 0.3 * (Math.max(0, rightM - leftM - NARROW_M) + backM - frontM);

/** A tree is for what is wide: less than this and a pair is all that it can be, m. */
export const TREE_FROM_M = 3;

/** The same in a hall of faces, and in none of what stands there. */
function isClear(room: FacedRoom, at: { x: number; y: number; z: number }): boolean {
  return (
    isInFaces(room, at) &&
    distanceToOutline(at, room.outline) > WALL_M &&
    at.z < (ceilingAt(room, at) ?? room.max.z) - WALL_M
  );
}

/** Inside the room, with a hand's breadth to the walls; anywhere when the room is not known. */
function fits({ venue }: Session, { x, y, z }: { x: number; y: number; z: number }): boolean {
  const room = roomOf({ venue });
  if (room && 'faces' in room) return isClear(room, { x, y, z });
  const { widthM, depthM, heightM, origin } = venue;
  // Without the datum's place nobody knows where the walls are.
  const inside = (value: number, from: number | undefined, size: number | null) =>
    size === null || from === undefined || (value > from + WALL_M && value < from + size - WALL_M);
  return (
    inside(x, origin === null ? undefined : -origin.x, widthM) &&
    inside(y, origin === null ? undefined : -origin.y, depthM) &&
    (heightM === null || z < heightM - WALL_M)
  );
}

/** Before the ensemble, not in the middle of it. */
const seesAll = (
  sources: readonly Source[],
  aimDeg: number,
  at: { x: number; y: number; z: number },
): boolean =>
  sources.every((source) => {
    const away = wrapDeg(toDeg(Math.atan2(source.x - at.x, source.y - at.y)) - aimDeg);
    return Math.abs(away) < WIDEST_DEG && distance(source, at) >= NEAREST_PLAYER_M;
  });

/** Tilt that looks half way down to the ensemble's middle, as is customary, degrees. */
export function tiltTowards(sources: readonly Source[], z: number, distanceM: number): number {
  const height = sources.reduce((sum, source) => sum + source.z, 0) / Math.max(1, sources.length);
  // Not −0: it would be another number in a file.
  return -Math.round(toDeg(Math.atan2(z - height, Math.max(0.3, distanceM))) * 0.5) || 0;
}

/** The highest that the kit's stands go, and the farthest that their booms reach, m. */
function standsOf({ kit }: Session): { upM: number; reachM: number } {
  if (kit.stands.length === 0) return { upM: BOUNDS.positionM.max, reachM: 3 };
  return {
    upM: Math.max(...kit.stands.map(({ maxHeightM }) => maxHeightM)),
    reachM: Math.max(...kit.stands.map(({ reachM }) => reachM)),
  };
}

/**
 * Where a main array for these players could stand: before them on their own middle, wherever one
 * stands now; inside the hall, on a stand of the kit that finds a free spot, not among the seats.
 */
export function placesFor(session: Session, sources: readonly Source[]): Place[] {
  const frame = ensembleFrame(sources);
  if (!frame) return [];
  const { aimDeg } = frame;
  const heights = heightsFor(session, sources);
  const stands = standsOf(session);
  const { min, max } = BOUNDS.positionM;
  const middle = fromFrame(aimDeg, frame.acrossM, (frame.frontM + frame.backM) / 2);
  const round = (value: number): number => Math.round(value * 100) / 100 || 0;
  return distancesBefore(frame).flatMap((beforeM) => {
    const on = fromFrame(aimDeg, frame.acrossM, frame.frontM - beforeM);
    const at = { x: round(on.x), y: round(on.y) };
    if (!(Math.min(at.x, at.y) >= min && Math.max(at.x, at.y) <= max)) return [];
    if (session.venue.seats.some((block) => isAmong(block, at))) return [];
    const reach = neededReach(session, at);
    if (reach === null || reach > stands.reachM + 1e-9) return [];
    const distanceM = planDistance(at, middle);
    const near = session.sources.some((source) => planDistance(source, at) < OVER_PEOPLE_M);
    return heights.flatMap((z): Place[] => {
      const place = { ...at, z };
      if (z > stands.upM || !fits(session, place) || !seesAll(sources, aimDeg, place)) return [];
      const tiltDeg = tiltTowards(sources, z, distanceM);
      const overPeople = near && z >= OVER_PEOPLE_FROM_M;
      return [{ ...place, aimDeg, tiltDeg, beforeM, distanceM, overPeople }];
    });
  });
}
