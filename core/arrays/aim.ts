import { inRange, toDeg, wrapDeg } from '../units/guard';
import { add, scale, subtract, type Vec3 } from '../units/vector';

interface PlanPoint {
  x: number;
  y: number;
}

/**
 * Where an axis crosses a row on the plan.
 * @returns fraction of the way from one end of the row to the other (may lie outside 0 … 1), or null
 * where the axis does not meet the row's line ahead of the microphone
 */
export function aimOnRow(
  position: PlanPoint,
  axis: PlanPoint,
  from: PlanPoint,
  to: PlanPoint,
): { fraction: number; point: PlanPoint } | null {
  const [rx, ry] = [to.x - from.x, to.y - from.y];
  const determinant = axis.x * ry - axis.y * rx;
  if (Math.abs(determinant) < 1e-12) return null;
  const [px, py] = [from.x - position.x, from.y - position.y];
  const ahead = (px * ry - py * rx) / determinant;
  if (ahead < 0) return null;
  const fraction = (px * axis.y - py * axis.x) / determinant;
  return { fraction, point: { x: from.x + fraction * rx, y: from.y + fraction * ry } };
}

/**
 * Aim and included angle that make the axes of a pair land on two points. The capsules turn with
 * the aim, so it is found by repetition from the parallel case.
 * @param spacingM 0 … 50 m
 * @throws RangeError where spacingM is outside 0 … 50 m
 */
export function angleToLandOn(
  centre: PlanPoint,
  spacingM: number,
  left: PlanPoint,
  right: PlanPoint,
): { aimDeg: number; includedAngleDeg: number } {
  inRange('spacingM', spacingM, 0, 50, 'm');
  const bearing = (from: PlanPoint, to: PlanPoint) =>
    toDeg(Math.atan2(to.x - from.x, to.y - from.y));
  // The short way round, so that points behind the array are met as well as those before it.
  const between = (from: number, to: number) => from + wrapDeg(to - from) / 2;
  let aimDeg = between(bearing(centre, left), bearing(centre, right));
  let included = 0;
  for (let i = 0; i < 60; i++) {
    const turn = (aimDeg * Math.PI) / 180;
    const half = { x: (Math.cos(turn) * spacingM) / 2, y: (-Math.sin(turn) * spacingM) / 2 };
    const toLeft = bearing({ x: centre.x - half.x, y: centre.y - half.y }, left);
    const toRight = bearing({ x: centre.x + half.x, y: centre.y + half.y }, right);
    const next = between(toLeft, toRight);
    included = wrapDeg(toRight - toLeft);
    if (Math.abs(wrapDeg(next - aimDeg)) < 1e-10) break;
    aimDeg = next;
  }
  return { aimDeg: wrapDeg(aimDeg), includedAngleDeg: included };
}

/** Points at fractions of the way along an instrument or a row (thirds, quarters …). */
export function fractionPoints(from: Vec3, to: Vec3, fractions: readonly number[]): Vec3[] {
  return fractions.map((fraction) =>
    add(from, scale(subtract(to, from), inRange('fraction', fraction, 0, 1))),
  );
}
