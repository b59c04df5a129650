import { PanelRightClose, PanelRightOpen } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { useStore } from 'zustand';
import { addMainPair, addPlayer } from '../document/edits';
import { Behind } from '../figures/behind';
import { toolStore } from '../view/floor-tools';
import { panelStore } from '../view/panels';
import { sessionStore } from '../document/session-store';
import { useSession } from '../document/use-session';
import { FloorTools } from './floor-tools';
import { PlanDrawing } from './plan/plan-drawing';

// The plan comes first; what stands beside it follows.
const Inspector = lazy(() =>
  import('./inspector/inspector').then((module) => ({ default: module.Inspector })),
);
const SideDrawing = lazy(() =>
  import('./side/side-drawing').then((module) => ({ default: module.SideDrawing })),
);
const FloorTable = lazy(() =>
  import('./floor-table').then((module) => ({ default: module.FloorTable })),
);
const EnsembleDialog = lazy(() =>
  import('./add/ensemble-dialog').then((module) => ({ default: module.EnsembleDialog })),
);

const openDialog = (ensembleDialog: 'template' | 'section') =>
  toolStore.setState({ ensembleDialog });

function EmptyFloor() {
  const session = useSession();
  return (
    <div className="bg-base-200 border-hairline shrink-0 border-b px-4 py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="text-[14px]">Nobody is on the floor yet</h2>
        <p className="text-muted min-w-56 flex-1">
          Add the players, drag them to their places, then move the pair until the image line below
          looks right.
        </p>
        <div className="flex flex-wrap gap-2">
          <button className="btn btn-sm btn-primary" onClick={() => openDialog('template')}>
            Begin with a template
          </button>
          <button className="btn btn-sm" onClick={() => openDialog('section')}>
            Arc or rows
          </button>
          <button className="btn btn-sm" onClick={() => addPlayer(session)}>
            Add the first player
          </button>
          {session.arrays.length === 0 && (
            <button className="btn btn-sm" onClick={addMainPair}>
              Main pair
            </button>
          )}
        </div>
      </div>
    </div>
  );
}

/** Plan and section, to scale, with everything that stands on the floor. */
export function FloorStation() {
  // Not the whole session: the frame around the drawings stands still while something is dragged.
  const empty = useStore(sessionStore, ({ session }) => session?.sources.length === 0);
  const inspectorOpen = useStore(panelStore, (state) => state.inspectorOpen);
  const view = useStore(toolStore, (state) => state.floorView);
  const dialog = useStore(toolStore, (state) => state.ensembleDialog);
  const pane = (child: React.ReactNode) => (
    <div className="relative min-w-0 flex-1">
      <Suspense>{child}</Suspense>
    </div>
  );
  return (
    <main aria-label="Floor" className="flex h-full">
      <div className="flex min-w-0 flex-1 flex-col">
        <FloorTools />
        {empty && view !== 'table' && <EmptyFloor />}
        <div className="relative flex min-h-0 flex-1">
          {(view === 'plan' || view === 'both') && pane(<PlanDrawing />)}
          {view === 'both' && <div className="bg-hairline w-px" />}
          {(view === 'section' || view === 'both') && pane(<SideDrawing />)}
          {view === 'table' && pane(<FloorTable />)}
          <button
            className="btn btn-sm btn-square btn-ghost absolute top-2 right-2"
            aria-expanded={inspectorOpen}
            aria-label="Inspector"
            title={inspectorOpen ? 'Close the inspector' : 'Open the inspector'}
            onClick={() => panelStore.setState({ inspectorOpen: !inspectorOpen })}
          >
            {inspectorOpen ? <PanelRightClose size={16} /> : <PanelRightOpen size={16} />}
          </button>
        </div>
      </div>
      {inspectorOpen && (
        <Behind>
          <Suspense
            fallback={<div className="border-hairline bg-base-200 w-[308px] shrink-0 border-l" />}
          >
            <Inspector />
          </Suspense>
        </Behind>
      )}
      {dialog && (
        <Suspense>
          <EnsembleDialog
            page={dialog}
            onClose={() => toolStore.setState({ ensembleDialog: null })}
          />
        </Suspense>
      )}
    </main>
  );
}
