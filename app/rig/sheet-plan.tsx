import { placeCapsules } from '../../core/arrays';
import type { Session } from '../../core/session';
import { badgesOf, groupsOf } from '../parts/groups';
import { boxAround, projection, viewOf } from '../floor/view';

interface Props {
  session: Session;
  width: number;
  height: number;
}

const INK = '#22262d';
const GREY = '#8a8c90';
const ACCENT = '#0f6a5b';

/** The plan for paper: black on white, inline colours only, so that it also goes into a PDF. */
export function SheetPlan({ session, width, height }: Props) {
  const { stage, datumPoints } = session.venue;
  const half = stage.widthM / 2;
  const arrays = session.arrays.filter(({ enabled }) => enabled);
  const points = [
    ...session.sources,
    ...arrays,
    ...datumPoints,
    { x: -half, y: 0 },
    { x: half, y: 0 },
  ];
  const { toX, toY, scale } = projection(
    viewOf(boxAround(points, 0.7), width, height),
    width,
    height,
  );
  const badges = badgesOf(groupsOf(session.sources));
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label="Plan from above; the tables hold the same figures"
      style={{ maxWidth: '100%', height: 'auto' }}
    >
      <rect width={width} height={height} fill="#ffffff" />
      <line x1={toX(-half)} x2={toX(half)} y1={toY(0)} y2={toY(0)} stroke={INK} strokeWidth={2} />
      <line
        x1={toX(0)}
        x2={toX(0)}
        y1={0}
        y2={height}
        stroke={GREY}
        strokeWidth={0.6}
        strokeDasharray="6 3 1 3"
      />
      <text x={toX(-half) + 3} y={toY(0) + 13} fontSize={10} fill={GREY}>
        stage edge
      </text>
      {arrays.map((array) => (
        <g key={array.id}>
          {datumPoints.slice(0, 2).map((point) => (
            <line
              key={point.id}
              x1={toX(point.x)}
              y1={toY(point.y)}
              x2={toX(array.x)}
              y2={toY(array.y)}
              stroke={GREY}
              strokeWidth={0.8}
              strokeDasharray="3 2"
            />
          ))}
          {placeCapsules(array).map(({ label, position, axis }, index) => (
            <line
              key={`${label}-${index}`}
              x1={toX(position.x)}
              y1={toY(position.y)}
              x2={toX(position.x) + axis.x * 16}
              y2={toY(position.y) - axis.y * 16}
              stroke={ACCENT}
              strokeWidth={4}
            />
          ))}
          <text x={toX(array.x)} y={toY(array.y) + 20} fontSize={11} textAnchor="middle" fill={INK}>
            {array.name}
          </text>
        </g>
      ))}
      {datumPoints.slice(0, 2).map(({ id, name, x, y }) => (
        <g key={id}>
          <circle cx={toX(x)} cy={toY(y)} r={4} fill="none" stroke={INK} />
          <line x1={toX(x) - 7} x2={toX(x) + 7} y1={toY(y)} y2={toY(y)} stroke={INK} />
          <line x1={toX(x)} x2={toX(x)} y1={toY(y) - 7} y2={toY(y) + 7} stroke={INK} />
          <text x={toX(x)} y={toY(y) - 10} fontSize={11} textAnchor="middle" fill={INK}>
            tape {name}
          </text>
        </g>
      ))}
      {session.sources.map(({ id, x, y }) => (
        <g key={id}>
          <circle cx={toX(x)} cy={toY(y)} r={11} fill="#ffffff" stroke={INK} />
          <text x={toX(x)} y={toY(y) + 4} fontSize={10} textAnchor="middle" fill={INK}>
            {badges.get(id)?.short ?? ''}
          </text>
        </g>
      ))}
      <line
        x1={12}
        x2={12 + scale}
        y1={height - 10}
        y2={height - 10}
        stroke={INK}
        strokeWidth={2}
      />
      <text x={12} y={height - 15} fontSize={10} fill={INK}>
        1 m
      </text>
    </svg>
  );
}
