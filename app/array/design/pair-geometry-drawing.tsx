import { patternAOf } from '../../../core/acoustics';
import { capsulesInFrame, type CustomCapsule } from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import { angleText, cosDeg, lengthText, sinDeg, type UnitSystem } from '../../../core/units';
import { LOBE_PX } from './pair-handles';
import { lobePaths } from './lobe-paths';
import { useSize } from '../../parts/use-size';
import type { ReactNode } from 'react';

interface CapsuleProps {
  capsule: CustomCapsule;
  x: number;
  y: number;
}

function CapsuleFigure({ capsule, x, y }: CapsuleProps) {
  const { front, back } = lobePaths(patternAOf(capsule.pattern), capsule.azimuthDeg, LOBE_PX);
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

/** The array from the side: height, and how far it looks up or down. */
export function SideView({ array, units }: { array: MicArray; units: UnitSystem }) {
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

/** A drawing from above that fills its place, with the heights beside it. */
export function FromAbove(props: {
  array: MicArray;
  units: UnitSystem;
  children: (size: { width: number; height: number }) => { middle: number; drawn: ReactNode };
}) {
  const { array, units, children } = props;
  const [box, size] = useSize<HTMLDivElement>();
  const { middle, drawn } = children(size);
  return (
    <div ref={box} className="relative min-h-0 flex-1">
      <div className="absolute top-0 left-0">
        <SideView array={array} units={units} />
      </div>
      {size.width > 0 && (
        <svg
          {...size}
          role="group"
          aria-label={`${array.name} from above; the same figures stand in the fields beside it`}
          className="block"
        >
          <text x={middle} y={16} textAnchor="middle" fontSize={12} fill="var(--muted)">
            ↑ towards the ensemble
          </text>
          {drawn}
        </svg>
      )}
    </div>
  );
}

/** An array that is no plain pair, from above: its capsules, their patterns and axes. */
export function ArrayDrawing({ array, units }: { array: MicArray; units: UnitSystem }) {
  const capsules = capsulesInFrame(array.technique);
  const reach = Math.max(...capsules.map(({ dx, dy }) => Math.max(Math.abs(dx), Math.abs(dy))), 0);
  return (
    <FromAbove array={array} units={units}>
      {({ width, height }) => {
        const room = Math.max(40, Math.min(width / 2 - LOBE_PX - 60, height / 2 - LOBE_PX));
        const scale = reach > 0 ? Math.min(room / reach, 1100) : 0;
        const [cx, cy] = [width / 2, height * 0.6];
        const drawn = (
          <>
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
          </>
        );
        return { middle: cx, drawn };
      }}
    </FromAbove>
  );
}
