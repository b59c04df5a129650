import { planCorners, withPlanCorners } from '../../core/hall';
import type { Session, Venue } from '../../core/session';
import { LEAST_CORNERS, type PlanPoint } from '../../core/units';
import type { Draft } from 'immer';

/** Corners of the hall in a draft. */

const venueOf = (draft: Draft<Session>): Venue => draft.venue;

/** The outline with other corners in a draft, m in the plan frame. */
export function putCorners(draft: Draft<Session>, corners: readonly PlanPoint[]): void {
  Object.assign(draft.venue, withPlanCorners(venueOf(draft), corners));
}

/** One corner somewhere else, m in the plan frame. */
export function putCorner(draft: Draft<Session>, index: number, spot: Partial<PlanPoint>): void {
  const corners = planCorners(venueOf(draft));
  const before = corners?.[index];
  if (!corners || !before) return;
  corners[index] = { x: spot.x ?? before.x, y: spot.y ?? before.y };
  putCorners(draft, corners);
}

/** Takes corners away, as long as three are left: the walls of each become one. */
export function removeCorners(draft: Draft<Session>, gone: ReadonlySet<number>): void {
  const corners = planCorners(venueOf(draft));
  if (!corners) return;
  const kept = corners.filter((_, i) => !gone.has(i));
  if (kept.length < LEAST_CORNERS || kept.length === corners.length) return;
  putCorners(draft, kept);
  for (const index of [...gone].sort((a, b) => b - a)) shiftWalls(draft, index, -1);
}

/** What is kept for a wall goes with it when walls before it come or go. */
export function shiftWalls(draft: Draft<Session>, from: number, by: 1 | -1): void {
  const shifted = (surface: string): string => {
    const number = /^wall (\d+)$/.exec(surface)?.[1];
    if (number === undefined || Number(number) <= from) return surface;
    return `wall ${Number(number) + by}`;
  };
  for (const entry of [...draft.venue.surfaces, ...draft.venue.areas]) {
    entry.surface = shifted(entry.surface);
  }
}
