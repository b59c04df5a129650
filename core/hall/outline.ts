import type { Venue } from '../session/schema';
import { clippedTo, polygonArea, signedArea, type PlanPoint } from '../units/polygon';

/** A wall of the floor's outline: from one corner to the next, anticlockwise, m. */
export interface OutlineWall {
  /** as its absorption is kept under: wall 1 is from the first corner to the second */
  id: string;
  from: PlanPoint;
  to: PlanPoint;
}

/** A part of the floor over which the ceiling is one plane, z = ax·x + ay·y + c. */
export interface Piece {
  outline: PlanPoint[];
  ax: number;
  ay: number;
  c: number;
}

/** A line on the plan at which the ceiling changes. */
export interface Crease {
  nx: number;
  ny: number;
  limit: number;
}

type Sized = Pick<Venue, 'widthM' | 'depthM' | 'heightM' | 'shape' | 'ceiling'>;

/** The floor's corners from the left front corner of the box around them, in the order of the file; null without a size. */
export function cornersOf({ widthM, depthM, shape }: Sized): PlanPoint[] | null {
  if (shape) return shape.corners.map(({ x, y }) => ({ x, y }));
  if (widthM === null || depthM === null) return null;
  return [
    { x: 0, y: 0 },
    { x: widthM, y: 0 },
    { x: widthM, y: depthM },
    { x: 0, y: depthM },
  ];
}

/** The walls of an outline, anticlockwise whatever way its corners go round. */
export function wallsOf(corners: readonly PlanPoint[]): OutlineWall[] {
  const walls = corners.map((from, i) => ({
    id: `wall ${i + 1}`,
    from,
    to: corners[(i + 1) % corners.length] ?? from,
  }));
  if (signedArea(corners) >= 0) return walls;
  return walls.map(({ id, from, to }) => ({ id, from: to, to: from })).reverse();
}

/** Where the ceiling changes, and how high it is on either side, hall from its left front corner. */
export function ceilingPieces(
  { ceiling, widthM, depthM, heightM }: Sized,
  outline: readonly PlanPoint[],
): { pieces: Piece[]; creases: Crease[] } {
  const top = heightM ?? 0;
  const whole = { outline: [...outline], ax: 0, ay: 0, c: top };
  if (ceiling.kind === 'flat') return { pieces: [whole], creases: [] };
  if (ceiling.kind === 'pitched') {
    const along = ceiling.ridge === 'along';
    const across = (along ? widthM : depthM) ?? 0;
    const ridge = Math.min(across, ceiling.ridgeAtM ?? across / 2);
    const [nx, ny] = along ? [1, 0] : [0, 1];
    const rise = top - ceiling.eavesM;
    const sideOf = (sign: 1 | -1, run: number, from: number): Piece[] => {
      if (run < 1e-6) return [];
      const part = clippedTo(outline, { nx: sign * nx, ny: sign * ny, limit: sign * ridge });
      const slope = (sign * rise) / run;
      const c = ceiling.eavesM - slope * from;
      return part.length === 0 ? [] : [{ outline: part, ax: slope * nx, ay: slope * ny, c }];
    };
    const pieces = [...sideOf(1, ridge, 0), ...sideOf(-1, across - ridge, across)];
    return { pieces, creases: [{ nx, ny, limit: ridge }] };
  }
  const steps = [...ceiling.steps].sort((a, b) => a.fromM - b.fromM);
  const heights = [{ fromM: -1, heightM: top }, ...steps];
  const pieces = heights.flatMap(({ fromM, heightM: high }, i): Piece[] => {
    const behind = clippedTo(outline, { nx: 0, ny: -1, limit: -fromM });
    const next = heights[i + 1];
    const part = next ? clippedTo(behind, { nx: 0, ny: 1, limit: next.fromM }) : behind;
    return polygonArea(part) < 1e-6 ? [] : [{ outline: part, ax: 0, ay: 0, c: high }];
  });
  return { pieces, creases: steps.map(({ fromM }) => ({ nx: 0, ny: 1, limit: fromM })) };
}

/** What of an outline lies in a convex polygon, anticlockwise. */
export function partWithin(
  outline: readonly PlanPoint[],
  convex: readonly PlanPoint[],
): PlanPoint[] {
  let part: PlanPoint[] = [...outline];
  convex.forEach((a, i) => {
    const b = convex[(i + 1) % convex.length] ?? a;
    const [nx, ny] = [b.y - a.y, a.x - b.x];
    if (part.length > 0) part = clippedTo(part, { nx, ny, limit: nx * a.x + ny * a.y });
  });
  return part;
}
