import { useMemo, useState } from 'react';
import type { MonoRow } from '../../core/analysis';
import { enabledArrays } from '../../core/session';
import { formatNumber, formatSigned } from '../../core/units';
import { usePlan } from '../document/use-session';
import { useSettled } from '../figures/use-settled';
import { ChoiceField } from '../parts/fields';
import { TaskNotes } from '../parts/task-notes';
import { useTask } from '../workers/use-task';
import { MonoBars } from './mono-bars';

const WHOLE_MIX = '';
const REST_MS = 200;

/** What mono leaves of every player, in one array or in all that is heard. */
export function MonoPage() {
  const session = usePlan();
  const [of, setOf] = useState(WHOLE_MIX);
  const [shown, setShown] = useState<string | null>(null);
  const arrays = enabledArrays(session);
  const arrayId = arrays.some(({ id }) => id === of) ? of : WHOLE_MIX;
  const rested = useSettled(session, REST_MS);
  const ask = useMemo(
    () => ({ session: rested, arrayId: arrayId === WHOLE_MIX ? null : arrayId }),
    [rested, arrayId],
  );
  const { value, busy, error, progress } = useTask('mono', ask);
  const rows = value ?? [];
  const keyOf = ({ sourceId, part }: MonoRow): string => `${sourceId} ${part}`;
  const names = new Map(session.sources.map(({ id, name }) => [id, name]));
  const nameOf = ({ sourceId, part }: MonoRow): string =>
    `${names.get(sourceId) ?? ''}${part === 'whole' ? '' : `, ${part}`}`;
  const chosen = rows.find((row) => keyOf(row) === shown) ?? rows[0];
  return (
    <section aria-label="Mono" className="flex max-w-4xl flex-col gap-3">
      <div className="w-80">
        <ChoiceField
          label="Mono sum of"
          value={arrayId}
          options={[
            { value: WHOLE_MIX, label: 'the whole mix' },
            ...arrays.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={setOf}
        />
      </div>
      {error === null && rows.length === 0 && !busy && (
        <p>Nothing to sum yet: it takes players, and an array that is heard.</p>
      )}
      <TaskNotes
        doing="Summing"
        error={error}
        busy={busy}
        answered={rows.length > 0}
        progress={progress}
      />
      {chosen && <MonoBars name={nameOf(chosen)} bands={chosen.bands} />}
      {rows.length > 0 && (
        <table
          className="ledger-table w-full"
          aria-label="Mono sums"
          aria-busy={busy}
          style={{ opacity: busy ? 0.6 : 1 }}
        >
          <thead>
            <tr>
              <th>Player</th>
              <th className="num">level in mono</th>
              <th className="num">first null</th>
              <th className="num">peak to dip</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={keyOf(row)}>
                <th scope="row">
                  <button
                    className="underline underline-offset-2"
                    aria-pressed={row === chosen}
                    onClick={() => setShown(keyOf(row))}
                  >
                    {nameOf(row)}
                  </button>
                </th>
                <td className={`num ${row.sumDb < -1.5 ? 'text-error font-semibold' : ''}`}>
                  {formatSigned(row.sumDb, 1)} dB
                </td>
                <td className="num">
                  {row.firstNullHz === null ? 'none' : `${formatNumber(row.firstNullHz, 0)} Hz`}
                </td>
                <td className="num">{formatNumber(row.rippleDb, 1)} dB</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-muted text-[12.5px]">
        Mean over the third octaves 100 Hz to 10 kHz against the power of both channels, with every
        pan, gain, polarity and delay; wide players at their middle and both ends. A null is 10 dB
        down and comes again at an odd multiple.
      </p>
    </section>
  );
}
