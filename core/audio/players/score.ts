import { seededRandom } from '../../units/random';

/** All phrases are in D major and at one tempo, so that any players fit together. */
export const TEMPO_BPM = 96;
const BEAT_S = 60 / TEMPO_BPM;
/** Beats of a phrase, the rest at its end among them. */
const BEATS = 12;
/** Length of every phrase, s. */
export const PHRASE_S = BEATS * BEAT_S;

export const PHRASE_NAMES = ['chorale', 'scale', 'long-tones', 'staccato'] as const;
export type PhraseName = (typeof PHRASE_NAMES)[number];

/** Which of four lines a player takes. */
export type Voice = 'soprano' | 'alto' | 'tenor' | 'bass';

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
}

/** Beat, length in beats, key. */
type Written = readonly [beat: number, beats: number, key: number];

const CHORDS = [
  [0, 2],
  [2, 1],
  [3, 1],
  [4, 2],
  [6, 1],
  [7, 1],
  [8, 3],
] as const;
const LINES: Readonly<Record<Voice, readonly number[]>> = {
  soprano: [74, 74, 73, 74, 76, 73, 74],
  alto: [69, 71, 69, 66, 67, 69, 66],
  tenor: [66, 67, 64, 62, 59, 61, 57],
  bass: [50, 55, 57, 59, 52, 45, 50],
};
const TONIC: Readonly<Record<Voice, number>> = { soprano: 74, alto: 66, tenor: 62, bass: 50 };
const STEPS = [0, 2, 4, 5, 7, 9, 11, 12];
const LEAPS = [0, 4, 7, 12, 7, 4, 5, 9, 7, 2, 0];

function written(phrase: PhraseName, voice: Voice): Written[] {
  const tonic = TONIC[voice];
  switch (phrase) {
    case 'chorale':
      return CHORDS.map(([beat, beats], i) => [beat, beats, LINES[voice][i] ?? tonic]);
    case 'scale': {
      const turns = [...STEPS, ...STEPS.slice(0, -1).reverse()];
      return turns.map((step, i) => [i * 0.5, i === turns.length - 1 ? 3 : 0.5, tonic + step]);
    }
    case 'long-tones':
      return [
        [0, 5, tonic],
        [5.5, 5.5, tonic + 7],
      ];
    case 'staccato':
      return LEAPS.map((step, i) => [i, 0.3, tonic + step]);
  }
}

/** Cents that a note may be out, and ms that it may be early or late. */
const OUT_CENTS = 1.5;
const EARLY_S = 0.008;

/**
 * The notes of a phrase for one player: no two alike.
 * @param range lowest and highest key of the instrument, 0 … 127; the line is put into it by octaves
 * @param seed any whole number, 0 … 2^32
 */
export function notesOf(
  phrase: PhraseName,
  voice: Voice,
  [low, high]: readonly [number, number],
  seed: number,
): Note[] {
  const random = seededRandom(seed);
  const around = (): number => 2 * random() - 1;
  return written(phrase, voice).map(([beat, beats, key], i) => {
    let put = key;
    while (put < low) put += 12;
    while (put > high && put - 12 >= low) put -= 12;
    return {
      atS: Math.max(0, beat * BEAT_S + (EARLY_S * (1 + around())) / 2),
      lengthS: beats * BEAT_S * (0.94 + 0.03 * around()),
      key: put + (around() * OUT_CENTS) / 100,
      force: Math.min(1, Math.max(0.2, 0.62 + 0.12 * around() + (i % 4 === 0 ? 0.08 : 0))),
      seed: Math.floor(random() * 2 ** 31),
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
  return Array.from({ length: Math.max(1, count) }, (_, i) => ({
    atS: Math.max(0, (from + i * every) * BEAT_S + 0.004 * random()),
    lengthS: every * BEAT_S,
    key,
    force: 0.55 + 0.25 * random(),
    seed: Math.floor(random() * 2 ** 31),
  }));
}
