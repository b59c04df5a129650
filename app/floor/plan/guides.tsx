import { memo, useMemo } from 'react';
import { useStore } from 'zustand';
import { distanceFactor } from '../../../core/acoustics';
import { contextOf } from '../../../core/analysis';
import { imageZones, prepareArray, type Zone } from '../../../core/localisation';
import { cosDeg, lengthText, sinDeg, speedOfSound } from '../../../core/units';
import { useFigures } from '../../figures/figures';
import { choiceStore } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { useSession } from '../../document/use-session';
import { freeSpot } from '../marks/label-placement';
import type { Projection } from '../../../paper/projection';

interface Props {
  view: Projection;
  reach: number;
  /** of an array that looks down: how far aside of it each angle lies, px */
  asidePx: ((deg: number) => number) | null;
}

/** Stripes of the floor that lie in a zone of an array's own plane, on either side, px aside. */
function stripesOf(
  { fromDeg, toDeg }: Zone,
  asidePx: (deg: number) => number,
  reach: number,
): [number, number][] {
  return [-360, 0, 360].flatMap((turn): [number, number][] => {
    const [from, to] = [Math.max(fromDeg + turn, -90), Math.min(toDeg + turn, 90)];
    if (to - from < 0.5) return [];
    const aside = (deg: number) => Math.max(-reach, Math.min(reach, asidePx(deg)));
    return [[aside(from), aside(to)]];
  });
}

function sector(x: number, y: number, from: number, to: number, reach: number): string {
  const steps = Math.max(2, Math.ceil((to - from) / 5));
  const points = Array.from({ length: steps + 1 }, (_, i) => {
    const deg = from + ((to - from) * i) / steps;
    return `${x + sinDeg(deg) * reach} ${y - cosDeg(deg) * reach}`;
  });
  return `M${x} ${y}L${points.join('L')}Z`;
}

/** Where a zone's word stands: along its middle first, nearer and farther, then aside of it. */
const LABEL_AWAY = [1, 0.75, 1.3, 0.55, 1.6] as const;
const LABEL_SHARES = [0.5, 0.35, 0.65, 0.25, 0.75] as const;

const ZONE_WORDS = { antiphase: 'antiphase', reversed: 'reversed' } as const;

const Zones = memo(function Zones(props: {
  zones: readonly Zone[];
  x: number;
  y: number;
  aimDeg: number;
  reach: number;
  labelAt: number;
  asidePx: Props['asidePx'];
  /** what no word may cover */
  marks: ReturnType<typeof marksOf>;
}) {
  const { zones, x, y, aimDeg, reach, labelAt, asidePx, marks } = props;
  if (asidePx) {
    return zones.flatMap((zone) =>
      stripesOf(zone, asidePx, reach).map(([from, to]) => {
        const ink = zone.kind === 'antiphase' ? 'var(--color-error)' : 'var(--color-warning)';
        return (
          <g key={`${zone.kind}${from}`} transform={`rotate(${aimDeg} ${x} ${y})`}>
            <rect
              x={x + from}
              y={y - reach}
              width={to - from}
              height={reach * 2}
              fill={ink}
              fillOpacity={0.1}
              stroke={ink}
              strokeOpacity={0.5}
              strokeDasharray={zone.kind === 'antiphase' ? '2 4' : '8 4'}
            />
            <text
              x={x + (Math.abs(from) < Math.abs(to) ? from + 44 : to - 44)}
              y={y - labelAt}
              textAnchor="middle"
              fontSize={12}
              fontWeight={600}
              fill={ink}
            >
              {ZONE_WORDS[zone.kind]}
            </text>
          </g>
        );
      }),
    );
  }
  return zones.map(({ kind, fromDeg, toDeg }) => {
    const at = (share: number, away: number) => {
      const deg = aimDeg + fromDeg + (toDeg - fromDeg) * share;
      return { x: x + sinDeg(deg) * labelAt * away, y: y - cosDeg(deg) * labelAt * away };
    };
    const label = freeSpot(
      [at(0.5, 1), ...LABEL_AWAY.flatMap((away) => LABEL_SHARES.map((share) => at(share, away)))],
      ZONE_WORDS[kind],
      marks,
    );
    return (
      <g key={`${kind}${fromDeg}`}>
        <path
          d={sector(x, y, aimDeg + fromDeg, aimDeg + toDeg, reach)}
          fill={kind === 'antiphase' ? 'var(--color-error)' : 'var(--color-warning)'}
          fillOpacity={0.1}
          stroke={kind === 'antiphase' ? 'var(--color-error)' : 'var(--color-warning)'}
          strokeOpacity={0.5}
          strokeDasharray={kind === 'antiphase' ? '2 4' : '8 4'}
        />
        <text
          x={label.x}
          y={label.y}
          textAnchor="middle"
          fontSize={12}
          fontWeight={600}
          fill={kind === 'antiphase' ? 'var(--color-error)' : 'var(--color-warning)'}
        >
          {ZONE_WORDS[kind]}
        </text>
      </g>
    );
  });
});

const Ring = memo(function Ring(props: {
  x: number;
  y: number;
  r: number;
  text: string;
  stroke: string;
  /** solid where it follows the hand: thousands of dashes are slow to paint */
  dash?: string;
  label: { x: number; y: number };
}) {
  const { x, y, r, text, stroke, dash, label } = props;
  return (
    <g>
      <circle
        cx={x}
        cy={y}
        r={r}
        fill="none"
        stroke={stroke}
        strokeOpacity={0.7}
        strokeDasharray={dash}
      />
      <text
        x={label.x}
        y={label.y}
        textAnchor="middle"
        fontSize={11.5}
        fill="var(--muted)"
        stroke="var(--color-base-100)"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {text}
      </text>
    </g>
  );
});

/** A place for a ring's label: on the ring, at an angle clockwise from up. */
const onRing = (x: number, y: number, r: number, deg: number) => ({
  x: x + sinDeg(deg) * r,
  // Outside the ring, above it or below.
  y: y - cosDeg(deg) * r + (cosDeg(deg) < -0.5 ? 13 : -4),
});

/** Angles from the array's axis at which the ring may carry its label, the best first. */
const RING_LABEL_DEG = [24, 40, 12, 56, 72, 90, 110, 130, 150, 180] as const;
const CLEAR_PX = 18;

const ROOM_LABEL_DEG = [118, -140, 140, 180, -90, 90, -60, 60] as const;

const marksOf = (list: readonly { x: number; y: number }[], view: Projection) =>
  list.map(({ x, y }) => ({ x: view.toX(x), y: view.toY(y), radius: CLEAR_PX }));

/** Zones without an ordinary image and the critical distance: what no player's move changes. */
export function Guides({ view, reach, asidePx }: Props) {
  const session = useSession();
  const { array, figures } = useFigures();
  const layers = useStore(toolStore, (state) => state.layers);
  const { units } = session.settings;
  const technique = array?.technique;
  const strips = array?.mix.capsules;
  const zones = useMemo(
    () =>
      technique && strips
        ? imageZones(
            prepareArray({ x: 0, y: 0, z: 0, aimDeg: 0, tiltDeg: 0, technique }, strips),
            speedOfSound(20),
          )
        : [],
    [technique, strips],
  );
  const marks = useMemo(() => marksOf(session.sources, view), [session.sources, view]);
  if (!array || !figures) return null;
  const [x, y] = [view.toX(array.x), view.toY(array.y)];
  const { criticalDistanceM } = contextOf(session);
  const patternA = figures.capsules[0]?.patternA ?? 1;
  const reachM = criticalDistanceM === null ? null : criticalDistanceM * distanceFactor(patternA);
  return (
    <g>
      {layers.zones && (
        <Zones
          zones={zones}
          x={x}
          y={y}
          aimDeg={array.aimDeg}
          reach={reach}
          labelAt={2.4 * view.scale}
          asidePx={asidePx}
          marks={marks}
        />
      )}
      {layers.criticalDistance && reachM !== null && (
        <Ring
          x={x}
          y={y}
          r={reachM * view.scale}
          text={`direct = room, ${lengthText(reachM, units)}`}
          stroke="var(--muted)"
          dash="9 5"
          label={freeSpot(
            [
              onRing(x, y, reachM * view.scale, array.aimDeg - 118),
              ...ROOM_LABEL_DEG.map((deg) => onRing(x, y, reachM * view.scale, array.aimDeg + deg)),
            ],
            `direct = room, ${lengthText(reachM, units)}`,
            [
              ...marks,
              ...session.arrays.flatMap((other) =>
                // A mark and, below it, the caption that is wider than the mark.
                [-70, 0, 70].map((dx) => ({
                  x: view.toX(other.x) + dx,
                  y: view.toY(other.y) + (dx === 0 ? 12 : 40),
                  radius: dx === 0 ? CLEAR_PX + 8 : 8,
                })),
              ),
            ],
          )}
        />
      )}
    </g>
  );
}

/** The ring of equal distance through the chosen player; it follows the hand, so it lies above. */
export function EqualDistanceRing({ view }: { view: Projection }) {
  const { settings, sources } = useSession();
  const { array, bySource } = useFigures();
  const shown = useStore(toolStore, (state) => state.layers.equalDistance);
  const selection = useStore(choiceStore, (state) => state.selection);
  const looked = selection?.kind === 'source' ? bySource.get(selection.id) : undefined;
  if (!array || !looked || !shown) return null;
  const [x, y] = [view.toX(array.x), view.toY(array.y)];
  const r = looked.planDistanceM * view.scale;
  const text = `equal distance, ${lengthText(looked.planDistanceM, settings.units)}`;
  const away = looked.azimuthDeg > 0 ? -1 : 1;
  const [first, ...others] = RING_LABEL_DEG;
  const spot = (deg: number) => onRing(x, y, r, array.aimDeg + away * deg);
  return (
    <Ring
      x={x}
      y={y}
      r={r}
      text={text}
      stroke="var(--color-primary)"
      label={freeSpot(
        [spot(first), ...others.flatMap((deg) => [spot(deg), spot(-deg)])],
        text,
        marksOf(sources, view),
      )}
    />
  );
}
