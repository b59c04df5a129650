import { useDrag } from '@use-gesture/react';
import { useId, useMemo, type KeyboardEvent, type ReactNode } from 'react';
import { STANDARDS } from '../../../core/arrays';
import { patternAOf } from '../../../core/acoustics';
import {
  customaryStretches,
  VERDICT_WORDS,
  type FieldRow,
  type PictureVerdict,
} from '../../../core/analysis';
import type { MicArray, SessionTechnique } from '../../../core/session';
import { angleText, clamp, lengthText } from '../../../core/units';
import { setTechnique, withTechnique } from '../../document/edits';
import { useSession } from '../../document/use-session';
import { useSessionGesture } from '../../document/use-session-gesture';
import { useSize } from '../../parts/use-size';
import { fieldShapes, type FieldShape } from './field-shapes';

type Pair = Extract<SessionTechnique, { kind: 'pair' }>;

export const MOST_DEG = 180;
const LEAST_HEIGHT = 300;
const PAD = { left: 52, right: 16, top: 10, bottom: 38 };

export interface Scales {
  toX: (spacingM: number) => number;
  toY: (deg: number) => number;
  fromX: (px: number) => number;
  fromY: (py: number) => number;
  /** ground of the drawing, px */
  right: number;
  bottom: number;
}

function scalesOf(mostM: number, width: number, height: number): Scales {
  const w = width - PAD.left - PAD.right;
  const h = height - PAD.top - PAD.bottom;
  return {
    toX: (m) => PAD.left + (m / mostM) * w,
    toY: (deg) => PAD.top + h - (deg / MOST_DEG) * h,
    fromX: (px) => ((px - PAD.left) / w) * mostM,
    fromY: (py) => ((PAD.top + h - py) / h) * MOST_DEG,
    right: width - PAD.right,
    bottom: height - PAD.bottom,
  };
}

const INK = 'var(--muted)';
/** How each field is drawn: what fits is a light field, as wishes are on the image line. */
const HATCH: Readonly<Record<PictureVerdict, ReactNode>> = {
  fits: <rect width={8} height={8} fill="var(--color-primary)" fillOpacity={0.2} />,
  narrow: <path d="M4 0V8" stroke={INK} strokeWidth={0.6} />,
  wide: <path d="M0 4H8" stroke={INK} strokeWidth={0.6} />,
  crowded: <path d="M-2 2L2 -2M-2 10L10 -2M6 10L10 6" stroke={INK} strokeWidth={0.8} />,
  hole: <circle cx={4} cy={4} r={1.1} fill="none" stroke={INK} strokeWidth={0.8} />,
  elsewhere: <circle cx={4} cy={4} r={0.9} fill={INK} />,
  broken: (
    <path
      d="M-2 2L2 -2M-2 10L10 -2M6 10L10 6M-2 6L2 10M-2 -2L10 10M6 -2L10 2"
      stroke="var(--color-error)"
      strokeWidth={0.6}
    />
  ),
};

const WORD_PX = 7;

interface Word {
  verdict: PictureVerdict;
  text: string;
  x: number;
  y: number;
  widthPx: number;
}

/** Words of the fields that have room for theirs. */
function wordsOf(shapes: readonly FieldShape[], { bottom }: Scales): Word[] {
  return shapes.flatMap(({ verdict, label }) => {
    const text = VERDICT_WORDS[verdict];
    const widthPx = text.length * WORD_PX;
    if (label.widthPx < widthPx * 0.8 || label.heightPx <= 8) return [];
    const x = Math.max(label.x, PAD.left + widthPx / 2 + 4);
    return [{ verdict, text, x, y: clamp(label.y + 5, PAD.top + 16, bottom - 8), widthPx }];
  });
}

const INK_OF: Partial<Record<PictureVerdict, string>> = {
  fits: 'var(--color-primary)',
  broken: 'var(--color-error)',
};

function WordOfField({ verdict, text, x, y }: Word) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize={14}
      fontWeight={700}
      fill={INK_OF[verdict] ?? 'var(--color-base-content)'}
      stroke="var(--color-base-100)"
      strokeWidth={5}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

const CUSTOMARY_PX = 150;

/** The first corner of a frame at which its name crosses no word of a field. */
function besideFrame(
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
  words: readonly Word[],
) {
  const corners = [
    { x: right - 4, y: top - 5, anchor: 'end' as const },
    { x: left + 4, y: top - 5, anchor: 'start' as const },
    { x: right - 4, y: bottom + 14, anchor: 'end' as const },
    { x: left + 4, y: bottom + 14, anchor: 'start' as const },
  ];
  const free = corners.find(({ x, y, anchor }) => {
    const from = anchor === 'end' ? x - CUSTOMARY_PX : x;
    return words.every(
      (word) =>
        Math.abs(word.y - y) > 18 ||
        word.x + word.widthPx / 2 < from ||
        word.x - word.widthPx / 2 > from + CUSTOMARY_PX,
    );
  });
  return free ?? corners[0];
}

/** Stretches that are customary, quietly: dotted frames, flat ones along the edges. */
function Customary(props: { pair: Pair; scales: Scales; mostM: number; words: readonly Word[] }) {
  const { pair, scales, mostM, words } = props;
  return (
    <g aria-label="Customary stretches">
      {customaryStretches(pair.pattern)
        .filter(({ spacingM }) => spacingM.min < mostM)
        .map(({ name, spacingM, angleDeg }) => {
          const left = scales.toX(spacingM.min);
          const right = scales.toX(Math.min(spacingM.max, mostM));
          const [top, bottom] = [scales.toY(angleDeg.max), scales.toY(angleDeg.min)];
          const upright = right - left < 1;
          const at = besideFrame({ left, right, top, bottom }, words);
          return (
            <g key={name}>
              <rect
                x={left - (upright ? 3 : 0)}
                y={top - (bottom - top < 1 ? 3 : 0)}
                width={Math.max(6, right - left)}
                height={Math.max(6, bottom - top)}
                fill="none"
                stroke="var(--color-base-content)"
                strokeWidth={1}
                strokeDasharray="1.5 4"
              />
              <text
                {...(upright
                  ? {
                      transform: `translate(${left + 14} ${(top + bottom) / 2}) rotate(-90)`,
                      textAnchor: 'middle' as const,
                    }
                  : { x: at?.x, y: at?.y, textAnchor: at?.anchor })}
                fontSize={11.5}
                fill="var(--color-base-content)"
                stroke="var(--color-base-100)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                customary, {name}
              </text>
            </g>
          );
        })}
    </g>
  );
}

/** The named standards of this pattern; names of those close together stand on different sides. */
function NamedForms({ pair, scales, mostM }: { pair: Pair; scales: Scales; mostM: number }) {
  return STANDARDS.filter(
    ({ pattern, spacingM }) =>
      patternAOf(pattern) === patternAOf(pair.pattern) && spacingM <= mostM,
  ).map(({ name, spacingM, includedAngleDeg }) => (
    <g key={name} transform={`translate(${scales.toX(spacingM)} ${scales.toY(includedAngleDeg)})`}>
      <path d="M-4 0H4M0 -4V4" stroke="var(--color-base-content)" strokeWidth={1.5} />
      <text
        x={6}
        y={-4}
        fontSize={11.5}
        fontWeight={600}
        fill="var(--color-base-content)"
        stroke="var(--color-base-100)"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {name}
      </text>
    </g>
  ));
}

function Rulers({ scales, mostM }: { scales: Scales; mostM: number }) {
  const { right, bottom } = scales;
  const { units } = useSession().settings;
  const ticksM = Array.from({ length: 7 }, (_, i) => (mostM * i) / 6);
  return (
    <g fontSize={11.5} fill="var(--muted)">
      {ticksM.map((m, i) => (
        <g key={m}>
          <path d={`M${scales.toX(m)} ${bottom}v5`} stroke="var(--muted)" />
          <text
            x={scales.toX(m)}
            y={bottom + 17}
            textAnchor={i === ticksM.length - 1 ? 'end' : 'middle'}
          >
            {lengthText(m, units, 'bar')}
          </text>
        </g>
      ))}
      {[0, 30, 60, 90, 120, 150, 180].map((deg) => (
        <g key={deg}>
          <path d={`M${PAD.left} ${scales.toY(deg)}h-5`} stroke="var(--muted)" />
          <text x={PAD.left - 9} y={scales.toY(deg) + 4} textAnchor="end">
            {deg}°
          </text>
        </g>
      ))}
      <text
        x={(PAD.left + right) / 2}
        y={bottom + PAD.bottom - 4}
        textAnchor="middle"
        fontSize={12}
      >
        spacing of the capsules
      </text>
      <text
        transform={`translate(12 ${(PAD.top + bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
        fontSize={12}
      >
        included angle
      </text>
    </g>
  );
}

/** The fields over spacing and angle, the present pair on them, moved by hand or keys. */
export function FieldsDrawing(props: {
  array: MicArray;
  pair: Pair;
  rows: readonly FieldRow[];
  mostM: number;
  forms: boolean;
  /** what lies between the fields and the point */
  over: (scales: Scales) => ReactNode;
}) {
  const { array, pair, rows, mostM, forms, over } = props;
  const id = useId();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const { units } = useSession().settings;
  const scales = useMemo(() => scalesOf(mostM, width, height), [mostM, width, height]);
  const gesture = useSessionGesture();
  const shapes = useMemo(
    () => (width > 0 ? fieldShapes(rows, scales.toX, scales.toY) : []),
    [rows, scales, width],
  );
  const words = useMemo(() => wordsOf(shapes, scales), [shapes, scales]);
  const at = (spacingM: number, deg: number): SessionTechnique => ({
    ...pair,
    spacingM: Math.round(clamp(spacingM, 0, mostM) * 1000) / 1000,
    includedAngleDeg: Math.round(clamp(deg, 0, MOST_DEG) * 10) / 10,
  });
  const bind = useDrag(
    ({ first, last, canceled, event, tap, xy: [clientX, clientY] }) => {
      if (tap) return;
      const frame = box.current?.getBoundingClientRect();
      const technique = at(
        scales.fromX(clientX - (frame?.left ?? 0)),
        scales.fromY(clientY - (frame?.top ?? 0)),
      );
      gesture.step({ first, last, canceled, event }, withTechnique(array, technique));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  function onKeyDown(event: KeyboardEvent) {
    const step = {
      ArrowLeft: [-0.001, 0],
      ArrowRight: [0.001, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const size = event.shiftKey ? 10 : 1;
    setTechnique(
      array,
      at(pair.spacingM + (step[0] ?? 0) * size, pair.includedAngleDeg + (step[1] ?? 0) * size),
    );
  }
  return (
    <div ref={box} style={{ minHeight: LEAST_HEIGHT }} className="relative flex-1 touch-none">
      {width > 0 && (
        <svg width={width} height={height} className="absolute inset-0 block">
          <defs>
            {Object.entries(HATCH).map(([verdict, hatch]) => (
              <pattern
                key={verdict}
                id={`${id}-${verdict}`}
                width={8}
                height={8}
                patternUnits="userSpaceOnUse"
              >
                {hatch}
              </pattern>
            ))}
          </defs>
          {shapes.map(({ verdict, path }) => (
            <path key={verdict} d={path} fill={`url(#${id}-${verdict})`} />
          ))}
          <rect
            x={PAD.left}
            y={PAD.top}
            width={scales.right - PAD.left}
            height={scales.bottom - PAD.top}
            fill="none"
            stroke="var(--hairline)"
          />
          <Rulers scales={scales} mostM={mostM} />
          <Customary pair={pair} scales={scales} mostM={mostM} words={words} />
          {over(scales)}
          {words.map((word) => (
            <WordOfField key={word.verdict} {...word} />
          ))}
          {forms && <NamedForms pair={pair} scales={scales} mostM={mostM} />}
          <g
            {...bind()}
            role="slider"
            tabIndex={0}
            aria-label="The present pair on the map"
            aria-valuenow={pair.includedAngleDeg}
            aria-valuetext={`spacing ${lengthText(pair.spacingM, units, 'bar')}, included angle ${angleText(pair.includedAngleDeg)}`}
            aria-valuemin={0}
            aria-valuemax={MOST_DEG}
            onKeyDown={onKeyDown}
            className="grab touch-none"
            transform={`translate(${scales.toX(pair.spacingM)} ${scales.toY(pair.includedAngleDeg)})`}
          >
            <circle r={20} fill="transparent" />
            <circle
              r={8}
              fill="var(--color-primary)"
              stroke="var(--color-base-100)"
              strokeWidth={2}
            />
          </g>
        </svg>
      )}
    </div>
  );
}
