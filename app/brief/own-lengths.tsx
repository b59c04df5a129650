import { fieldKey } from '../view/validity';
import { useState } from 'react';
import { isLengthUnit } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** The user's own units: a stick, a shoe, a floor board. */
export function OwnLengths() {
  const { ownLengths, units } = useSession().settings;
  const [name, setName] = useState('');
  const word = name.trim().toLowerCase();
  const taken = ownLengths.some((own) => own.name === word) || isLengthUnit(word);
  const fits = /^[a-z]{2,20}$/.test(word) && !taken;
  return (
    <section aria-labelledby="own-heading" className="pt-5">
      <h2 id="own-heading" className="pb-1 text-[17px]">
        Own units of length
      </h2>
      <p className="text-muted pb-1 text-[12.5px]">
        A stick or a shoe: then “3 shoes” can be typed wherever a length is asked for.
      </p>
      {ownLengths.map((own, index) => (
        <div key={own.name} className="flex items-baseline gap-2">
          <div className="flex-1">
            <QuantityField
              label={`One ${own.name}`}
              fieldKey={fieldKey('own', '', own.name)}
              kind={lengthKind('widthM', units)}
              value={own.lengthM}
              check={(value) => (value > 0 ? null : 'Allowed: more than 0.')}
              onCommit={(value) =>
                edit((draft) => {
                  const entry = draft.settings.ownLengths[index];
                  if (entry && value !== null) entry.lengthM = value;
                })
              }
            />
          </div>
          <button
            className="btn btn-ghost btn-xs"
            aria-label={`Remove the unit ${own.name}`}
            onClick={() => edit((draft) => void draft.settings.ownLengths.splice(index, 1))}
          >
            ×
          </button>
        </div>
      ))}
      <form
        className="flex items-center gap-2 pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!fits) return;
          edit((draft) => void draft.settings.ownLengths.push({ name: word, lengthM: 0.3 }));
          setName('');
        }}
      >
        <input
          aria-label="Name of the new unit"
          className="input input-sm w-40"
          placeholder="shoe"
          maxLength={20}
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <button className="btn btn-sm font-normal" disabled={!fits}>
          Add a unit
        </button>
      </form>
      {word !== '' && !fits && (
        <p role="alert" className="text-error text-[12.5px]">
          {taken ? `“${word}” is a unit already.` : 'Allowed: one word of 2 to 20 letters a to z.'}
        </p>
      )}
    </section>
  );
}
