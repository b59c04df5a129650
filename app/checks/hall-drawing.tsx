import { planesOf, sectionAt } from '../../core/hall';
import type { Room } from '../../core/acoustics';
import type { Vec3 } from '../../core/units';

/** What stands somewhere in the hall. */
interface Mark extends Vec3 {
  kind: 'player' | 'bar';
}

interface Props {
  /** null where the hall is not known: only what stands in it is drawn */
  room: Room | null;
  fromSide: boolean;
  /** surfaces that it is about */
  lit: readonly string[];
  /** ways of sound, drawn through */
  ways?: readonly (readonly Vec3[])[];
  /** straight lines of sight, dashed */
  sights?: readonly (readonly [Vec3, Vec3])[];
  /** outlines of what stands there, m */
  things?: readonly (readonly Vec3[])[];
  marks: readonly Mark[];
  label: string;
}

const SIZE = 190;
const EDGE = 14;
/** So many and their marks are drawn smaller. */
const CROWD = 12;
/** Around what stands where no hall is known, m. */
const AROUND_M = 1;

/** Whether a surface is seen from the side: floor and ceiling, and what leans like them. */
export const isLevel = (room: Room, surface: string): boolean =>
  Math.abs(planesOf(room).find(({ id }) => id === surface)?.normal.z ?? 0) > 0.5;

function boundsOf({ room, marks, things = [] }: Props): { min: Vec3; max: Vec3 } {
  if (room) return room;
  const points = [...marks, ...things.flat()];
  const least = (of: (at: Vec3) => number) => Math.min(...points.map(of)) - AROUND_M;
  const most = (of: (at: Vec3) => number) => Math.max(...points.map(of)) + AROUND_M;
  return {
    min: { x: least(({ x }) => x), y: least(({ y }) => y), z: 0 },
    max: { x: most(({ x }) => x), y: most(({ y }) => y), z: most(({ z }) => z) },
  };
}

interface Line {
  id: string;
  from: Vec3;
  to: Vec3;
}

/** A hall's walls as they are seen from above, or what an upright cut through it meets. */
function linesOf(room: Room, fromSide: boolean, cutX: number): Line[] {
  if (fromSide) {
    return sectionAt(planesOf(room), cutX).map(({ id, from, to }) => ({
      id,
      from: { x: cutX, y: from.x, z: from.y },
      to: { x: cutX, y: to.x, z: to.y },
    }));
  }
  return planesOf(room).flatMap(({ id, normal, corners }): Line[] => {
    if (Math.abs(normal.z) > 0.5) return [];
    // Upright, it is a line: between its two ends that are furthest apart.
    const along = (at: Vec3): number => at.y * normal.x - at.x * normal.y;
    const order = [...corners].sort((a, b) => along(a) - along(b));
    const [from, to] = [order[0], order[order.length - 1]];
    return from && to ? [{ id, from, to }] : [];
  });
}

/** A hall from above or cut from front to back, with the surfaces and ways that something is about. */
export function HallDrawing(props: Props) {
  const { room, fromSide, lit, ways = [], sights = [], things = [], marks, label } = props;
  const { min, max } = boundsOf(props);
  const across = fromSide ? 'y' : 'x';
  const up = fromSide ? 'z' : 'y';
  const [width, height] = [max[across] - min[across], max[up] - min[up]];
  const scale = (SIZE - 2 * EDGE) / Math.max(width, height, 1e-6);
  const point = (at: Vec3): [number, number] => [
    EDGE + (at[across] - min[across]) * scale,
    EDGE + (max[up] - at[up]) * scale,
  ];
  const path = (points: readonly Vec3[]): string =>
    `M${points.map((at) => point(at).join(' ')).join('L')}`;
  const cutX = marks.reduce((sum, { x }) => sum + x, 0) / Math.max(1, marks.length);
  const lines = room ? linesOf(room, fromSide, cutX) : [];
  const isLit = new Set(lit);
  return (
    <svg
      width={width * scale + 2 * EDGE}
      height={height * scale + 2 * EDGE}
      role="img"
      aria-label={label}
    >
      <path
        d={lines.map(({ from, to }) => path([from, to])).join('')}
        fill="none"
        stroke="var(--muted)"
        strokeWidth={1.5}
        strokeLinecap="round"
      />
      {lines
        .filter(({ id }) => isLit.has(id))
        .map(({ id, from, to }, i) => (
          <path
            key={`${id} ${i}`}
            data-lit={id}
            d={path([from, to])}
            stroke="var(--color-primary)"
            strokeWidth={5}
            strokeLinecap="round"
          />
        ))}
      {things.map((corners, i) => (
        <path
          key={i}
          d={`${path(corners)}Z`}
          fill="var(--muted)"
          stroke="var(--muted)"
          fillOpacity={0.35}
        />
      ))}
      <path
        d={sights.map((line) => path(line)).join('')}
        stroke="var(--muted)"
        strokeDasharray="4 3"
        fill="none"
      />
      <path
        d={ways.map((way) => path(way)).join('')}
        stroke="var(--color-primary)"
        strokeWidth={1.5}
        fill="none"
      />
      {marks.map((mark, i) => {
        const [x, y] = point(mark);
        return mark.kind === 'player' ? (
          <circle
            key={i}
            cx={x}
            cy={y}
            r={marks.length > CROWD ? 3 : 5}
            fill="var(--color-base-100)"
            stroke="var(--hue-0)"
            strokeWidth={2}
          />
        ) : (
          <rect
            key={i}
            x={x - 5}
            y={y - 3}
            width={10}
            height={6}
            fill="var(--color-base-content)"
          />
        );
      })}
    </svg>
  );
}
