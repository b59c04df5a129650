import { patternAOf } from '../../../core/acoustics';
import { crossedEquivalent } from '../../../core/arrays';
import type { SessionTechnique } from '../../../core/session';
import {
  angleText,
  capitalised,
  cosDeg,
  dbToAmplitude,
  formatNumber,
  formatSigned,
  sinDeg,
} from '../../../core/units';
import { patternWords } from '../../parts/technique-text';
import { lobePaths } from './lobe-paths';

type MidSide = Extract<SessionTechnique, { kind: 'mid-side' }>;

const LOBE_PX = 108;
const INK = 'var(--color-base-content)';
const ACCENT = 'var(--color-primary)';
/** The longest lobe is drawn no longer than this against the mid’s. */
const MOST = 1.35;

function Lobe(props: {
  patternA: number;
  deg: number;
  size: number;
  colour: string;
  filled?: boolean;
}) {
  const { patternA, deg, size, colour, filled } = props;
  const { front, back } = lobePaths(patternA, deg, size);
  return (
    <g fill="none" stroke={colour} strokeWidth={1.5}>
      <path d={front} fill={filled ? colour : 'none'} fillOpacity={0.1} />
      <path d={back} strokeDasharray="3 3" />
    </g>
  );
}

function Letter({
  deg,
  at,
  colour,
  text,
}: {
  deg: number;
  at: number;
  colour: string;
  text: string;
}) {
  return (
    <text
      x={sinDeg(deg) * at}
      y={-cosDeg(deg) * at + 5}
      textAnchor="middle"
      fontSize={15}
      fontWeight={700}
      fill={colour}
      stroke="var(--color-base-100)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

/** Mid and side as they stand, and over them the crossed pair that they make, from above. */
export function MidSideDrawing({ technique }: { technique: MidSide }) {
  const { midPattern, sideGainDb, sidePositive } = technique;
  const midA = patternAOf(midPattern);
  const crossed = crossedEquivalent(midA, sideGainDb);
  const half = crossed.includedAngleDeg / 2;
  const turned = sidePositive === 'right';
  const gain = dbToAmplitude(sideGainDb);
  const unit = LOBE_PX / Math.max(1, gain / MOST);
  const side = Math.min(unit * gain, LOBE_PX * MOST);
  // Left is mid plus side; a side that faces right turns the picture round.
  const letters = turned ? { left: 'R', right: 'L' } : { left: 'L', right: 'R' };
  return (
    <figure className="min-w-0">
      <svg
        viewBox="-190 -165 380 245"
        className="block max-h-[300px] w-full"
        role="img"
        aria-label="Mid and side, and the crossed pair that they make"
      >
        <text y={-152} textAnchor="middle" fontSize={12} fill="var(--muted)">
          ↑ towards the ensemble
        </text>
        {[-1, 1].map((sign) => (
          <g key={sign}>
            <line
              x2={sinDeg(sign * half) * 150}
              y2={-cosDeg(sign * half) * 150}
              stroke={ACCENT}
              strokeDasharray="9 3 1.5 3"
            />
            <Lobe
              patternA={crossed.patternA}
              deg={sign * half}
              size={unit}
              colour={ACCENT}
              filled
            />
          </g>
        ))}
        <Lobe patternA={midA} deg={0} size={unit} colour={INK} />
        <Lobe patternA={0} deg={turned ? 90 : -90} size={side} colour={INK} />
        <Letter deg={0} at={unit + 14} colour={INK} text="M" />
        <Letter deg={-90} at={side + 16} colour={INK} text={turned ? 'S −' : 'S +'} />
        <Letter deg={90} at={side + 16} colour={INK} text={turned ? 'S +' : 'S −'} />
        <Letter deg={-half} at={164} colour={ACCENT} text={letters.left} />
        <Letter deg={half} at={164} colour={ACCENT} text={letters.right} />
      </svg>
      <figcaption className="text-center">
        {capitalised(patternWords(midPattern))} mid and side at {formatSigned(sideGainDb, 1)} dB
        make a crossed pair of pattern A {formatNumber(crossed.patternA, 3)} at{' '}
        {angleText(crossed.includedAngleDeg)}
        {turned && ', left for right'}.
      </figcaption>
    </figure>
  );
}
