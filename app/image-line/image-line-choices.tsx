import { memo } from 'react';
import { useStore } from 'zustand';
import type { MicArray } from '../../core/session';
import { keepCandidate } from '../document/edits';
import { sessionStore } from '../document/session-store';
import { choiceStore } from '../view/choice';
import { panelStore } from '../view/panels';

/** At the Array station one works on what one looks at; elsewhere looking changes nothing else. */
function showArray(id: string): void {
  const atArray = location.pathname.endsWith('/array');
  choiceStore.setState({
    imageLineOf: 'array',
    ...(atArray ? { activeArrayId: id } : { lineArrayId: id }),
  });
}

const MIX = 'mix';
const KEEP = 'keep';

/** Which array the line shows, in which unit, and which candidate stands beside it. */
export const ImageLineChoices = memo(function ImageLineChoices({
  array,
  shownId,
}: {
  /** the one that every other figure is of */
  array: MicArray | null;
  /** the one that the line shows; null: the whole mix */
  shownId: string | null;
}) {
  const arrays = useStore(sessionStore, ({ session }) => session?.arrays) ?? [];
  const candidates = useStore(sessionStore, ({ session }) => session?.candidates) ?? [];
  const of = useStore(choiceStore, (state) => state.imageLineOf);
  const unit = useStore(panelStore, (state) => state.imageLineUnit);
  const ghostId = useStore(choiceStore, (state) => state.ghostId);
  const enabled = arrays.filter((array) => array.enabled);
  // What is kept is what is seen; of the whole mix, the array that the other figures are of.
  const shown = arrays.find(({ id }) => id === shownId) ?? array;
  return (
    <div className="flex items-center gap-2">
      {enabled.length > 1 && (
        <select
          aria-label="The line shows"
          className="select select-xs w-auto max-w-44"
          value={of === 'mix' ? MIX : (shownId ?? '')}
          onChange={(event) => {
            const { value } = event.currentTarget;
            if (value === MIX) choiceStore.setState({ imageLineOf: 'mix' });
            else showArray(value);
          }}
        >
          {enabled.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value={MIX}>whole mix (estimate)</option>
        </select>
      )}
      <select
        aria-label="Candidate beside it"
        className="select select-xs w-auto"
        value={ghostId ?? ''}
        onChange={(event) => {
          const { value } = event.currentTarget;
          const kept = value === KEEP && shown ? keepCandidate(shown) : value;
          choiceStore.setState({ ghostId: kept === '' || kept === KEEP ? null : kept });
        }}
      >
        <option value="">no candidate</option>
        {candidates.map(({ id, name }) => (
          <option key={id} value={id}>
            candidate {name}
          </option>
        ))}
        {shown && <option value={KEEP}>keep this one as a candidate</option>}
      </select>
      <button
        className="btn btn-ghost btn-xs"
        title="Percent of the half base, or degrees on a base of ±30°"
        onClick={() =>
          panelStore.setState({ imageLineUnit: unit === 'percent' ? 'degrees' : 'percent' })
        }
      >
        {unit === 'percent' ? '%' : '°'}
      </button>
    </div>
  );
});
