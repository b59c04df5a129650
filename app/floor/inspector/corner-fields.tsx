import { planCorners } from '../../../core/hall';
import { outlineProblems } from '../../../core/units';
import { editHall } from '../../document/edits';
import { placeThing } from '../../document/things';
import { useSession } from '../../document/use-session';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { fieldKey } from '../../view/validity';

const AXES = ['x', 'y'] as const;

/** Where a corner of the hall is; what would make no outline of it is refused. */
export function CornerFields({ index, labels }: { index: number; labels: [string, string] }) {
  const { venue, settings } = useSession();
  const corners = planCorners(venue);
  const corner = corners?.[index];
  if (!corners || !corner) return null;
  const refused = (axis: 'x' | 'y') => (value: number) => {
    const moved = corners.map((each, i) => (i === index ? { ...each, [axis]: value } : each));
    const [problem] = outlineProblems(moved);
    return problem ? `Not allowed: ${problem.message}.` : null;
  };
  return AXES.map((axis, i) => (
    <QuantityField
      key={axis}
      label={labels[i] ?? axis}
      fieldKey={fieldKey('corner', `${index}`, axis)}
      kind={lengthKind('positionM', settings.units)}
      value={corner[axis]}
      check={refused(axis)}
      onCommit={(value) =>
        value !== null &&
        editHall((draft) =>
          placeThing(draft, { kind: 'corner', id: `${index}` }, { [axis]: value }),
        )
      }
    />
  ));
}
