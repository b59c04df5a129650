import type { KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import type { FacedRoom } from '../../../core/acoustics';
import { isPlainBox, roomOf, sectionAt, surfaceWords } from '../../../core/hall';
import type { MicArray, Session } from '../../../core/session';
import { placeCapsules } from '../../../core/arrays';
import { angleText, lengthText, type UnitSystem } from '../../../core/units';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { toolStore } from '../../view/floor-tools';
import { fieldKey } from '../../view/validity';
import { useFigures } from '../../figures/figures';
import { choiceStore, isSelected, select, selectMany } from '../../view/choice';
import { useLifted } from '../../figures/use-lifted';
import { useSession } from '../../document/use-session';
import { AimHandle } from '../marks/aim-handle';
import { MarqueeBox, Overlay } from '../marks/overlays';
import { Labels, LiftedMarks, SourceMarks } from '../marks/source-marks';
import { useFloorView } from '../window/use-floor-view';
import { focused, nudge, useMarkDrag, type BindMark } from '../marks/use-mark-drag';
import { type Projection, type Box, boxAround } from '../../../paper/projection';
import { ZoomButtons } from '../window/zoom-buttons';

/** Seen from the left of the hall: the audience left, upstage right, up is up. */
function wholeSide(session: Session): Box {
  const points = [
    ...session.sources.map(({ y, z }) => ({ x: y, y: z })),
    ...session.arrays.map(({ y, z }) => ({ x: y, y: z })),
    { x: 0, y: -0.2 },
    { x: session.venue.stage.depthM, y: 2 },
  ];
  return boxAround(points, 0.7);
}

/** Floor, walls, ceiling, and what stands on the floor, in profile. */
function Profile({
  session,
  view,
  width,
  cutX,
}: {
  session: Session;
  view: Projection;
  width: number;
  cutX: number;
}) {
  const room = roomOf(session);
  if (room && 'faces' in room) return <Cut room={room} view={view} cutX={cutX} />;
  return <BoxProfile session={session} view={view} width={width} />;
}

/** What an upright cut meets of a hall of faces: floor, ceiling, stage, seats, balconies. */
function Cut({ room, view, cutX }: { room: FacedRoom; view: Projection; cutX: number }) {
  const lines = sectionAt(room.faces, cutX);
  return (
    <g aria-hidden="true" fill="none">
      {room.solids.map(({ name, corners }) => {
        const [ys, zs] = [corners.map(({ y }) => y), corners.map(({ z }) => z)];
        const [left, right] = [view.toX(Math.min(...ys)), view.toX(Math.max(...ys))];
        const [top, bottom] = [view.toY(Math.max(...zs)), view.toY(Math.min(...zs))];
        // What the cut does not meet stands behind it, faintly.
        const met = lines.some(({ id }) => id.startsWith(name));
        return (
          <rect
            key={name}
            x={left}
            y={top}
            width={Math.max(1, right - left)}
            height={Math.max(1, bottom - top)}
            fill={met ? 'none' : 'var(--muted)'}
            fillOpacity={0.06}
          >
            <title>{name}</title>
          </rect>
        );
      })}
      {lines.map(({ id, from, to }, i) => (
        <line
          key={i}
          x1={view.toX(from.x)}
          y1={view.toY(from.y)}
          x2={view.toX(to.x)}
          y2={view.toY(to.y)}
          stroke={/^(floor|stage|seats)/.test(id) ? 'var(--color-base-content)' : 'var(--muted)'}
          strokeWidth={/^(floor|stage|seats)/.test(id) ? 2 : 3}
        >
          <title>{surfaceWords(room, id)}</title>
        </line>
      ))}
      <path
        d={`M${view.toX(0)} ${view.toY(0)}v10`}
        stroke="var(--color-base-content)"
        strokeWidth={2}
      />
      <text
        x={view.toX(0)}
        y={view.toY(0) + 22}
        fontSize={12}
        textAnchor="middle"
        fill="var(--muted)"
      >
        stage edge
      </text>
    </g>
  );
}

function BoxProfile({
  session,
  view,
  width,
}: {
  session: Session;
  view: Projection;
  width: number;
}) {
  const { depthM, heightM, origin, obstacles } = session.venue;
  const floor = view.toY(0);
  const front = origin ? -origin.y : null;
  const top = heightM === null ? null : view.toY(heightM);
  return (
    <g aria-hidden="true" fill="none">
      {obstacles.map(({ id, name, y, depthM: deep, widthM, heightM: high, turnDeg, kind }) => {
        const turn = (turnDeg * Math.PI) / 180;
        const size = Math.abs(deep * Math.cos(turn)) + Math.abs(widthM * Math.sin(turn));
        return (
          <rect
            key={id}
            x={view.toX(y - size / 2)}
            y={view.toY(high)}
            width={size * view.scale}
            height={high * view.scale}
            stroke="var(--muted)"
            fill="var(--muted)"
            fillOpacity={kind === 'column' || kind === 'wall' ? 0.25 : 0.08}
          >
            <title>{name}</title>
          </rect>
        );
      })}
      <line
        x1={0}
        x2={width}
        y1={floor}
        y2={floor}
        stroke="var(--color-base-content)"
        strokeWidth={2}
      />
      {top !== null && (
        <line x1={0} x2={width} y1={top} y2={top} stroke="var(--muted)" strokeWidth={3} />
      )}
      {front !== null && depthM !== null && (
        <path
          d={`M${view.toX(front)} ${floor}V${top ?? 0}M${view.toX(front + depthM)} ${floor}V${top ?? 0}`}
          stroke="var(--muted)"
          strokeWidth={3}
        />
      )}
      <path d={`M${view.toX(0)} ${floor}v10`} stroke="var(--color-base-content)" strokeWidth={2} />
      <text x={view.toX(0)} y={floor + 22} fontSize={12} textAnchor="middle" fill="var(--muted)">
        stage edge
      </text>
    </g>
  );
}

const FOOT = 0.3048;

/** Heights and depths, ruled from floor and stage edge. */
function Rulers(props: { view: Projection; width: number; height: number; units: UnitSystem }) {
  const { view, width, height, units } = props;
  const step = units === 'metric' ? (view.scale > 45 ? 0.5 : 1) : (view.scale > 45 ? 2 : 5) * FOOT;
  const count = Math.min(60, Math.ceil(Math.max(0, view.fromY(0)) / step));
  const from = Math.ceil(view.fromX(0) / step);
  const across = Math.min(200, Math.max(0, Math.floor(view.fromX(width) / step) - from + 1));
  return (
    <g aria-hidden="true">
      {Array.from({ length: count }, (_, i) => (i + 1) * step).map((z) => (
        <g key={z}>
          <line x1={0} x2={width} y1={view.toY(z)} y2={view.toY(z)} stroke="var(--hairline)" />
          <text x={4} y={view.toY(z) - 3} fontSize={11.5} fill="var(--muted)">
            {lengthText(z, units)}
          </text>
        </g>
      ))}
      {Array.from({ length: across }, (_, i) => (from + i) * step).map((y) => (
        <line
          key={y}
          y1={0}
          y2={Math.min(height, view.toY(0))}
          x1={view.toX(y)}
          x2={view.toX(y)}
          stroke="var(--hairline)"
          strokeOpacity={0.7}
        />
      ))}
    </g>
  );
}

interface ArrayProps {
  array: MicArray;
  active: boolean;
  chosen: boolean;
  view: Projection;
  units: UnitSystem;
  bind: BindMark;
}

function ArrayProfile({ array, active, chosen, view, units, bind }: ArrayProps) {
  const mark = { kind: 'array' as const, id: array.id };
  const ink = active ? 'var(--color-base-content)' : 'var(--muted)';
  const [x, y] = [view.toX(array.y), view.toY(array.z)];
  const caption = `${array.name} · ${lengthText(array.z, units)} up · tilt ${angleText(array.tiltDeg)}`;
  return (
    <g>
      <line
        x1={x}
        x2={x}
        y1={y}
        y2={view.toY(0)}
        stroke={ink}
        strokeOpacity={0.5}
        strokeDasharray="3 3"
      />
      <g
        {...bind(mark)}
        role="button"
        tabIndex={0}
        data-array={array.id}
        aria-label={`${caption}, in the section`}
        aria-pressed={chosen}
        className="grab touch-none"
        onFocus={(event) => focused(mark, event)}
        onKeyDown={(event: KeyboardEvent) => nudge(mark, event, 'section')}
        transform={`translate(${x} ${y})`}
        opacity={array.enabled ? 1 : 0.45}
      >
        <circle r={20} fill="transparent" />
        {chosen && (
          <circle
            r={21}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={1.8}
            strokeDasharray="3 3"
          />
        )}
        {placeCapsules(array).map(({ position, axis, label }, index) => {
          const cx = (position.y - array.y) * view.scale;
          const cy = -(position.z - array.z) * view.scale;
          return (
            <line
              key={`${label}${index}`}
              x1={cx}
              y1={cy}
              x2={cx + axis.y * 15}
              y2={cy - axis.z * 15}
              stroke={ink}
              strokeWidth={4.5}
              strokeLinecap="round"
            />
          );
        })}
      </g>
    </g>
  );
}

/** Where a hall that is no box is cut. */
function CutField() {
  const { venue, settings } = useSession();
  const cutX = useStore(toolStore, (state) => state.cutX);
  if (isPlainBox(venue)) return null;
  return (
    <div className="bg-base-200/90 border-hairline absolute bottom-2 left-2 w-64 rounded-[3px] border px-2">
      <QuantityField
        label="Cut, right"
        fieldKey={fieldKey('cut', '', 'x')}
        kind={lengthKind('positionM', settings.units)}
        value={cutX}
        onCommit={(value) => value !== null && toolStore.setState({ cutX: value })}
      />
    </div>
  );
}

/** The section to scale: heights, tilt, risers; everything drags up and down as well. */
export function SideDrawing() {
  const session = useSession();
  const { units } = session.settings;
  const { array } = useFigures();
  const selected = useStore(choiceStore, (state) => state.selected);
  const cutX = useStore(toolStore, (state) => state.cutX);
  const { box, width, height, shown, marquee, zoom, showAll, onKeyDown } = useFloorView({
    whole: () => wholeSide(session),
    onTapGround: () => select(null),
    onMarquee: ({ minX, maxX, minY, maxY }) =>
      selectMany(
        session.sources
          .filter(({ y, z }) => y >= minX && y <= maxX && z >= minY && z <= maxY)
          .map(({ id }) => ({ kind: 'source' as const, id })),
      ),
  });
  const bind = useMarkDrag(shown?.scale ?? 1, 'section');
  const aimed = session.arrays.find(({ id }) => isSelected(selected, 'array', id));
  const lifted = useLifted();
  const sized = { width, height };
  return (
    <div
      ref={box}
      className="bg-base-100 absolute inset-0 touch-none overflow-hidden contain-strict will-change-transform"
      onKeyDown={onKeyDown}
      data-drawing
      tabIndex={0}
      role="group"
      aria-label="Ground of the section: arrow keys move the view, plus and minus zoom, 0 shows all"
    >
      {shown && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Side view; the audience is at the left"
          className="block"
        >
          <rect data-ground width={width} height={height} fill="transparent" />
          <g className="pointer-events-none">
            <Rulers view={shown} width={width} height={height} units={units} />
            <Profile session={session} view={shown} width={width} cutX={cutX} />
            <Labels {...sized} session={session} view={shown} looked={false} plane="section" />
          </g>
          {session.arrays.map((entry) => (
            <ArrayProfile
              key={entry.id}
              array={entry}
              active={entry.id === array?.id}
              chosen={isSelected(selected, 'array', entry.id)}
              view={shown}
              units={units}
              bind={bind}
            />
          ))}
          <SourceMarks session={session} view={shown} bind={bind} lifted={lifted} plane="section" />
          {aimed && <AimHandle session={session} array={aimed} view={shown} plane="section" />}
        </svg>
      )}
      {shown && (
        <Overlay width={width} height={height}>
          <LiftedMarks session={session} view={shown} lifted={lifted} plane="section" />
          <Labels {...sized} session={session} view={shown} looked plane="section" />
          <MarqueeBox marquee={marquee} />
        </Overlay>
      )}
      <CutField />
      <ZoomButtons zoom={zoom} showAll={showAll} />
    </div>
  );
}
