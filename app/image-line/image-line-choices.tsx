import { memo } from 'react';
import { useStore } from 'zustand';
import type { MicArray } from '../../core/session';
import { allBeside } from '../document/beside';
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
  const session = useStore(sessionStore, (state) => state.session);
  const of = useStore(choiceStore, (state) => state.imageLineOf);
  const unit = useStore(panelStore, (state) => state.imageLineUnit);
  const ghostId = useStore(choiceStore, (state) => state.ghostId);
  const arrays = session?.arrays ?? [];
  const enabled = arrays.filter((array) => array.enabled);
  // What is kept is what is seen; of the whole mix, the array that the other figures are of.
  const shown = arrays.find(({ id }) => id === shownId) ?? array;
  const beside = session ? allBeside(session, shown) : [];
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
        className="select select-xs w-auto max-w-40"
        value={beside.some(({ id }) => id === ghostId) ? (ghostId ?? '') : ''}
        onChange={(event) => {
          const { value } = event.currentTarget;
          const kept = value === KEEP && shown ? keepCandidate(shown) : value;
          choiceStore.setState({ ghostId: kept === '' || kept === KEEP ? null : kept });
        }}
      >
        <option value="">nothing beside it</option>
        {(['candidate', 'in use'] as const).map((kind) => {
          const of = beside.filter((one) => one.kind === kind);
          return of.length === 0 ? null : (
            <optgroup key={kind} label={kind === 'candidate' ? 'kept' : 'in use'}>
              {of.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </optgroup>
          );
        })}
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
