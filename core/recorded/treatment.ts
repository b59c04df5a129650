import { foldOf, type Fold } from '../audio/process/fold';
import type { Processing, SideDecode } from '../audio/process/processed';
import { formatNumber, formatSigned } from '../units/format';

/** What is to be done to a recording before it is heard or written; the recording itself stays as it is. */
export interface Treatment {
  decode: SideDecode | null;
  /** by channel: later by so many ms, −2000 … 2000 */
  shiftMs: readonly number[];
  /** by channel, −60 … 24 dB */
  gainDb: readonly number[];
  /** by channel: turned over? */
  inverted: readonly boolean[];
  fold: Fold | null;
}

export const UNTREATED: Treatment = {
  decode: null,
  shiftMs: [],
  gainDb: [],
  inverted: [],
  fold: null,
};

/**
 * A list with one place of it changed; places before it that were never said have the usual value.
 * @param at the place, from 0, 0 … 63
 */
export const placed = <T>(list: readonly T[], at: number, value: T, usual: T): T[] =>
  Array.from({ length: Math.max(list.length, at + 1) }, (_, i) =>
    i === at ? value : (list[i] ?? usual),
  );

/** Whether anything is done at all. */
export const isTreated = ({ decode, shiftMs, gainDb, inverted, fold }: Treatment): boolean =>
  decode !== null ||
  fold !== null ||
  shiftMs.some((ms) => ms !== 0) ||
  gainDb.some((db) => db !== 0) ||
  inverted.some(Boolean);

/** The treatment as it is carried out. @param channels of the recording, 1 … 64 */
export const processingOf = (
  { fold, ...treatment }: Treatment,
  channels: number,
): Partial<Processing> => ({
  ...treatment,
  ...(fold === null ? {} : { fold: foldOf(fold, channels) }),
});

/** What the channels are called that come of a treatment. @param names of the recording's */
export function treatedNames({ decode, fold }: Treatment, names: readonly string[]): string[] {
  if (fold !== null) return foldOf(fold, names.length).map(({ name }) => name);
  return names.map((name, c) =>
    decode && c === decode.mid ? 'L' : decode && c === decode.side ? 'R' : name,
  );
}

/** What is done, in a sentence a thing. @param names of the recording's channels, none empty */
export function treatmentWords(treatment: Treatment, names: readonly string[]): string[] {
  const { decode, shiftMs, gainDb, inverted, fold } = treatment;
  const name = (channel: number): string => names[channel] ?? `Channel ${channel + 1}`;
  const said = names.flatMap((_, c) => {
    const [ms, db] = [shiftMs[c] ?? 0, gainDb[c] ?? 0];
    const parts = [
      ...(ms === 0 ? [] : [`${formatNumber(Math.abs(ms), 3)} ms ${ms > 0 ? 'later' : 'earlier'}`]),
      ...(db === 0 ? [] : [`${formatSigned(db, 2)} dB`]),
      ...(inverted[c] ? ['turned over'] : []),
    ];
    return parts.length === 0 ? [] : [`${name(c)}: ${parts.join(', ')}.`];
  });
  if (decode) {
    const pass =
      decode.sideHighPassHz === null
        ? ''
        : `, the side above ${formatNumber(decode.sideHighPassHz, 0)} Hz alone`;
    said.push(
      `${name(decode.mid)} and ${name(decode.side)} decoded, the side at ${formatSigned(decode.sideDb, 1)} dB${pass}.`,
    );
  }
  if (fold !== null)
    said.push(fold === 'mono' ? 'Folded down to mono.' : 'Folded down to two channels.');
  return said;
}
