import { planCorners } from '../hall';
import { distanceToOutline, insidePolygon } from '../units/polygon';
import type { MicArray, Session } from '../session/schema';
import { cosDeg, sinDeg } from '../units/guard';
import type { Vec3 } from '../units/vector';

/** A clap that is easily made, as its array looks. */
export interface ClapAbout {
  /** "3 m behind" */
  name: string;
  at: (array: Pick<MicArray, 'x' | 'y' | 'aimDeg'>) => Vec3;
}

/** Held before the chest, m. */
const HELD_M = 1.3;

/** @param azimuthDeg from where the array looks, to the right. @param m away from it on the floor */
const about = (name: string, azimuthDeg: number, m: number): ClapAbout => ({
  name,
  at: ({ x, y, aimDeg }) => ({
    x: x + m * sinDeg(aimDeg + azimuthDeg),
    y: y + m * cosDeg(aimDeg + azimuthDeg),
    z: HELD_M,
  }),
});

/**
 * Where to clap so that little is left open: as many behind as in front tell place from aim and depth from
 * spacing, off the nulls of the usual pairs.
 */
export const LAYOUTS: Readonly<Record<4 | 6, readonly ClapAbout[]>> = {
  4: [
    about('5 m away, 50° to the left', -50, 5),
    about('5 m away, 50° to the right', 50, 5),
    about('3 m away behind, to the right', 130, 3),
    about('3 m away behind, to the left', -130, 3),
  ],
  6: [
    about('4 m away, 45° to the left', -45, 4),
    about('in the middle, 1.5 m in front', 0, 1.5),
    about('4 m away, 45° to the right', 45, 4),
    about('3 m away behind, to the right', 120, 3),
    about('3 m straight behind', 180, 3),
    about('3 m away behind, to the left', -120, 3),
  ],
};

/** Claps that are easily made, one of which may mend what others leave open. */
export const CLAPS_ABOUT: readonly ClapAbout[] = [
  ...LAYOUTS[6],
  about('3 m to the left, beside it', -90, 3),
  about('3 m to the right, beside it', 90, 3),
];

/** From a wall and from a microphone so much is left, m. */
const [OFF_WALL_M, NEAREST_M] = [0.5, 0.8];
/** A clap is brought nearer in such steps where a wall stands in its way, of its distance. */
const NEARER = 0.85;

/**
 * Places for claps about an array, inside the hall: brought nearer along their line where a wall is in
 * the way, left out where nothing of it is left.
 * @param count 4 or 6
 */
export function clapLayout(
  { venue }: Pick<Session, 'venue'>,
  array: Pick<MicArray, 'x' | 'y' | 'aimDeg'>,
  count: 4 | 6,
): { name: string; at: Vec3 }[] {
  const { widthM, depthM, origin } = venue;
  const walls = venue.shape ? planCorners(venue) : null;
  const between = (at: number, most: number | null): boolean =>
    most === null || (at >= OFF_WALL_M && at <= most - OFF_WALL_M);
  // Where in the hall the datum is must be known: no wall is guessed.
  const inside = ({ x, y }: Vec3): boolean =>
    walls
      ? insidePolygon({ x, y }, walls) && distanceToOutline({ x, y }, walls) >= OFF_WALL_M
      : origin === null || (between(x + origin.x, widthM) && between(y + origin.y, depthM));
  return LAYOUTS[count].flatMap(({ name, at }) => {
    const wanted = at(array);
    const [dx, dy] = [wanted.x - array.x, wanted.y - array.y];
    const far = Math.hypot(dx, dy);
    for (let share = 1; share * far >= NEAREST_M; share *= NEARER) {
      const place = { x: array.x + share * dx, y: array.y + share * dy, z: wanted.z };
      if (inside(place)) return [{ name: share === 1 ? name : `${name}, nearer`, at: place }];
    }
    return [];
  });
}
