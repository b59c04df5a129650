import { seededRandom } from '../../units/random';
import {
  BEAT_S,
  BEATS,
  swellAt,
  written,
  writtenForTwoHands,
  type PhraseName,
  type Voice,
} from './written';

export { PHRASE_NAMES, PHRASE_S, TEMPO_BPM, type PhraseName, type Voice } from './written';

/** One note as it is played. */
export interface Note {
  atS: number;
  lengthS: number;
  /** 60 is middle C; a fraction where it is a little out */
  key: number;
  /** 0 … 1 */
  force: number;
  /** what else differs from note to note */
  seed: number;
  /** which of the words it is sung to: the same for all who sing at that moment */
  syllable: number;
  /** from its beginning to its middle, and back again, dB; 0 where it is held evenly */
  swellDb: number;
  /** of several lines: whose it is */
  voice?: Voice;
}

/** How exactly one plays with others. */
export interface Exactness {
  /** that all of a player's notes may be out, and one against another, cents */
  cents: number;
  noteCents: number;
  /** that all of them may be late, and one against another, s */
  lateS: number;
  noteS: number;
}

/** A single player who keeps time with the rest. */
const EXACT: Exactness = { cents: 0, noteCents: 1.5, lateS: 0, noteS: 0.008 };

/**
 * The notes of a phrase for one player: no two alike.
 * @param voice of four lines, or both hands at once
 * @param range lowest and highest key of the instrument, 0 … 127; the line is put into it by octaves
 * @param seed any whole number, 0 … 2^32
 */
export function notesOf(
  phrase: PhraseName,
  voice: Voice | 'both hands',
  range: readonly [number, number],
  seed: number,
  { cents, noteCents, lateS, noteS }: Exactness = EXACT,
): Note[] {
  const [low, high] = range;
  const random = seededRandom(seed);
  const around = (): number => 2 * random() - 1;
  const [out, late] = [around() * cents, random() * lateS];
  const lines = voice === 'both hands' ? writtenForTwoHands(phrase, range) : written(phrase, voice);
  return lines.map(([beat, beats, key, swellDb = 0], i) => {
    let put = key;
    while (put < low) put += 12;
    while (put > high && put - 12 >= low) put -= 12;
    const force = 0.62 + swellAt(beat) + 0.12 * around() + (i % 4 === 0 ? 0.08 : 0);
    return {
      atS: Math.max(0, beat * BEAT_S + late + (noteS * (1 + around())) / 2),
      lengthS: beats * BEAT_S * (0.94 + 0.03 * around()),
      key: put + (out + around() * noteCents) / 100,
      force: Math.min(1, Math.max(0.2, force)),
      seed: Math.floor(random() * 2 ** 31),
      syllable: Math.floor(beat),
      swellDb,
    };
  });
}

/**
 * Strokes of an instrument without pitch.
 * @param every beats from one to the next, 0.25 … 12
 * @param from beat of the first
 * @param key that the strokes carry, for drums that have one
 */
export function strokesOf(every: number, from: number, key: number, seed: number): Note[] {
  const random = seededRandom(seed);
  const count = Math.floor((BEATS - 1.5 - from) / every) + 1;
  return Array.from({ length: Math.max(1, count) }, (_, i) => {
    const beat = from + i * every;
    return {
      atS: Math.max(0, beat * BEAT_S + 0.004 * random()),
      lengthS: every * BEAT_S,
      key,
      force: Math.min(1, 0.55 + 0.5 * swellAt(beat) + 0.25 * random()),
      seed: Math.floor(random() * 2 ** 31),
      syllable: 0,
      swellDb: 0,
    };
  });
}

/**
 * From the beginning of a held note to its middle and back: a factor.
 * @param swellDb 0 … 12 dB
 * @param share of the note that has gone by, 0 and more
 */
export const swellGain = (swellDb: number, share: number): number =>
  share >= 1 || swellDb === 0 ? 1 : 10 ** ((swellDb * Math.sin(Math.PI * share)) / 20);
