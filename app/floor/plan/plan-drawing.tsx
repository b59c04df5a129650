import { lazy, memo, Suspense, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { planCorners } from '../../../core/hall';
import type { Session } from '../../../core/session';
import { lengthText } from '../../../core/units';
import { arrayCaption } from '../../parts/technique-text';
import { Behind } from '../../figures/behind';
import { useFigures } from '../../figures/figures';
import { closeTrace, untrace } from '../../document/hall-shape';
import { clickGround } from '../../document/underlay';
import { sessionStore } from '../../document/session-store';
import { type Selection, choiceStore, isSelected, selectMany } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { useLifted } from '../../figures/use-lifted';
import { useSession } from '../../document/use-session';
import { AimHandle } from '../marks/aim-handle';
import { ArrayMark } from '../marks/array-mark';
import { GroundLayers, useAngleField, useRuleLabels, type Ground } from './ground-layers';
import { EqualDistanceRing } from './guides';
import { MarqueeBox, MeasureLine, Overlay, SnapReason, Tag } from '../marks/overlays';
import { RecordingAngleRules } from './recording-angle-rules';
import { bearing, Labels, LiftedMarks, SourceMarks } from '../marks/source-marks';
import { useFloorView } from '../window/use-floor-view';
import { useMarkDrag, type BindMark } from '../marks/use-mark-drag';
import { DatumMarks, ObstacleMarks, SeatMarks } from '../marks/venue-marks';
import { type Projection, type Box, boxAround } from '../../../paper/projection';
import { ZoomButtons } from '../window/zoom-buttons';

// Who works on the walls waits for their marks, nobody else.
const corners = () => import('../marks/corner-marks');
const CornerMarks = lazy(() => corners().then((module) => ({ default: module.CornerMarks })));
const TraceLine = lazy(() => corners().then((module) => ({ default: module.TraceLine })));

/** Whether somebody works on the walls. */
const useWalls = (): boolean =>
  useStore(toolStore, ({ tool }) => tool === 'corners' || tool === 'trace');

function wholePlan(session: Session | null): Box {
  if (!session) return boxAround([], 0.9);
  const half = session.venue.stage.widthM / 2;
  const points = [
    ...session.sources,
    ...session.arrays,
    { x: -half, y: 0 },
    { x: half, y: session.sources.length > 0 ? 0 : session.venue.stage.depthM },
    // Who works on the walls sees all of them.
    ...(toolStore.getState().tool === 'corners' ? (planCorners(session.venue) ?? []) : []),
  ];
  return boxAround(points, 0.9);
}

const isIn = ({ minX, maxX, minY, maxY }: Box, { x, y }: { x: number; y: number }): boolean =>
  x >= minX && x <= maxX && y >= minY && y <= maxY;

function selectInside(session: Session | null, box: Box): void {
  if (!session) return;
  const inside = (kind: Selection['kind'], list: readonly { id: string; x: number; y: number }[]) =>
    list.filter((entry) => isIn(box, entry)).map(({ id }) => ({ kind, id }));
  selectMany([...inside('array', session.arrays), ...inside('source', session.sources)]);
}

/** The player under the pointer, else the one chosen. */
function useLooked() {
  const { sources } = useSession();
  const selection = useStore(choiceStore, (state) => state.selection);
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  const id = hovered ?? (selection?.kind === 'source' ? selection.id : null);
  return sources.find((source) => source.id === id);
}

/** From the array to the player that is looked at: the ring of equal distance and the bearing. */
function Sight({ view }: { view: Projection }) {
  const { array } = useFigures();
  const looked = useLooked();
  return (
    <g className="pointer-events-none">
      <EqualDistanceRing view={view} />
      {looked && array && (
        <line
          x1={view.toX(array.x)}
          y1={view.toY(array.y)}
          x2={view.toX(looked.x)}
          y2={view.toY(looked.y)}
          stroke="var(--color-primary)"
          strokeWidth={1.2}
        />
      )}
    </g>
  );
}

/** The rules of the recording angle. */
function Rules(ground: Ground) {
  const field = useAngleField(ground);
  const { labelAt } = useRuleLabels(ground);
  return (
    <g className="pointer-events-none">
      {field.halfDeg !== null && (
        <RecordingAngleRules
          x={field.x}
          y={field.y}
          aimDeg={field.aimDeg}
          reach={field.reach}
          halfDeg={field.halfDeg}
          asidePx={field.asidePx?.(field.halfDeg) ?? null}
          labelAt={labelAt}
        />
      )}
    </g>
  );
}

/** Distance, angle and height of the player that is looked at, above everything else. */
function BearingTag({ view }: { view: Projection }) {
  const { units } = useSession().settings;
  const { array, bySource } = useFigures();
  const looked = useLooked();
  const figures = looked && bySource.get(looked.id);
  if (!looked || !figures || !array) return null;
  return (
    <Tag
      x={(view.toX(array.x) + view.toX(looked.x)) / 2}
      y={(view.toY(array.y) + view.toY(looked.y)) / 2}
      text={`${bearing(figures, units)} · ${lengthText(looked.z, units)} up`}
    />
  );
}

interface StandingProps extends Ground {
  bind: BindMark;
  lifted: ReadonlySet<string>;
}

/** Ground and marks: all that holds still while a player is dragged above it. */
const Ensemble = memo(function Ensemble({ width, height, view, bind, lifted }: StandingProps) {
  const session = useSession();
  const { units } = session.settings;
  const { array } = useFigures();
  const walls = useWalls();
  const selected = useStore(choiceStore, (state) => state.selected);
  const aimed = session.arrays.find(({ id }) => isSelected(selected, 'array', id));
  return (
    <>
      <GroundLayers view={view} width={width} height={height} />
      <svg
        width={width}
        height={height}
        role="group"
        aria-label="Plan, seen from above; the audience is at the bottom"
        className="relative block"
      >
        <rect data-ground width={width} height={height} fill="transparent" />
        <ObstacleMarks venue={session.venue} view={view} bind={bind} />
        <SeatMarks venue={session.venue} view={view} bind={bind} />
        <DatumMarks venue={session.venue} view={view} bind={bind} />
        <Suspense>
          {walls && <CornerMarks venue={session.venue} view={view} units={units} bind={bind} />}
        </Suspense>
        <Rules view={view} width={width} height={height} />
        {lifted.size === 0 && <Sight view={view} />}
        {session.arrays.map((entry) => (
          <ArrayMark
            key={entry.id}
            array={entry}
            active={entry.id === array?.id}
            rules={entry.id === array?.id && session.arrays.length > 1}
            selected={isSelected(selected, 'array', entry.id)}
            projection={view}
            caption={arrayCaption(entry, units)}
            bind={bind}
          />
        ))}
        <SourceMarks session={session} view={view} bind={bind} lifted={lifted} />
        {aimed && <AimHandle session={session} array={aimed} view={view} plane="plan" />}
      </svg>
    </>
  );
});

// A moved player changes what stands only by the field of the recording angle: that may lag.
const Standing = memo(function Standing(props: StandingProps) {
  return (
    <Behind only="source" atRest>
      <Ensemble {...props} />
    </Behind>
  );
});

/** What moves with the hand, above all the rest. */
function Moving({ width, height, view, lifted }: Ground & Pick<StandingProps, 'lifted'>) {
  const session = useSession();
  const walls = useWalls();
  const ruleLabels = useRuleLabels({ width, height, view });
  return (
    <Overlay width={width} height={height}>
      {lifted.size > 0 && <Sight view={view} />}
      <LiftedMarks session={session} view={view} lifted={lifted} />
      <Labels
        session={session}
        view={view}
        width={width}
        height={height}
        keepOut={ruleLabels.rects}
        looked
      />
      <BearingTag view={view} />
      <MeasureLine session={session} view={view} />
      <Suspense>{walls && <TraceLine view={view} />}</Suspense>
      <SnapReason view={view} />
    </Overlay>
  );
}

/** Keys of the walls that are traced. @returns whether it was one */
function traceKey(event: KeyboardEvent): boolean {
  if (toolStore.getState().tool !== 'trace' || !['Enter', 'Backspace'].includes(event.key)) {
    return false;
  }
  event.preventDefault();
  event.stopPropagation();
  if (event.key === 'Enter') closeTrace();
  else untrace();
  return true;
}

const openedSession = (): Session | null => sessionStore.getState().session;

/** The plan to scale, ruled from the active array; everything on it drags and nudges. */
export function PlanDrawing() {
  const tool = useStore(toolStore, (state) => state.tool);
  const window = useFloorView({
    whole: () => wholePlan(openedSession()),
    onTapGround: clickGround,
    onMarquee: (box) => selectInside(openedSession(), box),
  });
  const { box, width, height, shown, marquee, zoom, showAll, onKeyDown } = window;
  const bind = useMarkDrag(shown?.scale ?? 1);
  const lifted = useLifted();

  return (
    <div
      ref={box}
      className={`bg-base-100 absolute inset-0 touch-none overflow-hidden contain-strict will-change-transform ${tool === 'select' ? '' : 'cursor-crosshair'}`}
      onKeyDown={(event) => traceKey(event) || onKeyDown(event)}
      data-drawing
      tabIndex={0}
      role="group"
      aria-label="Ground of the plan: arrow keys move the view, plus and minus zoom, 0 shows all"
    >
      {shown && (
        <>
          <Standing view={shown} width={width} height={height} bind={bind} lifted={lifted} />
          <Moving view={shown} width={width} height={height} lifted={lifted} />
          {marquee && (
            <Overlay width={width} height={height}>
              <MarqueeBox marquee={marquee} />
            </Overlay>
          )}
        </>
      )}
      <ZoomButtons zoom={zoom} showAll={showAll} />
    </div>
  );
}
