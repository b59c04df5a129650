import { fieldKey } from '../../view/validity';
import { useMemo, useState } from 'react';
import { techniqueName } from '../../../core/arrays';
import { modelOf } from '../../../core/localisation';
import type { MicArray, SessionTechnique } from '../../../core/session';
import { angleText, clamp, formatNumber, speedOfSound } from '../../../core/units';
import { QuantityField } from '../../parts/quantity-field';
import { halfAngleKind, lengthKind } from '../../parts/quantity-kinds';
import { patternWords, TECHNIQUE_WORDS, techniqueFigures } from '../../parts/technique-text';
import { editSaying, withTechnique } from '../../document/edits';
import { useFigures } from '../../figures/figures';
import { useSettled } from '../../figures/use-settled';
import { usePlan } from '../../document/use-session';
import { useTask } from '../../workers/use-task';

const REST_MS = 200;

const patternOf = (technique: SessionTechnique): string =>
  technique.kind === 'pair' ? patternWords(technique.pattern) : '';

/** "I want ±θ at this distance": every customary technique that has it, each with one action. */
export function SolvePage({ array }: { array: MicArray }) {
  const session = usePlan();
  const rested = useSettled(session, REST_MS);
  const { settings, venue } = session;
  const { figures } = useFigures();
  const ensemble = figures?.ensemble ?? null;
  const [half, setHalf] = useState<number | null>(null);
  const [distance, setDistance] = useState<number | null>(null);
  const own = ensemble ? Math.round(clamp(ensemble.angleDeg / 2, 5, 175)) : 45;
  const halfDeg = half ?? own;
  const { model, own: ownModel, units } = settings;
  const speed = speedOfSound(venue.temperatureC);
  const heightM = ensemble ? ensemble.heightM - array.z : 0;
  const ask = useMemo(
    () => ({
      session: rested,
      arrayId: array.id,
      wanted: { halfDeg, model, own: ownModel, distanceM: distance, heightM, speed },
    }),
    [rested, array.id, halfDeg, model, ownModel, distance, heightM, speed],
  );
  const { value, busy, error } = useTask('solve', ask);
  return (
    <section aria-labelledby="solve-heading" className="max-w-3xl">
      <h2 id="solve-heading" className="pb-2 text-[16px]">
        A wanted recording angle
      </h2>
      <div className="grid grid-cols-2 gap-x-8">
        <QuantityField
          label="Half recording angle"
          fieldKey={fieldKey('solve', '', 'half')}
          kind={halfAngleKind}
          value={halfDeg}
          onCommit={(value) => setHalf(value)}
        />
        <QuantityField
          label="Players’ distance (empty: far away)"
          fieldKey={fieldKey('solve', '', 'distance')}
          kind={lengthKind('roomM', units)}
          value={distance}
          optional
          onCommit={setDistance}
        />
      </div>
      <p className="text-muted py-2 text-[12.5px]">
        {modelOf(settings).name} lead. The ensemble subtends{' '}
        {ensemble ? `±${own}°` : 'no angle yet'}
        {distance === null
          ? '.'
          : `; players are taken ${heightM < 0 ? 'below' : 'above'} the array as they are now.`}
      </p>
      {error !== null && <p role="alert">{error}</p>}
      {busy && <p className="text-muted">{value ? 'computing …' : 'searching …'}</p>}
      {value && (
        <table className="ledger-table w-full" aria-label="Solutions" aria-busy={busy}>
          <thead>
            <tr>
              <th>Technique</th>
              <th>Pattern</th>
              <th>Figures</th>
              <th>Solved for</th>
              <th className="num">in the models</th>
              <th className="num">bass correlation</th>
              <th className="num">by the brief</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {value.map((solution, index) => {
              const { technique, solvedFor, leastDeg, mostDeg, lowCorrelation, score } = solution;
              const stored = technique as SessionTechnique;
              const figuresText = techniqueFigures(stored, units);
              return (
                <tr key={index}>
                  <td>{TECHNIQUE_WORDS[techniqueName(technique)]}</td>
                  <td>{patternOf(stored)}</td>
                  <td className="font-semibold">{figuresText}</td>
                  <td className="text-muted">{solvedFor}</td>
                  <td className="num">
                    ±{formatNumber(leastDeg, 0)} to{' '}
                    {mostDeg >= 180 ? 'never' : `±${angleText(mostDeg)}`}
                  </td>
                  <td className="num">{formatNumber(lowCorrelation, 2)}</td>
                  <td className="num">
                    {session.sources.length > 0 ? `${formatNumber(score, 0)} of 100` : '—'}
                  </td>
                  <td>
                    <button
                      className="btn btn-xs font-normal"
                      onClick={() => {
                        editSaying(
                          `${array.name} is now ${figuresText}.`,
                          withTechnique(array, stored),
                        );
                      }}
                    >
                      Use it
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {value && value.length > 0 && session.sources.length > 0 && (
        <p className="text-muted py-2 text-[12.5px]">
          Customary ranges only, the best by the brief first, with the array where it stands now.
        </p>
      )}
      {value?.length === 0 && <p>No customary technique has it. Try another angle or distance.</p>}
    </section>
  );
}
