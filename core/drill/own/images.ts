import { seededRandom } from '../../units/random';
import { shuffled } from '../../units/shuffled';

/** What a listener is asked for a model of their own: images of level alone, of time alone, of both. */

/** Sizes of level differences alone, dB. */
export const LEVELS_DB = [1, 2, 3.5, 5, 7, 9, 12, 15, 18] as const;
/** Sizes of time differences alone, ms. */
export const TIMES_MS = [0.07, 0.13, 0.2, 0.3, 0.42, 0.55, 0.72, 0.95, 1.2] as const;
/** Both at once, dB and ms; a time below 0 opposes the level. */
const BOTH = [
  [2, 0.13],
  [3.5, 0.2],
  [5, 0.13],
  [2, 0.3],
  [7, -0.2],
  [3.5, -0.3],
] as const;
/** How often each size is asked on each side. */
const TIMES_EACH = 3;

/** Kinds of sound that take turns: a voice, bursts of noise, clicks. */
export const IMAGE_SOUNDS = ['voice', 'noise bursts', 'clicks'] as const;
export type ImageSound = (typeof IMAGE_SOUNDS)[number];

/** One image that is asked for: differences positive to the right. */
export interface AskedImage {
  icldDb: number;
  ictdMs: number;
  sound: ImageSound;
}

/** Where one was heard: a click on the line, −1 … +1. */
export interface HeardImage extends Pick<AskedImage, 'icldDb' | 'ictdMs'> {
  at: number;
}

/**
 * All images in the order in which they are asked: 54 of level, 54 of time and 12 of both, mirrored,
 * shuffled, every kind of sound as often at every size.
 * @param seed any whole number, 0 … 2^32
 */
export function askedImages(seed: number): AskedImage[] {
  const random = seededRandom(seed);
  const made: AskedImage[] = [];
  const add = (icldDb: number, ictdMs: number, turn: number): void => {
    for (const side of [-1, 1]) {
      const sound = IMAGE_SOUNDS[(turn + (side > 0 ? 1 : 0)) % IMAGE_SOUNDS.length] ?? 'voice';
      // No −0: it would stand in a file as another figure.
      made.push({ icldDb: side * icldDb + 0, ictdMs: side * ictdMs + 0, sound });
    }
  };
  for (let turn = 0; turn < TIMES_EACH; turn++) {
    for (const db of LEVELS_DB) add(db, 0, turn);
    for (const ms of TIMES_MS) add(0, ms, turn);
  }
  BOTH.forEach(([db, ms], i) => add(db, ms, i));
  return shuffled(made, random);
}
