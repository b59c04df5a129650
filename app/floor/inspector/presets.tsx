import { useState } from 'react';
import { presetArray, presetsFor } from '../../../core/planning';
import type { Source } from '../../../core/session';
import { addReadyArray } from '../../document/edits';
import { ChoiceField } from '../../parts/fields';

/** The customary microphones for one instrument, with the reason, put up for it alone. */
export function Presets({ source }: { source: Source }) {
  const presets = presetsFor(source);
  const [id, setId] = useState('');
  const chosen = presets.find((preset) => preset.id === id);
  return (
    <>
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
                (newId, name) => presetArray(chosen, source, newId, name),
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
