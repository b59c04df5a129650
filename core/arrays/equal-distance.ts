import { checkSpeed } from '../units/guard';
import { add, dot, length, scale, subtract, type Vec3 } from '../units/vector';

/**
 * Points on a line that lie as far from an anchor as a first microphone does (sphere and line).
 * @param direction along the line, any length above 0
 * @returns none, one or two points, in the line's direction
 * @throws RangeError where a direction has no length
 */
export function equalDistancePoints(
  anchor: Vec3,
  first: Vec3,
  from: Vec3,
  direction: Vec3,
): Vec3[] {
  const size = length(direction);
  if (!(size > 0)) throw new RangeError('direction has length 0; allowed: any other');
  const unit = scale(direction, 1 / size);
  const radius = length(subtract(first, anchor));
  const start = subtract(from, anchor);
  const along = dot(start, unit);
  const square = along * along - dot(start, start) + radius * radius;
  if (square < 0) return [];
  const root = Math.sqrt(square);
  const steps = root < 1e-9 ? [-along] : [-along - root, -along + root];
  return steps.map((step) => add(from, scale(unit, step)));
}

/**
 * The mirror image of a microphone in the upright plane through two anchors: both anchors are as
 * far from it as from the first, so both stay in the middle.
 * @throws RangeError where the anchors stand above each other
 */
export function mirroredThroughAnchors(first: Vec3, anchorA: Vec3, anchorB: Vec3): Vec3 {
  const [dx, dy] = [anchorB.x - anchorA.x, anchorB.y - anchorA.y];
  const size = Math.hypot(dx, dy);
  if (!(size > 1e-6)) {
    throw new RangeError('the anchors share one place on the plan; allowed: two places');
  }
  const normal = { x: -dy / size, y: dx / size, z: 0 };
  const off = dot(subtract(first, anchorA), normal);
  return subtract(first, scale(normal, 2 * off));
}

/** How unequal two microphones are for one point. */
export interface Inequality {
  firstM: number;
  secondM: number;
  /** second minus first */
  differenceMm: number;
  differenceMs: number;
  /** first notch of the sum, Hz; null below a tenth of a millimetre */
  firstNotchHz: number | null;
}

/**
 * How unequal the ways from one point to two others are.
 * @param speed speed of sound, m/s
 * @throws RangeError for a speed that is none
 */
export function inequality(point: Vec3, first: Vec3, second: Vec3, speed: number): Inequality {
  checkSpeed(speed);
  const firstM = length(subtract(point, first));
  const secondM = length(subtract(point, second));
  const differenceM = secondM - firstM;
  return {
    firstM,
    secondM,
    differenceMm: differenceM * 1000,
    differenceMs: (differenceM / speed) * 1000,
    firstNotchHz: Math.abs(differenceM) > 1e-4 ? speed / (2 * Math.abs(differenceM)) : null,
  };
}
