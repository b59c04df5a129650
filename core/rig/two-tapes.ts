import { acosDeg } from '../units/guard';

interface PlanPoint {
  x: number;
  y: number;
}

/** How a rigger finds a floor point with two tapes. */
export interface TwoTapes {
  /** distance from the first datum point, m */
  fromFirstM: number;
  /** distance from the second datum point, m */
  fromSecondM: number;
  /** which side of the line between the points: along the stage by depth, up it by the audience's hand */
  side: 'upstage' | 'downstage' | 'house left' | 'house right' | 'on the line';
  /** angle at which the tapes meet, degrees; near 0 or 180 the point is poorly fixed */
  meetDeg: number;
  /** how far the point can be off when each tape is read 1 cm wrong, m; null where unbounded */
  errorPerCmM: number | null;
}

const SMALLEST_SINE = 1e-3;

/**
 * Two-tape fix of a floor point from two fixed points.
 * Source: plane trigonometry.
 * @throws RangeError where the datum points coincide
 */
export function twoTapes(point: PlanPoint, first: PlanPoint, second: PlanPoint): TwoTapes {
  const baseX = second.x - first.x;
  const baseY = second.y - first.y;
  if (!(Math.hypot(baseX, baseY) > 0.01)) {
    throw new RangeError('datum points are at one place; allowed: at least 1 cm apart');
  }
  const a = { x: point.x - first.x, y: point.y - first.y };
  const b = { x: point.x - second.x, y: point.y - second.y };
  const fromFirstM = Math.hypot(a.x, a.y);
  const fromSecondM = Math.hypot(b.x, b.y);
  const cosine =
    fromFirstM * fromSecondM > 0 ? (a.x * b.x + a.y * b.y) / (fromFirstM * fromSecondM) : 1;
  const meetDeg = acosDeg(cosine);
  const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine));
  return {
    fromFirstM,
    fromSecondM,
    side: sideOf(baseX, baseY, a),
    meetDeg,
    errorPerCmM: sine > SMALLEST_SINE ? worstError(cosine, sine) : null,
  };
}

/** A line along the stage has an upstage side; one that runs up the stage a left and a right one. */
function sideOf(baseX: number, baseY: number, from: PlanPoint): TwoTapes['side'] {
  // Above 0 on the left of the direction first → second.
  const turn = baseX * from.y - baseY * from.x;
  if (Math.abs(turn) < 1e-9) return 'on the line';
  if (Math.abs(baseX) >= Math.abs(baseY)) return turn > 0 === baseX > 0 ? 'upstage' : 'downstage';
  return turn > 0 === baseY > 0 ? 'house left' : 'house right';
}

/**
 * The floor point that two tapes lead to.
 * @param fromFirstM, fromSecondM length of each, 0 … 400 m
 * @param near of the two points that both lead to, the one on this point's side
 * @returns null where the tapes do not meet, or the points they are held at coincide
 */
export function whereTapesMeet(
  first: PlanPoint,
  second: PlanPoint,
  [fromFirstM, fromSecondM]: readonly [number, number],
  near: PlanPoint,
): PlanPoint | null {
  const [baseX, baseY] = [second.x - first.x, second.y - first.y];
  const base = Math.hypot(baseX, baseY);
  if (!(base > 0.01)) return null;
  const along = (fromFirstM ** 2 - fromSecondM ** 2 + base ** 2) / (2 * base);
  const square = fromFirstM ** 2 - along ** 2;
  // Tapes that just do not meet were read a little short.
  if (square < -1e-6 * base ** 2) return null;
  const off = Math.sqrt(Math.max(0, square));
  const [ux, uy] = [baseX / base, baseY / base];
  const side = ux * (near.y - first.y) - uy * (near.x - first.x) >= 0 ? 1 : -1;
  return {
    x: first.x + along * ux - side * off * uy,
    y: first.y + along * uy + side * off * ux,
  };
}

/** Largest displacement of the crossing for ±1 cm in either tape, independently. */
function worstError(cosine: number, sine: number): number {
  return (0.01 * Math.sqrt(2 + 2 * Math.abs(cosine))) / sine;
}
