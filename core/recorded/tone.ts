import type { OverDry } from '../audio/measure/over-dry';
import { removedFundamentals } from '../audio/measure/notes';
import { placeText } from '../audio/measure/readings';
import type { Resonance } from '../audio/measure/resonance';
import type { LogEntry } from '../session/schema';
import { formatNumber, formatSigned } from '../units/format';
import { filterWords } from './microphones';

/** Hum of the mains lies at multiples of these, Hz, within so much. */
const MAINS_HZ = [50, 60] as const;
const [MOST_HARMONIC, WITHIN_HZ] = [6, 0.4];
/** A peak for so little of the time is a note that was played now and then, %. */
const SELDOM_PCT = 40;

/** What a peak is taken for. */
export type PeakIs = 'room or instrument' | 'perhaps hum' | 'a note' | 'a note, or the room';

/**
 * What a peak is, by how much of the time it stands: what stands under every note is no music, what
 * comes and goes is. In between it cannot be told from this recording alone.
 */
export function peakIs({ hz, sharePct, underEveryNote }: Resonance): PeakIs {
  if (!underEveryNote) return sharePct <= SELDOM_PCT ? 'a note' : 'a note, or the room';
  const hum = MAINS_HZ.some((mains) => {
    const harmonic = Math.round(hz / mains);
    return (
      harmonic >= 1 && harmonic <= MOST_HARMONIC && Math.abs(hz - harmonic * mains) < WITHIN_HZ
    );
  });
  return hum ? 'perhaps hum' : 'room or instrument';
}

/** "A 2 −12 cents" */
export const noteText = ({ note }: Pick<Resonance, 'note'>): string => {
  const cents = Math.round(note.cents);
  return cents === 0 ? note.name : `${note.name} ${formatSigned(cents, 0)} cents`;
};

/** What the peaks of a channel say, in a sentence. @param name of the channel */
export function peakWords(peaks: readonly Resonance[], name: string): string {
  const standing = peaks.filter((peak) => peakIs(peak) === 'room or instrument');
  const [first] = standing;
  if (peaks.length === 0) return `${name}: nothing stands out by 8 dB.`;
  if (!first) return `${name}: what stands out comes and goes with the notes.`;
  const others = standing.length === 1 ? '' : `, and ${standing.length - 1} more`;
  return `${name}: ${formatNumber(first.hz, first.hz < 100 ? 1 : 0)} Hz (${noteText(first)}) stands ${formatNumber(first.aboveDb, 0)} dB out under every note${others}: the room, the floor or the instrument itself.`;
}

/** What a high-pass takes of the fundamentals of a piano, in a sentence. @param hz 1 … 20000 */
export function highPassWords(hz: number): string {
  const { count, lowest, highest } = removedFundamentals(hz);
  if (count === 0) return 'Below every fundamental of a piano.';
  const keys =
    count === 1 ? `that of one key, ${lowest}` : `those of ${count} keys, ${lowest} to ${highest}`;
  return `Takes fundamentals: of a piano ${keys}.`;
}

/**
 * A processed recording against its dry one, in sentences, the farthest passage first.
 * @param mostDb what was asked about
 */
export function overDryWords({ middleDb, spreadDb, beyond }: OverDry, mostDb: number): string[] {
  if (middleDb === null || !spreadDb) {
    return ['Nothing to compare: at no moment do both sound. Do they overlap?'];
  }
  const [low, high] = spreadDb;
  const usual = `Processed is ${formatSigned(middleDb, 1)} dB against dry in the middle, ${formatSigned(low, 1)} to ${formatSigned(high, 1)} dB for eight tenths of the time.`;
  const [worst] = beyond;
  if (!worst) return [`Never more than ${formatNumber(mostDb, 1)} dB apart.`, usual];
  const more = beyond.length === 1 ? '' : `, and in ${beyond.length - 1} more passages`;
  return [
    `More than ${formatNumber(mostDb, 1)} dB apart: ${formatSigned(worst.db, 1)} dB at ${placeText(worst.fromS, 1)}${more}.`,
    usual,
  ];
}

/** A note of what is done to the tone of a layer. */
export type ToneNote = Extract<LogEntry, { kind: 'tone' }>;
/** What can be noted of a layer. */
export type ToneSaid = Pick<
  ToneNote,
  'text' | 'layer' | 'highPassHz' | 'lowPassHz' | 'filters' | 'compressionDb' | 'reverbSendDb'
>;

const hzText = (hz: number): string =>
  hz < 1000
    ? `${formatNumber(hz, 0)} Hz`
    : `${formatNumber(hz / 1000, hz % 1000 === 0 ? 0 : 2)} kHz`;

/** What is noted of a layer, part by part, in words. */
export function toneWords(note: Omit<ToneSaid, 'layer'>): string[] {
  const { highPassHz, lowPassHz, filters, compressionDb, reverbSendDb, text } = note;
  return [
    ...(highPassHz === null ? [] : [`high-pass ${hzText(highPassHz)}`]),
    ...(lowPassHz === null ? [] : [`low-pass ${hzText(lowPassHz)}`]),
    ...filters.map(filterWords),
    ...(compressionDb === null ? [] : [`compressed by up to ${formatNumber(compressionDb, 1)} dB`]),
    ...(reverbSendDb === null ? [] : [`reverb send ${formatSigned(reverbSendDb, 1)} dB`]),
    ...(text.trim() === '' ? [] : [text.trim()]),
  ];
}
