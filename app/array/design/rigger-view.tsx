import { useState } from 'react';
import type { MicArray } from '../../../core/session';
import { angleText, lengthText, type UnitSystem } from '../../../core/units';
import { hover, select } from '../../view/choice';
import { FromAbove } from './pair-geometry-drawing';
import { PairHandles } from './pair-handles';
import { arcPath, HALO, INK, Microphone, polar, Protractor } from './rigger-parts';
import { tapeTicks } from './tape-ticks';

type Pair = Extract<MicArray['technique'], { kind: 'pair' }>;

/** A player as seen from the middle of the bar. */
export interface Seen {
  id: string;
  name: string;
  hue: string;
  /** off the aim, positive right, ° */
  deg: number;
}

/** From the bar to the tape, and what lies below the tape. */
const TAPE_PX = 52;
const BELOW_PX = 112;

/** No bar is drawn larger than this, px for a metre. */
const MOST_SCALE = 1300;

interface TapeProps {
  cx: number;
  y: number;
  halfPx: number;
  scale: number;
  units: UnitSystem;
}

/** The tape under the bar, zero in its middle. */
function Tape({ cx, y, halfPx, scale, units }: TapeProps) {
  return (
    <g fontSize={11} fill="var(--muted)">
      <rect
        x={cx - halfPx}
        y={y}
        width={2 * halfPx}
        height={22}
        fill="var(--color-base-200)"
        stroke="var(--muted)"
        strokeWidth={0.8}
      />
      {tapeTicks(scale, (halfPx - 4) / scale, units).map(({ m, figure }) => (
        <g key={m}>
          <line
            x1={cx + m * scale}
            x2={cx + m * scale}
            y1={y}
            y2={y + (figure === null ? 4 : 8)}
            stroke="var(--muted)"
            strokeWidth={figure === null ? 0.7 : 1.1}
          />
          {figure !== null && (
            <text x={cx + m * scale} y={y + 19} textAnchor="middle">
              {figure}
            </text>
          )}
        </g>
      ))}
      <text x={cx + halfPx + 6} y={y + 15}>
        {units === 'metric' ? 'cm' : 'in'}, from the middle
      </text>
    </g>
  );
}

/** What the pair holds, as two strong rules, and the players on an arc beyond the bar. */
function Held(props: {
  cx: number;
  cy: number;
  radius: number;
  halfDeg: number | null;
  players: readonly Seen[];
}) {
  const { cx, cy, radius, halfDeg, players } = props;
  const most = 105;
  const seen = players.filter(({ deg }) => Math.abs(deg) <= most);
  return (
    <g>
      <path
        d={arcPath(cx, cy, radius, -most, most)}
        fill="none"
        stroke="var(--hairline)"
        strokeWidth={1}
      />
      {halfDeg !== null && halfDeg <= most && (
        <>
          <path
            d={arcPath(cx, cy, radius, -halfDeg, halfDeg)}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={2.4}
          />
          {([-1, 1] as const).map((side) => {
            const [from, to, words] = [56, radius + 16, radius + 30].map((at) =>
              polar(cx, cy, side * halfDeg, at),
            );
            return (
              <g key={side}>
                <line
                  x1={from?.x}
                  y1={from?.y}
                  x2={to?.x}
                  y2={to?.y}
                  stroke="var(--color-primary)"
                  strokeWidth={1.6}
                />
                <text
                  x={(words?.x ?? 0) + side * 2}
                  y={(words?.y ?? 0) + 4}
                  textAnchor={side < 0 ? 'end' : 'start'}
                  fontSize={12.5}
                  fontWeight={700}
                  fill="var(--color-primary)"
                >
                  holds {angleText(halfDeg)}
                </text>
              </g>
            );
          })}
        </>
      )}
      {seen.map(({ id, name, hue, deg }) => {
        const { x, y } = polar(cx, cy, deg, radius);
        return (
          <circle
            key={id}
            cx={x}
            cy={y}
            r={seen.length > 60 ? 2.5 : 4.5}
            fill={hue}
            stroke="var(--color-base-100)"
            className="cursor-pointer"
            onPointerEnter={() => hover(id)}
            onPointerLeave={() => hover(null)}
            onClick={() => select({ kind: 'source', id })}
          >
            <title>
              {name}, {angleText(Math.abs(deg))} {deg < 0 ? 'left' : 'right'} of the aim
            </title>
          </circle>
        );
      })}
    </g>
  );
}

/** Each side's share and the whole, under the tape; in one line where the bar is too short for it. */
function Shares(props: {
  pair: Pair;
  cx: number;
  y: number;
  half: number;
  units: UnitSystem;
  tolerance: { spacing: string; decisive: string } | null;
}) {
  const { pair, cx, y, half, units, tolerance } = props;
  const whole = `${lengthText(pair.spacingM, units, 'bar')}${tolerance ? ` ${tolerance.spacing}` : ''}`;
  const each = lengthText(pair.spacingM / 2, units, 'bar');
  const strong = tolerance?.decisive === 'spacingM';
  const colour = strong ? 'var(--color-primary)' : INK;
  if (pair.spacingM === 0) {
    return (
      <text x={cx} y={y + 14} textAnchor="middle" fontSize={13} fontWeight={700} fill={INK}>
        one above the other, capsules on one line
      </text>
    );
  }
  return (
    <g fontSize={13} fontWeight={700} textAnchor="middle">
      <path
        d={`M${cx - half} ${y}v10M${cx + half} ${y}v10M${cx - half} ${y + 5}H${cx + half}M${cx} ${y + 1}v8`}
        fill="none"
        stroke={colour}
      />
      {half >= 200 ? (
        <>
          <text x={cx - half / 2} y={y + 22} fontWeight={600} fill={INK}>
            {each}
          </text>
          <text x={cx + half / 2} y={y + 22} fontWeight={600} fill={INK}>
            {each}
          </text>
          <text x={cx} y={y + 24} fontSize={14} fill={colour}>
            {whole}
          </text>
        </>
      ) : (
        <text x={cx} y={y + 24} fontSize={14} fill={colour}>
          {whole}, {each} each side
        </text>
      )}
    </g>
  );
}

/**
 * The bar of a pair as a rigger sees it from above: microphones on it, a tape and protractors to
 * its scale; capsules and axes are moved by hand.
 */
export function RiggerView(props: {
  array: MicArray;
  pair: Pair;
  units: UnitSystem;
  halfDeg: number | null;
  players: readonly Seen[];
  tolerance: { spacing: string; angle: string; decisive: string } | null;
}) {
  const { array, pair, units, halfDeg, players, tolerance } = props;
  const [held, setHeld] = useState<number | null>(null);
  const angle = pair.includedAngleDeg / 2;
  return (
    <FromAbove array={array} units={units}>
      {({ width, height }) => {
        const room = Math.max(60, Math.min(width / 2 - 250, 300));
        const fitted =
          pair.spacingM > 0 ? Math.min(room / (pair.spacingM / 2), MOST_SCALE) : MOST_SCALE;
        const scale = held ?? fitted;
        const [cx, cy] = [width / 2, height - BELOW_PX];
        const half = (pair.spacingM / 2) * scale;
        const radius = Math.max(60, Math.min(cy - 42, width / 2 - 90));
        const drawn = (
          <>
            <Held cx={cx} cy={cy} radius={radius} halfDeg={halfDeg} players={players} />
            {([-1, 1] as const).map((side) => (
              <Protractor key={side} x={cx + side * half} y={cy} side={side} deg={angle} />
            ))}
            <line
              x1={cx - half - 12}
              x2={cx + half + 12}
              y1={cy + 5}
              y2={cy + 5}
              stroke={INK}
              strokeWidth={5}
            />
            {([-1, 1] as const).map((side) => (
              <Microphone
                key={side}
                x={cx + side * half}
                y={cy}
                deg={side * angle}
                label={side < 0 ? 'L' : 'R'}
              />
            ))}
            {pair.includedAngleDeg > 0 && (
              <text
                x={cx}
                y={cy - 22}
                textAnchor="middle"
                fontSize={14}
                fontWeight={700}
                fill={tolerance?.decisive === 'angleDeg' ? 'var(--color-primary)' : INK}
                {...HALO}
              >
                {angleText(pair.includedAngleDeg)} {tolerance?.angle}
              </text>
            )}
            <Tape
              cx={cx}
              y={cy + TAPE_PX}
              halfPx={Math.max(half + 40, 120)}
              scale={scale}
              units={units}
            />
            <path
              d={`M${cx - half} ${cy + 8}V${cy + TAPE_PX + 22}M${cx + half} ${cy + 8}V${cy + TAPE_PX + 22}`}
              stroke="var(--muted)"
              strokeDasharray="2 3"
            />
            <Shares
              pair={pair}
              cx={cx}
              y={cy + TAPE_PX + 27}
              half={half}
              units={units}
              tolerance={tolerance}
            />
            {([-1, 1] as const).map((side) => (
              <PairHandles
                key={side}
                array={array}
                pair={pair}
                side={side}
                cx={cx}
                cy={cy}
                scale={scale}
                onHold={(hold) => setHeld(hold ? fitted : null)}
              />
            ))}
          </>
        );
        return { middle: cx, drawn };
      }}
    </FromAbove>
  );
}
