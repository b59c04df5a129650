import { useState } from 'react';
import { patternAOf, sensitivity } from '../../../core/acoustics';
import { capsulesInFrame, type CustomCapsule } from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import { angleText, cosDeg, lengthText, sinDeg, type UnitSystem } from '../../../core/units';
import { LOBE_PX, PairHandles } from './pair-handles';
import { useSize } from '../../parts/use-size';

const POINTS = 72;

/** The polar pattern around a capsule; behind the null it is dashed, where polarity turns. */
function lobePaths(patternA: number, azimuthDeg: number): { front: string; back: string } {
  const point = (offDeg: number) => {
    const size = Math.abs(sensitivity(patternA, cosDeg(offDeg))) * LOBE_PX;
    const turn = azimuthDeg + offDeg;
    return `${(sinDeg(turn) * size).toFixed(2)} ${(-cosDeg(turn) * size).toFixed(2)}`;
  };
  const angles = Array.from({ length: POINTS + 1 }, (_, i) => -180 + (i * 360) / POINTS);
  const part = (keep: (deg: number) => boolean) => {
    const runs: string[][] = [];
    let open = false;
    for (const deg of angles) {
      if (!keep(deg)) open = false;
      else if (open) runs[runs.length - 1]?.push(point(deg));
      else {
        runs.push([point(deg)]);
        open = true;
      }
    }
    return runs.map((run) => `M${run.join('L')}`).join('');
  };
  const positive = (deg: number) => sensitivity(patternA, cosDeg(deg)) >= -1e-9;
  return { front: part(positive), back: part((deg) => !positive(deg)) };
}

interface CapsuleProps {
  capsule: CustomCapsule;
  x: number;
  y: number;
}

function CapsuleFigure({ capsule, x, y }: CapsuleProps) {
  const { front, back } = lobePaths(patternAOf(capsule.pattern), capsule.azimuthDeg);
  const [ax, ay] = [sinDeg(capsule.azimuthDeg), -cosDeg(capsule.azimuthDeg)];
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d={front} fill="none" stroke="var(--color-primary)" strokeWidth={1.4} />
      <path
        d={back}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={1.4}
        strokeDasharray="3 3"
      />
      <line
        x2={ax * (LOBE_PX + 28)}
        y2={ay * (LOBE_PX + 28)}
        stroke="var(--muted)"
        strokeDasharray="6 3 1.5 3"
      />
      <line
        x1={-ax * 9}
        y1={-ay * 9}
        x2={ax * 9}
        y2={ay * 9}
        stroke="var(--color-base-content)"
        strokeWidth={9}
      />
      <text
        x={ax * (LOBE_PX + 42)}
        y={ay * (LOBE_PX + 42) + 5}
        textAnchor="middle"
        fontSize={15}
        fontWeight={700}
        fill="var(--color-base-content)"
      >
        {capsule.label}
      </text>
    </g>
  );
}

function Dimension(props: { x1: number; x2: number; y: number; text: string; strong?: boolean }) {
  const { x1, x2, y, text, strong } = props;
  return (
    <g
      stroke={strong ? 'var(--color-primary)' : 'var(--muted)'}
      fill={strong ? 'var(--color-primary)' : 'var(--color-base-content)'}
    >
      <path d={`M${x1} ${y - 6}v12M${x2} ${y - 6}v12M${x1} ${y}H${x2}`} fill="none" />
      <text
        x={(x1 + x2) / 2}
        y={y - 6}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={600}
        stroke="var(--color-base-100)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {text}
      </text>
    </g>
  );
}

function AngleMark({ x, y, deg }: { x: number; y: number; deg: number }) {
  if (deg === 0) return null;
  const radius = LOBE_PX + 14;
  const end = { x: x + sinDeg(deg) * radius, y: y - cosDeg(deg) * radius };
  const middle = { x: x + sinDeg(deg / 2) * (radius + 14), y: y - cosDeg(deg / 2) * (radius + 14) };
  return (
    <g>
      <line x1={x} y1={y} x2={x} y2={y - radius - 8} stroke="var(--muted)" strokeWidth={0.8} />
      <path
        d={`M${x} ${y - radius}A${radius} ${radius} 0 0 ${deg > 0 ? 1 : 0} ${end.x} ${end.y}`}
        fill="none"
        stroke="var(--muted)"
      />
      <text
        x={middle.x}
        y={middle.y + 4}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={600}
        fill="var(--color-base-content)"
        stroke="var(--color-base-100)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {angleText(Math.abs(deg))}
      </text>
    </g>
  );
}

interface Lobe {
  label: string;
  patternA: number;
  azimuthDeg: number;
}

/** Patterns at one point, seen from above. */
export function LobeDrawing({ label, lobes }: { label: string; lobes: readonly Lobe[] }) {
  return (
    <svg width={250} height={250} viewBox="-125 -125 250 250" role="img" aria-label={label}>
      {lobes.map((lobe) => (
        <CapsuleFigure
          key={lobe.label}
          capsule={{
            label: lobe.label,
            dx: 0,
            dy: 0,
            dz: 0,
            azimuthDeg: lobe.azimuthDeg,
            elevationDeg: 0,
            pattern: lobe.patternA,
          }}
          x={0}
          y={0}
        />
      ))}
    </svg>
  );
}

/** The array from the side: height, and how far it looks up or down. */
function SideView({ array, units }: { array: MicArray; units: UnitSystem }) {
  const { tiltDeg, z } = array;
  const capsules = capsulesInFrame(array.technique);
  return (
    <svg width={150} height={120} viewBox="-50 -60 150 120" role="img" aria-label="From the side">
      <text x={-46} y={-48} fontSize={12} fill="var(--muted)">
        from the side
      </text>
      <line x1={-40} x2={96} y1={0} y2={0} stroke="var(--hairline)" />
      {capsules.map(({ label, elevationDeg }, index) => {
        const turn = tiltDeg + elevationDeg;
        return (
          <line
            key={`${label}${index}`}
            x1={-cosDeg(turn) * 8}
            y1={sinDeg(turn) * 8}
            x2={cosDeg(turn) * 46}
            y2={-sinDeg(turn) * 46}
            stroke="var(--color-base-content)"
            strokeWidth={2}
            strokeDasharray="7 3"
          />
        );
      })}
      <circle r={5} fill="var(--color-base-content)" />
      <text x={-46} y={30} fontSize={12.5} fontWeight={600} fill="var(--color-base-content)">
        {angleText(Math.abs(tiltDeg))} {tiltDeg < 0 ? 'down' : tiltDeg > 0 ? 'up' : 'level'}
      </text>
      <text x={-46} y={48} fontSize={12.5} fontWeight={600} fill="var(--color-base-content)">
        {lengthText(z, units)} above the floor
      </text>
    </svg>
  );
}

/** The bar from above as a rigger sets it: each side's half of spacing and of the angle. */
export function PairGeometryDrawing(props: {
  array: MicArray;
  units: UnitSystem;
  /** how far each dimension may be off, said beside it; the decisive one stands out */
  tolerance?: { spacing: string; angle: string; decisive: string } | null;
}) {
  const { array, units, tolerance } = props;
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [held, setHeld] = useState<number | null>(null);
  const capsules = capsulesInFrame(array.technique);
  const reach = Math.max(...capsules.map(({ dx, dy }) => Math.max(Math.abs(dx), Math.abs(dy))), 0);
  const room = Math.max(40, Math.min(width / 2 - LOBE_PX - 60, height / 2));
  const fitted = reach > 0 ? Math.min(room / reach, 1100) : 0;
  const scale = held ?? fitted;
  const cx = width / 2;
  const cy = height * 0.6;
  const pair = array.technique.kind === 'pair' ? array.technique : null;
  const half = pair ? (pair.spacingM / 2) * scale : 0;
  return (
    <div ref={box} className="relative min-h-0 flex-1">
      <div className="absolute top-0 left-0">
        <SideView array={array} units={units} />
      </div>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label={`${array.name} from above; the same figures stand in the fields beside it`}
          className="block"
        >
          <text x={cx} y={18} textAnchor="middle" fontSize={12} fill="var(--muted)">
            ↑ towards the ensemble
          </text>
          {capsules.length > 1 && (
            <polyline
              points={capsules
                .map(({ dx, dy }) => `${cx + dx * scale},${cy - dy * scale}`)
                .join(' ')}
              fill="none"
              stroke="var(--color-base-content)"
              strokeWidth={4}
            />
          )}
          {capsules.map((capsule, index) => (
            <CapsuleFigure
              key={`${capsule.label}-${index}`}
              capsule={capsule}
              x={cx + capsule.dx * scale}
              y={cy - capsule.dy * scale}
            />
          ))}
          {pair &&
            capsules.map(({ label, dx, azimuthDeg }) => (
              <AngleMark key={label} x={cx + dx * scale} y={cy} deg={azimuthDeg} />
            ))}
          {pair && pair.spacingM > 0 && (
            <g>
              <Dimension
                x1={cx - half}
                x2={cx}
                y={cy + LOBE_PX * 0.72}
                text={lengthText(pair.spacingM / 2, units, 'bar')}
              />
              <Dimension
                x1={cx}
                x2={cx + half}
                y={cy + LOBE_PX * 0.72}
                text={lengthText(pair.spacingM / 2, units, 'bar')}
              />
              <Dimension
                x1={cx - half}
                x2={cx + half}
                y={cy + LOBE_PX * 0.72 + 30}
                text={`${lengthText(pair.spacingM, units, 'bar')}${tolerance ? ` ${tolerance.spacing}` : ''}`}
                strong={tolerance?.decisive === 'spacingM'}
              />
            </g>
          )}
          {pair && tolerance && pair.includedAngleDeg > 0 && (
            <text
              x={cx}
              y={cy - LOBE_PX * 0.35}
              textAnchor="middle"
              fontSize={12.5}
              fontWeight={600}
              fill={
                tolerance.decisive === 'angleDeg'
                  ? 'var(--color-primary)'
                  : 'var(--color-base-content)'
              }
            >
              {angleText(pair.includedAngleDeg)} {tolerance.angle}
            </text>
          )}
          {pair &&
            ([-1, 1] as const).map((side) => (
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
        </svg>
      )}
    </div>
  );
}
