import type { LeverName } from './levers';
import type { SenseName } from './senses';

/** What is said at a soundcheck, the figure in which it shows, and what the field does about it. */

export interface Symptom {
  id: string;
  /** as it is said; {player} for whom it is about */
  says: string;
  /** one player is asked for */
  ofPlayer: boolean;
  sense: SenseName;
  /** what the field turns, as it is usually tried */
  levers: readonly LeverName[];
  /** where schools differ: who says what */
  schools?: readonly { who: string; says: string }[];
  /** what only ears, hands or the house can do about it */
  also?: string;
}

/** Two schools that differ in most of them. */
export const PAIR_FIRST = 'Who trusts the main pair';
export const MIXER = 'Who builds the picture from spots';
