import type { PairMatch, SuggestedFilter, Symmetry } from '../audio/measure/pair';
import { formatNumber, formatSigned } from '../units/format';

/** Nearer than this no trim is worth it, dB. */
const SAME_DB = 0.05;

const hzWords = (hz: number): string =>
  hz < 1000 ? `${formatNumber(hz, 0)} Hz` : `${Math.round(hz / 10) / 100} kHz`;

/** "peak +1.2 dB at 3.15 kHz, Q 1.4" */
export const filterWords = ({ kind, hz, gainDb, q }: SuggestedFilter): string =>
  `${kind} ${formatSigned(gainDb, 1)} dB at ${hzWords(hz)}${kind === 'peak' ? `, Q ${formatNumber(q, 1)}` : ''}`;

/**
 * What a match says, in sentences.
 * @param first, second what both are called
 */
export function matchWords(
  { trimDb, rmsDb, worst, filters, leftDb }: PairMatch,
  first: string,
  second: string,
): string[] {
  const trim =
    Math.abs(trimDb) < SAME_DB
      ? `${second} is as loud as ${first}.`
      : `${second} is ${formatNumber(Math.abs(trimDb), 1)} dB ${trimDb > 0 ? 'softer' : 'louder'} than ${first}: trim it by ${formatSigned(trimDb, 1)} dB.`;
  const match = `Then they match within ${formatNumber(rmsDb, 1)} dB from 100 Hz to 10 kHz; most apart by ${formatSigned(worst.db, 1)} ± ${formatNumber(worst.withinDb, 1)} dB at ${hzWords(worst.hz)}.`;
  const equaliser =
    filters.length === 0
      ? 'No equaliser is worth it.'
      : `A short equaliser for ${second} leaves ${formatNumber(leftDb, 1)} dB: ${filters.map(filterWords).join('; ')}.`;
  return [trim, match, equaliser];
}

/** What the noise from both sides of a figure-eight says, in sentences. @param name of the microphone */
export function symmetryWords({ rearDb, a, nullDb }: Symmetry, name: string): string[] {
  const size = formatNumber(Math.abs(rearDb), 1);
  const sides =
    Math.abs(rearDb) < SAME_DB
      ? `${name} is as loud behind as in front.`
      : `${name} is ${size} dB ${rearDb < 0 ? 'softer' : 'louder'} behind than in front, as a pattern of ${formatNumber(Math.abs(a), 3)} ${a >= 0 ? 'omnidirectional part' : 'omnidirectional part turned over'} would be.`;
  if (nullDb === null) return [sides];
  return [sides, `From its edge it is ${formatNumber(-nullDb, 1)} dB below its front.`];
}
