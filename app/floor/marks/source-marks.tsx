import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { violations } from '../../../core/ensembles';
import type { SourceFigures } from '../../../core/analysis';
import type { Session, Source } from '../../../core/session';
import { angleText, cosDeg, lengthText, type UnitSystem } from '../../../core/units';
import { useGrouping } from '../../parts/groups';
import { arrayCaption } from '../../parts/technique-text';
import { useSettled } from '../../figures/use-settled';
import { useFigures } from '../../figures/figures';
import { choiceStore, isSelected } from '../../view/choice';
import { placeLabels, type Rect, overlaps, rectOf } from './label-placement';
import { SourceLabel } from './source-label';
import { MARK_RADIUS, SMALL_RADIUS, SourceFace, SourceMark } from './source-mark';
import type { BindMark, Plane } from './use-mark-drag';
import type { Projection } from '../../../paper/projection';

/** "3.74 m · 54.3° R" */
export function bearing(figures: SourceFigures | undefined, units: UnitSystem): string {
  if (!figures) return 'no figure';
  const side = figures.azimuthDeg < -0.05 ? ' L' : figures.azimuthDeg > 0.05 ? ' R' : '';
  return `${lengthText(figures.distanceM, units)} · ${angleText(Math.abs(figures.azimuthDeg))}${side}`;
}

interface Marks {
  session: Session;
  view: Projection;
}

const JUDGE_MS = 150;
/** With neighbours closer than this on the screen, marks are drawn small. */
const CROWDED_PX = 27;

/** Radius of the marks: small where the closest players would cover one another. */
function useMarkRadius({ session, view, plane }: Marks & { plane: Plane }): number {
  // At rest: marks must not change their size under the hand.
  const dragging = useStore(choiceStore, (state) => state.dragging);
  const settled = useSettled(session.sources, JUDGE_MS);
  const [rested, setRested] = useState(settled);
  if (!dragging && rested !== settled) setRested(settled);
  const sources = rested;
  const closestM = useMemo(() => {
    let least = Infinity;
    for (let i = 0; i < sources.length; i++) {
      for (let j = i + 1; j < sources.length; j++) {
        const [a, b] = [sources[i], sources[j]];
        if (!a || !b) continue;
        const across = plane === 'plan' ? a.x - b.x : a.z - b.z;
        least = Math.min(least, Math.hypot(across, a.y - b.y));
      }
    }
    return least;
  }, [sources, plane]);
  return sources.length > 12 && closestM * view.scale < CROWDED_PX ? SMALL_RADIUS : MARK_RADIUS;
}

type AllMarks = Marks & { plane?: Plane; lifted: ReadonlySet<string> };

/** What the mark of each player shows, and where. */
function useFaces({ session, view, plane = 'plan' }: AllMarks) {
  const selected = useStore(choiceStore, (state) => state.selected);
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  const { badges } = useGrouping(session.sources);
  const radius = useMarkRadius({ session, view, plane });
  const rested = useSettled(session, JUDGE_MS);
  const unkept = useMemo(
    () => new Set(violations(rested).map(({ sourceId }) => sourceId)),
    [rested],
  );
  return (source: Source) => {
    const badge = badges.get(source.id);
    return (
      badge && {
        source,
        badge,
        plane,
        radius,
        x: view.toX(plane === 'plan' ? source.x : source.y),
        y: view.toY(plane === 'plan' ? source.y : source.z),
        scale: view.scale,
        selected: isSelected(selected, 'source', source.id),
        lit: hovered === source.id,
        constraintBroken: unkept.has(source.id),
      }
    );
  };
}

export function SourceMarks(props: AllMarks & { bind: BindMark }) {
  const { session, bind, lifted } = props;
  const live = useFigures();
  const faceOf = useFaces(props);
  return session.sources.map((source) => {
    const face = faceOf(source);
    return (
      face && (
        <SourceMark
          key={source.id}
          {...face}
          lifted={lifted.has(source.id)}
          description={bearing(live.bySource.get(source.id), session.settings.units)}
          bind={bind}
        />
      )
    );
  });
}

/** The pictures of the players that are dragged, for the layer above the others. */
export function LiftedMarks(props: AllMarks) {
  const { session, lifted } = props;
  const faceOf = useFaces(props);
  if (lifted.size === 0) return null;
  return session.sources.map((source) => {
    const face = lifted.has(source.id) && faceOf(source);
    return (
      face && (
        <g key={source.id} transform={`translate(${face.x} ${face.y})`}>
          <SourceFace {...face} />
        </g>
      )
    );
  });
}

interface LabelText {
  text: string;
  look: 'player' | 'active' | 'array';
}

const ARRAY_RADIUS_PX = 27;

interface LabelsProps extends Marks {
  width: number;
  height: number;
  looked: boolean;
  plane?: Plane;
  keepOut?: readonly Rect[];
}

/** What is to be written beside each mark, and where its mark is. */
function useRequests({ session, view, plane = 'plan' }: LabelsProps, radius: number) {
  const { array: active } = useFigures();
  const selectedId = useStore(choiceStore, (state) => state.selection?.id ?? null);
  const hoveredArray = useStore(choiceStore, (state) => {
    const id = state.hoveredSourceId;
    return session.arrays.some((array) => array.id === id) ? id : null;
  });
  const { units } = session.settings;
  return useMemo(() => {
    const at = ({ x, y, z }: { x: number; y: number; z: number }) =>
      plane === 'plan' ? { x: view.toX(x), y: view.toY(y) } : { x: view.toX(y), y: view.toY(z) };
    const texts = new Map<string, LabelText>();
    const requests = session.arrays.map((array) => {
      const full = [active?.id, selectedId, hoveredArray].includes(array.id);
      const text = full ? arrayCaption(array, units) : array.name;
      texts.set(array.id, { text, look: array.id === active?.id ? 'active' : 'array' });
      return {
        id: array.id,
        ...at(array),
        radius: ARRAY_RADIUS_PX,
        text,
        prefer: plane === 'plan' ? ('below' as const) : ('above' as const),
        important: full,
      };
    });
    for (const source of session.sources) {
      texts.set(source.id, { text: source.name, look: 'player' });
      requests.push({
        id: source.id,
        ...at(source),
        radius,
        text: source.name,
        // Away from the tick that shows where the player faces.
        prefer: cosDeg(source.facingDeg) < 0 ? ('above' as const) : ('below' as const),
        important: source.id === selectedId,
      });
    }
    return { texts, requests };
  }, [
    session.arrays,
    session.sources,
    units,
    view,
    plane,
    radius,
    active,
    selectedId,
    hoveredArray,
  ]);
}

/**
 * The names beside the marks, placed so that none covers another. Those of what is looked at are
 * drawn with the marks, all others in a layer of their own, which stands still while one moves. What
 * is hovered is placed alone: the others stay where they are, and give way where it covers them.
 */
export function Labels(props: LabelsProps) {
  const { session, view, width, height, looked, plane = 'plan', keepOut } = props;
  const selection = useStore(choiceStore, (state) => state.selection);
  const hovered = useStore(choiceStore, (state) => state.hoveredSourceId);
  const radius = useMarkRadius({ session, view, plane });
  const { texts, requests } = useRequests(props, radius);
  const options = useMemo(
    () => ({ bounds: { width, height }, ...(keepOut ? { keepOut } : {}) }),
    [width, height, keepOut],
  );
  // What is looked at is placed before all others, so that it need not wait for them.
  const placed = useMemo(
    () => placeLabels(requests, { ...options, importantOnly: looked }),
    [requests, options, looked],
  );
  const isLooked = (id: string) => id === hovered || id === selection?.id;
  if (looked && hovered === null && selection === null) return null;
  const asked = requests.find(({ id }) => id === hovered);
  const alone =
    asked && !asked.important
      ? placeLabels(
          requests.map((request) =>
            request === asked ? { ...request, important: true } : request,
          ),
          { ...options, importantOnly: true },
        ).get(asked.id)
      : undefined;
  const covered = alone && asked ? rectOf(alone, asked.text) : null;
  const labels = alone && looked ? new Map(placed).set(alone.id, alone) : placed;
  return [...texts].map(([id, { text, look }]) => {
    const label = labels.get(id);
    if (!label || isLooked(id) !== looked) return null;
    if (!looked && covered && overlaps(covered, rectOf(label, text))) return null;
    return (
      <SourceLabel key={id} name={text} x={label.x} y={label.y} anchor={label.anchor} look={look} />
    );
  });
}
