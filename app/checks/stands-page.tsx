import { standPlans } from '../../core/analysis';
import { formatNumber, lengthText } from '../../core/units';
import { useSession } from '../state/use-session';

/** Which stand carries what, how far it reaches, and whether it holds. */
export function StandsPage() {
  const session = useSession();
  const plans = standPlans(session);
  const { units } = session.settings;
  return (
    <section aria-label="Stands" className="flex max-w-5xl flex-col gap-3">
      {session.kit.stands.length === 0 && (
        <p className="text-muted">
          The kit has no stands yet: list them in Brief, The kit, and each array gets one.
        </p>
      )}
      {plans.length === 0 ? (
        <p>No array needs a stand.</p>
      ) : (
        <table className="ledger-table w-full" aria-label="Stands">
          <thead>
            <tr>
              <th>Array</th>
              <th className="num">Height</th>
              <th className="num">Reach from a free spot</th>
              <th>Stand</th>
              <th className="num">Load</th>
              <th className="num">turns with</th>
              <th className="num">holds</th>
              <th className="num">to lay on</th>
            </tr>
          </thead>
          <tbody>
            {plans.map((plan) => (
              <tr key={plan.arrayId}>
                <th scope="row">{plan.arrayName}</th>
                <td className="num">{lengthText(plan.heightM, units)}</td>
                <td className="num">
                  {plan.reachM === null ? 'none near' : lengthText(plan.reachM, units)}
                </td>
                <td>
                  {plan.stand?.name ?? <span className="text-error">{plan.lacks || '—'}</span>}
                </td>
                <td className="num">{formatNumber(plan.loadKg, 1)} kg</td>
                <td className="num">{formatNumber(plan.momentNm, 1)} N·m</td>
                <td className="num">
                  {plan.holdsNm === null ? '—' : `${formatNumber(plan.holdsNm, 1)} N·m`}
                </td>
                <td className="num">{plan.ballastKg > 0 ? `${plan.ballastKg} kg` : 'nothing'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-muted text-[12.5px]">
        Loads are assumed (0.35 kg a microphone with its mount, 0.5 kg a bar); level floor, still
        air. Twice the moment must be held. It is a rule of thumb, not a certificate: follow the
        venue’s rules.
      </p>
    </section>
  );
}
