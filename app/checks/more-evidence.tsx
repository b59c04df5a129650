import { gainPlan, spillMatrix } from '../../core/analysis';
import { microphoneName } from '../../core/arrays';
import { standPlans } from '../../core/mechanics';
import type { Source } from '../../core/session';
import { formatNumber, formatSigned, lengthText } from '../../core/units';
import { useSession } from '../document/use-session';

const MOST_ROWS = 8;

/** What the microphones of some arrays hear of the loudest others. */
export function SpillEvidence(props: { arrayIds: readonly string[]; players: readonly Source[] }) {
  const session = useSession();
  const microphones = spillMatrix(session)
    .filter(({ arrayId }) => props.arrayIds.includes(arrayId))
    .slice(0, 6);
  if (microphones.length === 0) return null;
  const loudest = (id: string): number =>
    Math.max(...microphones.map(({ spillDb }) => spillDb[id] ?? -200));
  const named = new Set(props.players.map(({ id }) => id));
  const rows = [...session.sources]
    .sort(
      (a, b) => Number(named.has(b.id)) - Number(named.has(a.id)) || loudest(b.id) - loudest(a.id),
    )
    .slice(0, MOST_ROWS);
  return (
    <table className="ledger-table" aria-label="Spill behind the finding">
      <thead>
        <tr>
          <th>Player</th>
          {microphones.map(({ arrayId, arrayName, label }) => (
            <th key={arrayId + label} className="num">
              {microphoneName(arrayName, label)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, name }) => (
          <tr key={id}>
            <td>{name}</td>
            {microphones.map(({ arrayId, label, spillDb, ownSourceId }) => (
              <td key={arrayId + label} className="num">
                {id === ownSourceId ? 'own' : `${formatSigned(spillDb[id], 1)} dB`}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the stands of some arrays must do, and what they can. */
export function StandEvidence({ arrayIds }: { arrayIds: readonly string[] }) {
  const session = useSession();
  const { units } = session.settings;
  const plans = standPlans(session).filter(({ arrayId }) => arrayIds.includes(arrayId));
  if (plans.length === 0) return null;
  return (
    <table className="ledger-table" aria-label="Stands behind the finding">
      <thead>
        <tr>
          <th>Stand for</th>
          <th className="num">height</th>
          <th className="num">reach</th>
          <th>stand</th>
          <th className="num">load</th>
          <th className="num">to lay on</th>
        </tr>
      </thead>
      <tbody>
        {plans.map((plan) => (
          <tr key={plan.arrayName}>
            <td>{plan.arrayName}</td>
            <td className="num">{lengthText(plan.heightM, units)}</td>
            <td className="num">
              {plan.reachM === null ? 'no free spot' : lengthText(plan.reachM, units)}
            </td>
            <td>{plan.stand?.name ?? 'none'}</td>
            <td className="num">{formatNumber(plan.loadKg, 1)} kg</td>
            <td className="num">{plan.ballastKg > 0 ? `${plan.ballastKg} kg` : '—'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Levels and phantom power on the channels of some arrays. */
export function ChannelEvidence({ arrayIds }: { arrayIds: readonly string[] }) {
  const rows = gainPlan(useSession()).filter(({ arrayId }) => arrayIds.includes(arrayId));
  if (rows.length === 0) return null;
  return (
    <table className="ledger-table" aria-label="Channels behind the finding">
      <thead>
        <tr>
          <th>Channel</th>
          <th>microphone</th>
          <th>phantom</th>
          <th className="num">peak</th>
          <th className="num">output</th>
          <th className="num">gain</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.arrayId + row.label}>
            <td>{microphoneName(row.arrayName, row.label)}</td>
            <td>{row.microphone?.name ?? 'not in the kit'}</td>
            <td>{row.phantom}</td>
            <td className="num">{formatNumber(row.peakDb, 0)} dB</td>
            <td className="num">
              {row.outputMv === null ? '—' : `${formatNumber(row.outputMv, 0)} mV`}
            </td>
            <td className="num">
              {row.gainDb === null ? '—' : `${formatSigned(row.gainDb, 0)} dB`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
