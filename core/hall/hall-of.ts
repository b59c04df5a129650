import { faceArea, faceOf, type Face, type FacedRoom, type Solid } from '../acoustics/faced-room';
import type { Room, Shoebox } from '../acoustics/reflections';
import type { Venue } from '../session/schema';
import { centroid, polygonArea, type PlanPoint } from '../units/polygon';
import { remembered } from '../units/remember';
import { vec, type Vec3 } from '../units/vector';
import { ceilingPieces, cornersOf, wallsOf, type Crease, type Piece } from './outline';
import { absorptionOf, AS_WALLS, BOX_KEYS, faceKeys, type Absorbing } from './absorption';
import { standingIn, type Standing } from './solids';

/** A hall as geometry, without what its surfaces absorb. */
export interface HallShape {
  faces: readonly Face[];
  outline: readonly PlanPoint[];
  pieces: readonly Piece[];
  solids: readonly Solid[];
  min: Vec3;
  max: Vec3;
  volumeM3: number;
  /** of each surface by what its absorption is kept under, m² */
  areas: ReadonlyMap<string, number>;
  /** under which names a face's absorption is looked for, the nearest first */
  keys: ReadonlyMap<string, readonly string[]>;
}

/** Whether a hall is a plain box: nothing of it is more than width, depth and height. */
export function isPlainBox(venue: Venue): boolean {
  return (
    venue.shape === null &&
    venue.ceiling.kind === 'flat' &&
    !(venue.stage.heightM > 0) &&
    !venue.seats.some(({ riseM, rows }) => riseM > 0 && rows > 1) &&
    !venue.obstacles.some(({ kind }) => kind === 'balcony' || kind === 'organ case')
  );
}

const moved = ({ x, y }: PlanPoint, by: PlanPoint): PlanPoint => ({ x: x - by.x, y: y - by.y });

/** How high the ceiling is over a point according to pieces; 0 outside. */
const heightIn = ({ ax, ay, c }: Piece, { x, y }: PlanPoint): number => ax * x + ay * y + c;

/** The points along a wall at which its upper edge bends or jumps, with both heights, from its beginning on. */
function upperEdge(
  from: PlanPoint,
  to: PlanPoint,
  pieces: readonly Piece[],
  creases: readonly Crease[],
): Vec3[] {
  const shares = [0, 1];
  for (const { nx, ny, limit } of creases) {
    const [a, b] = [from.x * nx + from.y * ny - limit, to.x * nx + to.y * ny - limit];
    if ((a < -1e-9 && b > 1e-9) || (a > 1e-9 && b < -1e-9)) shares.push(a / (a - b));
  }
  shares.sort((a, b) => a - b);
  const at = (share: number): PlanPoint => ({
    x: from.x + share * (to.x - from.x),
    y: from.y + share * (to.y - from.y),
  });
  const points: Vec3[] = [];
  for (let i = 0; i + 1 < shares.length; i++) {
    const [begin = 0, end = 1] = [shares[i], shares[i + 1]];
    const piece = pieceOver(at((begin + end) / 2), from, to, pieces);
    for (const share of [begin, end]) {
      const { x, y } = at(share);
      const point = vec(x, y, piece ? heightIn(piece, { x, y }) : 0);
      const last = points[points.length - 1];
      const same =
        last && Math.hypot(last.x - x, last.y - y) < 1e-9 && Math.abs(last.z - point.z) < 1e-9;
      if (!same) points.push(point);
    }
  }
  return points;
}

/** The piece just inside of a wall, left of it. */
function pieceOver(
  middle: PlanPoint,
  from: PlanPoint,
  to: PlanPoint,
  pieces: readonly Piece[],
): Piece | undefined {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length = Math.max(Math.hypot(dx, dy), 1e-9);
  const inside = { x: middle.x - (dy / length) * 1e-4, y: middle.y + (dx / length) * 1e-4 };
  return pieces.find(({ outline }) => contains(outline, inside)) ?? pieces[0];
}

function contains(outline: readonly PlanPoint[], { x, y }: PlanPoint): boolean {
  let inside = false;
  outline.forEach((a, i) => {
    const b = outline[(i + 1) % outline.length] ?? a;
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  });
  return inside;
}

function wallFaces(
  walls: readonly { id: string; from: PlanPoint; to: PlanPoint }[],
  pieces: readonly Piece[],
  creases: readonly Crease[],
): Face[] {
  return walls.map(({ id, from, to }) => {
    const top = upperEdge(from, to, pieces, creases);
    // Seen from the hall its end is on the left.
    const corners = [vec(to.x, to.y, 0), vec(from.x, from.y, 0), ...top];
    return faceOf(id, corners);
  });
}

/** The upright faces where a ceiling goes up in steps. */
function stepFaces(
  outline: readonly PlanPoint[],
  pieces: readonly Piece[],
  creases: readonly Crease[],
): Face[] {
  return creases.flatMap(({ nx, ny, limit }, k): Face[] => {
    if (nx !== 0 || ny !== 1) return [];
    const across: number[] = [];
    outline.forEach((a, i) => {
      const b = outline[(i + 1) % outline.length] ?? a;
      if (a.y > limit === b.y > limit) return;
      across.push(a.x + ((limit - a.y) / (b.y - a.y)) * (b.x - a.x));
    });
    across.sort((a, b) => a - b);
    const faces: Face[] = [];
    for (let i = 0; i + 1 < across.length; i += 2) {
      const [left = 0, right = 0] = [across[i], across[i + 1]];
      const middle = (left + right) / 2;
      const heightAt = (y: number): number | null => {
        const piece = pieces.find((each) => contains(each.outline, { x: middle, y }));
        return piece ? heightIn(piece, { x: middle, y }) : null;
      };
      const [before, behind] = [heightAt(limit - 1e-4), heightAt(limit + 1e-4)];
      if (before === null || behind === null || Math.abs(before - behind) < 1e-3) continue;
      const [low, high] = [Math.min(before, behind), Math.max(before, behind)];
      const corners = [
        vec(left, limit, low),
        vec(right, limit, low),
        vec(right, limit, high),
        vec(left, limit, high),
      ];
      // It looks to where the ceiling is higher.
      const towardsFront = before > behind;
      const id = `ceiling, step ${k + 1}${i > 0 ? ` ${i / 2 + 1}` : ''}`;
      faces.push(faceOf(id, towardsFront ? corners : corners.reverse(), high - low >= 0.3));
    }
    return faces;
  });
}

/** What of the floor is left beside what stands on it; its own area and faces. */
function areasOf(
  faces: readonly Face[],
  floorM2: number,
  standing: readonly Standing[],
): Map<string, number> {
  const areas = new Map<string, number>();
  for (const face of faces) areas.set(face.id, faceArea(face));
  const covered = standing
    .filter(({ onFloor }) => onFloor)
    .reduce((sum, { footprint }) => sum + polygonArea(footprint), 0);
  areas.set('floor', Math.max(0.01, floorM2 - covered));
  return areas;
}

/** A hall's shape in the plan frame, or from its left front corner where its place is not known. */
const shapeOf = remembered((venue: Venue): HallShape | null => {
  const corners = cornersOf(venue);
  if (!corners || venue.heightM === null) return null;
  const by = venue.origin ?? { x: 0, y: 0 };
  const own = wallsOf(corners);
  const ownOutline = own.map(({ from }) => from);
  const { pieces: ownPieces, creases: ownCreases } = ceilingPieces(venue, ownOutline);
  const pieces = ownPieces.map(({ outline, ax, ay, c }) => ({
    outline: outline.map((at) => moved(at, by)),
    ax,
    ay,
    c: c + ax * by.x + ay * by.y,
  }));
  const creases = ownCreases.map(({ nx, ny, limit }) => ({
    nx,
    ny,
    limit: limit - nx * by.x - ny * by.y,
  }));
  const walls = own.map(({ id, from, to }) => ({ id, from: moved(from, by), to: moved(to, by) }));
  const outline = walls.map(({ from }) => from);
  const floor = faceOf(
    'floor',
    outline.map(({ x, y }) => vec(x, y, 0)),
  );
  const ceilings = pieces.map((piece, i) =>
    faceOf(
      pieces.length === 1 ? 'ceiling' : `ceiling ${i + 1}`,
      [...piece.outline].reverse().map((at) => vec(at.x, at.y, heightIn(piece, at))),
    ),
  );
  // Where nobody knows the place of the stage in the hall, nobody knows what it covers.
  const standing = venue.origin ? standingIn(venue, outline, venue.heightM) : [];
  const faces = [
    ...wallFaces(walls, pieces, creases),
    floor,
    ...ceilings,
    ...stepFaces(outline, pieces, creases),
    ...standing.flatMap((each) => each.faces),
  ];
  const floorM2 = polygonArea(outline);
  const prism = pieces.reduce((sum, piece) => {
    const { area, centre } = centroid(piece.outline);
    return sum + area * heightIn(piece, centre);
  }, 0);
  const taken = standing.reduce((sum, { volumeM3 }) => sum + volumeM3, 0);
  const xs = outline.map(({ x }) => x);
  const ys = outline.map(({ y }) => y);
  return {
    faces,
    outline,
    pieces,
    solids: standing.map(({ solid }) => solid),
    min: vec(Math.min(...xs), Math.min(...ys), 0),
    max: vec(Math.max(...xs), Math.max(...ys), venue.heightM),
    volumeM3: Math.max(0.1, prism - taken),
    areas: areasOf(faces, floorM2, standing),
    keys: faceKeys(faces, venue),
  };
});

/** A hall as geometry: volume, faces and their areas, whether its place is known or not; null without a size. */
export const hallShape = ({ venue }: { venue: Venue }): HallShape | null => shapeOf(venue);

function makeRoom(venue: Venue, hz: number): Room | null {
  const { widthM, depthM, heightM, origin } = venue;
  if (widthM === null || depthM === null || heightM === null || origin === null) return null;
  if (!isPlainBox(venue)) return facedRoom(venue, hz);
  const left = -origin.x;
  const front = -origin.y;
  const areas = boxAreas(widthM, depthM, heightM);
  const absorption = Object.fromEntries(
    Object.entries(BOX_KEYS).map(([surface, keys]) => [
      surface,
      absorptionOf(venue, [{ id: surface, keys, areaM2: areas[surface] ?? 0 }], hz).get(surface) ??
        null,
    ]),
  ) as Shoebox['absorption'];
  return {
    min: { x: left, y: front, z: 0 },
    max: { x: left + widthM, y: front + depthM, z: heightM },
    absorption,
  };
}

const boxAreas = (w: number, d: number, h: number): Record<string, number> => ({
  floor: w * d,
  ceiling: w * d,
  left: d * h,
  right: d * h,
  front: w * h,
  back: w * h,
});

/**
 * A hall as faces, whatever its shape: a plain box as well; null while its size or its place is not known.
 * @param hz centre of an octave
 */
export function facedRoom(venue: Venue, hz = 1000): FacedRoom | null {
  const shape = shapeOf(venue);
  if (!shape || venue.origin === null) return null;
  const { faces, outline, pieces, solids, min, max } = shape;
  const absorption = absorptionOf(venue, facesAbsorbing(shape), hz);
  return {
    ...{ min, max, faces, outline, solids },
    ceiling: pieces,
    absorption: Object.fromEntries(absorption),
  };
}

const OWN_WALLS = /^(wall \d+|floor|ceiling.*|stage.*|seats.*)$/;

const facesAbsorbing = ({ faces, areas, keys }: HallShape): Absorbing[] =>
  faces.map(({ id }) => ({
    id,
    keys: keys.get(id) ?? [id],
    instead: OWN_WALLS.test(id) ? [] : AS_WALLS,
    areaM2: areas.get(id) ?? 0,
  }));

const roomAtMiddle = remembered((venue: Venue): Room | null => makeRoom(venue, 1000));

/** The hall in the plan frame; null while its size or its place is not known. */
export const roomOf = ({ venue }: { venue: Venue }): Room | null => roomAtMiddle(venue);

/** The same with what its surfaces absorb at the centre of an octave, Hz; null as roomOf is. */
export const roomAt = ({ venue }: { venue: Venue }, hz: number): Room | null =>
  hz === 1000 ? roomAtMiddle(venue) : makeRoom(venue, hz);

/** Volume and surface of a hall, m³ and m²; null without a size. */
export const hallMeasures = remembered(
  (venue: Venue): { volumeM3: number; surfaceM2: number } | null => {
    const { widthM: w, depthM: d, heightM: h } = venue;
    if (w === null || d === null || h === null) return null;
    if (isPlainBox(venue)) {
      return { volumeM3: w * d * h, surfaceM2: 2 * (w * d + w * h + d * h) };
    }
    const shape = shapeOf(venue);
    if (!shape) return null;
    let surfaceM2 = 0;
    for (const area of shape.areas.values()) surfaceM2 += area;
    return { volumeM3: shape.volumeM3, surfaceM2 };
  },
);

/** Every surface of a hall with its area and what it absorbs at an octave, Hz; null without a size. */
export function surfacesOf(
  venue: Venue,
  hz: number,
): { id: string; areaM2: number; absorption: number | null }[] | null {
  const { widthM, depthM, heightM } = venue;
  if (widthM === null || depthM === null || heightM === null) return null;
  if (isPlainBox(venue)) {
    const areas = boxAreas(widthM, depthM, heightM);
    return Object.entries(BOX_KEYS).map(([id, keys]) => {
      const areaM2 = areas[id] ?? 0;
      const absorption = absorptionOf(venue, [{ id, keys, areaM2 }], hz).get(id) ?? null;
      return { id, areaM2, absorption };
    });
  }
  const shape = shapeOf(venue);
  if (!shape) return null;
  const faces = facesAbsorbing(shape);
  const absorption = absorptionOf(venue, faces, hz);
  return faces.map(({ id, areaM2 }) => ({ id, areaM2, absorption: absorption.get(id) ?? null }));
}
