import { microphoneName } from '../../core/arrays';
import { fieldKey } from '../view/validity';
import { standPlans, clashes, type StandPlan } from '../../core/mechanics';
import { formatNumber, lengthText } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { kilogramsKind, lengthKind } from '../parts/quantity-kinds';
import { changeEquipment } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** What a stand carries: as it was weighed, or as it is assumed. */
function LoadField({ plan }: { plan: StandPlan }) {
  const array = useSession().arrays.find(({ id }) => id === plan.arrayId);
  if (!array) return null;
  const typed = array.equipment.loadKg;
  return (
    <>
      <QuantityField
        bare
        optional
        label={`Load of ${plan.arrayName}`}
        fieldKey={fieldKey('array', array.id, 'loadKg')}
        kind={kilogramsKind}
        value={typed}
        onCommit={(loadKg) => edit(changeEquipment(array.id, { loadKg }))}
      />
      {typed === null && (
        <span className="text-muted text-[12.5px]">assumed {formatNumber(plan.loadKg, 1)} kg</span>
      )}
    </>
  );
}

/** Which stand carries what, how far it reaches, and whether it holds. */
export function StandsPage() {
  const session = useSession();
  const plans = standPlans(session);
  const { units } = session.settings;
  const near = clashes(session);
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
              <th>Stand for</th>
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
              <tr key={plan.arrayName}>
                <th scope="row">{plan.arrayName}</th>
                <td className="num">{lengthText(plan.heightM, units)}</td>
                <td className="num">
                  {plan.reachM === null ? 'none near' : lengthText(plan.reachM, units)}
                </td>
                <td>
                  {plan.stand?.name ?? <span className="text-error">{plan.lacks || '—'}</span>}
                </td>
                <td className="num">
                  <LoadField plan={plan} />
                </td>
                <td className="num">
                  {plan.stand ? `${formatNumber(plan.momentNm, 1)} N·m` : '—'}
                </td>
                <td className="num">
                  {plan.holdsNm === null ? '—' : `${formatNumber(plan.holdsNm, 1)} N·m`}
                </td>
                <td className="num">
                  {plan.stand ? (plan.ballastKg > 0 ? `${plan.ballastKg} kg` : 'nothing') : '—'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="w-80">
        <QuantityField
          label="Keep from players and things"
          fieldKey={fieldKey('rig', '', 'clearanceM')}
          kind={lengthKind('widthM', units)}
          value={session.rig.clearanceM}
          onCommit={(clearanceM) =>
            clearanceM !== null && edit((draft) => void (draft.rig.clearanceM = clearanceM))
          }
        />
      </div>
      {near.length === 0 ? (
        <p>No microphone comes closer to a player or a thing than that.</p>
      ) : (
        <table className="ledger-table w-full" aria-label="Too close">
          <thead>
            <tr>
              <th>Microphone</th>
              <th>is close to</th>
              <th className="num">distance</th>
              <th className="num">keep</th>
            </tr>
          </thead>
          <tbody>
            {near.map((clash) => (
              <tr key={`${clash.arrayId}${clash.with}${clash.id}`}>
                <th scope="row">{microphoneName(clash.arrayName, clash.label)}</th>
                <td>{clash.name}</td>
                <td className="num">{lengthText(clash.distanceM, units)}</td>
                <td className="num">{lengthText(clash.leastM, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-muted text-[12.5px]">
        A load that nobody typed is assumed: 0.35 kg a microphone with its mount, 0.5 kg a bar; a
        boom weighs 0.6 kg a metre. A tripod turns over the line between two feet, half its base
        radius from the column; level floor, still air. Twice the moment must be held. It is a rule
        of thumb, not a certificate: follow the venue’s rules.
      </p>
    </section>
  );
}
