import { useRef } from 'react';
import { clamp } from '../../core/units';
import { sideText } from './images';

/** The drawing, units of its own. */
const [WIDE, HIGH, LEFT, RIGHT, LINE] = [640, 64, 30, 610, 30];
const xOf = (shift: number): number => LEFT + ((shift + 1) / 2) * (RIGHT - LEFT);
const STEP = 0.01;

interface Props {
  /** null: nothing was said yet */
  shift: number | null;
  say: (shift: number) => void;
  /** what was said is meant */
  take: () => void;
}

/** From loudspeaker to loudspeaker: a click, a pull or the arrows say where somebody is heard. */
export function HeardLine({ shift, say, take }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const at = (clientX: number): number => {
    const { left, width } = drawing.current?.getBoundingClientRect() ?? { left: 0, width: 1 };
    const x = ((clientX - left) / width) * WIDE;
    return clamp((2 * (x - LEFT)) / (RIGHT - LEFT) - 1, -1, 1);
  };
  const held = useRef(false);
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full max-w-4xl cursor-crosshair touch-none"
      role="slider"
      tabIndex={0}
      aria-label="Where it is heard"
      aria-valuemin={-100}
      aria-valuemax={100}
      aria-valuenow={Math.round(100 * (shift ?? 0))}
      aria-valuetext={shift === null ? 'not said yet' : sideText(shift)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
        say(at(event.clientX));
      }}
      onPointerMove={(event) => held.current && say(at(event.clientX))}
      onPointerUp={() => (held.current = false)}
      onPointerCancel={() => (held.current = false)}
      onKeyDown={(event) => {
        const size = event.shiftKey ? 10 * STEP : STEP;
        const step = { ArrowLeft: -size, ArrowRight: size }[event.key];
        if (event.key === 'Enter') take();
        else if (event.key === 'Home') say(-1);
        else if (event.key === 'End') say(1);
        else if (step !== undefined) say(clamp((shift ?? 0) + step, -1, 1));
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <rect x="0" y="0" width={WIDE} height={HIGH} fill="transparent" />
      <line x1={LEFT} x2={RIGHT} y1={LINE} y2={LINE} stroke="var(--color-base-content)" />
      {[-1, -0.5, 0, 0.5, 1].map((tick) => (
        <line
          key={tick}
          x1={xOf(tick)}
          x2={xOf(tick)}
          y1={LINE - (tick === 0 ? 10 : 6)}
          y2={LINE + (tick === 0 ? 10 : 6)}
          stroke="var(--color-base-content)"
        />
      ))}
      {(
        [
          [-1, 'left', 'start'],
          [0, 'centre', 'middle'],
          [1, 'right', 'end'],
        ] as const
      ).map(([tick, name, anchor]) => (
        <text
          key={name}
          x={xOf(tick) + (anchor === 'start' ? -LEFT + 4 : anchor === 'end' ? LEFT - 4 : 0)}
          y={HIGH - 6}
          textAnchor={anchor}
          fontSize="12"
          fill="var(--muted)"
        >
          {name}
        </text>
      ))}
      {shift !== null && <circle cx={xOf(shift)} cy={LINE} r="8" fill="var(--color-primary)" />}
    </svg>
  );
}
