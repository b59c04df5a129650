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

/** The section for paper, audience at the left: heights and tilts, inline colours only. */
export function SheetSection({ session, width, height }: Props) {
  const arrays = session.arrays.filter(({ enabled }) => enabled);
  const { stage, heightM } = session.venue;
  const points = [
    ...session.sources.map(({ y, z }) => ({ x: y, y: z })),
    ...arrays.map(({ y, z }) => ({ x: y, y: z })),
    { x: 0, y: 0 },
    { x: stage.depthM, y: 0 },
  ];
  const { toX, toY } = projection(viewOf(boxAround(points, 0.6), width, height), width, height);
  const badges = badgesOf(groupsOf(session.sources));
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label="Section from the side; the tables hold the same figures"
      style={{ maxWidth: '100%', height: 'auto' }}
    >
      <rect width={width} height={height} fill="#ffffff" />
      <line x1={0} x2={width} y1={toY(0)} y2={toY(0)} stroke={INK} strokeWidth={2} />
      {heightM !== null && toY(heightM) > 0 && (
        <line x1={0} x2={width} y1={toY(heightM)} y2={toY(heightM)} stroke={GREY} strokeWidth={2} />
      )}
      <line x1={toX(0)} x2={toX(0)} y1={toY(0)} y2={toY(0) + 7} stroke={INK} strokeWidth={2} />
      <text x={toX(0)} y={toY(0) + 17} fontSize={10} textAnchor="middle" fill={GREY}>
        stage edge
      </text>
      {session.sources.map(({ id, y, z }) => (
        <g key={id}>
          <circle cx={toX(y)} cy={toY(z)} r={9} fill="#ffffff" stroke={INK} />
          <text x={toX(y)} y={toY(z) + 3.5} fontSize={9} textAnchor="middle" fill={INK}>
            {badges.get(id)?.short ?? ''}
          </text>
        </g>
      ))}
      {arrays.map((array) => (
        <g key={array.id}>
          <line
            x1={toX(array.y)}
            x2={toX(array.y)}
            y1={toY(array.z)}
            y2={toY(0)}
            stroke={GREY}
            strokeWidth={0.8}
            strokeDasharray="3 2"
          />
          {placeCapsules(array).map(({ label, position, axis }, index) => (
            <line
              key={`${label}-${index}`}
              x1={toX(position.y)}
              y1={toY(position.z)}
              x2={toX(position.y) + axis.y * 18}
              y2={toY(position.z) - axis.z * 18}
              stroke={ACCENT}
              strokeWidth={4}
            />
          ))}
          <text x={toX(array.y)} y={toY(array.z) - 8} fontSize={11} textAnchor="middle" fill={INK}>
            {array.name}
          </text>
        </g>
      ))}
    </svg>
  );
}
