import { EAR, type EarKindId } from './kinds';
import type { Asked } from './asked';
import { MAKERS } from './makers';
import { earPlace, type Placed } from './placed';
import { matched, PLAIN_MAKING, type Clip, type Making, type Stereo } from './sound';

/** One question to the ear with its sounds, and what is said of it afterwards. */
export interface EarQuestion extends Omit<Asked, 'sounds' | 'louder'> {
  kind: EarKindId;
  /** the same seed and size ask the same */
  seed: number;
  /** of the thing asked, in the unit of its scale; 0 where it is a place */
  size: number;
  /** what is to be heard under each letter: one loudness, one length */
  clips: Clip[];
  /** of two that differ: what one has and the other has not; null where it says nothing */
  difference: Stereo | null;
  /** of a place: by every model */
  placed: Placed | null;
}

const LETTERS = 'ABC';

/**
 * A question to the ear.
 * @param seed any whole number
 * @param size of the thing asked, in the unit of its kind's scale, from its least to its most
 * @param making plain transforms, nothing told and nothing waited for, where it is left out
 * @throws RangeError where the size is outside its scale
 */
export async function earQuestion(
  kind: EarKindId,
  seed: number,
  size: number,
  making: Making = PLAIN_MAKING,
): Promise<EarQuestion> {
  const { scale } = EAR[kind];
  if (scale && !(size >= scale.least && size <= scale.most)) {
    throw new RangeError(`size is ${size}; allowed: ${scale.least} to ${scale.most} ${scale.unit}`);
  }
  if (kind === 'place') {
    const { sounds, placed, ...asked } = await earPlace(seed, making);
    return { kind, seed, size: 0, ...asked, clips: clipsOf(sounds), difference: null, placed };
  }
  const { sounds, louder, ...asked } = await MAKERS[kind](seed, size, making);
  const clips = clipsOf(sounds, louder);
  const [one, other] = clips.slice(-2);
  const difference = one && other ? differenceOf(one.sound, other.sound) : null;
  return { kind, seed, size, ...asked, clips, difference, placed: null };
}

function clipsOf(sounds: readonly Stereo[], louder: readonly number[] = []): Clip[] {
  // What is known stands before what is asked about.
  const letters = sounds.length === 3 ? 'RAB' : LETTERS;
  return matched(sounds, louder).map((sound, i) => ({ letter: letters[i] ?? '', sound }));
}

const differenceOf = (one: Stereo, other: Stereo): Stereo => [
  one[0].map((value, i) => value - (other[0][i] ?? 0)),
  one[1].map((value, i) => value - (other[1][i] ?? 0)),
];
