import { hallShape, planCorners } from '../../core/hall';
import type { Venue } from '../../core/session';
import type { Projection } from '../../paper/projection';

interface Props {
  venue: Venue;
  view: Pick<Projection, 'toX' | 'toY' | 'scale'>;
  /** walls carry the numbers that findings name them by */
  numbered?: boolean;
}

/** How far inside of a wall its number stands, px. */
const INSIDE_PX = 12;

/** The walls of a hall on a plan; nothing where its size or place is not known. */
export function HallOutline({ venue, view, numbered = false }: Props) {
  const corners = planCorners(venue);
  if (!corners) return null;
  const points = corners.map(({ x, y }) => `${view.toX(x)} ${view.toY(y)}`);
  const shape = venue.shape && numbered ? hallShape({ venue }) : null;
  const creases = venue.ceiling.kind === 'flat' ? null : hallShape({ venue });
  return (
    <>
      <path
        d={`M${points.join('L')}Z`}
        fill="none"
        stroke="var(--muted)"
        strokeWidth={3}
        strokeLinejoin="miter"
      />
      {creases &&
        creases.pieces.length > 1 &&
        creases.pieces.map(({ outline }, i) => (
          <path
            key={i}
            d={`M${outline.map(({ x, y }) => `${view.toX(x)} ${view.toY(y)}`).join('L')}Z`}
            fill="none"
            stroke="var(--muted)"
            strokeOpacity={0.5}
            strokeDasharray="10 4 2 4"
          />
        ))}
      {shape?.faces
        .filter(({ id }) => /^wall \d+$/.test(id))
        .map(({ id, corners: [to, from], normal }) => {
          if (!from || !to) return null;
          const long = Math.hypot(to.x - from.x, to.y - from.y) * view.scale;
          if (long < 24) return null;
          return (
            <text
              key={id}
              x={view.toX((from.x + to.x) / 2) + normal.x * INSIDE_PX}
              y={view.toY((from.y + to.y) / 2) - normal.y * INSIDE_PX + 4}
              textAnchor="middle"
              fontSize={11.5}
              fill="var(--muted)"
            >
              {id.slice(5)}
            </text>
          );
        })}
    </>
  );
}
