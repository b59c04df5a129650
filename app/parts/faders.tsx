import { enabledArrays } from '../../core/session';
import { changeMix } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { fieldKey } from '../view/validity';
import { QuantityField } from './quantity-field';
import { levelKind } from './quantity-kinds';

/** How loud each array stands in the mix, and whether it is heard. */
export function Faders() {
  const session = useSession();
  const arrays = enabledArrays(session);
  if (arrays.length === 0) return null;
  return (
    <section aria-label="In the mix" className="max-w-2xl">
      <h2 className="pt-2 pb-1 text-[14px]">In the mix</h2>
      <table className="ledger-table stacked w-full" aria-label="Faders">
        <thead>
          <tr>
            <th>Array</th>
            <th className="num">Fader</th>
            <th>Heard</th>
            <th>
              <span className="sr-only">Strips</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {arrays.map(({ id, name, mix }) => (
            <tr key={id}>
              <th scope="row">{name}</th>
              <td data-label="Fader" className="w-32">
                <QuantityField
                  bare
                  label={`Fader of ${name}`}
                  fieldKey={fieldKey('array', id, 'fader')}
                  kind={levelKind('gainDb')}
                  value={mix.faderDb}
                  onCommit={(value) => value !== null && edit(changeMix(id, { faderDb: value }))}
                />
              </td>
              <td data-label="Heard">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  aria-label={`${name} is heard`}
                  checked={!mix.mute}
                  onChange={(event) => {
                    const mute = !event.currentTarget.checked;
                    edit(changeMix(id, { mute }));
                  }}
                />
              </td>
              <td>
                {mix.capsules.length > 0 && (
                  <button
                    className="btn btn-xs font-normal"
                    aria-label={`Usual strips for ${name}`}
                    onClick={() => edit(changeMix(id, { capsules: [] }))}
                  >
                    Usual pans, no delays
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
