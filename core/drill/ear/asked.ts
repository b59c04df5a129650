import type { Session, SessionTechnique } from '../../session/schema';
import { withArrays, type Scene } from './scene';
import type { Making, Stereo } from './sound';

/** What a question asks, and what is heard: not yet at one loudness. */
export interface Asked {
  text: string;
  /** empty where the answer is a place on the line */
  answers: { id: string; label: string }[];
  /** under A and B, or R, A and B */
  sounds: Stereo[];
  /** of each over the common loudness, dB */
  louder?: number[];
  /** the id of the right answer, or the place, −1 … +1 */
  truth: string | number;
  /** what it was, with figures */
  after: string;
}

export type Maker = (seed: number, size: number, making: Making) => Promise<Asked>;

/** The answers to a question about two sounds. */
export const A_OR_B = [
  { id: 'A', label: 'A' },
  { id: 'B', label: 'B' },
];

/** Which letter has it, by chance: the sounds in the order of their letters. */
export function hiding(
  random: () => number,
  it: Stereo,
  other: Stereo,
): { truth: 'A' | 'B'; sounds: Stereo[]; rest: 'A' | 'B' } {
  return random() < 0.5
    ? { truth: 'A', rest: 'B', sounds: [it, other] }
    : { truth: 'B', rest: 'A', sounds: [other, it] };
}

/** A set-up with one array. */
export const main = (scene: Scene, technique: SessionTechnique): Session =>
  withArrays(scene, [{ id: 'main', name: 'Main pair', technique }]);
