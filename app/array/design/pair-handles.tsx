import { useDrag } from '@use-gesture/react';
import type { KeyboardEvent } from 'react';
import type { MicArray } from '../../../core/session';
import { cosDeg, sinDeg, toDeg, clamp } from '../../../core/units';
import { setTechnique, withTechnique } from '../../document/edits';
import { useSessionGesture, type DragStep } from '../../document/use-session-gesture';

/** Radius at which a pattern is drawn on its axis, px. */
export const LOBE_PX = 74;

type Pair = Extract<MicArray['technique'], { kind: 'pair' }>;

interface HandleProps {
  array: MicArray;
  pair: Pair;
  side: -1 | 1;
  cx: number;
  cy: number;
  scale: number;
  /** the scale stands still while a capsule is moved */
  onHold: (held: boolean) => void;
}

const MOST_BAR_M = 5;

/** A capsule that moves along the bar, and its axis that turns; the other side mirrors it. */
export function PairHandles({ array, pair, side, cx, cy, scale, onHold }: HandleProps) {
  const gesture = useSessionGesture(() => onHold(false));
  const name = side < 0 ? 'left' : 'right';
  const x = cx + side * (pair.spacingM / 2) * scale;
  const half = (side * pair.includedAngleDeg) / 2;
  const tip = {
    x: x + sinDeg(half) * (LOBE_PX + 62),
    y: cy - cosDeg(half) * (LOBE_PX + 62),
  };
  const spaced = (spacingM: number): Pair => ({
    ...pair,
    spacingM: Math.round(clamp(spacingM, 0, MOST_BAR_M) * 1000) / 1000,
  });
  const turned = (deg: number): Pair => ({
    ...pair,
    includedAngleDeg: Math.round(clamp(deg, 0, 360) * 10) / 10,
  });
  const follow = (step: DragStep, technique: Pair) => {
    if (step.first) onHold(true);
    gesture.step(step, withTechnique(array, technique));
  };
  const bindCapsule = useDrag(
    ({ first, last, canceled, event, tap, movement: [dx], memo }) => {
      if (tap) return;
      const from = (memo as number | undefined) ?? pair.spacingM;
      follow(
        { first, last, canceled, event },
        spaced(from + (2 * side * dx) / Math.max(scale, 200)),
      );
      return from;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const bindAxis = useDrag(
    ({ first, last, canceled, tap, xy: [clientX, clientY], event }) => {
      if (tap) return;
      const frame = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
      const right = clientX - (frame?.left ?? 0) - x;
      const up = cy - (clientY - (frame?.top ?? 0));
      follow({ first, last, canceled, event }, turned(2 * side * toDeg(Math.atan2(right, up))));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const keys = (event: KeyboardEvent, change: (by: number) => Pair, step: number) => {
    const by = { ArrowLeft: -side, ArrowRight: side, ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    setTechnique(array, change(by * step * (event.shiftKey ? 10 : 1)));
  };
  return (
    <>
      <g
        {...bindCapsule()}
        role="slider"
        tabIndex={0}
        aria-label={`Spacing, by the ${name} capsule`}
        aria-valuenow={pair.spacingM}
        aria-valuemin={0}
        aria-valuemax={MOST_BAR_M}
        className="grab touch-none"
        onKeyDown={(event) => keys(event, (by) => spaced(pair.spacingM + by), 0.002)}
        transform={`translate(${x} ${cy})`}
      >
        <circle r={18} fill="transparent" />
      </g>
      <g
        {...bindAxis()}
        role="slider"
        tabIndex={0}
        aria-label={`Included angle, by the ${name} axis`}
        aria-valuenow={pair.includedAngleDeg}
        aria-valuemin={0}
        aria-valuemax={360}
        className="grab touch-none"
        onKeyDown={(event) => keys(event, (by) => turned(pair.includedAngleDeg + by), 2)}
        transform={`translate(${tip.x} ${tip.y})`}
      >
        <circle r={13} fill="transparent" />
        <circle r={5} fill="var(--color-base-100)" stroke="var(--color-primary)" strokeWidth={2} />
      </g>
    </>
  );
}
