import { inRange } from '../../units/guard';

const NAMES = [
  'C',
  'C sharp',
  'D',
  'D sharp',
  'E',
  'F',
  'F sharp',
  'G',
  'G sharp',
  'A',
  'A sharp',
  'B',
];
/** Number of the lowest and the highest key of a piano, and of a′. */
const LOWEST = 21;
const HIGHEST = 108;
const CONCERT_A = 69;

/**
 * Frequency of a key, equally tempered.
 * @param key 0 … 127; 60 is middle C
 * @param concertHz 380 … 480 Hz
 */
export const keyHz = (key: number, concertHz = 440): number =>
  concertHz * 2 ** ((key - CONCERT_A) / 12);

/** "D sharp 2" for a key, 0 … 127; 60 is C 4. */
export function keyName(key: number): string {
  const name = NAMES[((key % 12) + 12) % 12] ?? '';
  const octave = Math.floor(key / 12) - 1;
  return name.length === 1 ? `${name}${octave}` : `${name} ${octave}`;
}

/** The note nearest to a frequency. */
export interface NearestNote {
  name: string;
  hz: number;
  /** how far off it the frequency is, cents, −50 … 50 */
  cents: number;
}

/**
 * The note nearest to a frequency.
 * @param concertHz 380 … 480 Hz
 * @throws RangeError where hz is outside 8 … 20000 Hz
 */
export function nearestNote(hz: number, concertHz = 440): NearestNote {
  inRange('hz', hz, 8, 20_000, 'Hz');
  const exact = CONCERT_A + 12 * Math.log2(hz / concertHz);
  const key = Math.round(exact);
  return { name: keyName(key), hz: keyHz(key, concertHz), cents: (exact - key) * 100 };
}

/** The keys of a piano whose fundamentals a high-pass takes. */
export interface RemovedFundamentals {
  count: number;
  /** "A0" and "D sharp 2"; null where it takes none */
  lowest: string | null;
  highest: string | null;
}

/**
 * The fundamentals of a piano that lie below a high-pass.
 * @param concertHz 380 … 480 Hz
 * @throws RangeError where cutHz is outside 1 … 20000 Hz
 */
export function removedFundamentals(cutHz: number, concertHz = 440): RemovedFundamentals {
  inRange('cutHz', cutHz, 1, 20_000, 'Hz');
  let top = LOWEST - 1;
  while (top < HIGHEST && keyHz(top + 1, concertHz) < cutHz) top += 1;
  const count = top - LOWEST + 1;
  return {
    count,
    lowest: count > 0 ? keyName(LOWEST) : null,
    highest: count > 0 ? keyName(top) : null,
  };
}
