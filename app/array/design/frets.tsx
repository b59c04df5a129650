import { useState } from 'react';
import { fretAt, fretFromBridge, type Landing } from '../../../core/arrays';
import { formatNumber, lengthText, planDistance } from '../../../core/units';
import { ChoiceField, Readout } from '../../parts/fields';
import { QuantityField } from '../../parts/quantity-field';
import { countKind, lengthKind } from '../../parts/quantity-kinds';
import { useSession } from '../../document/use-session';
import { fieldKey } from '../../view/validity';
import type { Row } from './aim-row';

type End = 'left' | 'right';

interface Props {
  /** what the axes are aimed at; null: there is none */
  row: Row | null;
  lands: readonly Landing[];
  wanted: [number, number];
  onWant: (wanted: [number, number]) => void;
}

function fretText(scaleM: number, fromBridgeM: number): string {
  const fret = fretAt(scaleM, fromBridgeM);
  if (fret === null) return fromBridgeM > scaleM ? 'beyond the nut' : 'at the bridge or beyond it';
  return `at fret ${formatNumber(fret, 1)}`;
}

/** Where frets lie on a plucked string, at which the axes land, and how to land on one. */
export function Frets({ row, lands, wanted, onWant }: Props) {
  const { units } = useSession().settings;
  const [scaleM, setScaleM] = useState(0.65);
  const [fret, setFret] = useState(12);
  const [end, setEnd] = useState<End>('right');
  const [inM, setIn] = useState(0);
  const soundingM = fretFromBridge(scaleM, fret);
  const longM = row ? planDistance(row.from, row.to) : 0;
  /** From the bridge towards the nut, for a place so far along the row. */
  const fromBridge = (fraction: number) => (end === 'left' ? fraction : 1 - fraction) * longM - inM;
  const along = (inM + soundingM) / longM;
  const fraction = end === 'left' ? along : 1 - along;
  const reached = longM > 0 && fraction >= 0 && fraction <= 1;
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
      <ChoiceField
        label="The bridge is near the"
        value={end}
        options={[
          { value: 'left', label: 'left end' },
          { value: 'right', label: 'right end' },
        ]}
        onChange={setEnd}
      />
      <QuantityField
        label="Bridge from that end"
        fieldKey={fieldKey('frets', '', 'inM')}
        kind={lengthKind('spacingM', units)}
        value={inM}
        check={(value) =>
          value >= 0 && value <= 3
            ? null
            : `Allowed: ${lengthText(0, units)} to ${lengthText(3, units)}.`
        }
        onCommit={(value) => value !== null && setIn(value)}
      />
      {row &&
        lands.flatMap(({ label, fraction: at }, i) =>
          at === null
            ? []
            : [
                <Readout
                  key={`${label}${i}`}
                  label={`Axis ${label} lands`}
                  number={fretText(scaleM, fromBridge(at))}
                />,
              ],
        )}
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
      {reached ? (
        <div className="flex flex-wrap gap-1 pt-2">
          <button className="btn btn-sm" onClick={() => onWant([fraction, wanted[1]])}>
            Left axis on it
          </button>
          <button className="btn btn-sm" onClick={() => onWant([wanted[0], fraction])}>
            Right axis on it
          </button>
        </div>
      ) : (
        row && (
          <p className="text-muted pt-1 text-[12.5px]">
            That fret lies beyond {row.name}, which is {lengthText(longM, units)} long as it is
            seen.
          </p>
        )
      )}
    </>
  );
}
