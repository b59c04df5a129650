import { reflectionPath, type FacedRoom, type Room } from '../../core/acoustics';
import { sectionAt, surfaceWords } from '../../core/hall';
import type { HeardReflection } from '../../core/analysis';
import type { MicArray, Source } from '../../core/session';

interface Props {
  room: Room;
  array: MicArray;
  source: Source;
  reflection: HeardReflection;
}

const SIZE = 190;
const EDGE = 14;

/** Whether a surface is seen from the side: floor and ceiling, and what leans like them. */
function isLevel(room: Room, surface: string): boolean {
  if (!('faces' in room)) return surface === 'floor' || surface === 'ceiling';
  const face = room.faces.find(({ id }) => id === surface);
  return face !== undefined && Math.abs(face.normal.z) > 0.5;
}

/** A hall's walls from above, or what an upright cut through it meets. */
function wallsOf(
  room: FacedRoom,
  fromSide: boolean,
  cutX: number,
  at: (x: number, y: number) => [number, number],
): string {
  const spot = ({ x, y }: { x: number; y: number }): string => at(x, y).join(' ');
  if (!fromSide) return `M${room.outline.map(spot).join('L')}Z`;
  return sectionAt(room.faces, cutX)
    .map(({ from, to }) => `M${spot(from)}L${spot(to)}`)
    .join('');
}

/** The way of one reflection: on a plan, or from the side where floor or ceiling has its part. */
export function ReflectionPlan({ room, array, source, reflection }: Props) {
  const { surfaces } = reflection;
  const fromSide = surfaces.some((surface) => isLevel(room, surface));
  const across = fromSide ? 'y' : 'x';
  const up = fromSide ? 'z' : 'y';
  const [width, height] = [room.max[across] - room.min[across], room.max[up] - room.min[up]];
  const scale = (SIZE - 2 * EDGE) / Math.max(width, height);
  const point = (at: { x: number; y: number; z: number }): [number, number] => [
    EDGE + (at[across] - room.min[across]) * scale,
    EDGE + (room.max[up] - at[up]) * scale,
  ];
  const path = reflectionPath(room, source, array, surfaces).map(point);
  const [sx, sy] = point(source);
  const [ax, ay] = point(array);
  const over = surfaces.map((surface) => surfaceWords(room, surface)).join(', then ');
  return (
    <figure className="w-fit pb-2">
      <svg
        width={width * scale + 2 * EDGE}
        height={height * scale + 2 * EDGE}
        role="img"
        aria-label={`Way of ${source.name} over ${over} to ${array.name}, ${fromSide ? 'from the side' : 'from above'}`}
      >
        <path
          d={
            'faces' in room
              ? wallsOf(room, fromSide, (source.x + array.x) / 2, (x, y) => [
                  EDGE + (x - room.min[across]) * scale,
                  EDGE + (room.max[up] - y) * scale,
                ])
              : `M${EDGE} ${EDGE}h${width * scale}v${height * scale}h${-width * scale}z`
          }
          fill="none"
          stroke="var(--muted)"
          strokeWidth={2}
        />
        <line x1={sx} y1={sy} x2={ax} y2={ay} stroke="var(--muted)" strokeDasharray="4 3" />
        <path
          d={`M${path.map(([x, y]) => `${x} ${y}`).join('L')}`}
          fill="none"
          stroke="var(--color-primary)"
          strokeWidth={2}
        />
        <circle
          cx={sx}
          cy={sy}
          r={5}
          fill="var(--color-base-100)"
          stroke="var(--hue-0)"
          strokeWidth={2}
        />
        <rect x={ax - 5} y={ay - 3} width={10} height={6} fill="var(--color-base-content)" />
      </svg>
      <figcaption className="text-muted">
        {fromSide ? 'From the side, audience left' : 'From above'}: circle {source.name}, bar{' '}
        {array.name}; over the {over}
      </figcaption>
    </figure>
  );
}
