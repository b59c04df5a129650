import { angleText, cosDeg, sinDeg } from '../../../core/units';
import { LOBE_PX } from './pair-handles';

export const INK = 'var(--color-base-content)';
export const HALO = {
  stroke: 'var(--color-base-100)',
  strokeWidth: 4,
  paintOrder: 'stroke' as const,
};
const PROTRACTOR_PX = LOBE_PX + 20;
const BODY_PX = { long: 42, wide: 15, grille: 12 };
/** A point so far from another in a direction; 0° is up. */
export const polar = (x: number, y: number, deg: number, radius: number) => ({
  x: x + sinDeg(deg) * radius,
  y: y - cosDeg(deg) * radius,
});

export function arcPath(
  x: number,
  y: number,
  radius: number,
  fromDeg: number,
  toDeg: number,
): string {
  const [a, b] = [polar(x, y, fromDeg, radius), polar(x, y, toDeg, radius)];
  const large = Math.abs(toDeg - fromDeg) > 180 ? 1 : 0;
  return `M${a.x} ${a.y}A${radius} ${radius} 0 ${large} ${toDeg > fromDeg ? 1 : 0} ${b.x} ${b.y}`;
}

/** Degrees about one capsule, from straight ahead outward, with the axis across them. */
export function Protractor({
  x,
  y,
  side,
  deg,
}: {
  x: number;
  y: number;
  side: -1 | 1;
  deg: number;
}) {
  const most = Math.max(90, Math.min(180, Math.ceil(deg / 30) * 30));
  const ticks = Array.from({ length: most / 5 + 1 }, (_, i) => i * 5);
  const tip = polar(x, y, side * deg, PROTRACTOR_PX + 26);
  const figure = polar(x, y, (side * deg) / 2, PROTRACTOR_PX - 22);
  return (
    <g>
      <path
        d={arcPath(x, y, PROTRACTOR_PX, 0, side * most)}
        fill="none"
        stroke="var(--muted)"
        strokeWidth={0.8}
      />
      {ticks.map((at) => {
        const long = at % 30 === 0 ? 10 : at % 10 === 0 ? 7 : 4;
        const [from, to] = [
          polar(x, y, side * at, PROTRACTOR_PX),
          polar(x, y, side * at, PROTRACTOR_PX - long),
        ];
        const words = polar(x, y, side * at, PROTRACTOR_PX + 11);
        const near = Math.abs(at - deg) < 8;
        return (
          <g key={at}>
            <line
              x1={from.x}
              y1={from.y}
              x2={to.x}
              y2={to.y}
              stroke="var(--muted)"
              strokeWidth={at % 30 === 0 ? 1.2 : 0.8}
            />
            {at % 30 === 0 && at > 0 && !near && (
              <text
                x={words.x}
                y={words.y + 4}
                textAnchor="middle"
                fontSize={11}
                fill="var(--muted)"
              >
                {at}
              </text>
            )}
          </g>
        );
      })}
      <line x1={x} y1={y} x2={tip.x} y2={tip.y} stroke={INK} strokeDasharray="9 3 1.5 3" />
      {deg > 0 && (
        <text
          x={figure.x}
          y={figure.y + 4}
          textAnchor="middle"
          fontSize={13}
          fontWeight={700}
          fill={INK}
          {...HALO}
        >
          {angleText(deg)}
        </text>
      )}
    </g>
  );
}

/** A microphone on the bar: its capsule at the point from which all is measured. */
export function Microphone({
  x,
  y,
  deg,
  label,
}: {
  x: number;
  y: number;
  deg: number;
  label: string;
}) {
  const { long, wide, grille } = BODY_PX;
  const name = polar(x, y, deg, LOBE_PX + 82);
  return (
    <g>
      <g transform={`translate(${x} ${y}) rotate(${deg})`}>
        <rect
          x={-wide / 2}
          y={0}
          width={wide}
          height={long}
          fill="var(--color-base-100)"
          stroke={INK}
          strokeWidth={1.4}
        />
        <rect x={-wide / 2} y={0} width={wide} height={grille} fill={INK} />
        <circle r={2.6} cy={1.5} fill="var(--color-base-100)" stroke={INK} />
      </g>
      <text
        x={name.x}
        y={name.y + 5}
        textAnchor="middle"
        fontSize={15}
        fontWeight={700}
        fill={INK}
        {...HALO}
      >
        {label}
      </text>
    </g>
  );
}
