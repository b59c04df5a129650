import { fieldKey, type FieldKey } from '../view/validity';
import { PATTERN_NAMES, patternAOf, type Pattern } from '../../core/acoustics';
import {
  aboveWhat,
  fromFaces,
  placeFromFace,
  referenceOf,
  referencesFor,
  withCases,
} from '../../core/ensembles';
import { BOUNDS, type MicArray } from '../../core/session';
import { lengthText } from '../../core/units';
import { changeArray } from '../document/edits';
import { edit } from '../document/session-store';
import { settle } from '../document/things';
import { useSession } from '../document/use-session';
import { ChoiceField, Readout } from './fields';
import { QuantityField } from './quantity-field';
import { angleKind, lengthKind, plainNumberKind } from './quantity-kinds';

const FLOOR = 'floor';

/** Its height, from the floor or from a surface of an instrument near by. */
function HeightFields({ array }: { array: MicArray }) {
  const session = useSession();
  const { units } = session.settings;
  const references = referencesFor(session, array);
  const reference = referenceOf(session, array);
  const keyOf = ({ sourceId, surface }: { sourceId: string; surface: string }) =>
    `${sourceId}\n${surface}`;
  const fromM = reference?.heightM ?? 0;
  const { min, max } = BOUNDS.positionM;
  return (
    <>
      <QuantityField
        label={reference ? `Height above the ${reference.surface}` : 'Height'}
        fieldKey={fieldKey('array', array.id, 'z')}
        kind={lengthKind('positionM', units)}
        value={reference ? settle(array.z - fromM) : array.z}
        check={(value) =>
          value + fromM >= min && value + fromM <= max
            ? null
            : `Allowed: ${lengthText(min, units)} to ${lengthText(max, units)} above the floor.`
        }
        onCommit={(value) =>
          value !== null &&
          edit(changeArray(array.id, { z: reference ? settle(value + fromM) : value }))
        }
        remark={aboveWhat(session, array, units)}
      />
      {reference && <Readout label="Above the floor" number={lengthText(array.z, units)} />}
      {(references.length > 0 || array.measuredFrom) && (
        <ChoiceField
          label="Measured from"
          value={reference ? keyOf(reference) : FLOOR}
          options={[
            { value: FLOOR, label: 'the floor' },
            ...references.map((entry) => ({ value: keyOf(entry), label: entry.name })),
          ]}
          onChange={(key) => {
            const chosen = references.find((entry) => keyOf(entry) === key);
            const measuredFrom = chosen
              ? { sourceId: chosen.sourceId, surface: chosen.surface }
              : null;
            edit(changeArray(array.id, { measuredFrom }));
          }}
        />
      )}
      {withCases(session.sources)
        .filter((source) => Math.hypot(source.x - array.x, source.y - array.y) < NEAR_M)
        .flatMap((source) =>
          fromFaces(source, array).map(({ name, metres }) => (
            <QuantityField
              key={`${source.id} ${name}`}
              label={`From the ${name} of ${source.name}, on the plan`}
              fieldKey={fieldKey('array', array.id, `from ${source.id} ${name}`)}
              kind={lengthKind('widthM', units, metres < 1 ? 'bar' : 'floor')}
              value={settle(metres)}
              check={(value) => {
                const place = placeFromFace(source, name, array, value);
                const far = Math.max(Math.abs(place?.x ?? 0), Math.abs(place?.y ?? 0));
                return far <= max
                  ? null
                  : `Allowed: up to ${lengthText(max, units)} from the datum.`;
              }}
              onCommit={(value) => {
                const place = value === null ? null : placeFromFace(source, name, array, value);
                if (place) {
                  edit(changeArray(array.id, { x: settle(place.x), y: settle(place.y) }));
                }
              }}
            />
          )),
        )}
    </>
  );
}

/** An array this near an instrument can be set out from its parts, m. */
const NEAR_M = 2.5;

/** Where the array stands and where it looks. */
export function ArrayPlaceFields({ array }: { array: MicArray }) {
  const { units } = useSession().settings;
  const field = (name: 'x' | 'y' | 'aimDeg' | 'tiltDeg') => ({
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
      <HeightFields array={array} />
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
