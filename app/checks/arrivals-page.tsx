import { microphoneName } from '../../core/arrays';
import { ArrivalLadder } from './arrival-ladder';
import { current } from 'immer';
import { useState } from 'react';
import {
  arrivalsOf,
  echoLimit,
  mixFigures,
  proposedStrips,
  type SpotProposal,
} from '../../core/analysis';
import { formatNumber, formatSigned, lengthText, panText } from '../../core/units';
import { ChoiceField } from '../parts/fields';
import { FormulaLink } from '../parts/formula-link';
import { edit, undo } from '../document/session-store';
import { choiceStore } from '../view/choice';
import { notify } from '../view/notices';
import { useSession } from '../document/use-session';
import { ImageText, pullText } from './mix-text';

/** Delays and pans of spots as proposed, all in one step. */
function applyProposals(proposals: readonly SpotProposal[]): void {
  edit((draft) => {
    for (const proposal of proposals) {
      const array = draft.arrays.find(({ id }) => id === proposal.arrayId);
      if (!array) continue;
      array.mix.capsules = proposedStrips(current(array), proposal).map((strip) => ({ ...strip }));
    }
  });
  notify('Delays and pans set.', { label: 'Undo', run: () => void undo() });
}

/** One player's way to every microphone: who hears first, what is late, what spots should do. */
export function ArrivalsPage() {
  const session = useSession();
  const [chosen, setChosen] = useState(() => {
    const { selection } = choiceStore.getState();
    return selection?.kind === 'source' ? selection.id : '';
  });
  const source = session.sources.find(({ id }) => id === chosen) ?? session.sources[0];
  if (!source) return <p>No players yet: put them on the Floor first.</p>;
  const { arrivals, proposals } = arrivalsOf(session, source);
  const limit = echoLimit(source);
  const mix = mixFigures(session, source);
  const nameOf = new Map(session.arrays.map(({ id, name }) => [id, name]));
  const useful = proposals.filter(({ delayMs, leadsByMs }) => delayMs > 0.005 || leadsByMs > 0.005);
  return (
    <section aria-label="Arrivals" className="flex max-w-4xl flex-col gap-3">
      <div className="w-80">
        <ChoiceField
          label="Player"
          value={source.id}
          options={session.sources.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setChosen}
        />
      </div>
      <p className="text-muted">
        The first loud arrival pulls the image. Later than {limit.ms} ms and less than 10 dB down is
        heard as an echo ({limit.of}). <FormulaLink to="arrivals">Formula</FormulaLink>
      </p>
      {mix && (
        <p aria-label="In the whole mix">
          In the whole mix: <ImageText figures={mix} model={session.settings.model} />. Who pulls:{' '}
          {pullText(mix)}.
        </p>
      )}
      {arrivals.length === 0 ? (
        <p>No microphone is heard.</p>
      ) : (
        <>
          <ArrivalLadder arrivals={arrivals} limitMs={limit.ms} />
          <table className="ledger-table w-full" aria-label="Arrivals">
            <thead>
              <tr>
                <th>Microphone</th>
                <th className="num">Distance</th>
                <th className="num">Arrives</th>
                <th className="num">against the first</th>
                <th className="num">below the loudest</th>
                <th>Pan</th>
                <th>
                  <span className="sr-only">Remark</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {arrivals.map((arrival) => (
                <tr key={`${arrival.arrayId}${arrival.label}`}>
                  <th scope="row">{microphoneName(arrival.arrayName, arrival.label)}</th>
                  <td className="num">{lengthText(arrival.distanceM, session.settings.units)}</td>
                  <td className="num">{formatNumber(arrival.arrivalMs, 2)} ms</td>
                  <td className="num">{formatSigned(arrival.afterFirstMs, 2)} ms</td>
                  <td className="num">{formatNumber(arrival.belowLoudestDb, 1)} dB</td>
                  <td>{panText(arrival.pan)}</td>
                  <td className="text-warning">{arrival.echo ? 'echo' : ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {proposals.map(({ arrayId, leadsByMs, delayMs, pan }) => (
        <p key={arrayId}>
          {nameOf.get(arrayId)} {leadsByMs > 0.005 ? 'leads' : 'follows'} the main array by{' '}
          {formatNumber(Math.abs(leadsByMs), 2)} ms. With it at a delay of{' '}
          <strong>{formatNumber(delayMs, 2)} ms</strong>; behind it with 5 to 20 ms more.
          {pan !== null && (
            <>
              {' '}
              Pan <strong>{panText(pan)}</strong> gives the main array’s image.
            </>
          )}
        </p>
      ))}
      {useful.length > 0 && (
        <div>
          <button className="btn btn-sm btn-primary" onClick={() => applyProposals(useful)}>
            Set these delays and pans
          </button>
        </div>
      )}
    </section>
  );
}
