import { memo, type KeyboardEvent } from 'react';
import type { Source } from '../../core/session';
import { cosDeg, sinDeg } from '../../core/units';
import type { Badge } from '../parts/groups';
import { hover, select } from '../state/ui-store';
import { nudge, type BindMark } from './use-mark-drag';

export const MARK_RADIUS = 15;

interface Props {
  source: Source;
  badge: Badge;
  x: number;
  y: number;
  scale: number;
  selected: boolean;
  lit: boolean;
  /** what assistive technology reads after the name */
  description: string;
  bind: BindMark;
}

/** The sounding width as an open bar across the way the player faces. */
function Extent({ source, scale, hue }: { source: Source; scale: number; hue: string }) {
  const half = (source.widthM / 2) * scale;
  return (
    <rect
      x={-half}
      y={-4}
      width={half * 2}
      height={8}
      rx={2}
      fill="none"
      stroke={hue}
      strokeWidth={1.4}
      transform={`rotate(${source.facingDeg})`}
    />
  );
}

export const SourceMark = memo(function SourceMark(props: Props) {
  const { source, badge, x, y, scale, selected, lit, description, bind } = props;
  const hue = badge.group.hue;
  const mark = { kind: 'source' as const, id: source.id, x: source.x, y: source.y };
  const [fx, fy] = [sinDeg(source.facingDeg), -cosDeg(source.facingDeg)];
  return (
    <g
      {...bind(mark)}
      role="button"
      tabIndex={0}
      aria-label={`${source.name}, ${description}`}
      aria-pressed={selected}
      data-source={source.id}
      className="grab touch-none"
      transform={`translate(${x} ${y})`}
      onFocus={() => select(mark)}
      onKeyDown={(event: KeyboardEvent) => nudge(mark, event)}
      onPointerEnter={() => hover(source.id)}
      onPointerLeave={() => hover(null)}
    >
      {source.widthM > 0 && <Extent source={source} scale={scale} hue={hue} />}
      <line
        x1={fx * MARK_RADIUS}
        y1={fy * MARK_RADIUS}
        x2={fx * (MARK_RADIUS + 6)}
        y2={fy * (MARK_RADIUS + 6)}
        stroke={hue}
        strokeWidth={2}
      />
      {(selected || lit) && (
        <circle
          r={MARK_RADIUS + 5}
          fill="none"
          stroke="var(--color-primary)"
          strokeWidth={1.8}
          strokeDasharray={selected ? '3 3' : undefined}
        />
      )}
      <circle
        r={MARK_RADIUS}
        fill="var(--color-base-100)"
        stroke={hue}
        strokeWidth={2}
        strokeDasharray={badge.group.dash}
      />
      <text textAnchor="middle" y={4.5} fontSize={12} fontWeight={700} fill={hue}>
        {badge.short}
      </text>
    </g>
  );
});
