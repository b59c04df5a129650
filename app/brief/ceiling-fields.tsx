import type { Venue } from '../../core/session';
import { lengthText } from '../../core/units';
import { ChoiceField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { editHall } from '../document/edits';
import { useSession } from '../document/use-session';
import { fieldKey } from '../view/validity';

type Ceiling = Venue['ceiling'];

const setCeiling = (ceiling: Ceiling): void =>
  editHall((draft) => void (draft.venue.ceiling = ceiling));

const MOST_STEPS = 10;

/** A ceiling of another kind begins as a usual one of the hall. */
function begun(kind: Ceiling['kind'], { heightM, depthM }: Venue): Ceiling {
  const top = heightM ?? 6;
  if (kind === 'pitched') {
    return {
      kind,
      eavesM: Math.max(0.5, Math.round(top * 60) / 100),
      ridge: 'along',
      ridgeAtM: null,
    };
  }
  if (kind === 'stepped') {
    const low = Math.max(0.5, Math.round(top * 75) / 100);
    return { kind, steps: [{ fromM: Math.round(((depthM ?? 12) / 2) * 10) / 10, heightM: low }] };
  }
  return { kind: 'flat' };
}

function Pitched({ ceiling }: { ceiling: Extract<Ceiling, { kind: 'pitched' }> }) {
  const { venue, settings } = useSession();
  const across = ceiling.ridge === 'along' ? venue.widthM : venue.depthM;
  const top = venue.heightM ?? 0;
  return (
    <>
      <QuantityField
        label="Height at the eaves"
        fieldKey={fieldKey('ceiling', '', 'eavesM')}
        kind={lengthKind('roomM', settings.units)}
        value={ceiling.eavesM}
        check={(value) =>
          value > top - 0.05
            ? `Allowed: up to ${lengthText(Math.max(0.5, top - 0.05), settings.units)}, below the ridge.`
            : null
        }
        onCommit={(eavesM) => eavesM !== null && setCeiling({ ...ceiling, eavesM })}
      />
      <ChoiceField
        label="Ridge"
        value={ceiling.ridge}
        options={[
          { value: 'along', label: 'from front to back' },
          { value: 'across', label: 'from left to right' },
        ]}
        onChange={(ridge) => setCeiling({ ...ceiling, ridge, ridgeAtM: null })}
      />
      <QuantityField
        label={ceiling.ridge === 'along' ? 'Ridge from the left' : 'Ridge from behind the audience'}
        fieldKey={fieldKey('ceiling', '', 'ridgeAtM')}
        kind={lengthKind('farM', settings.units)}
        value={ceiling.ridgeAtM}
        optional
        remark={ceiling.ridgeAtM === null ? 'In the middle.' : null}
        check={(value) =>
          across !== null && value > across
            ? `Allowed: 0 to ${lengthText(across, settings.units)}, within the hall.`
            : null
        }
        onCommit={(ridgeAtM) => setCeiling({ ...ceiling, ridgeAtM })}
      />
    </>
  );
}

function Stepped({ ceiling }: { ceiling: Extract<Ceiling, { kind: 'stepped' }> }) {
  const { venue, settings } = useSession();
  const { steps } = ceiling;
  const put = (index: number, part: Partial<(typeof steps)[number]>) =>
    setCeiling({
      ...ceiling,
      steps: steps.map((step, i) => (i === index ? { ...step, ...part } : step)),
    });
  const top = venue.heightM ?? 0;
  return (
    <>
      {steps.map((step, index) => (
        <div key={index}>
          <QuantityField
            label={`Step ${index + 1}, from behind the audience`}
            fieldKey={fieldKey('ceiling', `${index}`, 'fromM')}
            kind={lengthKind('farM', settings.units)}
            value={step.fromM}
            onCommit={(fromM) => fromM !== null && put(index, { fromM })}
          />
          <QuantityField
            label={`Height from step ${index + 1} on`}
            fieldKey={fieldKey('ceiling', `${index}`, 'heightM')}
            kind={lengthKind('roomM', settings.units)}
            value={step.heightM}
            check={(value) =>
              value > top
                ? `Allowed: up to ${lengthText(top, settings.units)}, the height of the hall.`
                : null
            }
            onCommit={(heightM) => heightM !== null && put(index, { heightM })}
          />
        </div>
      ))}
      <div className="flex gap-1 py-1">
        <button
          className="btn btn-sm font-normal"
          disabled={steps.length >= MOST_STEPS}
          onClick={() => {
            const last = steps[steps.length - 1];
            const next = { fromM: (last?.fromM ?? 0) + 2, heightM: last?.heightM ?? top };
            setCeiling({ ...ceiling, steps: [...steps, next] });
          }}
        >
          Another step
        </button>
        <button
          className="btn btn-sm btn-ghost font-normal"
          disabled={steps.length <= 1}
          onClick={() => setCeiling({ ...ceiling, steps: steps.slice(0, -1) })}
        >
          One less
        </button>
      </div>
    </>
  );
}

/** Flat, with a ridge, or in steps. */
export function CeilingFields() {
  const { venue } = useSession();
  const { ceiling } = venue;
  return (
    <>
      <ChoiceField
        label="Ceiling"
        value={ceiling.kind}
        options={[
          { value: 'flat', label: 'flat' },
          { value: 'pitched', label: 'pitched, with a ridge' },
          { value: 'stepped', label: 'in steps' },
        ]}
        onChange={(kind) => {
          if (kind === ceiling.kind) return;
          if (kind !== 'flat' && venue.heightM === null) {
            editHall((draft) => {
              draft.venue.heightM = 6;
              draft.venue.ceiling = begun(kind, { ...venue, heightM: 6 });
            });
          } else setCeiling(begun(kind, venue));
        }}
      />
      {ceiling.kind === 'pitched' && <Pitched ceiling={ceiling} />}
      {ceiling.kind === 'stepped' && <Stepped ceiling={ceiling} />}
    </>
  );
}
