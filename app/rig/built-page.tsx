import { fieldKey } from '../view/validity';
import { Check } from 'lucide-react';
import {
  builtEffects,
  builtFigures,
  FIELD_WORDS,
  type BuiltEffect,
  type BuiltField,
  type BuiltFigure,
} from '../../core/rig';
import { angleText, formatNumber } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { angleKind, lengthKind, type QuantityKind } from '../parts/quantity-kinds';
import { edit } from '../document/session-store';
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
  if (field === 'spacingM') return lengthKind('spacingM', units, 'bar');
  if (field === 'aimDeg') return angleKind('azimuthDeg');
  if (field === 'tiltDeg') return angleKind('elevationDeg');
  if (field === 'includedAngleDeg') return angleKind('includedAngleDeg');
  return lengthKind('positionM', units);
}

function FigureRow({ figure }: { figure: BuiltFigure }) {
  const { units } = useSession().settings;
  const { arrayId, field, planned, built, outside, tolerance } = figure;
  const kind = kindOf(field, units);
  const shown = kind.format(planned);
  const asPlanned = built === planned;
  return (
    <li className="border-hairline flex items-center gap-2 border-b py-1">
      <span className="min-w-0 flex-1">
        {FIELD_WORDS[field]}
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
        label={`${figure.arrayName}, ${FIELD_WORDS[field]} as built`}
        fieldKey={fieldKey('built', arrayId, field)}
        kind={kind}
        value={built}
        onCommit={(value) => setBuilt(arrayId, field, value)}
      />
      <button
        className={`btn btn-sm btn-square max-sm:btn-lg ${asPlanned ? 'btn-primary' : ''}`}
        aria-pressed={asPlanned}
        aria-label={`${figure.arrayName}, ${FIELD_WORDS[field]}: as planned`}
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
  return (
    <section aria-label="As built" className="mx-auto w-full max-w-md">
      <p className="text-muted pb-2">
        Tick what stands as planned, type what does not. The plan itself stays as it is.
      </p>
      <div className="pb-3">
        <CsvButton name="as-built" />
      </div>
      {arrays.length === 0 && <p>There is no array to build yet.</p>}
      {arrays.map((array) => {
        const effect = effects.get(array.id);
        return (
          <div key={array.id} className="pb-5">
            <h2 className="text-[16px]">{array.name}</h2>
            {effect && <Effect effect={effect} />}
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
