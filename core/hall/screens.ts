import {
  facesCrossed,
  isAnyCrossed,
  isFaceBetween,
  isWithin,
  type Face,
  type Solid,
} from '../acoustics/faced-room';
import type { Room } from '../acoustics/reflections';
import { detoursRound, pairsOf, type Edge, type Thing } from '../acoustics/shadow';
import type { Venue } from '../session/schema';
import { remembered } from '../units/remember';
import { dot, vec, type Vec3 } from '../units/vector';
import { hallShape } from './hall-of';
import { standingIn } from './solids';

/** Something that can stand between a player and a microphone. */
export interface Screen {
  /** with its article: "the organ case", "corner 5" */
  name: string;
  faces: readonly Face[];
  edges: readonly Edge[];
  solid: Solid | null;
}

/** Where no hall is known, what stands is on a floor of this half width, m. */
const OPEN_M = 500;
const OPEN_FLOOR = [
  { x: -OPEN_M, y: -OPEN_M },
  { x: OPEN_M, y: -OPEN_M },
  { x: OPEN_M, y: OPEN_M },
  { x: -OPEN_M, y: OPEN_M },
];
const OPEN_CEILING_M = 200;

/** With its article, but for what has a number: "the pier", "column 3". */
const calledThe = (name: string): string => (/\d$/.test(name) ? name : `the ${name}`);

const edgesOf = ({ corners, edges }: Solid): Edge[] =>
  edges.flatMap(([i, j]): Edge[] => {
    const [from, to] = [corners[i], corners[j]];
    // Nothing goes round below what stands on the floor.
    return from && to && Math.max(from.z, to.z) > 0.01 ? [[from, to]] : [];
  });

/** Walls that meet in a corner that looks into the hall: nothing is seen round it. */
function cornerScreens(venue: Venue): Screen[] {
  const shape = venue.origin && venue.shape ? hallShape({ venue }) : null;
  if (!shape) return [];
  const { outline, faces } = shape;
  const walls = faces.filter(({ id }) => /^wall \d+$/.test(id));
  return outline.flatMap((at, i): Screen[] => {
    const before = outline[(i + outline.length - 1) % outline.length] ?? at;
    const after = outline[(i + 1) % outline.length] ?? at;
    const turn = (at.x - before.x) * (after.y - at.y) - (at.y - before.y) * (after.x - at.x);
    if (turn >= -1e-9) return [];
    const own = walls.filter(({ corners }) =>
      corners.some((corner) => Math.hypot(corner.x - at.x, corner.y - at.y) < 1e-6),
    );
    const top = Math.max(
      ...own.flatMap(({ corners }) =>
        corners.filter(({ x, y }) => Math.hypot(x - at.x, y - at.y) < 1e-6).map(({ z }) => z),
      ),
    );
    const edge: Edge = [vec(at.x, at.y, 0), vec(at.x, at.y, top)];
    // Its number in the file: the wall that begins there has it.
    const begins = walls.find(({ corners }) => {
      const [, begin] = corners;
      return begin && Math.hypot(begin.x - at.x, begin.y - at.y) < 1e-6;
    });
    const number = begins ? cornerNumber(venue, begins.id) : i + 1;
    return [
      { name: `the corner of the hall (corner ${number})`, faces: own, edges: [edge], solid: null },
    ];
  });
}

/** A wall begins at the corner of its own number, or ends there where corners go round clockwise. */
function cornerNumber({ shape }: Venue, wall: string): number {
  const number = Number(wall.slice(5));
  const corners = shape?.corners ?? [];
  let twice = 0;
  corners.forEach((a, i) => {
    const b = corners[(i + 1) % corners.length] ?? a;
    twice += a.x * b.y - b.x * a.y;
  });
  return twice >= 0 ? number : (number % corners.length) + 1;
}

/** What of a hall can stand between two points: columns, free walls, organ cases, balconies, the stage, corners. */
export const hallScreens: (venue: Venue) => readonly Screen[] = remembered(
  (venue: Venue): readonly Screen[] => {
    const shape = venue.origin ? hallShape({ venue }) : null;
    const standing = standingIn(
      venue,
      shape?.outline ?? OPEN_FLOOR,
      venue.heightM ?? OPEN_CEILING_M,
    );
    return [
      ...standing.map(({ faces, solid }) => ({
        name: calledThe(`${solid.name.charAt(0).toLowerCase()}${solid.name.slice(1)}`),
        faces,
        edges: edgesOf(solid),
        solid,
      })),
      ...cornerScreens(venue),
    ];
  },
);

const facesOf = remembered((screens: readonly Screen[]): readonly Face[] =>
  screens.flatMap(({ faces }) => faces),
);

/** Whether anything stands between two points, m: at once, without a way round it. */
export const isHidden = (screens: readonly Screen[], from: Vec3, to: Vec3): boolean =>
  screens.length > 0 && isAnyCrossed(facesOf(screens), from, to);

/** What stands between two points, and how far round it is. */
export interface Shadow {
  /** what stands there, the first that is met named first */
  screens: readonly Screen[];
  /** how much longer than the straight way it is round each side, shortest first, m; empty where no way is open */
  detoursM: number[];
}

/** An edge so near to a plane lies in it, m. */
const ALONG_M = 1e-4;

/** What of a screen can be gone round: of something solid a way leads over the edges of one side. */
const thingOf = remembered(({ edges, solid }: Screen): Thing => {
  const lie = (edge: Edge, { normal, offset }: Solid['planes'][number]): boolean =>
    edge.every((end) => Math.abs(dot(normal, end) - offset) < ALONG_M);
  const pairs = pairsOf(edges).filter(
    ([one, other]) =>
      solid === null || solid.planes.some((plane) => lie(one, plane) && lie(other, plane)),
  );
  return { edges, pairs };
});

/** Ways are looked for round so many things in one line. */
const MOST_ROUND = 3;

/**
 * What stands between two points of a hall, m; null where they are in sight of each other.
 * @param room the hall, so that no way leads through its walls; null where it is not known
 */
export function shadowBetween(
  room: Room | null,
  screens: readonly Screen[],
  from: Vec3,
  to: Vec3,
): Shadow | null {
  if (screens.length === 0) return null;
  const hit = facesCrossed(facesOf(screens), from, to);
  if (hit.length === 0) return null;
  const inWay = screens.filter(({ faces }) => faces.some((face) => hit.includes(face)));
  const walls = room && 'faces' in room ? room : null;
  const isFree = (a: Vec3, b: Vec3): boolean => {
    if (isAnyCrossed(facesOf(screens), a, b) || (walls && isFaceBetween(walls, a, b))) return false;
    // A way from edge to edge of one thing may lead through it.
    return !inWay.some(
      ({ solid }) =>
        solid !== null &&
        [0.25, 0.5, 0.75].some((share) =>
          isWithin(
            solid,
            vec(a.x + share * (b.x - a.x), a.y + share * (b.y - a.y), a.z + share * (b.z - a.z)),
          ),
        ),
    );
  };
  return {
    screens: inWay,
    detoursM: detoursRound(
      from,
      to,
      // Round so many things nobody hears anything; all of them still stand in the way.
      inWay.slice(0, MOST_ROUND).map(thingOf),
      isFree,
    ),
  };
}
