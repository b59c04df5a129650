import type { Venue } from '../session/schema';
import { boxAround, type PlanPoint } from '../units/polygon';
import { outlineOf, type OutlineName } from '../units/outlines';
import { cornersOf } from './outline';

/** What an edit of a hall's outline gives its venue. */
export type OutlineChange = Pick<Venue, 'shape' | 'widthM' | 'depthM' | 'origin' | 'ceiling'>;

const mm = (metres: number): number => Math.round(metres * 1000) / 1000 || 0;

/** The hall's corners in the plan frame, in the order of the file; null where size or place is not known. */
export function planCorners(venue: Venue): PlanPoint[] | null {
  const { origin } = venue;
  const corners = origin && cornersOf(venue);
  return corners && corners.map(({ x, y }) => ({ x: mm(x - origin.x), y: mm(y - origin.y) }));
}

/** Whether corners are the four of the box around them, whatever one is named first. */
function isBox(corners: readonly PlanPoint[], widthM: number, depthM: number): boolean {
  const at = (x: number, y: number): boolean =>
    corners.some((corner) => Math.abs(corner.x - x) < 5e-4 && Math.abs(corner.y - y) < 5e-4);
  return corners.length === 4 && at(0, 0) && at(widthM, 0) && at(widthM, depthM) && at(0, depthM);
}

/** A ridge stays within a hall that became another one. */
function ceilingWithin({ ceiling }: Venue, widthM: number, depthM: number): Venue['ceiling'] {
  if (ceiling.kind !== 'pitched' || ceiling.ridgeAtM === null) return ceiling;
  const most = ceiling.ridge === 'along' ? widthM : depthM;
  return ceiling.ridgeAtM <= most ? ceiling : { ...ceiling, ridgeAtM: null };
}

/**
 * The hall with other corners; nothing else moves on the plan. Four corners of an upright rectangle are
 * a plain rectangle again.
 * @param corners in the plan frame, m; whether they are an outline is for the session to say
 */
export function withPlanCorners(venue: Venue, corners: readonly PlanPoint[]): OutlineChange {
  const box = boxAround(corners);
  if (!box) return { ...venue };
  const [left, front] = [mm(box.minX), mm(box.minY)];
  const own = corners.map(({ x, y }) => ({ x: mm(x - left), y: mm(y - front) }));
  const [widthM, depthM] = [mm(box.maxX - left), mm(box.maxY - front)];
  return {
    shape: isBox(own, widthM, depthM) ? null : { corners: own },
    widthM,
    depthM,
    origin: { x: -left || 0, y: -front || 0 },
    ceiling: ceilingWithin(venue, widthM, depthM),
  };
}

/** How far behind the stage its wall is where nobody says it, m. */
const BEHIND_M = 1;

/** Where a hall's datum is where nobody says it: before the middle of a stage at its far end, m. */
export const usualOrigin = (
  { stage }: Pick<Venue, 'stage'>,
  widthM: number,
  depthM: number,
): PlanPoint => ({
  x: mm(widthM / 2),
  y: mm(Math.max(0, depthM - stage.depthM - BEHIND_M)),
});

/**
 * The hall in a customary shape, as large as it is or as asked.
 * @param widthM, depthM of the box around it, 0.5 … 200 m
 */
export function asOutline(
  venue: Venue,
  name: OutlineName,
  widthM: number,
  depthM: number,
): OutlineChange {
  const corners = outlineOf(name, widthM, depthM);
  const { x: left, y: front } = venue.origin ?? usualOrigin(venue, widthM, depthM);
  const inPlan = corners.map(({ x, y }) => ({ x: x - left, y: y - front }));
  return withPlanCorners(venue, inPlan);
}

/** The hall stretched to another width or depth, m; null where it has no shape of its own. */
export function stretched(
  venue: Venue,
  widthM: number | null,
  depthM: number | null,
): Pick<Venue, 'shape' | 'widthM' | 'depthM'> {
  const { shape } = venue;
  if (!shape || venue.widthM === null || venue.depthM === null) {
    return { shape, widthM, depthM };
  }
  // Without a size there is nothing to draw: the hall is a rectangle of an unknown one.
  if (widthM === null || depthM === null) return { shape: null, widthM, depthM };
  const [byX, byY] = [widthM / venue.widthM, depthM / venue.depthM];
  return {
    shape: { corners: shape.corners.map(({ x, y }) => ({ x: mm(x * byX), y: mm(y * byY) })) },
    widthM,
    depthM,
  };
}

/** What the stage carries on another height of it, m: everything that stands on it comes along. */
export function liftedBy<T extends { x: number; y: number; z: number }>(
  { stage }: Pick<Venue, 'stage'>,
  things: readonly T[],
  byM: number,
): T[] {
  const half = stage.widthM / 2;
  return things.map((thing) =>
    Math.abs(thing.x) <= half && thing.y >= 0 && thing.y <= stage.depthM
      ? { ...thing, z: mm(thing.z + byM) }
      : thing,
  );
}
