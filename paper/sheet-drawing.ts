import { placeCapsules } from '../core/arrays';
import { playerGroups, playerMarks } from '../core/ensembles';
import { planCorners, roomOf, sectionAt } from '../core/hall';
import type { Session } from '../core/session';
import { clamp } from '../core/units';
import { type Box as Bounds, type Projection, viewOf, projection, boxAround } from './projection';

/** What a drawing for paper is made of; lengths in its own units, y downwards. */
export type Shape =
  | {
      kind: 'line';
      from: [number, number];
      to: [number, number];
      ink: Ink;
      width: number;
      dash?: number[] | undefined;
    }
  | { kind: 'circle'; at: [number, number]; radius: number; ink: Ink; filled: boolean }
  | { kind: 'text'; at: [number, number]; size: number; ink: Ink; middle: boolean; words: string };

export type Ink = 'ink' | 'grey' | 'accent';

/** On white paper, whatever the theme of the screen. */
export const INKS: Readonly<Record<Ink, string>> = {
  ink: '#22262d',
  grey: '#8a8c90',
  accent: '#0f6a5b',
};

export interface Drawing {
  width: number;
  height: number;
  /** what it shows, for those who do not see it */
  title: string;
  shapes: Shape[];
}

/** Every drawing is as wide as the paper allows, and as high as what it shows then needs. */
export const DRAWN_WIDTH = 640;
const PLAN_HEIGHTS = { min: 200, max: 620 } as const;
const SECTION_HEIGHTS = { min: 120, max: 320 } as const;

/** The height at which a box fills the width. */
const heightFor = (
  { minX, maxX, minY, maxY }: Bounds,
  width: number,
  { min, max }: { min: number; max: number },
): number => clamp(Math.round((width * (maxY - minY)) / (maxX - minX)), min, max);

export type Point = [number, number];

export const line = (from: Point, to: Point, ink: Ink, width: number, dash?: number[]): Shape => ({
  kind: 'line',
  from,
  to,
  ink,
  width,
  ...(dash ? { dash } : {}),
});
export const text = (words: string, at: Point, size: number, ink: Ink, middle = true): Shape => ({
  kind: 'text',
  at,
  size,
  ink,
  middle,
  words,
});

const MARK_PX = 4;
/** Width of a letter against its size. */
const LETTER = 0.56;

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const overlap = (a: Box, b: Box): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** Words on a drawing, none over another: what has been put down keeps its place. */
export class Wording {
  private readonly taken: Box[] = [];

  /** Room that no words may take. */
  keep(box: Box): void {
    this.taken.push(box);
  }

  /**
   * The words at the first of the places where they are free.
   * @param always at the last of them, where none is free
   */
  put(
    words: string,
    places: readonly Point[],
    size: number,
    always: boolean,
    ink: Ink = 'ink',
  ): Shape[] {
    const half = (words.length * size * LETTER) / 2;
    const boxAt = ([x, y]: Point): Box => ({
      left: x - half,
      right: x + half,
      top: y - size * 0.8,
      bottom: y + size * 0.2,
    });
    const free = places.find((place) => !this.taken.some((other) => overlap(boxAt(place), other)));
    const place = free ?? (always ? places[places.length - 1] : undefined);
    if (!place) return [];
    this.keep(boxAt(place));
    return [text(words, place, size, ink)];
  }
}

/** Players as dots, each with the mark that it has on the screen where there is room for it. */
function playerShapes(
  session: Session,
  at: (source: Session['sources'][number]) => Point,
  wording: Wording,
): Shape[] {
  const marks = playerMarks(playerGroups(session.sources), session.sources);
  return session.sources.flatMap((source): Shape[] => {
    const [x, y] = at(source);
    const words = marks.get(source.id)?.short ?? '';
    const aside = (words.length * 10 * LETTER) / 2 + MARK_PX + 3;
    const places: Point[] = [
      [x, y - 8],
      [x, y + 15],
      [x + aside, y + 3.5],
      [x - aside, y + 3.5],
    ];
    return [
      { kind: 'circle', at: [x, y], radius: MARK_PX, ink: 'ink', filled: true },
      ...wording.put(words, places, 10, false),
    ];
  });
}

const around = ([x, y]: Point, px: number): Box => ({
  left: x - px,
  right: x + px,
  top: y - px,
  bottom: y + px,
});

/** Where everybody is drawn, which no words may cover. */
function wordingAround(
  session: Session,
  at: (source: Session['sources'][number]) => Point,
): Wording {
  const wording = new Wording();
  for (const source of session.sources) {
    wording.keep(around(at(source), MARK_PX));
  }
  return wording;
}

function scaleShapes({ scale }: Projection, height: number): Shape[] {
  return [
    line([12, height - 10], [12 + scale, height - 10], 'ink', 2),
    text('1 m', [12, height - 15], 10, 'ink', false),
  ];
}

/** What of a straight line lies on the paper; null where nothing does. */
function onPaper(a: Point, b: Point, width: number, height: number): [Point, Point] | null {
  let [from, to] = [0, 1];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const edges = [
    [-dx, a[0]],
    [dx, width - a[0]],
    [-dy, a[1]],
    [dy, height - a[1]],
  ] as const;
  for (const [towards, room] of edges) {
    if (towards === 0 && room < 0) return null;
    if (towards < 0) from = Math.max(from, room / towards);
    if (towards > 0) to = Math.min(to, room / towards);
  }
  if (from >= to) return null;
  const at = (share: number): Point => [a[0] + share * dx, a[1] + share * dy];
  return [at(from), at(to)];
}

/** The walls, as far as they are on the paper. */
function wallLines({ venue }: Session, window: Projection, width: number, height: number): Shape[] {
  const corners = planCorners(venue) ?? [];
  return corners.flatMap((corner, i): Shape[] => {
    const next = corners[(i + 1) % corners.length] ?? corner;
    const [a, b] = [corner, next].map(({ x, y }): Point => [window.toX(x), window.toY(y)]);
    const seen = a && b ? onPaper(a, b, width, height) : null;
    return seen ? [line(...seen, 'grey', 2)] : [];
  });
}

/** The ceiling of a box; of any other hall what a cut through the middle of the plan meets. */
function sectionLines(
  { venue }: Session,
  window: Projection,
  width: number,
  height: number,
): Shape[] {
  const room = roomOf({ venue });
  if (room && 'faces' in room) {
    return sectionAt(room.faces, 0).flatMap(({ id, from, to }): Shape[] => {
      if (id === 'floor') return [];
      const [a, b] = [from, to].map(({ x, y }): Point => [window.toX(x), window.toY(y)]);
      const seen = a && b ? onPaper(a, b, width, height) : null;
      return seen ? [line(...seen, 'grey', 2)] : [];
    });
  }
  const ceiling = venue.heightM === null ? null : window.toY(venue.heightM);
  return ceiling !== null && ceiling > 0 ? [line([0, ceiling], [width, ceiling], 'grey', 2)] : [];
}

const enabled = ({ arrays }: Session) => arrays.filter((array) => array.enabled);

/** The plan: stage edge, centre line, players, arrays with their axes, both tapes, scale. */
export function planDrawing(session: Session, width = DRAWN_WIDTH): Drawing {
  const { stage, datumPoints } = session.venue;
  const half = stage.widthM / 2;
  const arrays = enabled(session);
  const edge = [
    { x: -half, y: 0 },
    { x: half, y: 0 },
  ];
  const box = boxAround([...session.sources, ...arrays, ...datumPoints, ...edge], 0.7);
  const height = heightFor(box, width, PLAN_HEIGHTS);
  const window = projection(viewOf(box, width, height), width, height);
  const at = ({ x, y }: { x: number; y: number }): Point => [window.toX(x), window.toY(y)];
  const tapes = datumPoints.slice(0, 2);
  const wording = wordingAround(session, at);
  for (const point of tapes) wording.keep(around(at(point), 7));
  for (const { position } of arrays.flatMap(placeCapsules)) wording.keep(around(at(position), 5));
  const [ex, ey] = at({ x: -half, y: 0 });
  return {
    width,
    height,
    title: 'Plan from above; the tables hold the same figures',
    shapes: [
      ...wallLines(session, window, width, height),
      line([ex, ey], at({ x: half, y: 0 }), 'ink', 2),
      line([window.toX(0), 0], [window.toX(0), height], 'grey', 0.6, [6, 3, 1, 3]),
      ...wording.put(
        'stage edge',
        [
          [ex + 30, ey + 13],
          [ex + 30, ey - 5],
          [width / 2 + (width / 2 - ex) - 30, ey + 13],
        ],
        10,
        true,
        'grey',
      ),
      ...arrays.flatMap((array): Shape[] => {
        const [ax, ay] = at(array);
        return [
          ...tapes.map((point) => line(at(point), [ax, ay], 'grey', 0.8, [3, 2])),
          ...placeCapsules(array).map(({ position, axis }) => {
            const [x, y] = at(position);
            return line([x, y], [x + axis.x * 16, y - axis.y * 16], 'accent', 4);
          }),
          ...wording.put(
            array.name,
            [20, -14, 33, 46, 59].map((dy): Point => [ax, ay + dy]),
            11,
            true,
          ),
        ];
      }),
      ...tapes.flatMap((point): Shape[] => {
        const [x, y] = at(point);
        return [
          { kind: 'circle', at: [x, y], radius: 4, ink: 'ink', filled: false },
          line([x - 7, y], [x + 7, y], 'ink', 1),
          line([x, y - 7], [x, y + 7], 'ink', 1),
          ...wording.put(
            `tape ${point.name}`,
            [
              [x, y - 10],
              [x, y + 19],
              [x + 34, y + 4],
              [x - 34, y + 4],
              [x, y - 22],
              [x, y + 31],
            ],
            11,
            true,
          ),
        ];
      }),
      ...playerShapes(session, at, wording),
      ...scaleShapes(window, height),
    ],
  };
}

/** The section, audience at the left: floor, ceiling where it fits, players, arrays, scale. */
export function sectionDrawing(session: Session, width = DRAWN_WIDTH): Drawing {
  const arrays = enabled(session);
  const { stage } = session.venue;
  const points = [...session.sources, ...arrays].map(({ y, z }) => ({ x: y, y: z }));
  const box = boxAround([...points, { x: 0, y: 0 }, { x: stage.depthM, y: 0 }], 0.6);
  const height = heightFor(box, width, SECTION_HEIGHTS);
  const window = projection(viewOf(box, width, height), width, height);
  const at = ({ y, z }: { y: number; z: number }): Point => [window.toX(y), window.toY(z)];
  const floor = window.toY(0);
  const edge = window.toX(0);
  const wording = wordingAround(session, at);
  return {
    width,
    height,
    title: 'Section from the side; the tables hold the same figures',
    shapes: [
      line([0, floor], [width, floor], 'ink', 2),
      ...sectionLines(session, window, width, height),
      line([edge, floor], [edge, floor + 7], 'ink', 2),
      ...wording.put('stage edge', [[edge, floor + 17]], 10, true, 'grey'),
      ...arrays.flatMap((array): Shape[] => {
        const [x, y] = at(array);
        return [
          line([x, y], [x, floor], 'grey', 0.8, [3, 2]),
          ...placeCapsules(array).map(({ position, axis }) => {
            const [px, py] = at(position);
            return line([px, py], [px + axis.y * 18, py - axis.z * 18], 'accent', 4);
          }),
          ...wording.put(
            array.name,
            [-8, -20, -32, -44].map((dy): Point => [x, y + dy]),
            11,
            true,
          ),
        ];
      }),
      ...playerShapes(session, at, wording),
      ...scaleShapes(window, height),
    ],
  };
}
