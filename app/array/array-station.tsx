import { SCHOOLS } from '../../core/localisation';
import { formatNumber } from '../../core/units';
import { ArrayPlaceFields } from '../parts/array-fields';
import { TextField } from '../parts/fields';
import { FormulaLink } from '../parts/formula-link';
import { RecommendButton } from './recommend-dialog';
import { RecordingAngleTable } from '../parts/recording-angle-table';
import { addMainPair, changeArray } from '../state/edits';
import { useFigures } from '../state/figures';
import { edit } from '../state/session-store';
import { uiStore } from '../state/ui-store';
import { useSession } from '../state/use-session';
import { BarDrawing } from './bar-drawing';
import { TechniqueChoice, TechniqueFields } from './technique-fields';

function CentreSlopes() {
  const { figures } = useFigures();
  return (
    <p className="text-muted pt-2 text-[12.5px]">
      At the centre 1° of the ensemble moves the image by{' '}
      {SCHOOLS.flatMap(({ id, name }) => {
        const slope = figures?.centreSlope[id];
        return slope === null || slope === undefined
          ? []
          : `${formatNumber(slope * 100, 1)} % (${name})`;
      }).join(', ') || '—'}
      . <FormulaLink to="recording-angle">Formulas and sources</FormulaLink>
    </p>
  );
}

function ArrayTabs() {
  const { arrays } = useSession();
  const { array } = useFigures();
  const enabled = arrays.filter((entry) => entry.enabled);
  if (enabled.length < 2) return null;
  return (
    <div role="group" aria-label="Arrays" className="flex gap-1 pb-2">
      {enabled.map(({ id, name }) => (
        <button
          key={id}
          aria-pressed={id === array?.id}
          className={`btn btn-sm ${id === array?.id ? 'btn-neutral' : ''}`}
          onClick={() => uiStore.setState({ activeArrayId: id })}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** The main pair at the scale of its bar, and what it does. */
export function ArrayStation() {
  const { settings } = useSession();
  const { array, figures, missing } = useFigures();
  if (!array) {
    return (
      <main aria-label="Array" className="p-8">
        <h2 className="text-[16px]">There is no array yet</h2>
        <p className="text-muted py-2">Put up a pair first; then choose its technique here.</p>
        <button className="btn btn-sm btn-primary" onClick={addMainPair}>
          Add a main pair
        </button>
      </main>
    );
  }
  const leading = figures?.farField[settings.school] ? settings.school : 'traded';
  return (
    <main aria-label="Array" className="flex h-full">
      <div
        className="bg-base-100 flex min-w-0 flex-1 flex-col overflow-y-auto px-4 pt-3 pb-3"
        tabIndex={0}
      >
        <ArrayTabs />
        <div className="flex min-h-[200px] flex-1">
          <BarDrawing array={array} units={settings.units} />
        </div>
        {missing !== null && <p className="text-error pb-1">No figures: {missing}</p>}
        <div className="grid grid-cols-2 gap-8">
          <RecordingAngleTable
            caption="Recording angle, distant sources"
            angles={figures?.farField}
            leading={leading}
          />
          <RecordingAngleTable
            caption="Recording angle, in place"
            angles={figures?.inPlace}
            leading={leading}
          />
        </div>
        <CentreSlopes />
      </div>
      <aside
        aria-label="Numbers of the array"
        className="border-hairline bg-base-200 w-[308px] shrink-0 overflow-y-auto border-l px-4 py-3"
      >
        <div key={array.id}>
          <h2 className="truncate pb-2 text-[17px]">{array.name}</h2>
          <TextField
            label="Name"
            value={array.name}
            most={200}
            required
            onCommit={(name) => edit(changeArray(array.id, { name }))}
          />
          <TechniqueChoice array={array} />
          <div className="py-2">
            <RecommendButton array={array} />
          </div>
          <TechniqueFields array={array} />
          <h3 className="pt-4 pb-1 text-[14px]">Where it stands</h3>
          <ArrayPlaceFields array={array} />
        </div>
      </aside>
    </main>
  );
}
