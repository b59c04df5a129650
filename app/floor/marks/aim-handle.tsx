import { useDrag } from '@use-gesture/react';
import type { KeyboardEvent } from 'react';
import type { MicArray, Session } from '../../../core/session';
import { angleText, cosDeg, sinDeg, toDeg, wrapDeg, clamp } from '../../../core/units';
import { changeArray } from '../../document/edits';
import { edit } from '../../document/session-store';
import { toolStore } from '../../view/floor-tools';
import { useSessionGesture } from '../../document/use-session-gesture';
import type { Plane } from './use-mark-drag';
import type { Projection } from '../../../paper/projection';

interface Props {
  session: Session;
  array: MicArray;
  view: Projection;
  plane: Plane;
}

const HANDLE_PX = 78;
const HOLD_DEG = 2;

const tenth = (deg: number): number => Math.round(deg * 10) / 10 || 0;

/** The azimuth of a player near an azimuth, so that an axis settles on a person. */
function heldAim(session: Session, array: MicArray, deg: number): { deg: number; name: string } {
  let best = { deg, name: '', off: HOLD_DEG };
  for (const { name, x, y } of session.sources) {
    const to = toDeg(Math.atan2(x - array.x, y - array.y));
    const off = Math.abs(wrapDeg(to - deg));
    if (off < best.off) best = { deg: to, name, off };
  }
  return best;
}

function aimFrom(session: Session, array: MicArray, dx: number, dy: number) {
  const { deg, name } = heldAim(session, array, toDeg(Math.atan2(dx, dy)));
  const words = name === '' ? [] : [`aims at ${name}`];
  toolStore.setState({ snapped: words.length ? { x: array.x, y: array.y, reasons: words } : null });
  return { aimDeg: tenth(deg) };
}

/** In the section the aim's slope is seen along the depth of the hall. */
function tiltFrom(array: MicArray, dy: number, dz: number) {
  const forward = Math.sign(cosDeg(array.aimDeg)) || 1;
  const tilt = toDeg(Math.atan2(dz, Math.max(dy * forward, 1e-6)));
  return { tiltDeg: tenth(clamp(tilt, -90, 90)) };
}

/** The handle at the end of an array's axis: drag or arrow keys turn it, in plan or section. */
export function AimHandle({ session, array, view, plane }: Props) {
  const gesture = useSessionGesture(() => toolStore.setState({ snapped: null }));
  const section = plane === 'section';
  const [x, y] = section
    ? [view.toX(array.y), view.toY(array.z)]
    : [view.toX(array.x), view.toY(array.y)];
  const forward = Math.sign(cosDeg(array.aimDeg)) || 1;
  const [dx, dy] = section
    ? [cosDeg(array.tiltDeg) * forward, -sinDeg(array.tiltDeg)]
    : [sinDeg(array.aimDeg), -cosDeg(array.aimDeg)];
  const bind = useDrag(
    ({ first, last, canceled, tap, xy: [clientX, clientY], event }) => {
      event.stopPropagation();
      if (tap) return;
      const frame = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
      const right = clientX - (frame?.left ?? 0) - x;
      const up = y - (clientY - (frame?.top ?? 0));
      if (!first && !gesture.active) return;
      const change = section ? tiltFrom(array, right, up) : aimFrom(session, array, right, up);
      gesture.step({ first, last, canceled, event }, changeArray(array.id, change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  function onKeyDown(event: KeyboardEvent) {
    const turn = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1 }[event.key];
    if (turn === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const step = turn * (event.shiftKey ? 10 : 1);
    const change = section
      ? { tiltDeg: clamp(array.tiltDeg + step, -90, 90) }
      : { aimDeg: tenth(wrapDeg(array.aimDeg + step)) };
    edit(changeArray(array.id, change));
  }
  const label = section
    ? `Tilt of ${array.name}, ${angleText(array.tiltDeg)}`
    : `Aim of ${array.name}, ${angleText(array.aimDeg)}`;
  return (
    <g>
      <line
        x1={x + dx * 26}
        y1={y + dy * 26}
        x2={x + dx * HANDLE_PX}
        y2={y + dy * HANDLE_PX}
        stroke="var(--color-primary)"
        strokeWidth={1.4}
        strokeDasharray="6 3"
        className="pointer-events-none"
      />
      <g
        {...bind()}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={section ? array.tiltDeg : array.aimDeg}
        aria-valuemin={section ? -90 : -360}
        aria-valuemax={section ? 90 : 360}
        className="grab touch-none"
        onKeyDown={onKeyDown}
        transform={`translate(${x + dx * HANDLE_PX} ${y + dy * HANDLE_PX})`}
      >
        <circle r={13} fill="transparent" />
        <circle r={6} fill="var(--color-base-100)" stroke="var(--color-primary)" strokeWidth={2} />
        <title>{label}. Drag or use the arrow keys.</title>
      </g>
    </g>
  );
}
