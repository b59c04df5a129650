import { fieldKey, type FieldKey } from '../view/validity';
import { PATTERN_NAMES, patternAOf, type Pattern } from '../../core/acoustics';
import type { MicArray } from '../../core/session';
import { changeArray } from '../document/edits';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { ChoiceField } from './fields';
import { QuantityField } from './quantity-field';
import { angleKind, lengthKind, plainNumberKind } from './quantity-kinds';

/** Where the array stands and where it looks. */
export function ArrayPlaceFields({ array }: { array: MicArray }) {
  const { units } = useSession().settings;
  const field = (name: 'x' | 'y' | 'z' | 'aimDeg' | 'tiltDeg') => ({
    fieldKey: fieldKey('array', array.id, name),
    value: array[name],
    onCommit: (value: number | null) =>
      value !== null && edit(changeArray(array.id, { [name]: value })),
  });
  const position = lengthKind('positionM', units);
  return (
    <>
      <QuantityField {...field('x')} label="Right of centre" kind={position} />
      <QuantityField {...field('y')} label="Upstage of edge" kind={position} />
      <QuantityField {...field('z')} label="Height" kind={position} />
      <QuantityField
        {...field('aimDeg')}
        label="Aim, right of upstage"
        kind={angleKind('azimuthDeg')}
      />
      <QuantityField
        {...field('tiltDeg')}
        label="Tilt, up from level"
        kind={angleKind('elevationDeg')}
      />
    </>
  );
}

interface PatternProps {
  label: string;
  fieldKey: FieldKey;
  value: Pattern;
  onChange: (pattern: Pattern) => void;
}

/** A pattern by name, or the number A for one in between. */
export function PatternField({ label, fieldKey, value, onChange }: PatternProps) {
  const name = typeof value === 'string' ? value : 'custom';
  return (
    <>
      <ChoiceField
        label={label}
        value={name}
        options={[
          ...PATTERN_NAMES.map((pattern) => ({ value: pattern, label: pattern })),
          { value: 'custom', label: 'by number A' },
        ]}
        onChange={(chosen) => {
          const named = PATTERN_NAMES.find((pattern) => pattern === chosen);
          onChange(named ?? patternAOf(value));
        }}
      />
      {typeof value === 'number' && (
        <QuantityField
          label="A (1 omni … 0 figure-eight)"
          fieldKey={fieldKey}
          kind={plainNumberKind('patternA', 0.01)}
          value={value}
          onCommit={(patternA) => patternA !== null && onChange(patternA)}
        />
      )}
    </>
  );
}
