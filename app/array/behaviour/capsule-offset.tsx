import { fieldKey } from '../../view/validity';
import { useState } from 'react';
import { elevationInArray, offsetNotchHz } from '../../../core/arrays';
import type { MicArray } from '../../../core/session';
import { angleText, formatNumber, speedOfSound } from '../../../core/units';
import { FormulaLink } from '../../parts/formula-link';
import { QuantityField } from '../../parts/quantity-field';
import { lengthKind } from '../../parts/quantity-kinds';
import { useSession } from '../../document/use-session';

/** Elevations that show the course where there is no player yet, °. */
const ELEVATIONS_DEG = [10, 20, 30, 45, 60] as const;

const coincident = ({ technique }: MicArray): boolean =>
  technique.kind === 'mid-side' || (technique.kind === 'pair' && technique.spacingM === 0);

const AUDIBLE_HZ = 20_000;

const notchText = (hz: number | null): string =>
  hz === null ? 'none' : hz > AUDIBLE_HZ ? 'above 20 kHz' : `${formatNumber(hz, 0)} Hz`;

/** What the lowest notch means, in words. */
function verdict(hz: number): string {
  if (hz > 16_000) return 'above what matters';
  if (hz > 8000) return 'in the top octave';
  return 'in the audible middle, so bring the capsules closer or tilt them at the players';
}

/** Capsules that sit one above the other are not quite at one point: the notch in their sum. */
export function CapsuleOffset({ array }: { array: MicArray }) {
  const { settings, venue, sources } = useSession();
  const [offsetM, setOffset] = useState(0.03);
  if (!coincident(array)) return null;
  const speed = speedOfSound(venue.temperatureC);
  const seen = sources.map((source) => ({
    id: source.id,
    name: source.name,
    deg: elevationInArray(array, source),
  }));
  const rows =
    seen.length > 0 ? seen : ELEVATIONS_DEG.map((deg) => ({ id: `${deg}`, name: '', deg }));
  const notches = rows.map((row) => ({
    ...row,
    hz: offsetNotchHz(offsetM, row.deg, speed),
  }));
  const worst = notches.reduce<(typeof notches)[number] | null>(
    (low, entry) => (entry.hz !== null && (!low?.hz || entry.hz < low.hz) ? entry : low),
    null,
  );
  return (
    <details className="pt-3">
      <summary className="cursor-pointer text-[14px] font-semibold">
        Capsules one above the other
      </summary>
      <div className="flex flex-wrap gap-x-10 pt-1">
        <div className="w-72">
          <QuantityField
            label="Height between them"
            fieldKey={fieldKey('array', array.id, 'offset')}
            kind={lengthKind('widthM', settings.units, 'bar')}
            value={offsetM}
            check={(value) => (value >= 0.001 && value <= 1 ? null : 'Allowed: 0.1 cm to 1 m.')}
            onCommit={(value) => value !== null && setOffset(value)}
          />
          <p className="py-2" role="status" aria-label="Capsule offset">
            {worst?.hz
              ? `First notch of the sum: ${notchText(worst.hz)}${worst.name ? `, for ${worst.name}` : ''}; ${verdict(worst.hz)}.`
              : 'All players are level with the capsules: no notch.'}
          </p>
          <p className="text-muted text-[12.5px]">
            Seen from the array’s own tilt. Tilting it at the players takes the notch away.{' '}
            <FormulaLink to="aim-and-landing">Formula</FormulaLink>
          </p>
        </div>
        <table className="ledger-table" aria-label="Notch by player">
          <thead>
            <tr>
              <th>{seen.length > 0 ? 'Player' : 'Elevation'}</th>
              <th className="num">off the level</th>
              <th className="num">first notch</th>
            </tr>
          </thead>
          <tbody>
            {notches.map(({ id, name, deg, hz }) => (
              <tr key={id}>
                <th scope="row">{name || `${deg}°`}</th>
                <td className="num">{angleText(deg)}</td>
                <td className="num">{notchText(hz)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
