import { faceOf, type Face, type Solid } from '../acoustics/faced-room';
import type { Venue } from '../session/schema';
import { centroid, distanceToOutline, turnedRectangle, type PlanPoint } from '../units/polygon';
import { vec, type Vec3 } from '../units/vector';
import { partWithin } from './outline';

/** What stands in a hall: its faces as far as they are in the hall, and what it fills. */
export interface Standing {
  faces: Face[];
  solid: Solid;
  /** of the floor that it covers, m² plan; and what it takes of the hall, m³ */
  footprint: PlanPoint[];
  volumeM3: number;
  onFloor: boolean;
}

/** A prism over a convex outline, anticlockwise; its top may lean along y. */
interface Prism {
  name: string;
  outline: readonly PlanPoint[];
  baseM: number;
  topAt: (at: PlanPoint) => number;
  /** whether its sides answer, and which */
  sidesReflect: boolean;
}

/** A side nearer than this to the hall's wall is the wall, m. */
const AT_WALL_M = 0.02;
/** A face lower than this answers nobody, m. */
const LEAST_MIRROR_M = 0.3;

function solidOf({ name, outline, baseM, topAt }: Prism): Solid {
  const count = outline.length;
  const low = outline.map(({ x, y }) => vec(x, y, baseM));
  const high = outline.map((at) => vec(at.x, at.y, topAt(at)));
  const outward = (corners: readonly Vec3[]) => {
    const { normal, offset } = faceOf(name, corners);
    return { normal, offset };
  };
  const sides = outline.flatMap((_, i) => {
    const j = (i + 1) % count;
    const [a, b, c, d] = [low[i], low[j], high[j], high[i]];
    if (!a || !b || !c || !d) return [];
    // A side that has no height is an edge.
    const tall = c.z - b.z > 1e-6 ? [a, b, c] : [a, b, d];
    if (c.z - b.z < 1e-6 && d.z - a.z < 1e-6) return [];
    return [outward(tall)];
  });
  const edges: [number, number][] = [];
  for (let i = 0; i < count; i++) {
    const j = (i + 1) % count;
    edges.push([i, j], [count + i, count + j], [i, count + i]);
  }
  return {
    name,
    planes: [outward(high), outward([...low].reverse()), ...sides],
    corners: [...low, ...high],
    edges,
  };
}

/** A prism as it stands within an outline; null where it is outside altogether. */
function standing(prism: Prism, hall: readonly PlanPoint[]): Standing | null {
  const { name, outline, baseM, topAt, sidesReflect } = prism;
  const part = partWithin(hall, outline);
  if (part.length < 3) return null;
  const faces: Face[] = [];
  const topCorners = part.map((at) => vec(at.x, at.y, topAt(at)));
  faces.push(faceOf(name, topCorners));
  if (baseM > 0.01) {
    const under = [...part].reverse().map(({ x, y }) => vec(x, y, baseM));
    faces.push(faceOf(`${name}, underside`, under));
  }
  part.forEach((a, i) => {
    const b = part[(i + 1) % part.length] ?? a;
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    if (distanceToOutline(middle, hall) < AT_WALL_M) return;
    const [topA, topB] = [topAt(a), topAt(b)];
    if (Math.max(topA, topB) - baseM < 0.01) return;
    const corners = [vec(a.x, a.y, baseM), vec(b.x, b.y, baseM)];
    if (topB - baseM > 1e-6) corners.push(vec(b.x, b.y, topB));
    if (topA - baseM > 1e-6) corners.push(vec(a.x, a.y, topA));
    const reflects = sidesReflect && Math.min(topA, topB) - baseM >= LEAST_MIRROR_M;
    faces.push(faceOf(`${name}, ${sideWord(a, b)}`, corners, reflects));
  });
  const solid = solidOf(prism);
  const { area, centre } = centroid(part);
  return {
    faces: named(faces),
    solid,
    footprint: part,
    // Exact, as its top is one plane.
    volumeM3: area * (topAt(centre) - baseM),
    onFloor: baseM <= 0.01,
  };
}

/** Which side of it a side is: the one towards the audience is its front. */
function sideWord(a: PlanPoint, b: PlanPoint): string {
  const [nx, ny] = [b.y - a.y, a.x - b.x];
  if (Math.abs(ny) >= Math.abs(nx) - 1e-9) return ny < 0 ? 'front' : 'back';
  return nx < 0 ? 'left side' : 'right side';
}

/** Faces of one name get numbers. */
function named(faces: readonly Face[]): Face[] {
  const seen = new Map<string, number>();
  return faces.map((face) => {
    const before = seen.get(face.id) ?? 0;
    seen.set(face.id, before + 1);
    return before === 0 ? face : { ...face, id: `${face.id} ${before + 1}` };
  });
}

/** The rectangle that a block of seats takes, from its first row to its last, anticlockwise. */
export function seatRectangle(block: Venue['seats'][number]): PlanPoint[] {
  const half = (block.columns * block.pitchM) / 2;
  const farY = block.y - Math.max(0, block.rows - 1) * block.rowPitchM;
  return [
    { x: block.x - half, y: farY },
    { x: block.x + half, y: farY },
    { x: block.x + half, y: block.y },
    { x: block.x - half, y: block.y },
  ];
}

function platform({ stage }: Venue): Prism[] {
  if (!(stage.heightM > 0)) return [];
  const half = stage.widthM / 2;
  const outline = turnedRectangle({ x: 0, y: stage.depthM / 2 }, 2 * half, stage.depthM, 0);
  return [{ name: 'stage', outline, baseM: 0, topAt: () => stage.heightM, sidesReflect: true }];
}

function raked({ seats }: Venue): Prism[] {
  return seats.flatMap((block, i): Prism[] => {
    const outline = seatRectangle(block);
    const [first, , last] = outline;
    if (!(block.riseM > 0) || block.rows < 2 || !first || !last || block.columns < 1) return [];
    const slope = block.riseM / block.rowPitchM;
    if (!(last.y - first.y > 0.01) || !(last.x - first.x > 0.01)) return [];
    const name = i === 0 ? 'seats' : `seats ${i + 1}`;
    const topAt = (at: PlanPoint): number => slope * (block.y - at.y);
    return [{ name, outline, baseM: 0, topAt, sidesReflect: true }];
  });
}

const FILLING = ['column', 'wall', 'balcony', 'organ case'] as const;
/** What has a plain side large enough to answer. */
const ANSWERS: ReadonlySet<string> = new Set(['wall', 'balcony', 'organ case']);

function boxes({ obstacles }: Venue, ceilingM: number): Prism[] {
  const seen = new Map<string, number>();
  return obstacles.flatMap((obstacle): Prism[] => {
    const { kind, widthM, depthM, heightM, baseM, turnDeg } = obstacle;
    if (!FILLING.some((each) => each === kind)) return [];
    const top = Math.min(baseM + heightM, ceilingM);
    if (!(widthM > 0.01) || !(depthM > 0.01) || !(top - baseM > 0.01)) return [];
    const plain = obstacle.name.trim() || kind;
    const before = seen.get(plain) ?? 0;
    seen.set(plain, before + 1);
    const name = before === 0 ? plain : `${plain} ${before + 1}`;
    const outline = turnedRectangle(obstacle, widthM, depthM, turnDeg);
    return [{ name, outline, baseM, topAt: () => top, sidesReflect: ANSWERS.has(kind) }];
  });
}

/**
 * Everything that stands in a hall and has faces: the stage, raked seats, balconies, organ cases,
 * columns and free walls, in the plan frame.
 * @param outline of the floor, anticlockwise, m
 */
export function standingIn(
  venue: Venue,
  outline: readonly PlanPoint[],
  ceilingM: number,
): Standing[] {
  const prisms = [...platform(venue), ...raked(venue), ...boxes(venue, ceilingM)];
  return prisms.flatMap((prism) => standing(prism, outline) ?? []);
}

/** How high what somebody stands on is at a point of the plan: the stage, or the hall's floor, m. */
export function standsOnM({ stage }: Pick<Venue, 'stage'>, { x, y }: PlanPoint): number {
  const onStage = Math.abs(x) <= stage.widthM / 2 && y >= 0 && y <= stage.depthM;
  return onStage ? stage.heightM : 0;
}
