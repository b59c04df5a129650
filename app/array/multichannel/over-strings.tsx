import { useState } from 'react';
import { overStrings } from '../../../core/arrays';
import { formatNumber, lengthText } from '../../../core/units';
import { Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { useSession } from '../../document/use-session';
import { fieldKey } from '../../view/validity';

const between =
  (low: number, high: number, text: string) =>
  (value: number): string | null =>
    value >= low && value <= high ? null : `Allowed: ${text}.`;

/** How far apart two microphones over strings are, each for the strings below it. */
export function OverStrings() {
  const { units } = useSession().settings;
  const [heightM, setHeightM] = useState(0.25);
  const [spacingM, setSpacingM] = useState(0.75);
  const { leastM, ratio, spillDb } = overStrings(heightM, spacingM);
  const kind = lengthKind('spacingM', units);
  return (
    <section aria-label="Two microphones over strings" className="w-80 pt-4">
      <h2 className="text-[14px]">Two microphones over strings</h2>
      <QuantityField
        label="Height over the strings"
        fieldKey={fieldKey('strings', '', 'heightM')}
        kind={kind}
        value={heightM}
        check={between(0.01, 5, `${lengthText(0.01, units)} to ${lengthText(5, units)}`)}
        onCommit={(value) => value !== null && setHeightM(value)}
      />
      <QuantityField
        label="Apart"
        fieldKey={fieldKey('strings', '', 'spacingM')}
        kind={kind}
        value={spacingM}
        check={between(0.01, 20, `${lengthText(0.01, units)} to ${lengthText(20, units)}`)}
        onCommit={(value) => value !== null && setSpacingM(value)}
      />
      <Readout label="3 : 1 is kept from" number={lengthText(leastM, units)} />
      <Readout
        label={`At ${formatNumber(ratio, 1)} : 1 the other’s strings are`}
        number={formatNumber(spillDb, 1)}
        unit="dB"
      />
    </section>
  );
}
