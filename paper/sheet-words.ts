import type { Session } from '../core/session';
import { angleText, lengthText, type LengthPrecision } from '../core/units';

/** Lengths in the session's system, in both where that is asked. */
export function lengths(session: Session, both: boolean) {
  const { units } = session.settings;
  const other = units === 'metric' ? 'imperial' : 'metric';
  return (metres: number, precision: LengthPrecision = 'floor') => {
    const main = lengthText(metres, units, precision);
    // A line may break between both, never inside of one.
    const whole = (words: string): string => words.replaceAll(' ', '\u00a0');
    return both ? `${whole(main)} (${whole(lengthText(metres, other, precision))})` : main;
  };
}

export type LengthWords = ReturnType<typeof lengths>;

export const NOT_KNOWN = 'not known: ask';

/** So far to a side of the centre line. */
export function sideways(
  metres: number | null,
  text: LengthWords,
  precision: LengthPrecision = 'floor',
): string {
  if (metres === null) return NOT_KNOWN;
  if (Math.abs(metres) < 0.0005) return 'centre';
  return `${text(Math.abs(metres), precision)} ${metres < 0 ? 'left' : 'right'}`;
}

/** So far from the stage edge. */
export function depthText(metres: number, text: LengthWords): string {
  if (Math.abs(metres) < 0.0005) return 'on the edge';
  return `${text(Math.abs(metres))} ${metres < 0 ? 'downstage' : 'upstage'}`;
}

export const UPSTAGE = 'straight upstage';

/** @param zero the words for no turn at all; those of the floor know the other way as well */
export function turnText(deg: number | null, zero: string): string {
  if (deg === null) return NOT_KNOWN;
  if (Math.abs(deg) < 0.05) return zero;
  if (zero === UPSTAGE && Math.abs(deg) > 179.95) return 'straight downstage';
  return `${angleText(Math.abs(deg))} ${deg < 0 ? 'left' : 'right'}`;
}
