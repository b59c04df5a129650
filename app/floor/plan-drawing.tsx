import { useStore } from 'zustand';
import type { Session } from '../../core/session';
import { lengthText } from '../../core/units';
import { arrayCaption } from '../parts/technique-text';
import { Behind } from '../state/behind';
import { useFigures } from '../state/figures';
import { clickGround } from '../state/underlay';
import { isSelected, selectMany, uiStore, type Selection } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { AimHandle } from './aim-handle';
import { ArrayMark } from './array-mark';
import { GroundLayers, useAngleField, type Ground } from './ground-layers';
import { EqualDistanceRing } from './guides';
import { MarqueeBox, MeasureLine, SnapReason, Tag } from './overlays';
import { RecordingAngleRules } from './recording-angle-rules';
import { bearing, Labels, SourceMarks } from './source-marks';
import { useFloorView } from './use-floor-view';
import { useMarkDrag } from './use-mark-drag';
import { DatumMarks, ObstacleMarks, SeatMarks } from './venue-marks';
import { boxAround, type Box, type Projection } from './view';
import { ZoomButtons } from './zoom-buttons';

function wholePlan(session: Session): Box {
  const half = session.venue.stage.widthM / 2;
  const points = [
    ...session.sources,
    ...session.arrays,
    { x: -half, y: 0 },
    { x: half, y: session.sources.length > 0 ? 0 : session.venue.stage.depthM },
  ];
  return boxAround(points, 0.9);
}

const isIn = ({ minX, maxX, minY, maxY }: Box, { x, y }: { x: number; y: number }): boolean =>
  x >= minX && x <= maxX && y >= minY && y <= maxY;

function selectInside(session: Session, box: Box): void {
  const inside = (kind: Selection['kind'], list: readonly { id: string; x: number; y: number }[]) =>
    list.filter((entry) => isIn(box, entry)).map(({ id }) => ({ kind, id }));
  selectMany([...inside('array', session.arrays), ...inside('source', session.sources)]);
}

/** The player under the pointer, else the one chosen. */
function useLooked() {
  const { sources } = useSession();
  const selection = useStore(uiStore, (state) => state.selection);
  const hovered = useStore(uiStore, (state) => state.hoveredSourceId);
  const id = hovered ?? (selection?.kind === 'source' ? selection.id : null);
  return sources.find((source) => source.id === id);
}

/** The rules of the recording angle, and the bearing of the player that is looked at. */
function Rules(ground: Ground) {
  const { height, view } = ground;
  const field = useAngleField(ground);
  const looked = useLooked();
  const to = looked && { x: view.toX(looked.x), y: view.toY(looked.y) };
  return (
    <g className="pointer-events-none">
      <EqualDistanceRing view={view} />
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
      {to && (
        <line
          x1={field.x}
          y1={field.y}
          x2={to.x}
          y2={to.y}
          stroke="var(--color-primary)"
          strokeWidth={1.2}
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

/** The plan to scale, ruled from the active array; everything on it drags and nudges. */
export function PlanDrawing() {
  const session = useSession();
  const { units } = session.settings;
  const { array } = useFigures();
  const selected = useStore(uiStore, (state) => state.selected);
  const tool = useStore(uiStore, (state) => state.tool);
  const window = useFloorView({
    whole: () => wholePlan(session),
    onTapGround: clickGround,
    onMarquee: (box) => selectInside(session, box),
  });
  const { box, width, height, shown, marquee, zoom, showAll, onKeyDown } = window;
  const bind = useMarkDrag(shown?.scale ?? 1);
  const aimed = session.arrays.find(({ id }) => isSelected(selected, 'array', id));

  return (
    <div
      ref={box}
      className={`bg-base-100 absolute inset-0 touch-none overflow-hidden contain-strict ${tool === 'select' ? '' : 'cursor-crosshair'}`}
      onKeyDown={onKeyDown}
      tabIndex={0}
      role="group"
      aria-label="Ground of the plan: arrow keys move the view, plus and minus zoom, 0 shows all"
    >
      {shown && (
        // A moved player changes the ground only by the field of the recording angle.
        <Behind only="source">
          <GroundLayers view={shown} width={width} height={height} />
        </Behind>
      )}
      {shown && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Plan, seen from above; the audience is at the bottom"
          className="relative block will-change-transform"
        >
          <rect data-ground width={width} height={height} fill="transparent" />
          <ObstacleMarks venue={session.venue} view={shown} bind={bind} />
          <SeatMarks venue={session.venue} view={shown} bind={bind} />
          <DatumMarks venue={session.venue} view={shown} bind={bind} />
          <Rules view={shown} width={width} height={height} />
          {session.arrays.map((entry) => (
            <ArrayMark
              key={entry.id}
              array={entry}
              active={entry.id === array?.id}
              selected={isSelected(selected, 'array', entry.id)}
              projection={shown}
              caption={arrayCaption(entry, units)}
              bind={bind}
            />
          ))}
          <SourceMarks session={session} view={shown} bind={bind} />
          <Labels session={session} view={shown} looked />
          {aimed && <AimHandle session={session} array={aimed} view={shown} plane="plan" />}
          <BearingTag view={shown} />
          <MeasureLine session={session} view={shown} />
          <SnapReason view={shown} />
          <MarqueeBox marquee={marquee} />
        </svg>
      )}
      <ZoomButtons zoom={zoom} showAll={showAll} />
    </div>
  );
}
