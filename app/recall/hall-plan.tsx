import { planCorners } from '../../core/hall';
import type { HallCard } from '../../core/recall';

type Venue = HallCard['venue'];

export interface PlanSpot {
  key: string;
  x: number;
  y: number;
  /** what it is called for those who hear the page, and in its tooltip */
  label: string;
  /** written beside it */
  text?: string;
  /** 'next': where the next one would be */
  use: 'microphones' | 'ears' | 'next';
  /** drawn strong: the best, or the one that is looked at */
  strong?: boolean;
  /** did not work, or its listeners do not agree */
  weak?: boolean;
}

interface Props {
  venue: Venue;
  spots: readonly PlanSpot[];
  label: string;
  className?: string;
  /** the room that it has on the page, px: letters and marks are as large in every hall */
  room: { wide: number; high: number };
  /** without the names of tape points */
  small?: boolean;
  /** players, as small rings */
  players?: readonly { id: string; x: number; y: number }[];
  /** where one clicked, m in the frame of the plan */
  onPlace?: ((at: { x: number; y: number }) => void) | undefined;
}

const MARGIN_M = 0.8;

interface Box {
  left: number;
  right: number;
  front: number;
  back: number;
}

/** What the drawing holds: the walls where they are known, else all that is there. */
function boxOf({ venue, spots, players = [] }: Pick<Props, 'venue' | 'spots' | 'players'>): Box {
  const { stage, datumPoints } = venue;
  const walls = planCorners(venue) ?? [];
  const points = [
    ...walls,
    { x: -stage.widthM / 2, y: 0 },
    { x: stage.widthM / 2, y: stage.depthM },
    ...(walls.length > 0 ? [] : datumPoints),
    ...spots,
    ...players,
  ];
  return {
    left: Math.min(...points.map(({ x }) => x)) - MARGIN_M,
    right: Math.max(...points.map(({ x }) => x)) + MARGIN_M,
    front: Math.min(...points.map(({ y }) => y)) - MARGIN_M,
    back: Math.max(...points.map(({ y }) => y)) + MARGIN_M,
  };
}

/** A hall as a small plan, upstage above: walls, stage, tape points and what was marked. */
export function HallPlan(props: Props) {
  const { venue, spots, label, className = '', room, small = false, players = [], onPlace } = props;
  const box = boxOf({ venue, spots, players });
  const [acrossM, deepM] = [box.right - box.left, box.back - box.front];
  const scale = Math.min(room.wide / acrossM, room.high / deepM);
  const [wide, high] = [acrossM * scale, deepM * scale];
  const at = (x: number, y: number): [number, number] => [
    (x - box.left) * scale,
    (box.back - y) * scale,
  ];
  const mark = small ? 4 : 6;
  const { stage, datumPoints } = venue;
  const walls = planCorners(venue);
  const [stageLeft, stageTop] = at(-stage.widthM / 2, stage.depthM);
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      style={{ width: wide, height: high }}
      role="img"
      aria-label={label}
      className={`max-w-full overflow-visible ${className} ${onPlace ? 'cursor-crosshair' : ''}`}
      onClick={(event) => {
        if (!onPlace) return;
        const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
        // The drawing is fitted into its place without being stretched.
        const fit = Math.min(width / wide, height / high);
        const x = (event.clientX - left - (width - wide * fit) / 2) / fit;
        const y = (event.clientY - top - (height - high * fit) / 2) / fit;
        onPlace({ x: box.left + x / scale, y: box.back - y / scale });
      }}
    >
      {walls && (
        <path
          d={`M${walls.map(({ x, y }) => at(x, y).join(' ')).join('L')}Z`}
          fill="none"
          stroke="var(--color-base-content)"
          strokeWidth={1.5}
        />
      )}
      <rect
        x={stageLeft}
        y={stageTop}
        width={stage.widthM * scale}
        height={stage.depthM * scale}
        fill="none"
        stroke="var(--hairline)"
      />
      {datumPoints.map(({ id, name, x, y }) => {
        const [px, py] = at(x, y);
        return (
          <g key={id} stroke="var(--muted)">
            <path d={`M${px - 4} ${py}h8M${px} ${py - 4}v8`} />
            {!small && (
              <text x={px + 6} y={py - 4} fontSize={12} fill="var(--muted)" stroke="none">
                {name}
              </text>
            )}
          </g>
        );
      })}
      {players.map(({ id, x, y }) => {
        const [px, py] = at(x, y);
        return (
          <circle key={id} cx={px} cy={py} r={small ? 2 : 4} fill="none" stroke="var(--muted)" />
        );
      })}
      {spots.map((spot) => {
        const [px, py] = at(spot.x, spot.y);
        const ink = spot.weak ? 'var(--muted)' : 'var(--color-primary)';
        return (
          <g key={spot.key}>
            <title>{spot.label}</title>
            {spot.use === 'next' ? (
              <path d={`M${px - 8} ${py}h16M${px} ${py - 8}v16`} stroke={ink} strokeWidth={1.5} />
            ) : spot.use === 'ears' ? (
              <circle
                cx={px}
                cy={py}
                r={spot.strong ? mark + 1 : mark}
                fill={spot.strong ? ink : 'none'}
                stroke={ink}
                strokeWidth={1.5}
              />
            ) : (
              <path
                d={`M${px} ${py - mark}L${px + mark} ${py}L${px} ${py + mark}L${px - mark} ${py}Z`}
                fill={spot.strong ? ink : 'none'}
                stroke={ink}
                strokeWidth={1.5}
              />
            )}
            {spot.text !== undefined && (
              <text x={px + 9} y={py + 4} fontSize={13} fill="var(--color-base-content)">
                {spot.text}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
