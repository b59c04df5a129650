import { memo } from 'react';
import { angleText, cosDeg, sinDeg } from '../../../core/units';

interface Props {
  x: number;
  y: number;
  aimDeg: number;
  halfDeg: number;
  reach: number;
  /** of an array that looks down: how far aside of it the rules run, px; else they start at it */
  asidePx: number | null;
  /** how far from the array the figure stands, px */
  labelAt: number;
}

/** What lies inside the recording angle, cleared of the hatching that covers the ground. */
export const RecordingAngleField = memo(function RecordingAngleField(
  props: Omit<Props, 'labelAt'>,
) {
  const { x, y, aimDeg, halfDeg, reach, asidePx } = props;
  if (asidePx !== null) {
    return (
      <rect
        aria-hidden="true"
        x={x - asidePx}
        y={y - reach}
        width={asidePx * 2}
        height={reach * 2}
        transform={`rotate(${aimDeg} ${x} ${y})`}
        fill="var(--color-base-100)"
      />
    );
  }
  const inside = Array.from({ length: 17 }, (_, i) => aimDeg + halfDeg * (i / 8 - 1))
    .map((deg) => `${x + sinDeg(deg) * reach} ${y - cosDeg(deg) * reach}`)
    .join('L');
  return <path aria-hidden="true" d={`M${x} ${y}L${inside}Z`} fill="var(--color-base-100)" />;
});

/** The recording angle: two strong rules with their figure; what lies outside stays hatched. */
export const RecordingAngleRules = memo(function RecordingAngleRules(props: Props) {
  const { x, y, aimDeg, halfDeg, reach, asidePx, labelAt } = props;
  const end = (deg: number, length: number) => {
    if (asidePx === null) {
      return { x: x + sinDeg(aimDeg + deg) * length, y: y - cosDeg(aimDeg + deg) * length };
    }
    const aside = Math.sign(deg) * asidePx;
    return {
      x: x + sinDeg(aimDeg) * length + cosDeg(aimDeg) * aside,
      y: y - cosDeg(aimDeg) * length + sinDeg(aimDeg) * aside,
    };
  };
  return (
    <g aria-hidden="true">
      {[-1, 1].map((side) => {
        const to = end(side * halfDeg, reach);
        const label = end(side * halfDeg, labelAt);
        const from = asidePx === null ? { x, y } : end(side * halfDeg, -reach);
        const turn = aimDeg + (asidePx === null ? side * halfDeg : 0);
        const along = side < 0 ? turn + 90 : turn - 90;
        return (
          <g key={side}>
            <line
              x1={from.x}
              y1={from.y}
              x2={to.x}
              y2={to.y}
              stroke="var(--color-primary)"
              strokeWidth={1.8}
            />
            <g transform={`translate(${label.x} ${label.y}) rotate(${along})`}>
              <rect x={-24} y={-9} width={48} height={18} fill="var(--color-base-100)" />
              <text
                textAnchor="middle"
                y={4}
                fontSize={13}
                fontWeight={600}
                fill="var(--color-primary)"
              >
                {side < 0 ? 'L' : 'R'} {angleText(halfDeg)}
              </text>
            </g>
          </g>
        );
      })}
    </g>
  );
});
