import { useEffect, useMemo } from 'react';
import { useStore } from 'zustand';
import { listenerErrors } from '../../core/localisation/heard';
import type { ModelId } from '../../core/localisation';
import { heardStore, readHeard } from '../keeping/heard-places';
import { errorsText, listenerText, OUTWARD_WORDS, outwardText } from './model-errors';
import { notifyFailure } from '../view/notices';

function useListeners() {
  const places = useStore(heardStore, (state) => state.places);
  useEffect(() => {
    if (heardStore.getState().places === null) readHeard().catch(notifyFailure);
  }, []);
  return useMemo(() => listenerErrors(places ?? []), [places]);
}

/** Beside the choice of the model: what the listener with the most places says of the one that leads. */
export default function YourPlaces({ model }: { model: ModelId }) {
  const [first, ...others] = useListeners();
  const of = first?.models.find((one) => one.model === model);
  // A mean without an interval says nothing beside a choice.
  if (!first || of?.within == null) return null;
  const all = [first, ...others].map(errorsText);
  return (
    <span
      role="note"
      aria-label="How far off the model was"
      title={[...all, OUTWARD_WORDS].join('\n')}
      className="text-muted pl-2 text-[12px] leading-tight max-lg:sr-only"
    >
      {outwardText(of)}
      <span className="block text-[11px]">{listenerText(first)}</span>
    </span>
  );
}

/** The same in full: every listener, every model. */
export function ListenerTable() {
  const listeners = useListeners();
  if (listeners.length === 0) return null;
  return (
    <>
      <table className="ledger-table w-auto" aria-label="Models against what was heard">
        <thead>
          <tr>
            <th>Listener</th>
            <th className="num">Places</th>
            <th>Model</th>
            <th className="num">Farther out</th>
            <th className="num">Off by (rms)</th>
          </tr>
        </thead>
        <tbody>
          {listeners.flatMap((of) =>
            of.models.map((one, i) => (
              <tr key={`${of.by} ${of.through} ${one.model}`}>
                {i === 0 && (
                  <th scope="rowgroup" rowSpan={of.models.length} className="align-top">
                    {of.by || 'no name'}, by {of.through}
                  </th>
                )}
                <td className="num">{one.places}</td>
                <td className={of.nearest === one.model ? 'font-semibold' : ''}>
                  {one.name}
                  {of.nearest === one.model ? ' (nearest)' : ''}
                </td>
                <td className="num">{outwardText(one)}</td>
                <td className="num">{Math.round(100 * one.rms)} %</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      <p className="text-muted max-w-[72ch] pt-1 text-[12.5px]">
        {OUTWARD_WORDS} Listeners, and loudspeakers and headphones, are never put together.
      </p>
    </>
  );
}
