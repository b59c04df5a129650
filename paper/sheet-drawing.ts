import { placeCapsules } from '../core/arrays';
import { playerGroups, playerMarks } from '../core/ensembles';
import type { Session } from '../core/session';
import { type Projection, viewOf, projection, boxAround } from './projection';

/** What a drawing for paper is made of; lengths in its own units, y downwards. */
export type Shape =
  | {
      kind: 'line';
      from: [number, number];
      to: [number, number];
      ink: Ink;
      width: number;
      dash?: number[];
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

/** Sizes of the two drawings on the sheet. */
export const DRAWN_WIDTH = 640;
export const PLAN_HEIGHT = 300;
export const SECTION_HEIGHT = 190;

type Point = [number, number];

const line = (from: Point, to: Point, ink: Ink, width: number, dash?: number[]): Shape => ({
  kind: 'line',
  from,
  to,
  ink,
  width,
  ...(dash ? { dash } : {}),
});
const text = (words: string, at: Point, size: number, ink: Ink, middle = true): Shape => ({
  kind: 'text',
  at,
  size,
  ink,
  middle,
  words,
});

/** Players as numbered circles, the same marks as on the screen. */
function playerShapes(
  session: Session,
  at: (source: Session['sources'][number]) => Point,
): Shape[] {
  const marks = playerMarks(playerGroups(session.sources));
  return session.sources.flatMap((source): Shape[] => {
    const [x, y] = at(source);
    return [
      { kind: 'circle', at: [x, y], radius: 11, ink: 'ink', filled: true },
      text(marks.get(source.id)?.short ?? '', [x, y + 4], 10, 'ink'),
    ];
  });
}

function scaleShapes({ scale }: Projection, height: number): Shape[] {
  return [
    line([12, height - 10], [12 + scale, height - 10], 'ink', 2),
    text('1 m', [12, height - 15], 10, 'ink', false),
  ];
}

const enabled = ({ arrays }: Session) => arrays.filter((array) => array.enabled);

/** The plan: stage edge, centre line, players, arrays with their axes, both tapes, scale. */
export function planDrawing(session: Session, width: number, height: number): Drawing {
  const { stage, datumPoints } = session.venue;
  const half = stage.widthM / 2;
  const arrays = enabled(session);
  const edge = [
    { x: -half, y: 0 },
    { x: half, y: 0 },
  ];
  const box = boxAround([...session.sources, ...arrays, ...datumPoints, ...edge], 0.7);
  const window = projection(viewOf(box, width, height), width, height);
  const at = ({ x, y }: { x: number; y: number }): Point => [window.toX(x), window.toY(y)];
  const tapes = datumPoints.slice(0, 2);
  const [ex, ey] = at({ x: -half, y: 0 });
  return {
    width,
    height,
    title: 'Plan from above; the tables hold the same figures',
    shapes: [
      line([ex, ey], at({ x: half, y: 0 }), 'ink', 2),
      line([window.toX(0), 0], [window.toX(0), height], 'grey', 0.6, [6, 3, 1, 3]),
      text('stage edge', [ex + 3, ey + 13], 10, 'grey', false),
      ...arrays.flatMap((array): Shape[] => {
        const [ax, ay] = at(array);
        return [
          ...tapes.map((point) => line(at(point), [ax, ay], 'grey', 0.8, [3, 2])),
          ...placeCapsules(array).map(({ position, axis }) => {
            const [x, y] = at(position);
            return line([x, y], [x + axis.x * 16, y - axis.y * 16], 'accent', 4);
          }),
          text(array.name, [ax, ay + 20], 11, 'ink'),
        ];
      }),
      ...tapes.flatMap((point): Shape[] => {
        const [x, y] = at(point);
        return [
          { kind: 'circle', at: [x, y], radius: 4, ink: 'ink', filled: false },
          line([x - 7, y], [x + 7, y], 'ink', 1),
          line([x, y - 7], [x, y + 7], 'ink', 1),
          text(`tape ${point.name}`, [x, y - 10], 11, 'ink'),
        ];
      }),
      ...playerShapes(session, at),
      ...scaleShapes(window, height),
    ],
  };
}

/** The section, audience at the left: floor, ceiling where it fits, players, arrays, scale. */
export function sectionDrawing(session: Session, width: number, height: number): Drawing {
  const arrays = enabled(session);
  const { stage, heightM } = session.venue;
  const points = [...session.sources, ...arrays].map(({ y, z }) => ({ x: y, y: z }));
  const box = boxAround([...points, { x: 0, y: 0 }, { x: stage.depthM, y: 0 }], 0.6);
  const window = projection(viewOf(box, width, height), width, height);
  const at = ({ y, z }: { y: number; z: number }): Point => [window.toX(y), window.toY(z)];
  const floor = window.toY(0);
  const ceiling = heightM === null ? null : window.toY(heightM);
  const edge = window.toX(0);
  return {
    width,
    height,
    title: 'Section from the side; the tables hold the same figures',
    shapes: [
      line([0, floor], [width, floor], 'ink', 2),
      ...(ceiling !== null && ceiling > 0 ? [line([0, ceiling], [width, ceiling], 'grey', 2)] : []),
      line([edge, floor], [edge, floor + 7], 'ink', 2),
      text('stage edge', [edge, floor + 17], 10, 'grey'),
      ...playerShapes(session, at),
      ...arrays.flatMap((array): Shape[] => {
        const [x, y] = at(array);
        return [
          line([x, y], [x, floor], 'grey', 0.8, [3, 2]),
          ...placeCapsules(array).map(({ position, axis }) => {
            const [px, py] = at(position);
            return line([px, py], [px + axis.y * 18, py - axis.z * 18], 'accent', 4);
          }),
          text(array.name, [x, y - 8], 11, 'ink'),
        ];
      }),
      ...scaleShapes(window, height),
    ],
  };
}
