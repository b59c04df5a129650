import { useState } from 'react';
import { fretFromBridge } from '../../../core/arrays';
import { lengthText } from '../../../core/units';
import { Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { countKind, lengthKind } from '../../parts/quantity-kinds';
import { useSession } from '../../document/use-session';
import { fieldKey } from '../../view/validity';

/** Where a fret lies on a plucked string, so that an axis can be aimed at it. */
export function Frets() {
  const { units } = useSession().settings;
  const [scaleM, setScaleM] = useState(0.65);
  const [fret, setFret] = useState(12);
  const soundingM = fretFromBridge(scaleM, fret);
  return (
    <>
      <h2 className="pt-4 text-[14px]">Frets of a plucked string</h2>
      <QuantityField
        label="Nut to bridge"
        fieldKey={fieldKey('frets', '', 'scaleM')}
        kind={lengthKind('spacingM', units)}
        value={scaleM}
        check={(value) =>
          value >= 0.1 && value <= 3
            ? null
            : `Allowed: ${lengthText(0.1, units)} to ${lengthText(3, units)}.`
        }
        onCommit={(value) => value !== null && setScaleM(value)}
      />
      <QuantityField
        label="Fret"
        fieldKey={fieldKey('frets', '', 'fret')}
        kind={countKind}
        value={fret}
        check={(value) => (value >= 0 && value <= 30 ? null : 'Allowed: 0 to 30.')}
        onCommit={(value) => value !== null && setFret(value)}
      />
      <Readout label="From the bridge" number={lengthText(soundingM, units)} />
      <Readout label="From the nut" number={lengthText(scaleM - soundingM, units)} />
    </>
  );
}
