import { PanelRightClose, PanelRightOpen, Plus } from 'lucide-react';
import { useStore } from 'zustand';
import { addMainPair, addPlayer } from '../state/edits';
import { Behind } from '../state/behind';
import { uiStore } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { FloorTable } from './floor-table';
import { Inspector } from './inspector';
import { PlanDrawing } from './plan-drawing';
import { useState } from 'react';

function EmptyFloor() {
  const session = useSession();
  return (
    <div className="pointer-events-none absolute inset-x-0 top-24 flex justify-center">
      <div className="bg-base-100 border-hairline pointer-events-auto border px-6 py-4 text-center">
        <h2 className="text-[16px]">Nobody is on the floor yet</h2>
        <p className="text-muted py-2">
          Add the players, drag them to their places, then move the pair until the playback line
          below looks right.
        </p>
        <button className="btn btn-sm btn-primary" onClick={() => addPlayer(session)}>
          Add the first player
        </button>
      </div>
    </div>
  );
}

/** The plan, to scale, with everything that stands on it. */
export function FloorStation() {
  const session = useSession();
  const inspectorOpen = useStore(uiStore, (state) => state.inspectorOpen);
  const [asTable, setAsTable] = useState(false);
  const show = (label: string, table: boolean) => (
    <button
      aria-pressed={asTable === table}
      className={`btn btn-sm w-16 ${asTable === table ? 'btn-neutral' : 'border-hairline bg-base-100 font-normal'}`}
      onClick={() => setAsTable(table)}
    >
      {label}
    </button>
  );
  return (
    <main aria-label="Floor" className="flex h-full">
      <div className="relative min-w-0 flex-1">
        {asTable ? <FloorTable /> : <PlanDrawing />}
        <div className="absolute top-3 left-3 flex items-center gap-3">
          <div role="group" aria-label="View" className="flex gap-0.5">
            {show('Plan', false)}
            {show('Table', true)}
          </div>
          <button className="btn btn-sm btn-ghost" onClick={() => addPlayer(session)}>
            <Plus size={15} /> Player <kbd className="text-muted text-[11px]">A</kbd>
          </button>
          {session.arrays.length === 0 && (
            <button className="btn btn-sm btn-ghost" onClick={addMainPair}>
              <Plus size={15} /> Main pair
            </button>
          )}
        </div>
        {session.sources.length === 0 && !asTable && <EmptyFloor />}
        <button
          className="btn btn-sm btn-square btn-ghost absolute top-3 right-3"
          aria-expanded={inspectorOpen}
          aria-label="Inspector"
          title={inspectorOpen ? 'Close the inspector' : 'Open the inspector'}
          onClick={() => uiStore.setState({ inspectorOpen: !inspectorOpen })}
        >
          {inspectorOpen ? <PanelRightClose size={16} /> : <PanelRightOpen size={16} />}
        </button>
      </div>
      {inspectorOpen && (
        <Behind>
          <Inspector />
        </Behind>
      )}
    </main>
  );
}
