import { angleText } from '../../../core/units';
import { ends, lineY, onArc, onLine, type FanFrame } from './fan-shapes';

/** The arc of directions with the recording angle on it, and the line between the loudspeakers. */
export function FanScale({ frame, halfDeg }: { frame: FanFrame; halfDeg: number | null }) {
  const { limitDeg } = frame;
  const y = lineY(frame);
  const [x0, x1] = ends(frame);
  const degrees = Array.from({ length: limitDeg / 5 + 1 }, (_, i) => -limitDeg + i * 10);
  const arc = (from: number, to: number): string =>
    Array.from({ length: 61 }, (_, i) => onArc(frame, from + ((to - from) * i) / 60))
      .map(({ x, y: at }, i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${at.toFixed(1)}`)
      .join('');
  return (
    <g fontSize={11.5} fill="var(--muted)">
      <path d={arc(-limitDeg, limitDeg)} fill="none" stroke="var(--muted)" strokeWidth={0.8} />
      {halfDeg !== null && halfDeg < limitDeg && (
        <g>
          <path
            d={arc(-halfDeg, halfDeg)}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={3}
          />
          {[-1, 1].map((side) => {
            const [inner, outer] = [-6, 14].map((out) => onArc(frame, side * halfDeg, out));
            const words = onArc(frame, side * halfDeg, 26);
            return (
              <g key={side}>
                <line
                  x1={inner?.x}
                  y1={inner?.y}
                  x2={outer?.x}
                  y2={outer?.y}
                  stroke="var(--color-primary)"
                  strokeWidth={2}
                />
                <text
                  x={words.x + side * 4}
                  y={words.y}
                  textAnchor={side < 0 ? 'end' : 'start'}
                  fontSize={12.5}
                  fontWeight={700}
                  fill="var(--color-primary)"
                >
                  {side < 0 ? '−' : '+'}
                  {angleText(halfDeg)}
                </text>
              </g>
            );
          })}
        </g>
      )}
      {degrees.map((deg) => {
        const [inner, outer] = [0, 6].map((out) => onArc(frame, deg, out));
        const words = onArc(frame, deg, 16);
        const named = deg % 30 === 0 && Math.abs(Math.abs(deg) - (halfDeg ?? 999)) > limitDeg / 12;
        return (
          <g key={deg}>
            <line x1={inner?.x} y1={inner?.y} x2={outer?.x} y2={outer?.y} stroke="var(--muted)" />
            {named && (
              <text x={words.x} y={words.y + 4} textAnchor="middle">
                {angleText(deg)}
              </text>
            )}
          </g>
        );
      })}
      <line x1={x0} x2={x1} y1={y} y2={y} stroke="var(--color-base-content)" />
      {[-1, -0.5, 0, 0.5, 1].map((shift) => (
        <text key={shift} x={onLine(frame, shift).x} y={y + 24} textAnchor="middle">
          {shift === 0 ? 'centre' : Math.abs(shift) * 100}
        </text>
      ))}
      {[-1, 1].map((side) => {
        const x = side < 0 ? x0 : x1;
        return (
          <g key={side}>
            <path
              d={`M${x} ${y - 13}l${side * 11} -5v36l${-side * 11} -5z`}
              fill="var(--color-base-content)"
            />
            <text
              x={x + side * 24}
              y={y + 5}
              textAnchor="middle"
              fontSize={14}
              fontWeight={700}
              fill="var(--color-base-content)"
            >
              {side < 0 ? 'L' : 'R'}
            </text>
          </g>
        );
      })}
    </g>
  );
}
