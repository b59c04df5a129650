import { lazy, Suspense } from 'react';
import { Trash2 } from 'lucide-react';
import { useStore } from 'zustand';
import { RecordingAngleSummary } from '../../parts/recording-angle-table';
import type { Session } from '../../../core/session';
import { removeSelected } from '../../document/edits';
import { thingOf } from '../../document/things';
import { type Selection, choiceStore } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { useSession } from '../../document/use-session';

// What is chosen now and then comes when it is.
const SeveralInspector = lazy(() =>
  import('./several-inspector').then((module) => ({ default: module.SeveralInspector })),
);
const SourceInspector = lazy(() =>
  import('./source-inspector').then((module) => ({ default: module.SourceInspector })),
);
const ArrayInspector = lazy(() =>
  import('./array-inspector').then((module) => ({ default: module.ArrayInspector })),
);
const venue = () => import('./venue-inspectors');
const ObstacleInspector = lazy(() =>
  venue().then((module) => ({ default: module.ObstacleInspector })),
);
const SeatsInspector = lazy(() => venue().then((module) => ({ default: module.SeatsInspector })));
const DatumInspector = lazy(() => venue().then((module) => ({ default: module.DatumInspector })));
const HallInspector = lazy(() =>
  import('./hall-inspector').then((module) => ({ default: module.HallInspector })),
);
const CornerInspector = lazy(() => venue().then((module) => ({ default: module.CornerInspector })));
const UnderlayInspector = lazy(() =>
  venue().then((module) => ({ default: module.UnderlayInspector })),
);

function NothingSelected() {
  const { underlay } = useSession().venue;
  return (
    <>
      <h2 className="pb-2 text-[17px]">Ensemble and pair</h2>
      <RecordingAngleSummary />
      <Suspense>{underlay && <UnderlayInspector underlay={underlay} />}</Suspense>
      <p className="text-muted pt-3">
        Click a player or the pair to read and type its figures. Arrow keys move it by 1 cm, with
        Shift by 10 cm; Page Up and Page Down raise and lower it. Shift and drag selects several.
      </p>
    </>
  );
}

function OneInspector({ session, one }: { session: Session; one: Selection }) {
  const byId = (entry: { id: string }) => entry.id === one.id;
  const source = one.kind === 'source' && session.sources.find(byId);
  if (source) return <SourceInspector key={source.id} source={source} />;
  const array = one.kind === 'array' && session.arrays.find(byId);
  if (array) return <ArrayInspector key={array.id} array={array} />;
  const obstacle = one.kind === 'obstacle' && session.venue.obstacles.find(byId);
  if (obstacle) return <ObstacleInspector key={obstacle.id} obstacle={obstacle} />;
  if (one.kind === 'corner') return <CornerInspector key={one.id} index={Number(one.id)} />;
  const seats = one.kind === 'seats' && session.venue.seats.find(byId);
  if (seats) return <SeatsInspector key={seats.id} seats={seats} />;
  const point = one.kind === 'datum' && session.venue.datumPoints.find(byId);
  return point ? <DatumInspector key={point.id} point={point} /> : <NothingSelected />;
}

/** The figures of what is selected, each of which can be typed. */
export function Inspector() {
  const session = useSession();
  const selected = useStore(choiceStore, (state) => state.selected);
  const there = selected.filter((one) => thingOf(session, one) !== null);
  const [one] = there;
  const walls = useStore(toolStore, ({ tool }) => tool === 'corners' || tool === 'trace');
  const name = one && thingOf(session, one)?.name;
  return (
    <aside
      aria-label="Inspector"
      className="border-hairline bg-base-200 w-[308px] shrink-0 overflow-y-auto border-l px-4 py-3 will-change-transform"
    >
      {!one && !walls && <NothingSelected />}
      <Suspense>{!one && walls && <HallInspector />}</Suspense>
      <Suspense>
        {one && there.length === 1 && <OneInspector session={session} one={one} />}
        {there.length > 1 && <SeveralInspector selected={there} />}
      </Suspense>
      {one && (
        <button
          className="btn btn-ghost btn-sm text-error mt-4"
          onClick={() => removeSelected(session)}
        >
          <Trash2 size={14} /> Remove {there.length === 1 ? name : `all ${there.length}`}
        </button>
      )}
    </aside>
  );
}
