/** Polygons on the plan: x to the audience's right, y upstage, m; corners in either turn unless said. */

export interface PlanPoint {
  readonly x: number;
  readonly y: number;
}

/** Area with its sign: positive where the corners go anticlockwise, m². */
export function signedArea(corners: readonly PlanPoint[]): number {
  let twice = 0;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length] ?? a;
    twice += a.x * b.y - b.x * a.y;
  });
  return twice / 2;
}

/** Area, m²; 0 of fewer than three corners. */
export const polygonArea = (corners: readonly PlanPoint[]): number => Math.abs(signedArea(corners));

/** Area, m², and centre of area of a polygon, m. */
export function centroid(corners: readonly PlanPoint[]): { area: number; centre: PlanPoint } {
  let [twice, x, y] = [0, 0, 0];
  const [first = { x: 0, y: 0 }] = corners;
  corners.forEach((corner, i) => {
    const next = corners[(i + 1) % corners.length] ?? corner;
    const [ax, ay] = [corner.x - first.x, corner.y - first.y];
    const [bx, by] = [next.x - first.x, next.y - first.y];
    const piece = ax * by - bx * ay;
    twice += piece;
    x += piece * (ax + bx);
    y += piece * (ay + by);
  });
  if (Math.abs(twice) < 1e-12) return { area: 0, centre: first };
  return {
    area: Math.abs(twice / 2),
    centre: { x: first.x + x / (3 * twice), y: first.y + y / (3 * twice) },
  };
}

/** The box around points, m; null of none. */
export function boxAround(
  points: readonly PlanPoint[],
): { minX: number; minY: number; maxX: number; maxY: number } | null {
  if (points.length === 0) return null;
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
  return {
    minX: Math.min(...xs),
    minY: Math.min(...ys),
    maxX: Math.max(...xs),
    maxY: Math.max(...ys),
  };
}

/** From a point to the nearest of a straight line between two others, m. */
export function distanceToLine(p: PlanPoint, a: PlanPoint, b: PlanPoint): number {
  const nearest = nearestOnLine(p, a, b);
  return Math.hypot(p.x - nearest.x, p.y - nearest.y);
}

/** The point of the straight line between two others that is nearest to a third, m. */
export function nearestOnLine(p: PlanPoint, a: PlanPoint, b: PlanPoint): PlanPoint {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const along = square > 0 ? ((p.x - a.x) * dx + (p.y - a.y) * dy) / square : 0;
  const share = Math.min(1, Math.max(0, along));
  return { x: a.x + share * dx, y: a.y + share * dy };
}

/** From a point to the nearest wall of a polygon, m, inside and outside alike. */
export const distanceToOutline = (p: PlanPoint, corners: readonly PlanPoint[]): number =>
  Math.min(...corners.map((a, i) => distanceToLine(p, a, corners[(i + 1) % corners.length] ?? a)));

/**
 * Whether a point is in a polygon; on its outline it is.
 * @param tolerance so far outside it counts as inside, m
 */
export function insidePolygon(
  p: PlanPoint,
  corners: readonly PlanPoint[],
  tolerance = 1e-9,
): boolean {
  let inside = false;
  for (let i = 0, j = corners.length - 1; i < corners.length; j = i++) {
    const [a, b] = [corners[i], corners[j]];
    if (!a || !b) continue;
    if (distanceToLine(p, a, b) <= tolerance) return true;
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) {
      inside = !inside;
    }
  }
  return inside;
}

/** What of a polygon lies where x·nx + y·ny ≤ limit; empty where nothing does. */
export function clippedTo(
  corners: readonly PlanPoint[],
  { nx, ny, limit }: { nx: number; ny: number; limit: number },
): PlanPoint[] {
  const out: PlanPoint[] = [];
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length] ?? a;
    const [over, next] = [a.x * nx + a.y * ny - limit, b.x * nx + b.y * ny - limit];
    if (over <= 0) out.push(a);
    if ((over < 0 && next > 0) || (over > 0 && next < 0)) {
      const share = over / (over - next);
      out.push({ x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) });
    }
  });
  return polygonArea(out) > 1e-9 ? out : [];
}

/** A rectangle that is turned round its middle, positive to the right; anticlockwise, m. */
export function turnedRectangle(
  middle: PlanPoint,
  widthM: number,
  depthM: number,
  turnDeg: number,
): PlanPoint[] {
  const turn = (turnDeg * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([i = 0, j = 0]) => {
    const [x, y] = [(i * widthM) / 2, (j * depthM) / 2];
    return { x: middle.x + x * c + y * s, y: middle.y - x * s + y * c };
  });
}

export const MOST_CORNERS = 40;
export const LEAST_CORNERS = 3;
/** Walls shorter than this, or walls that come nearer to each other, are a slip of the hand, m. */
export const SHORTEST_WALL_M = 0.05;
const NEAREST_WALLS_M = 0.01;
/** Two walls that meet more sharply are a needle, degrees. */
export const SHARPEST_DEG = 5;
export const LEAST_AREA_M2 = 1;

export interface OutlineProblem {
  /** the corner that it is about, from 0; null where it is about all of them */
  corner: number | null;
  message: string;
}

const turnOf = (a: PlanPoint, b: PlanPoint, c: PlanPoint): number =>
  (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** How near two straight lines come to each other, m; negative where they cross. */
function between(a: PlanPoint, b: PlanPoint, c: PlanPoint, d: PlanPoint): number {
  const crosses = turnOf(a, b, c) * turnOf(a, b, d) < 0 && turnOf(c, d, a) * turnOf(c, d, b) < 0;
  if (crosses) return -1;
  return Math.min(
    distanceToLine(a, c, d),
    distanceToLine(b, c, d),
    distanceToLine(c, a, b),
    distanceToLine(d, a, b),
  );
}

/**
 * What keeps corners from being the outline of a hall, each with the corner it is about; the first
 * that is met of every kind. Empty where they are one.
 */
export function outlineProblems(corners: readonly PlanPoint[]): OutlineProblem[] {
  const count = corners.length;
  if (count < LEAST_CORNERS || count > MOST_CORNERS) {
    return [
      {
        corner: null,
        message: `${count} corners; allowed: ${LEAST_CORNERS} to ${MOST_CORNERS}`,
      },
    ];
  }
  const at = (i: number): PlanPoint => corners[(i + count) % count] as PlanPoint;
  const short = corners.findIndex((a, i) => {
    const b = at(i + 1);
    return Math.hypot(a.x - b.x, a.y - b.y) < SHORTEST_WALL_M;
  });
  if (short >= 0) {
    const next = ((short + 1) % count) + 1;
    return [
      {
        corner: short,
        message: `corner ${short + 1} is less than ${SHORTEST_WALL_M * 100} cm from corner ${next}; allowed: walls of ${SHORTEST_WALL_M * 100} cm and more`,
      },
    ];
  }
  for (let i = 0; i < count; i++) {
    const [before, here, after] = [at(i - 1), at(i), at(i + 1)];
    const [ax, ay] = [before.x - here.x, before.y - here.y];
    const [bx, by] = [after.x - here.x, after.y - here.y];
    const angle = Math.atan2(Math.abs(ax * by - ay * bx), ax * bx + ay * by) * (180 / Math.PI);
    if (angle < SHARPEST_DEG) {
      return [
        {
          corner: i,
          message: `the walls at corner ${i + 1} make a needle of ${Math.round(angle * 10) / 10}°; allowed: ${SHARPEST_DEG}° and more`,
        },
      ];
    }
  }
  for (let i = 0; i < count; i++) {
    for (let j = i + 2; j < count; j++) {
      if (i === 0 && j === count - 1) continue;
      const gap = between(at(i), at(i + 1), at(j), at(j + 1));
      if (gap >= NEAREST_WALLS_M) continue;
      const walls = `the wall from corner ${i + 1} to ${i + 2} and the one from corner ${j + 1} to ${((j + 1) % count) + 1}`;
      return [
        {
          corner: j,
          message: `${walls} ${gap < 0 ? 'cross' : 'touch'}; allowed: walls that go round the hall once`,
        },
      ];
    }
  }
  const area = polygonArea(corners);
  if (area < LEAST_AREA_M2) {
    return [
      {
        corner: null,
        message: `the corners enclose ${Math.round(area * 100) / 100} m²; allowed: ${LEAST_AREA_M2} m² and more`,
      },
    ];
  }
  return [];
}
