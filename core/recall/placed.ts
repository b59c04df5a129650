import { insidePolygon } from '../units/polygon';
import { onPlan, sizeOf } from '../ensembles/anatomy';
import { lengthText, type UnitSystem } from '../units/format';
import { cosDeg, sinDeg, toDeg } from '../units/guard';
import { plainName } from './words';
import type { Mark, Session, Source, Venue } from '../session/schema';

/** What of a hall tells where a place is. */
export type PlacingVenue = Pick<Venue, 'datumPoints' | 'origin' | 'widthM' | 'depthM' | 'shape'>;

/** Where a mark of one session is in the plan of another one. */

export interface Place {
  x: number;
  y: number;
  z: number;
  /** by how much whatever stood there is turned, degrees, positive to the right */
  turnDeg: number;
  by: 'walls' | 'tape points' | 'instrument' | 'this plan';
  /** what does not fit, in words */
  notes: string[];
}

export type Placed = ({ ok: true } & Place) | { ok: false; message: string };

interface Spot {
  x: number;
  y: number;
}

/** Fixed points that bear on a place are at least so far from each other, m. */
const BASE_M = 0.5;
/** What two readings of one place may differ by before it is said, m. */
const SAID_M = 0.1;
/** Tape points that stand otherwise to each other by more than this are other points, m. */
const OTHER_M = 0.3;
/** Halls of one name differ by more than this where one of them was measured wrong, as a part. */
const SAID_PART = 0.02;

const distance = (a: Spot, b: Spot): number => Math.hypot(a.x - b.x, a.y - b.y);

/** A turn and a move of the plan; a positive turn is to the right, as azimuths are. */
interface Rigid {
  turnDeg: number;
  from: Spot;
  to: Spot;
  /** how far the worst of the points stays off, m */
  leftM: number;
}

const moved = ({ turnDeg, from, to }: Rigid, { x, y }: Spot): Spot => {
  const [sin, cos] = [sinDeg(turnDeg), cosDeg(turnDeg)];
  const [dx, dy] = [x - from.x, y - from.y];
  return { x: to.x + dx * cos + dy * sin, y: to.y - dx * sin + dy * cos };
};

const middle = (points: readonly Spot[]): Spot => ({
  x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
  y: points.reduce((sum, { y }) => sum + y, 0) / points.length,
});

/**
 * The turn and the move that bring points onto others, by least squares.
 * Source: the planar case of the orthogonal Procrustes problem (Schönemann 1966), without scale.
 * @param pairs of points that are the same one, at least two that are not at one place
 * @returns null where they bear on no direction
 */
export function rigidFit(pairs: readonly (readonly [Spot, Spot])[]): Rigid | null {
  const [from, to] = [middle(pairs.map(([a]) => a)), middle(pairs.map(([, b]) => b))];
  let [cos, sin] = [0, 0];
  for (const [a, b] of pairs) {
    const [ax, ay, bx, by] = [a.x - from.x, a.y - from.y, b.x - to.x, b.y - to.y];
    cos += ax * bx + ay * by;
    sin += ay * bx - ax * by;
  }
  const spread = Math.max(0, ...pairs.map(([a]) => distance(a, from)));
  if (pairs.length < 2 || spread < BASE_M / 2 || Math.hypot(cos, sin) < 1e-9) return null;
  const fit = { turnDeg: toDeg(Math.atan2(sin, cos)), from, to };
  const leftM = Math.max(...pairs.map(([a, b]) => distance(moved({ ...fit, leftM: 0 }, a), b)));
  return { ...fit, leftM };
}

/** By the fixed points that have the same names in both plans. */
function byPoints(mark: Mark, venue: PlacingVenue): { fit: Rigid; names: string[] } | null {
  const now = new Map(venue.datumPoints.map((point) => [plainName(point.name), point]));
  const pairs = mark.fixed.flatMap((point) => {
    const same = now.get(plainName(point.name));
    return same && point.name.trim() !== '' ? [{ point, same }] : [];
  });
  const fit = rigidFit(pairs.map(({ point, same }) => [point, same] as const));
  return fit && { fit, names: pairs.map(({ same }) => same.name) };
}

/** By the corner of the hall, where both plans know how far their datum is from it. */
function byWalls({ room }: Mark, { origin }: PlacingVenue, { x, y }: Spot): Spot | null {
  return room.origin && origin
    ? { x: x + (room.origin.x - origin.x), y: y + (room.origin.y - origin.y) }
    : null;
}

function sizeNotes({ room }: Mark, venue: PlacingVenue, units: UnitSystem): string[] {
  const said = (
    [
      ['wide', room.widthM, venue.widthM],
      ['deep', room.depthM, venue.depthM],
    ] as const
  ).flatMap(([word, then, now]) =>
    then !== null && now !== null && Math.abs(then - now) > SAID_PART * Math.max(then, now)
      ? [`${lengthText(now, units)} ${word} here, ${lengthText(then, units)} then`]
      : [],
  );
  return said.length === 0 ? [] : [`The hall is ${said.join(' and ')}: measure it again.`];
}

/** Inside the walls, as far as they are known. */
function wallNotes({ x, y }: Spot, { origin, widthM, depthM, shape }: PlacingVenue): string[] {
  if (!origin) return [];
  const [right, back] = [origin.x + x, origin.y + y];
  const out =
    (shape !== null && !insidePolygon({ x: right, y: back }, shape.corners)) ||
    (widthM !== null && (right < 0 || right > widthM)) ||
    (depthM !== null && (back < 0 || back > depthM));
  return out ? ['It is outside the walls of this plan.'] : [];
}

const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;

/** In the hall in which it was measured. */
export function placedInHall(mark: Mark, venue: PlacingVenue, units: UnitSystem): Placed {
  if (mark.x === null || mark.y === null || mark.z === null) {
    return { ok: false, message: 'Nobody measured where it was.' };
  }
  const spot = { x: mark.x, y: mark.y };
  const inHall = byWalls(mark, venue, spot);
  const named = byPoints(mark, venue);
  const points = named && named.fit.leftM <= OTHER_M ? named : null;
  if (!inHall && named && !points) {
    return {
      ok: false,
      message: `The tape points ${listed(named.names)} stand otherwise to each other than then, by up to ${lengthText(named.fit.leftM, units)}: take the hall as it was, or place them where they were.`,
    };
  }
  const fitted = points && moved(points.fit, spot);
  const at = inHall ?? fitted;
  if (!at) {
    return {
      ok: false,
      message:
        'Where it is in this plan cannot be told: give the tape points the names that they had then, or say of both halls where the datum is.',
    };
  }
  const notes = [...sizeNotes(mark, venue, units), ...wallNotes(at, venue)];
  if (inHall && fitted && distance(inHall, fitted) > SAID_M) {
    notes.push(
      `By the tape points ${listed(points.names)} it would be ${lengthText(distance(inHall, fitted), units)} away: they stand elsewhere than then. It is measured from the walls, which do not move.`,
    );
  }
  if (!inHall && points && points.fit.leftM > SAID_M) {
    notes.push(
      `The tape points ${listed(points.names)} stand otherwise to each other than then, by up to ${lengthText(points.fit.leftM, units)}.`,
    );
  }
  const turnDeg = inHall ? 0 : (points?.fit.turnDeg ?? 0);
  return { ok: true, ...at, z: mark.z, turnDeg, by: inHall ? 'walls' : 'tape points', notes };
}

/** Where a point is against an instrument, as it faces. @returns m to its right and ahead of it */
export function againstOf(source: Source, at: Spot): { right: number; ahead: number } {
  const size = sizeOf(source);
  const [sin, cos] = [sinDeg(source.facingDeg), cosDeg(source.facingDeg)];
  const [dx, dy] = [(at.x - source.x) / size, (at.y - source.y) / size];
  return { right: dx * cos - dy * sin, ahead: dx * sin + dy * cos };
}

/** At an instrument of the kind that it was measured against. @param floorM of the floor under it */
export function placedAtInstrument(mark: Mark, source: Source, floorM: number): Placed {
  const { against } = mark;
  if (!against) return { ok: false, message: 'It was not measured against an instrument.' };
  const at = onPlan(source, [against.right, against.ahead]);
  return {
    ok: true,
    ...at,
    z: floorM + against.up,
    turnDeg: source.facingDeg - against.facingDeg,
    by: 'instrument',
    notes: [],
  };
}

/** The instruments of a session that a mark could be put up at. */
export const instrumentsFor = (mark: Mark, session: Pick<Session, 'sources'>): Source[] => {
  const kind = plainName(mark.against?.kind ?? mark.instrument);
  return kind === '' ? [] : session.sources.filter((source) => plainName(source.kind) === kind);
};
