import { stationPath } from '../../stations';
import { Copy, FlipHorizontal2 } from 'lucide-react';
import { Link } from 'react-router';
import { techniqueName } from '../../../core/arrays';
import { headBelow } from '../../../core/planning';
import type { MicArray } from '../../../core/session';
import { ArrayPlaceFields } from '../../parts/array-fields';
import { ForWhomField } from '../../parts/for-whom-field';
import { ChoiceField, Readout, TextField } from '../../parts/fields';
import { RecordingAngleSummary } from '../../parts/recording-angle-table';
import { TECHNIQUE_WORDS, techniqueFigures } from '../../parts/technique-text';
import {
  addSecond,
  addUnderneath,
  copySelected,
  mirroredCopy,
  paste,
} from '../../document/arrange';
import { changeArray, changeMix } from '../../document/edits';
import { useFigures } from '../../figures/figures';
import { edit } from '../../document/session-store';
import { choiceStore } from '../../view/choice';
import { useSession } from '../../document/use-session';

const ROLES: readonly MicArray['role'][] = [
  'main',
  'outrigger',
  'ambience',
  'overhead',
  'surround',
  'spot',
];

function Switches({ array }: { array: MicArray }) {
  const box = (label: string, on: boolean, set: (on: boolean) => void, title: string) => (
    <label className="flex items-center gap-1.5" title={title}>
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={on}
        onChange={(event) => set(event.currentTarget.checked)}
      />
      {label}
    </label>
  );
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1 py-2">
      {box(
        'In use',
        array.enabled,
        (enabled) => edit(changeArray(array.id, { enabled })),
        'Off: kept on the plan, left out of every figure',
      )}
      {box(
        'Muted',
        array.mix.mute,
        (mute) => edit(changeMix(array.id, { mute })),
        'Recorded, but left out of the mix estimate',
      )}
      {box(
        'Hung from above',
        array.hung,
        (hung) => edit(changeArray(array.id, { hung })),
        'From the venue’s own points, by licensed riggers: it takes no stand',
      )}
      {box(
        'Mono loss accepted',
        array.monoLossAccepted,
        (monoLossAccepted) => edit(changeArray(array.id, { monoLossAccepted })),
        'What its own mono sum loses is not found at fault; the whole mix is still judged',
      )}
    </div>
  );
}

/** One array: where it stands, what it is, what it hears. */
export function ArrayInspector({ array }: { array: MicArray }) {
  const session = useSession();
  const { id, settings } = session;
  const head = headBelow(session, array);
  const live = useFigures();
  const active = live.array?.id === array.id;
  return (
    <>
      <h2 className="truncate pb-2 text-[17px]" title={array.name}>
        {array.name}
      </h2>
      <TextField
        label="Name"
        value={array.name}
        most={200}
        required
        onCommit={(name) => edit(changeArray(array.id, { name }))}
      />
      <ChoiceField
        label="Role"
        value={array.role}
        options={ROLES.map((role) => ({ value: role, label: role }))}
        onChange={(role) => edit(changeArray(array.id, { role }))}
      />
      <ForWhomField array={array} />
      <ArrayPlaceFields array={array} />
      <Readout
        label={TECHNIQUE_WORDS[techniqueName(array.technique)]}
        number={techniqueFigures(array.technique, settings.units)}
      />
      <Switches array={array} />
      <div className="flex flex-wrap gap-1 pb-2">
        <button
          className="btn btn-sm font-normal"
          onClick={() => {
            copySelected();
            paste();
          }}
        >
          <Copy size={14} /> Copy
        </button>
        <button className="btn btn-sm font-normal" onClick={mirroredCopy}>
          <FlipHorizontal2 size={14} /> Mirrored copy
        </button>
        {array.technique.kind === 'single' && (
          <button
            className="btn btn-sm font-normal"
            title="On the other side of its player, panned to the other side"
            onClick={() => addSecond(array)}
          >
            Second of a pair
          </button>
        )}
        {head && array.technique.kind === 'single' && (
          <button
            className="btn btn-sm font-normal"
            title={`As far under the ${head.name} as this one is over it, polarity inverted`}
            onClick={() => addUnderneath(array, head)}
          >
            One underneath, inverted
          </button>
        )}
        {!active && array.enabled && (
          <button
            className="btn btn-sm font-normal"
            onClick={() => choiceStore.setState({ ruledFromId: array.id, lineArrayId: null })}
          >
            Rule the floor from it
          </button>
        )}
      </div>
      <p className="pb-2">
        <Link
          className="text-primary underline underline-offset-2"
          to={stationPath(id, 'array')}
          onClick={() => array.enabled && choiceStore.setState({ activeArrayId: array.id })}
        >
          Design it at the Array station
        </Link>
      </p>
      {array.technique.kind !== 'single' && <RecordingAngleSummary of={array} />}
    </>
  );
}
