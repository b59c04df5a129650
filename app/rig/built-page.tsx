import { fieldKey } from '../view/validity';
import { Check } from 'lucide-react';
import { useState } from 'react';
import {
  builtEffects,
  builtFigures,
  FIELD_WORDS,
  type BuiltEffect,
  type BuiltField,
  type BuiltFigure,
} from '../../core/rig';
import { referenceOf } from '../../core/ensembles';
import { matchesFor, matchOfArray, matchText } from '../../core/kit';
import { BOUNDS, type MicArray } from '../../core/session';
import { angleText, formatNumber, lengthText } from '../../core/units';
import { settle } from '../document/things';
import { QuantityField } from '../parts/quantity-field';
import { angleKind, lengthKind, levelKind, type QuantityKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
import { ClapPlaces } from './clap-places';
import { PhotoEditor, Photographs } from './photo-bar';
import { CsvButton } from './rig-pages';
import { useSession } from '../document/use-session';

function setBuilt(arrayId: string, field: BuiltField, value: number | null): void {
  edit((draft) => {
    const others = draft.rig.asBuilt.filter(
      (entry) => entry.arrayId !== arrayId || entry.field !== field,
    );
    draft.rig.asBuilt = value === null ? others : [...others, { arrayId, field, value }];
  });
}

function kindOf(field: BuiltField, units: 'metric' | 'imperial'): QuantityKind {
  if (field === 'rightDb') return levelKind('gainDb');
  if (field === 'spacingM') return lengthKind('spacingM', units, 'bar');
  if (field === 'aimDeg') return angleKind('azimuthDeg');
  if (field === 'tiltDeg') return angleKind('elevationDeg');
  if (field === 'includedAngleDeg') return angleKind('includedAngleDeg');
  return lengthKind('positionM', units);
}

/** Which of the measured pairs stands there, and what its trim is. */
function PairThere({ array }: { array: MicArray }) {
  const session = useSession();
  const possible = matchesFor(session, array);
  if (possible.length === 0) return null;
  const found = matchOfArray(session, array);
  const names = [...new Set(possible.map(({ match }) => match.name))];
  const field = 'rightDb';
  const without = found ? -found.match.trimDb : 0;
  const now = session.rig.asBuilt.find(
    (entry) => entry.arrayId === array.id && entry.field === field,
  )?.value;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1 text-[12.5px]">
      <label className="flex items-center gap-2">
        <span className="text-muted">Measured pair</span>
        <select
          aria-label={`${array.name}, measured pair`}
          className="select select-xs w-auto max-w-48"
          value={found?.match.name ?? ''}
          onChange={(event) => {
            const { value } = event.currentTarget;
            edit((draft) => {
              const entry = draft.arrays.find(({ id }) => id === array.id);
              if (entry) entry.equipment.pair = value;
            });
          }}
        >
          {!found && <option value="">not said</option>}
          {names.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      {found && (
        <>
          <span>{matchText(found.match)}</span>
          <button
            className={`btn btn-xs ${now === without ? 'btn-primary' : ''}`}
            aria-pressed={now === without}
            onClick={() => setBuilt(array.id, field, now === without ? null : without)}
          >
            The trim is not set
          </button>
        </>
      )}
    </div>
  );
}

function FigureRow({ figure }: { figure: BuiltFigure }) {
  const session = useSession();
  const { units } = session.settings;
  const { arrayId, field, planned, built, outside, tolerance } = figure;
  // A height is measured from the surface that it was set out from.
  const array = session.arrays.find(({ id }) => id === arrayId);
  const reference = field === 'z' && array ? referenceOf(session, array) : null;
  const fromM = reference?.heightM ?? 0;
  const kind = kindOf(field, units);
  const words = reference ? `height above the ${reference.name}` : FIELD_WORDS[field];
  const shown = kind.format(settle(planned - fromM));
  const asPlanned = built === planned;
  return (
    <li className="border-hairline flex items-center gap-2 border-b py-1">
      <span className="min-w-0 flex-1">
        {words}
        <span className="text-muted block text-[12.5px]">
          planned {shown.number} {shown.unit}
        </span>
        {outside && (
          <span className="text-error block text-[12.5px]" role="alert">
            Outside the tolerance of ±{kind.format(tolerance).number} {kind.format(tolerance).unit}
          </span>
        )}
      </span>
      <QuantityField
        bare
        optional
        label={`${figure.arrayName}, ${words} as built`}
        fieldKey={fieldKey('built', arrayId, field)}
        kind={kind}
        value={built === null ? null : field === 'z' ? settle(built - fromM) : built}
        check={(value) => {
          const { min, max } = BOUNDS.positionM;
          return field !== 'z' || (value + fromM >= min && value + fromM <= max)
            ? null
            : `Allowed: ${lengthText(min, units)} to ${lengthText(max, units)} above the floor.`;
        }}
        onCommit={(value) =>
          setBuilt(arrayId, field, value === null || fromM === 0 ? value : settle(value + fromM))
        }
      />
      <button
        className={`btn btn-sm btn-square max-sm:btn-lg ${asPlanned ? 'btn-primary' : ''}`}
        aria-pressed={asPlanned}
        aria-label={`${figure.arrayName}, ${words}: as planned`}
        onClick={() => setBuilt(arrayId, field, asPlanned ? null : planned)}
      >
        <Check size={16} />
      </button>
    </li>
  );
}

function Effect({ effect }: { effect: BuiltEffect }) {
  const { sources } = useSession();
  const worst = sources.find(({ id }) => id === effect.worstSourceId);
  const half = (deg: number | null) => (deg === null ? 'not reached' : `±${angleText(deg)}`);
  return (
    <p role="status" aria-label={`${effect.arrayName} as built`} className="py-1">
      Recording angle {half(effect.plannedHalfDeg)} planned,{' '}
      <strong>{half(effect.builtHalfDeg)}</strong> as built.{' '}
      {worst
        ? `${worst.name} moves most: by ${formatNumber(effect.worstPct, 0)} % of the half base.`
        : 'No image moves.'}
    </p>
  );
}

/** What was really set, figure by figure, as wide as a phone; the prediction follows. */
export function BuiltPage() {
  const session = useSession();
  const figures = builtFigures(session);
  const effects = new Map(builtEffects(session).map((effect) => [effect.arrayId, effect]));
  const arrays = session.arrays.filter(({ enabled }) => enabled);
  const [open, setOpen] = useState('');
  const photograph = session.rig.photographs.find(({ id }) => id === open);
  const pictured = arrays.find(({ id }) => id === photograph?.arrayId);
  if (photograph && pictured) {
    return <PhotoEditor photograph={photograph} array={pictured} close={() => setOpen('')} />;
  }
  return (
    <section aria-label="As built" className="mx-auto w-full max-w-md">
      <p className="text-muted pb-2">
        Tick what stands as planned, type what does not. The plan itself stays as it is.
      </p>
      <div className="pb-3">
        <CsvButton name="as-built" />
      </div>
      {arrays.length === 0 && <p>There is no array to build yet.</p>}
      <ClapPlaces arrays={arrays} />
      {arrays.map((array) => {
        const effect = effects.get(array.id);
        return (
          <div key={array.id} className="pb-5">
            <h2 className="text-[16px]">{array.name}</h2>
            {effect && <Effect effect={effect} />}
            <PairThere array={array} />
            <Photographs array={array} open={setOpen} />
            <ul>
              {figures
                .filter(({ arrayId }) => arrayId === array.id)
                .map((figure) => (
                  <FigureRow key={figure.field} figure={figure} />
                ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}
