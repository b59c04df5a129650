import { useState } from 'react';
import { isKit, presetFor, presetsFor } from '../../../core/planning';
import type { Source } from '../../../core/session';
import { addKitSet, addReadyArray, addSpotFor } from '../../document/edits';
import { useSession } from '../../document/use-session';
import { ChoiceField } from '../../parts/fields';

/** The customary microphones for one instrument, with the reason, put up for it alone. */
export function Presets({ source }: { source: Source }) {
  const session = useSession();
  const presets = presetsFor(source);
  const [id, setId] = useState('');
  const chosen = presets.find((preset) => preset.id === id);
  return (
    <>
      <div className="flex flex-wrap gap-1 pt-3 pb-1">
        <button className="btn btn-sm font-normal" onClick={() => addSpotFor(source)}>
          Spot for {source.name}
        </button>
        {isKit(source) && (
          <button className="btn btn-sm font-normal" onClick={() => addKitSet(source)}>
            Set for it: overheads, drums
          </button>
        )}
      </div>
      <ChoiceField
        label="Microphones for it"
        value={chosen?.id ?? ''}
        options={[
          { value: '', label: 'none chosen' },
          ...presets.map(({ id: value, name }) => ({ value, label: name })),
        ]}
        onChange={setId}
      />
      {chosen && (
        <>
          <p className="text-muted py-1 text-[12.5px]">{chosen.reason}</p>
          <button
            className="btn btn-sm mb-2 font-normal"
            onClick={() =>
              addReadyArray(
                (newId, name) => presetFor(session, chosen, source, newId, name),
                source.name,
                chosen.array.role === 'overhead' ? 'overheads' : 'spot',
              )
            }
          >
            Put them up for {source.name}
          </button>
        </>
      )}
    </>
  );
}
