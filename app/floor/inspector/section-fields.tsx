import { fieldKey } from '../../view/validity';
import { MOST_SOURCES, type Section } from '../../../core/session';
import { ChoiceField } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { angleKind, countKind, lengthKind, type QuantityKind } from '../../parts/quantity-kinds';
import { useSession } from '../../document/use-session';

interface Props {
  section: Section;
  onChange: (change: Partial<Section>) => void;
  /** whose fields they are, where several sections are edited */
  fieldOf: string;
}

type NumberField =
  'count' | 'rows' | 'pitchM' | 'rowDepthM' | 'openingDeg' | 'riserM' | 'x' | 'y' | 'facingDeg';

/** As many as a session holds. */
const playersKind: QuantityKind = {
  ...countKind,
  bounds: { min: 1, max: MOST_SOURCES, unit: '' },
  boundsText: `1 to ${MOST_SOURCES}`,
};

const whole = (least: number) => (value: number) =>
  Number.isInteger(value) && value >= least ? null : `Allowed: a whole number from ${least}.`;

/** The figures that an arc or rows are made from. */
export function SectionFields({ section, onChange, fieldOf }: Props) {
  const { units } = useSession().settings;
  const field = (
    name: NumberField,
    label: string,
    kind: Parameters<typeof QuantityField>[0]['kind'],
    check?: (value: number) => string | null,
  ) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('section', fieldOf, name)}
      kind={kind}
      value={section[name]}
      {...(check ? { check } : {})}
      onCommit={(value) => value !== null && onChange({ [name]: value })}
    />
  );
  const width = lengthKind('widthM', units);
  const position = lengthKind('positionM', units);
  return (
    <>
      <ChoiceField
        label="Shape"
        value={section.shape}
        options={[
          { value: 'arc', label: 'arcs' },
          { value: 'rows', label: 'straight rows' },
        ]}
        onChange={(shape) => onChange({ shape })}
      />
      {field('count', 'Players', playersKind, whole(1))}
      {field('rows', 'Rows', playersKind, whole(1))}
      {field('pitchM', 'From player to player', width)}
      {section.rows > 1 && field('rowDepthM', 'From row to row', width)}
      {section.shape === 'arc' && field('openingDeg', 'Opening angle', angleKind('openingDeg'))}
      {field('riserM', section.rows > 1 ? 'Riser for each row' : 'Riser', width)}
      {field('x', 'Front middle, right of centre', position)}
      {field('y', 'Front middle, upstage', position)}
      {field('facingDeg', 'Faces', angleKind('azimuthDeg'))}
    </>
  );
}
