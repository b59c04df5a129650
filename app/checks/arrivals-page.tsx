import { microphoneName } from '../../core/arrays';
import { ArrivalLadder } from './arrival-ladder';
import { current } from 'immer';
import { useState } from 'react';
import {
  arrivalsOf,
  echoLimit,
  layersOf,
  mixFigures,
  proposedStrips,
  type SpotProposal,
} from '../../core/analysis';
import { formatNumber, formatSigned, lengthText, panText } from '../../core/units';
import { ChoiceField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { delayKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
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

const LAYER_WORDS = {
  fuses: 'fuses with it',
  colours: 'colours it',
  echo: 'an echo of it',
} as const;

/** Every layer of the mix against the main array, by a limit that is the session's. */
function Layers() {
  const session = useSession();
  const layers = layersOf(session);
  if (layers.length === 0) return null;
  const ms = (value: number): string => formatSigned(value, 1);
  return (
    <details open>
      <summary className="cursor-pointer text-[15px]">Layers against the main array</summary>
      <table className="ledger-table w-full" aria-label="Layers">
        <thead>
          <tr>
            <th>Array</th>
            <th className="num">behind it</th>
            <th className="num">level</th>
            <th>together</th>
          </tr>
        </thead>
        <tbody>
          {layers.map(({ arrayId, name, leastMs, mostMs, levelDb, word }) => (
            <tr key={arrayId}>
              <th scope="row">{name}</th>
              <td className="num">
                {ms(leastMs)}
                {mostMs - leastMs > 0.05 ? ` to ${ms(mostMs)}` : ''} ms
              </td>
              <td className="num">{formatSigned(levelDb, 1)} dB</td>
              <td className={word === 'echo' ? 'text-warning' : ''}>{LAYER_WORDS[word]}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="w-80 pt-1">
        <QuantityField
          label="An echo from"
          fieldKey={fieldKey('settings', '', 'echoFromMs')}
          kind={delayKind}
          value={session.settings.echoFromMs}
          onCommit={(value) =>
            value !== null && edit((draft) => void (draft.settings.echoFromMs = value))
          }
        />
      </div>
    </details>
  );
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
      <Layers />
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
