import { memo, type KeyboardEvent } from 'react';
import { anatomyOf } from '../../../core/ensembles';
import type { Source } from '../../../core/session';
import { cosDeg, sinDeg } from '../../../core/units';
import type { Badge } from '../../parts/groups';
import { hover } from '../../view/choice';
import { Outline } from './outline';
import { focused, nudge, type BindMark, type Plane } from './use-mark-drag';

export const MARK_RADIUS = 15;
/** In a crowd: the label and the table carry the name. */
export const SMALL_RADIUS = 8;
const CHARACTER_PX = 6.4;

/** Half the room that a mark takes on the drawing for what stands in it, px. */
export const halfWidth = (short: string): number =>
  Math.max(MARK_RADIUS, (short.length * CHARACTER_PX) / 2 + 6);

interface FaceProps {
  source: Source;
  badge: Badge;
  scale: number;
  radius: number;
  plane: Plane;
  selected: boolean;
  lit: boolean;
  /** a wish of the player is not kept */
  constraintBroken: boolean;
}

interface Props extends FaceProps {
  x: number;
  y: number;
  /** dragged: drawn in the layer above, and here only held by the pointer */
  lifted: boolean;
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

/** What a mark shows, around its own middle. */
export function SourceFace(props: FaceProps) {
  const { source, badge, scale, radius, plane, selected, lit } = props;
  const hue = badge.group.hue;
  const anatomy = anatomyOf(source);
  const named = radius >= MARK_RADIUS;
  const half = named ? halfWidth(badge.short) : radius;
  const [fx, fy] = [sinDeg(source.facingDeg), -cosDeg(source.facingDeg)];
  return (
    <>
      {plane === 'plan' && anatomy && (
        <Outline source={source} anatomy={anatomy} scale={scale} hue={hue} />
      )}
      {plane === 'plan' && !anatomy && source.widthM > 0 && (
        <Extent source={source} scale={scale} hue={hue} />
      )}
      {plane === 'plan' && (
        <line
          x1={fx * radius}
          y1={fy * radius}
          x2={fx * (radius + 6)}
          y2={fy * (radius + 6)}
          stroke={hue}
          strokeWidth={2}
        />
      )}
      {(selected || lit) && (
        <rect
          x={-half - 5}
          y={-radius - 5}
          width={half * 2 + 10}
          height={radius * 2 + 10}
          rx={radius + 5}
          fill="none"
          stroke="var(--color-primary)"
          strokeWidth={1.8}
          strokeDasharray={selected ? '3 3' : undefined}
        />
      )}
      <rect
        x={-half}
        y={-radius}
        width={half * 2}
        height={radius * 2}
        rx={radius}
        fill="var(--color-base-100)"
        stroke={hue}
        strokeWidth={2}
        strokeDasharray={badge.group.dash}
      />
      {named && (
        <text textAnchor="middle" y={4.5} fontSize={12} fontWeight={700} fill={hue}>
          {badge.short}
        </text>
      )}
      {props.constraintBroken && (
        <path
          d={`M${radius - 1} ${-radius - 9}l7 12h-14z`}
          fill="var(--color-base-100)"
          stroke="var(--color-warning)"
          strokeWidth={2}
        />
      )}
    </>
  );
}

const sameProps = (a: Props, b: Props): boolean =>
  (Object.keys(b) as (keyof Props)[]).every((key) => Object.is(a[key], b[key]));

export const SourceMark = memo(
  function SourceMark(props: Props) {
    const { source, x, y, plane, selected, description, lifted, bind } = props;
    const mark = { kind: 'source' as const, id: source.id };
    return (
      <g
        {...bind(mark)}
        role="button"
        tabIndex={0}
        aria-label={`${source.name}, ${description}${props.constraintBroken ? ', a wish is not kept' : ''}`}
        aria-pressed={selected}
        data-source={source.id}
        className="grab touch-none"
        transform={`translate(${x} ${y})`}
        opacity={lifted ? 0 : undefined}
        onFocus={(event) => focused(mark, event)}
        onKeyDown={(event: KeyboardEvent) => nudge(mark, event, plane)}
        onPointerEnter={() => hover(source.id)}
        onPointerLeave={() => hover(null)}
      >
        <SourceFace {...props} />
      </g>
    );
  },
  // While it is lifted, its picture above follows the hand; this one rests until it is put down.
  (before, after) => (before.lifted && after.lifted) || sameProps(before, after),
);
