import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { shiftText } from '../../core/units';
import { useSize } from '../parts/use-size';

/** What is drawn over an answer once it is given. */
export interface Truth {
  shift: number;
  low: number;
  high: number;
}

interface Props {
  /** given, −1 … +1; null while it is asked */
  answer: number | null;
  truth: Truth | null;
  onAnswer: (shift: number) => void;
  label: string;
  disabled?: boolean;
}

const HEIGHT = 116;
const MIDDLE = 52;
const SIDE = 44;
const STEP = 0.01;
const LEAP = 0.1;
const TICKS = [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1];

const clamped = (shift: number): number => Math.min(1, Math.max(-1, shift));

/** By how much a key moves the pointer; null where it does not. */
function stepOf(event: KeyboardEvent, at: number): number | null {
  const by = event.shiftKey ? LEAP : STEP;
  switch (event.key) {
    case 'ArrowLeft':
    case 'ArrowDown':
      return at - by;
    case 'ArrowRight':
    case 'ArrowUp':
      return at + by;
    case 'PageDown':
      return at - 0.25;
    case 'PageUp':
      return at + 0.25;
    case 'Home':
      return -1;
    case 'End':
      return 1;
    default:
      return null;
  }
}

/** The image line as the place of the answer: a click, or arrows and Enter; the truth is drawn over it. */
export function AnswerLine({ answer, truth, onAnswer, label, disabled = false }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const [pointer, setPointer] = useState(0);
  const [held, setHeld] = useState(false);
  const [x0, x1] = [SIDE, Math.max(SIDE + 40, width - SIDE)];
  const at = (shift: number): number => x0 + ((shift + 1) / 2) * (x1 - x0);
  // Before it is as wide as its place nobody can point at it.
  const open = answer === null && !disabled && width > 0;
  const shiftAt = (event: PointerEvent<SVGSVGElement>): number => {
    const { left } = event.currentTarget.getBoundingClientRect();
    return clamped(((event.clientX - left - x0) / (x1 - x0)) * 2 - 1);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (!open) return;
    const next = stepOf(event, pointer);
    if (next === null && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    if (next === null) onAnswer(pointer);
    else setPointer(clamped(Math.round(next * 100) / 100));
  };
  return (
    <div ref={box} className="w-full">
      <svg
        width={width}
        height={HEIGHT}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-orientation="horizontal"
        aria-valuemin={-100}
        aria-valuemax={100}
        aria-valuenow={Math.round(100 * (answer ?? pointer))}
        aria-valuetext={shiftText(answer ?? pointer)}
        aria-disabled={!open}
        className={`block touch-none select-none ${open ? 'cursor-crosshair' : ''}`}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          if (!open) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(true);
          setPointer(shiftAt(event));
        }}
        onPointerMove={(event) => {
          if (open) setPointer(shiftAt(event));
        }}
        onPointerUp={(event) => {
          if (!open || !held) return;
          setHeld(false);
          onAnswer(shiftAt(event));
        }}
        onPointerCancel={() => setHeld(false)}
      >
        <LineFrame at={at} width={width} />
        {open && (
          <g data-pointer pointerEvents="none">
            <path
              d={`M${at(pointer)} ${MIDDLE - 26} v52`}
              stroke="var(--color-primary)"
              strokeWidth={1.6}
            />
            <text
              x={at(pointer)}
              y={MIDDLE - 32}
              textAnchor="middle"
              fontSize={12}
              fill="var(--color-primary)"
            >
              {shiftText(pointer)}
            </text>
          </g>
        )}
        {truth && answer !== null && <TruthOver {...{ truth, answer, at }} />}
        {answer !== null && (
          <ellipse
            cx={at(answer)}
            cy={MIDDLE}
            rx={9}
            ry={7}
            transform={`rotate(-14 ${at(answer)} ${MIDDLE})`}
            fill="var(--color-base-100)"
            stroke="var(--color-primary)"
            strokeWidth={2.2}
            data-answer={answer.toFixed(3)}
          />
        )}
      </svg>
    </div>
  );
}

/** The stave with its loudspeakers. */
function LineFrame({ at, width }: { at: (shift: number) => number; width: number }) {
  return (
    <>
      {TICKS.map((tick) => (
        <g key={tick}>
          <line
            x1={at(tick)}
            x2={at(tick)}
            y1={MIDDLE - 22}
            y2={MIDDLE + 22}
            stroke={tick === 0 ? 'var(--muted)' : 'var(--hairline)'}
            strokeDasharray={tick === 0 ? undefined : '2 3'}
          />
          <text
            x={at(tick)}
            y={HEIGHT - 6}
            textAnchor="middle"
            fontSize={12}
            fill="var(--muted)"
            display={width < 420 && Math.abs(tick * 2) % 1 !== 0 ? 'none' : undefined}
          >
            {tick === 0 ? 'centre' : Math.abs(tick) * 100}
          </text>
        </g>
      ))}
      <line x1={at(-1)} x2={at(1)} y1={MIDDLE} y2={MIDDLE} stroke="var(--color-base-content)" />
      {([-1, 1] as const).map((side) => (
        <g key={side}>
          <path
            d={`M${at(side)} ${MIDDLE - 18} l${12 * side} -5 v46 l${-12 * side} -5 z`}
            fill="var(--color-base-content)"
          />
          <text
            x={at(side) + 26 * side}
            y={MIDDLE + 5}
            textAnchor="middle"
            fontSize={14}
            fontWeight={700}
            fill="currentColor"
          >
            {side < 0 ? 'L' : 'R'}
          </text>
        </g>
      ))}
    </>
  );
}

interface OverProps {
  truth: Truth;
  answer: number;
  at: (shift: number) => number;
}

/** Where it was, with how far the models differ, and the distance between. */
function TruthOver({ truth, answer, at }: OverProps) {
  const off = Math.round(100 * Math.abs(answer - truth.shift));
  const middle = (at(answer) + at(truth.shift)) / 2;
  return (
    <g data-truth={truth.shift.toFixed(3)}>
      <line
        x1={at(truth.low)}
        x2={at(truth.high)}
        y1={MIDDLE}
        y2={MIDDLE}
        stroke="var(--color-base-content)"
        strokeWidth={4}
        strokeLinecap="round"
      />
      <ellipse
        cx={at(truth.shift)}
        cy={MIDDLE}
        rx={9}
        ry={7}
        transform={`rotate(-14 ${at(truth.shift)} ${MIDDLE})`}
        fill="var(--color-base-content)"
      />
      <path
        d={`M${at(answer)} ${MIDDLE - 14}V${MIDDLE - 24}H${at(truth.shift)}V${MIDDLE - 14}`}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={1.4}
      />
      <text
        x={middle}
        y={MIDDLE - 30}
        textAnchor="middle"
        fontSize={13}
        fontWeight={600}
        fill="var(--color-primary)"
      >
        {off} %
      </text>
    </g>
  );
}
