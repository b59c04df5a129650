/** How the samples of a file are written down. */
export interface SampleFormat {
  kind: 'integer' | 'float';
  /** of the container: 8, 16, 24 or 32 of integers, 32 or 64 of floats */
  bits: number;
  channels: number;
  sampleRateHz: number;
  /** the most significant byte first, as RIFX has it */
  bigEndian: boolean;
}

/** Bytes of one frame: one sample of every channel. */
export const frameBytes = ({ bits, channels }: Pick<SampleFormat, 'bits' | 'channels'>): number =>
  (bits / 8) * channels;

/** What a broadcast file says of itself (EBU Tech 3285). */
export interface BroadcastInfo {
  description: string;
  originator: string;
  originatorReference: string;
  /** yyyy-mm-dd and hh:mm:ss as they are written, or empty */
  date: string;
  time: string;
  /** samples since midnight at which the file begins */
  timeReference: number;
  codingHistory: string;
}

/** A place that somebody marked. */
export interface CuePoint {
  id: number;
  /** frames from the beginning */
  position: number;
  label: string;
}

/** Loudspeakers by their bit of a channel mask, in the order in which channels take them. */
const SPEAKERS = [
  ...['L', 'R', 'C', 'LFE', 'Lrs', 'Rrs', 'Lc', 'Rc', 'Cs', 'Lss', 'Rss'],
  ...['Ts', 'Tfl', 'Tfc', 'Tfr', 'Tbl', 'Tbc', 'Tbr'],
] as const;
export type Speaker = (typeof SPEAKERS)[number];

/**
 * Which loudspeaker each channel is for, as a mask says.
 * @param mask of an extensible format, 0 … 2^32; 0 says nothing
 * @param channels 1 … 64
 * @returns by channel; null where the mask has none left
 */
export function speakersOf(mask: number, channels: number): (Speaker | null)[] {
  const named = SPEAKERS.filter((_, bit) => ((mask >>> bit) & 1) === 1);
  return Array.from({ length: channels }, (_, c) => named[c] ?? null);
}

/** What stands in a WAV file before and behind its samples. */
export interface WavInfo {
  container: 'RIFF' | 'RF64' | 'BW64' | 'RIFX';
  format: SampleFormat;
  /** bits that carry sound where they are fewer than the container's */
  validBits: number;
  /** where the samples begin, bytes */
  dataOffset: number;
  /** whole frames that are there */
  frames: number;
  broadcast: BroadcastInfo | null;
  /** the text of iXML as it is */
  ixml: string | null;
  /** which loudspeakers its channels are for, bit by bit; null where it does not say */
  channelMask: number | null;
  /** by channel, empty where nothing names it */
  channelNames: string[];
  cues: CuePoint[];
  /** LIST INFO: INAM, ICRD, … */
  info: Readonly<Record<string, string>>;
  /** what was wrong and how it was read all the same */
  warnings: string[];
}
