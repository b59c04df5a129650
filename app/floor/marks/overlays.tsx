import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import type { Session } from '../../../core/session';
import {
  formatNumber,
  lengthText,
  speedOfSound,
  type UnitSystem,
  planDistance,
} from '../../../core/units';
import { thingOf } from '../../document/things';
import { type MeasureEnd, toolStore } from '../../view/floor-tools';
import type { Marquee } from '../window/use-floor-view';
import type { Projection } from '../../../paper/projection';

/** What moves with the hand, in a layer above the drawing, so that only it is painted again. */
export function Overlay(props: { width: number; height: number; children: ReactNode }) {
  return (
    <svg
      width={props.width}
      height={props.height}
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 will-change-transform"
    >
      {props.children}
    </svg>
  );
}

/** A tag in the accent on the drawing. */
export function Tag({ x, y, text }: { x: number; y: number; text: string }) {
  const width = text.length * 6.9 + 14;
  return (
    <g className="pointer-events-none">
      <rect
        x={x - width / 2}
        y={y - 10}
        width={width}
        height={20}
        rx={2}
        fill="var(--color-primary)"
      />
      <text
        x={x}
        y={y + 4.5}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={600}
        fill="var(--color-primary-content)"
      >
        {text}
      </text>
    </g>
  );
}

/** Why the dragged mark stands where it stands. */
export function SnapReason({ view }: { view: Projection }) {
  const snapped = useStore(toolStore, (state) => state.snapped);
  if (!snapped) return null;
  const [x, y] = [view.toX(snapped.x), view.toY(snapped.y)];
  return (
    <g className="pointer-events-none">
      <path
        d={`M${x - 34} ${y}H${x - 20}M${x + 20} ${y}H${x + 34}M${x} ${y - 34}V${y - 20}M${x} ${y + 20}V${y + 34}`}
        stroke="var(--color-primary)"
      />
      <Tag x={x} y={y - 46} text={snapped.reasons.join(' · ')} />
    </g>
  );
}

interface End {
  x: number;
  y: number;
  z: number | null;
}

function endOf(session: Session, end: MeasureEnd): End | null {
  if ('kind' in end) return thingOf(session, end);
  return { ...end, z: null };
}

/** "3.74 m · 10.9 ms", and the straight line where heights differ. */
export function tapeText(a: End, b: End, units: UnitSystem, temperatureC: number): string {
  const plan = planDistance(a, b);
  const rise = a.z === null || b.z === null ? 0 : a.z - b.z;
  const straight = Math.hypot(plan, rise);
  const ms = (straight / speedOfSound(temperatureC)) * 1000;
  const line = straight - plan > 0.005 ? ` · straight ${lengthText(straight, units)}` : '';
  return `${lengthText(plan, units)}${line} · ${formatNumber(ms, 2)} ms`;
}

/** The tape between two things or points. */
export function MeasureLine({ session, view }: { session: Session; view: Projection }) {
  const ends = useStore(toolStore, (state) => state.measure);
  const [a, b] = ends.map((end) => endOf(session, end));
  if (!a) return null;
  const [ax, ay] = [view.toX(a.x), view.toY(a.y)];
  const dot = (x: number, y: number) => <circle cx={x} cy={y} r={4} fill="var(--color-primary)" />;
  if (!b) return <g className="pointer-events-none">{dot(ax, ay)}</g>;
  const [bx, by] = [view.toX(b.x), view.toY(b.y)];
  const text = tapeText(a, b, session.settings.units, session.venue.temperatureC);
  return (
    <g className="pointer-events-none">
      <line x1={ax} y1={ay} x2={bx} y2={by} stroke="var(--color-primary)" strokeWidth={1.6} />
      {dot(ax, ay)}
      {dot(bx, by)}
      <Tag x={(ax + bx) / 2} y={(ay + by) / 2} text={text} />
    </g>
  );
}

/** The rectangle that selects, while it is drawn. */
export function MarqueeBox({ marquee }: { marquee: Marquee | null }) {
  if (!marquee) return null;
  const { x0, y0, x1, y1 } = marquee;
  return (
    <rect
      className="pointer-events-none"
      x={Math.min(x0, x1)}
      y={Math.min(y0, y1)}
      width={Math.abs(x1 - x0)}
      height={Math.abs(y1 - y0)}
      fill="var(--color-primary)"
      fillOpacity={0.08}
      stroke="var(--color-primary)"
      strokeDasharray="4 3"
    />
  );
}
