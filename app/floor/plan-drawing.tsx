import { useGesture } from '@use-gesture/react';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { angleText, cosDeg, lengthText, type UnitSystem } from '../../core/units';
import type { SourceFigures } from '../../core/analysis';
import type { Session } from '../../core/session';
import { useGrouping } from '../parts/groups';
import { arrayCaption } from '../parts/technique-text';
import { useSize } from '../parts/use-size';
import { useFigures } from '../state/figures';
import { select, uiStore } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { ArrayMark } from './array-mark';
import { placeLabels } from './label-placement';
import { PolarGrid } from './polar-grid';
import { RecordingAngleField, RecordingAngleRules } from './recording-angle-rules';
import { SourceLabel } from './source-label';
import { MARK_RADIUS, SourceMark } from './source-mark';
import { StageLines } from './stage-lines';
import { useMarkDrag } from './use-mark-drag';
import { boxAround, projection, viewOf, zoomAt, type Projection, type View } from './view';

function wholeView(session: Session, width: number, height: number): View {
  const half = session.venue.stage.widthM / 2;
  const points = [
    ...session.sources,
    ...session.arrays,
    { x: -half, y: 0 },
    { x: half, y: session.sources.length > 0 ? 0 : session.venue.stage.depthM },
  ];
  return viewOf(boxAround(points, 0.9), width, height);
}

/** "3.74 m · 54.3° R" */
export function bearing(figures: SourceFigures | undefined, units: UnitSystem): string {
  if (!figures) return 'no figure';
  const side = figures.azimuthDeg < -0.05 ? ' L' : figures.azimuthDeg > 0.05 ? ' R' : '';
  return `${lengthText(figures.distanceM, units)} · ${angleText(Math.abs(figures.azimuthDeg))}${side}`;
}

/** A strong line from the array to the player that is looked at, with distance and angle. */
function BearingTag(props: {
  from: { x: number; y: number };
  to: { x: number; y: number };
  text: string;
}) {
  const { from, to, text } = props;
  const x = from.x + (to.x - from.x) * 0.5;
  const y = from.y + (to.y - from.y) * 0.5;
  const width = text.length * 7 + 14;
  return (
    <g className="pointer-events-none">
      <line
        x1={from.x}
        y1={from.y}
        x2={to.x}
        y2={to.y}
        stroke="var(--color-primary)"
        strokeWidth={1.2}
      />
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

function useView(session: Session, width: number, height: number) {
  const [view, setView] = useState<View | null>(null);
  // Shown whole once, when the size is first known; after that only the user moves the view.
  if (view === null && width > 0 && height > 0) setView(wholeView(session, width, height));
  return [view, setView] as const;
}

interface Marks {
  session: Session;
  units: UnitSystem;
  view: Projection;
}

function SourceMarks({ session, units, view }: Marks) {
  const live = useFigures();
  const selection = useStore(uiStore, (state) => state.selection);
  const hovered = useStore(uiStore, (state) => state.hoveredSourceId);
  const { badges } = useGrouping(session.sources);
  const bind = useMarkDrag(view.scale);
  return session.sources.map((source) => {
    const badge = badges.get(source.id);
    if (!badge) return null;
    return (
      <SourceMark
        key={source.id}
        source={source}
        badge={badge}
        x={view.toX(source.x)}
        y={view.toY(source.y)}
        scale={view.scale}
        selected={selection?.id === source.id}
        lit={hovered === source.id}
        description={bearing(live.bySource.get(source.id), units)}
        bind={bind}
      />
    );
  });
}

/**
 * The names beside the marks. Those of the players that are looked at are drawn with the marks,
 * all others in a layer of their own, which stands still while one player moves.
 */
function SourceLabels({ session, view, looked }: Omit<Marks, 'units'> & { looked: boolean }) {
  const selection = useStore(uiStore, (state) => state.selection);
  const hovered = useStore(uiStore, (state) => state.hoveredSourceId);
  const isLooked = (id: string) => id === hovered || id === selection?.id;
  const labels = placeLabels(
    session.sources.map((source) => ({
      id: source.id,
      x: view.toX(source.x),
      y: view.toY(source.y),
      radius: MARK_RADIUS,
      text: source.name,
      // Away from the tick that shows where the player faces.
      prefer: cosDeg(source.facingDeg) < 0 ? ('above' as const) : ('below' as const),
      important: isLooked(source.id),
    })),
  );
  return session.sources.map(({ id, name }) => {
    const label = labels.get(id);
    if (!label || isLooked(id) !== looked) return null;
    return <SourceLabel key={id} name={name} x={label.x} y={label.y} anchor={label.anchor} />;
  });
}

interface Ground {
  width: number;
  height: number;
  view: Projection;
}

/** Where the rules start and how wide they open; the array's place in pixels. */
function useAngleField({ width, height, view }: Ground) {
  const { array, figures } = useFigures();
  const school = useSession().settings.school;
  const angles = figures?.inPlace ?? figures?.farField;
  const half = (angles?.[school] ?? angles?.traded)?.halfDeg ?? null;
  // Drawn as it is written, to a tenth: what does not change on paper is not painted again.
  const halfDeg = half === null ? null : Math.round(half * 10) / 10;
  return {
    x: view.toX(array?.x ?? 0),
    y: view.toY(array?.y ?? 0),
    aimDeg: array?.aimDeg ?? 0,
    reach: Math.hypot(width, height) * 1.5,
    halfDeg: array ? halfDeg : null,
  };
}

/**
 * What stands under the marks, in layers of their own: hatching, field and grid are not painted
 * again while something moves above them.
 */
function GroundLayers(ground: Ground) {
  const { width, height, view } = ground;
  const session = useSession();
  const { units } = session.settings;
  const field = useAngleField(ground);
  const { x, y, aimDeg, reach, halfDeg } = field;
  return (
    <div aria-hidden="true" className="pointer-events-none absolute inset-0 will-change-transform">
      {halfDeg !== null && (
        <>
          <div className="ground-hatch absolute inset-0" />
          <svg width={width} height={height} className="absolute inset-0">
            <RecordingAngleField x={x} y={y} aimDeg={aimDeg} reach={reach} halfDeg={halfDeg} />
          </svg>
        </>
      )}
      <svg width={width} height={height} className="absolute inset-0">
        <PolarGrid x={x} y={y} aimDeg={aimDeg} scale={view.scale} reach={reach} units={units} />
        <StageLines venue={session.venue} view={view} />
        <SourceLabels session={session} view={view} looked={false} />
      </svg>
    </div>
  );
}

/** The rules of the recording angle, and the bearing of the player that is looked at. */
function Rules(ground: Ground) {
  const { height, view } = ground;
  const session = useSession();
  const live = useFigures();
  const selection = useStore(uiStore, (state) => state.selection);
  const hovered = useStore(uiStore, (state) => state.hoveredSourceId);
  const field = useAngleField(ground);
  const looked = session.sources.find(
    ({ id }) => id === (hovered ?? (selection?.kind === 'source' ? selection.id : null)),
  );
  const lookedAt = looked && live.bySource.get(looked.id);
  return (
    <g className="pointer-events-none">
      {field.halfDeg !== null && (
        <RecordingAngleRules
          x={field.x}
          y={field.y}
          aimDeg={field.aimDeg}
          reach={field.reach}
          halfDeg={field.halfDeg}
          labelAt={Math.min(height * 0.62, 4.2 * view.scale)}
        />
      )}
      {looked && lookedAt && (
        <BearingTag
          from={field}
          to={{ x: view.toX(looked.x), y: view.toY(looked.y) }}
          text={bearing(lookedAt, session.settings.units)}
        />
      )}
    </g>
  );
}

/** The plan to scale, ruled from the active array; players and arrays drag and nudge. */
export function PlanDrawing() {
  const session = useSession();
  const { units } = session.settings;
  const { array } = useFigures();
  const selection = useStore(uiStore, (state) => state.selection);
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [view, setView] = useView(session, width, height);
  const shown = useMemo(
    () => (view ? projection(view, width, height) : null),
    [view, width, height],
  );
  const bind = useMarkDrag(view?.scale ?? 1);

  const zoom = (factor: number, px = width / 2, py = height / 2) =>
    setView((known) => known && zoomAt(known, factor, px, py, width, height));

  useGesture(
    {
      onDrag: ({ delta: [dx, dy], tap, event }) => {
        if (
          event.target !== event.currentTarget &&
          !(event.target as Element).matches('[data-ground]')
        )
          return;
        if (tap) return select(null);
        setView(
          (known) =>
            known && { ...known, x: known.x - dx / known.scale, y: known.y + dy / known.scale },
        );
      },
      onWheel: ({ event, delta: [, dy] }) => {
        event.preventDefault();
        const frame = box.current?.getBoundingClientRect();
        zoom(
          Math.exp(-dy * 0.0012),
          event.clientX - (frame?.left ?? 0),
          event.clientY - (frame?.top ?? 0),
        );
      },
      onPinch: ({ delta: [factor], origin: [px, py], event }) => {
        event.preventDefault();
        const frame = box.current?.getBoundingClientRect();
        zoom(1 + factor, px - (frame?.left ?? 0), py - (frame?.top ?? 0));
      },
    },
    {
      target: box,
      drag: { filterTaps: true, pointer: { keys: false } },
      wheel: { eventOptions: { passive: false } },
    },
  );

  function onKeyDown(event: KeyboardEvent) {
    if (event.key === '+' || event.key === '=') zoom(1.25);
    else if (event.key === '-') zoom(0.8);
    else if (event.key === '0') setView(wholeView(session, width, height));
    else return;
    event.preventDefault();
  }

  return (
    <div
      ref={box}
      className="bg-base-100 absolute inset-0 touch-none overflow-hidden contain-strict"
      onKeyDown={onKeyDown}
    >
      {shown && <GroundLayers view={shown} width={width} height={height} />}
      {shown && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Plan, seen from above; the audience is at the bottom"
          className="relative block will-change-transform"
        >
          <rect data-ground width={width} height={height} fill="transparent" />
          <Rules view={shown} width={width} height={height} />
          {session.arrays.map((entry) => (
            <ArrayMark
              key={entry.id}
              array={entry}
              active={entry.id === array?.id}
              selected={selection?.id === entry.id}
              projection={shown}
              caption={arrayCaption(entry, units)}
              bind={bind}
            />
          ))}
          <SourceMarks session={session} units={units} view={shown} />
          <SourceLabels session={session} view={shown} looked />
        </svg>
      )}
      <div className="absolute right-3 bottom-3 flex">
        <button className="btn btn-sm btn-ghost" onClick={() => zoom(0.8)} aria-label="Zoom out">
          −
        </button>
        <button
          className="btn btn-sm btn-ghost"
          onClick={() => setView(wholeView(session, width, height))}
        >
          Show all
        </button>
        <button className="btn btn-sm btn-ghost" onClick={() => zoom(1.25)} aria-label="Zoom in">
          +
        </button>
      </div>
    </div>
  );
}
