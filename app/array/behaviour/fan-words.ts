import type { Crowding } from '../../../core/localisation';
import { angleText, formatNumber } from '../../../core/units';

const sideOf = (value: number): string => (value < 0 ? ' left' : ' right');
/** A direction with its side. */
export const degreesText = (deg: number): string => `${angleText(Math.abs(deg))}${sideOf(deg)}`;
/** A place on the image line with its side. */
export const placeText = (shift: number): string => {
  const pct = Math.round(Math.abs(shift) * 100);
  return pct === 0 ? 'the centre' : `${pct} %${sideOf(shift)}`;
};
const pct = (value: number): string => `${formatNumber(value, 0)} %`;
/** Ten degrees of the hall by their middle, off the aim. */
const stretch = (deg: number): string =>
  Math.abs(deg) <= 10
    ? 'at the centre'
    : `from ${angleText(Math.abs(deg) - 5)} to ${angleText(Math.abs(deg) + 5)} out`;

/** So much more than elsewhere ten degrees may take before it is worth a word. */
const EVEN = 1.5;

/** How evenly the directions are spread, in a sentence. */
export function crowdingText(found: Crowding | null): string {
  if (!found)
    return 'No two directions ten degrees apart have places of their own between the loudspeakers.';
  const { leastPct, mostPct, leastAtDeg, mostAtDeg } = found;
  if (mostPct <= leastPct * EVEN || mostPct - leastPct < 1) {
    return `Even: every 10° of the hall take ${pct(leastPct)} to ${pct(mostPct)} of the base.`;
  }
  return `10° of the hall take ${pct(mostPct)} of the base ${stretch(mostAtDeg)}, but ${stretch(leastAtDeg)} only ${pct(leastPct)}: there the image crowds.`;
}
