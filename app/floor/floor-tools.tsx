import { CheckField } from '../parts/fields';
import { Layers, Magnet, Pentagon, Ruler } from 'lucide-react';
import { useStore } from 'zustand';
import { type FloorLayers, type FloorView, chooseTool, toolStore } from '../view/floor-tools';
import { select } from '../view/choice';
import { panelStore } from '../view/panels';
import { Menu } from '../parts/menu';
import { AddMenu } from './add/add-menu';

const VIEWS: readonly (readonly [FloorView, string])[] = [
  ['plan', 'Plan'],
  ['section', 'Side'],
  ['both', 'Both'],
  ['table', 'Table'],
];

const LAYERS: readonly (readonly [Exclude<keyof FloorLayers, 'grid'>, string])[] = [
  ['zones', 'Antiphase and reversed zones'],
  ['criticalDistance', 'Critical distance'],
  ['equalDistance', 'Equal distance to the chosen player'],
  ['seats', 'Seats'],
];

function LayersMenu() {
  const layers = useStore(toolStore, (state) => state.layers);
  const set = (change: Partial<FloorLayers>) =>
    toolStore.setState((state) => ({ layers: { ...state.layers, ...change } }));
  return (
    <Menu
      className="dropdown-end"
      title="What is drawn on the floor"
      button={
        <>
          <Layers size={15} /> Layers
        </>
      }
    >
      {() => (
        <div className="dropdown-content border-hairline bg-base-200 z-20 w-64 rounded-[3px] border p-3">
          {LAYERS.map(([name, label]) => (
            <CheckField
              key={name}
              label={label}
              value={layers[name]}
              onChange={(shown) => set({ [name]: shown })}
            />
          ))}
          <CheckField
            label="Squares instead of rings and spokes"
            value={layers.grid === 'square'}
            onChange={(square) => set({ grid: square ? 'square' : 'polar' })}
          />
        </div>
      )}
    </Menu>
  );
}

/** The walls need the plan, and the inspector beside it. */
function workOnWalls(on: boolean): void {
  chooseTool(on ? 'corners' : 'select');
  select(null);
  if (!on) return;
  panelStore.setState({ inspectorOpen: true });
  const { floorView } = toolStore.getState();
  if (floorView !== 'plan' && floorView !== 'both') toolStore.setState({ floorView: 'plan' });
}

/** Views and tools of the floor. */
export function FloorTools() {
  const view = useStore(toolStore, (state) => state.floorView);
  const tool = useStore(toolStore, (state) => state.tool);
  const snap = useStore(toolStore, (state) => state.snap);
  const walls = tool === 'corners' || tool === 'trace';
  return (
    <div
      role="toolbar"
      aria-label="Floor"
      className="border-hairline bg-base-200 flex min-h-11 shrink-0 flex-wrap items-center gap-1 border-b px-3"
    >
      <div role="group" aria-label="View" className="flex gap-0.5 pr-2">
        {VIEWS.map(([id, label]) => (
          <button
            key={id}
            aria-pressed={view === id}
            className={`btn btn-sm px-2.5 ${view === id ? 'btn-neutral' : 'font-normal'}`}
            onClick={() => toolStore.setState({ floorView: id })}
          >
            {label}
          </button>
        ))}
      </div>
      <AddMenu />
      <button
        className={`btn btn-sm btn-ghost ${tool === 'measure' ? 'text-primary' : ''}`}
        aria-pressed={tool === 'measure'}
        title="Measure between any two things or points"
        onClick={() => chooseTool(tool === 'measure' ? 'select' : 'measure')}
      >
        <Ruler size={15} /> Measure <kbd className="text-muted text-[11px] max-md:hidden">M</kbd>
      </button>
      <button
        className={`btn btn-sm btn-ghost ${walls ? 'text-primary' : ''}`}
        aria-pressed={walls}
        title="Shape of the hall: drag its corners, trace it, type it"
        onClick={() => workOnWalls(!walls)}
      >
        <Pentagon size={15} /> Walls
      </button>
      <button
        className={`btn btn-sm btn-ghost ${snap ? 'text-primary' : 'text-muted'}`}
        aria-pressed={snap}
        title="Settle on grid, angles, symmetry and equal distances; hold Alt to go free"
        onClick={() => toolStore.setState({ snap: !snap })}
      >
        <Magnet size={15} /> Snap <kbd className="text-muted text-[11px] max-md:hidden">S</kbd>
      </button>
      <div className="flex-1" />
      <LayersMenu />
    </div>
  );
}
