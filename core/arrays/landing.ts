import { planDistance } from '../units/vector';
import { cosDeg, inRange, toDeg } from '../units/guard';
import type { Vec3 } from '../units/vector';
import { aimOnRow, angleToLandOn, fractionPoints } from './aim';
import { placeCapsules, type ArrayPlacement } from './capsules';

/** Where one capsule's axis meets a row or an instrument. */
export interface Landing {
  label: string;
  /** fraction of the way along the row, beyond 0 … 1 where it passes the ends; null: never meets it */
  fraction: number | null;
  /** that point on the plan; null likewise */
  point: { x: number; y: number } | null;
}

/** Where the axes of all capsules of an array land on a row, on the plan. */
export function landings(array: ArrayPlacement, from: Vec3, to: Vec3): Landing[] {
  return placeCapsules(array).map(({ label, position, axis }) => {
    const met = aimOnRow(position, axis, from, to);
    return { label, fraction: met?.fraction ?? null, point: met?.point ?? null };
  });
}

/** Aim and included angle, or why there are none. */
export type LandingAim =
  { ok: true; aimDeg: number; includedAngleDeg: number } | { ok: false; message: string };

const MOST_DEG = 175;
const STEEPEST_DEG = 80;

/**
 * How a pair must look so that its axes land at two fractions of a row: the left axis on whichever
 * point lies farther left as seen from the pair.
 * @param fractions of the way along the row, 0 … 1 each
 * @param spacingM of the pair, 0 … 50 m
 * @throws RangeError where fraction is outside 0 … 1
 */
export function aimToLand(
  centre: { x: number; y: number; tiltDeg: number },
  spacingM: number,
  from: Vec3,
  to: Vec3,
  fractions: readonly [number, number],
): LandingAim {
  for (const fraction of fractions) inRange('fraction', fraction, 0, 1);
  const [a, b] = fractionPoints(from, to, fractions);
  if (!a || !b) return { ok: false, message: 'The row has no points.' };
  const near = (point: Vec3) => planDistance(point, centre) < 0.01;
  if (near(a) || near(b)) {
    return { ok: false, message: 'A point lies at the array itself: move one of them.' };
  }
  const cross = (a.x - centre.x) * (b.y - centre.y) - (a.y - centre.y) * (b.x - centre.x);
  const [left, right] = cross > 0 ? [b, a] : [a, b];
  if (Math.abs(centre.tiltDeg) > STEEPEST_DEG) {
    return { ok: false, message: 'The array looks almost straight up or down: tilt it less.' };
  }
  const { aimDeg, includedAngleDeg: onPlan } = angleToLandOn(centre, spacingM, left, right);
  if (onPlan < 0) {
    return {
      ok: false,
      message:
        'The points lie closer together than the capsules, so that the axes would cross: choose points farther apart, or a smaller spacing.',
    };
  }
  if (onPlan > MOST_DEG) {
    return { ok: false, message: 'The array stands in the row itself: no angle reaches both.' };
  }
  // The bar is tilted with the array: seen from above, its angle looks wider than it is.
  const half = Math.atan(Math.tan(((onPlan / 2) * Math.PI) / 180) * cosDeg(centre.tiltDeg));
  return { ok: true, aimDeg, includedAngleDeg: 2 * toDeg(half) };
}
