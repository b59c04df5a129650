import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { fractionPoints, landings, placeCapsules } from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import { clamp, formatNumber, nearestOnStretch, planDistance, vec } from '../../../core/units';
import { type Projection, viewOf, projection, boxAround } from '../../../paper/projection';
import { useSize } from '../../parts/use-size';
import type { Row } from './aim-row';

interface Props {
  array: MicArray;
  row: Row;
  fractions: readonly number[];
  wanted: readonly [number, number];
  onWant: (wanted: [number, number]) => void;
}

const HEIGHT = 270;
const STEP = 0.01;

/** A text is set on the side to which it is pushed. */
const anchorOf = (push: number) => (push > 0.4 ? 'start' : push < -0.4 ? 'end' : 'middle');

interface TargetProps {
  index: 0 | 1;
  at: { x: number; y: number };
  fraction: number;
  /** where its label stands beside it, a unit vector on the screen */
  beside: { x: number; y: number };
  /** the fraction of the row nearest to a place on the screen */
  fractionAt: (px: number, py: number) => number;
  onMove: (fraction: number) => void;
}

/** A point of the row that an axis shall land on: dragged along it, or by the arrow keys. */
function Target({ index, at, fraction, beside, fractionAt, onMove }: TargetProps) {
  const grip = useRef<SVGGElement>(null);
  const bind = useDrag(
    ({ tap, xy: [clientX, clientY] }) => {
      const frame = grip.current?.ownerSVGElement?.getBoundingClientRect();
      if (tap || !frame) return;
      onMove(fractionAt(clientX - frame.left, clientY - frame.top));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const moved = fraction + by * STEP * (event.shiftKey ? 10 : 1);
    onMove(clamp(moved, 0, 1));
  };
  const name = index === 0 ? 'left' : 'right';
  return (
    <g
      {...bind()}
      ref={grip}
      role="slider"
      tabIndex={0}
      aria-label={`Where the ${name} axis shall land`}
      aria-valuenow={Math.round(fraction * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuetext={`${formatNumber(fraction * 100, 0)} % from the left`}
      className="grab touch-none"
      transform={`translate(${at.x} ${at.y})`}
      onKeyDown={onKeyDown}
    >
      <circle r={16} fill="transparent" />
      <path
        d="M0 -9 9 0 0 9-9 0Z"
        fill="var(--color-base-100)"
        stroke="var(--color-primary)"
        strokeWidth={2.2}
      />
      <text
        x={beside.x * 15}
        y={beside.y * 18 + 4}
        textAnchor={anchorOf(beside.x)}
        fontSize={12}
        fontWeight={600}
        fill="var(--color-primary)"
      >
        {formatNumber(fraction * 100, 0)} %
      </text>
    </g>
  );
}

/** The axes as they are, drawn as far as the row, or some way where they miss it. */
function Axes({ array, row, view }: Pick<Props, 'array' | 'row'> & { view: Projection }) {
  const met = landings(array, row.from, row.to);
  const reach = planDistance(row.to, row.from);
  return placeCapsules(array).map(({ label, position, axis }, i) => {
    const landing = met[i];
    const on = landing?.point && landing.fraction !== null;
    const end = on && landing.point ? landing.point : null;
    const to = end ?? { x: position.x + axis.x * reach, y: position.y + axis.y * reach };
    return (
      <g key={`${label}${i}`} pointerEvents="none">
        <line
          x1={view.toX(position.x)}
          y1={view.toY(position.y)}
          x2={view.toX(to.x)}
          y2={view.toY(to.y)}
          stroke="var(--color-base-content)"
          strokeWidth={1.4}
        />
        {end && (
          <circle
            cx={view.toX(end.x)}
            cy={view.toY(end.y)}
            r={3.5}
            fill="var(--color-base-content)"
          />
        )}
        <text
          x={view.toX(position.x)}
          y={view.toY(position.y) + 16}
          textAnchor="middle"
          fontSize={12}
          fontWeight={700}
          fill="var(--color-base-content)"
        >
          {label}
        </text>
      </g>
    );
  });
}

/** Row and array from above: the axes as they are, and two points to be moved along the row. */
export function AimDrawing({ array, row, fractions, wanted, onWant }: Props) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const view = projection(
    viewOf(boxAround([row.from, row.to, array], 0.6), Math.max(width, 100), HEIGHT),
    Math.max(width, 100),
    HEIGHT,
  );
  const at = (fraction: number) => {
    const [point] = fractionPoints(row.from, row.to, [fraction]);
    return { x: view.toX(point?.x ?? 0), y: view.toY(point?.y ?? 0) };
  };
  const [a, b] = [at(0), at(1)];
  const long = Math.max(1, planDistance(b, a));
  const along = { x: (b.x - a.x) / long, y: (b.y - a.y) / long };
  // Away from the array, where the axes come from the other side.
  const beside = { x: along.y, y: -along.x };
  const fractionAt = (px: number, py: number) => {
    const flat = ({ x, y }: { x: number; y: number }) => vec(x, y, 0);
    return Math.round(nearestOnStretch(vec(px, py, 0), flat(a), flat(b)).fraction * 200) / 200;
  };
  return (
    <div ref={box} className="pb-3">
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="group" aria-label={`${row.name} from above`}>
          <line
            x1={a.x}
            y1={a.y}
            x2={b.x}
            y2={b.y}
            stroke="var(--muted)"
            strokeWidth={5}
            strokeLinecap="round"
          />
          {fractions.map((fraction) => (
            <circle
              key={fraction}
              cx={at(fraction).x}
              cy={at(fraction).y}
              r={5}
              fill="var(--color-base-100)"
              stroke="var(--muted)"
              strokeWidth={2}
            />
          ))}
          {[
            { words: 'left end', end: a, push: -1 },
            { words: 'right end', end: b, push: 1 },
          ].map(({ words, end, push }) => (
            <text
              key={words}
              x={end.x + along.x * push * 12}
              y={end.y + along.y * push * 16 + 4}
              textAnchor={anchorOf(along.x * push)}
              fontSize={12}
              fill="var(--muted)"
            >
              {words}
            </text>
          ))}
          <Axes array={array} row={row} view={view} />
          {wanted.map((fraction, i) => {
            const index = i === 0 ? 0 : 1;
            return (
              <g key={index}>
                <line
                  x1={view.toX(array.x)}
                  y1={view.toY(array.y)}
                  x2={at(fraction).x}
                  y2={at(fraction).y}
                  stroke="var(--color-primary)"
                  strokeDasharray="5 4"
                  pointerEvents="none"
                />
                <Target
                  index={index}
                  at={at(fraction)}
                  fraction={fraction}
                  beside={beside}
                  fractionAt={fractionAt}
                  onMove={(moved) => onWant(index === 0 ? [moved, wanted[1]] : [wanted[0], moved])}
                />
              </g>
            );
          })}
        </svg>
      )}
    </div>
  );
}
