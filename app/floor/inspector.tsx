import { Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { ArrayPlaceFields } from '../parts/array-fields';
import { RecordingAngleSummary } from '../parts/recording-angle-table';
import { TECHNIQUE_WORDS, techniqueFigures } from '../parts/technique-text';
import { techniqueName } from '../../core/arrays';
import type { MicArray } from '../../core/session';
import { Readout } from '../parts/fields';
import { removeSelected } from '../state/edits';
import { uiStore } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { SourceInspector } from './source-inspector';

function ArrayInspector({ array }: { array: MicArray }) {
  const { id, settings } = useSession();
  return (
    <>
      <div className="flex items-baseline justify-between pb-2">
        <h2 className="truncate text-[17px]">{array.name}</h2>
        <span className="text-muted">{array.role}</span>
      </div>
      <ArrayPlaceFields array={array} />
      <Readout
        label={TECHNIQUE_WORDS[techniqueName(array.technique)]}
        number={techniqueFigures(array.technique, settings.units)}
      />
      <p className="py-2">
        <Link className="text-primary underline underline-offset-2" to={`/session/${id}/array`}>
          Design it at the Array station
        </Link>
      </p>
      <RecordingAngleSummary />
    </>
  );
}

function NothingSelected() {
  return (
    <>
      <h2 className="pb-2 text-[17px]">Ensemble and pair</h2>
      <RecordingAngleSummary />
      <p className="text-muted pt-3">
        Click a player or the pair to read and type its figures. Arrow keys move it by 1 cm, with
        Shift by 10 cm.
      </p>
    </>
  );
}

/** The figures of what is selected, each of which can be typed. */
export function Inspector() {
  const session = useSession();
  const selection = useStore(uiStore, (state) => state.selection);
  const source =
    selection?.kind === 'source'
      ? session.sources.find(({ id }) => id === selection.id)
      : undefined;
  const array =
    selection?.kind === 'array' ? session.arrays.find(({ id }) => id === selection.id) : undefined;
  return (
    <aside
      aria-label="Inspector"
      className="border-hairline bg-base-200 w-[308px] shrink-0 overflow-y-auto border-l px-4 py-3 will-change-transform"
    >
      {source && <SourceInspector key={source.id} source={source} />}
      {array && <ArrayInspector key={array.id} array={array} />}
      {!source && !array && <NothingSelected />}
      {(source ?? array) && (
        <button
          className="btn btn-ghost btn-sm text-error mt-4"
          onClick={() => removeSelected(session)}
        >
          <Trash2 size={14} /> Remove {source?.name ?? array?.name}
        </button>
      )}
    </aside>
  );
}
