import type { Symptom } from './symptom';
import { OF_A_PLAYER } from './symptoms-players';
import { OF_THE_WHOLE } from './symptoms-whole';

export type { Symptom } from './symptom';

/** Everything that is said at a soundcheck and that the plan has a figure for. */
export const SYMPTOMS: readonly Symptom[] = [...OF_THE_WHOLE, ...OF_A_PLAYER];

/** A symptom by its id; null where there is none of that name. */
export const symptomById = (id: string): Symptom | null =>
  SYMPTOMS.find((symptom) => symptom.id === id) ?? null;

/** "Organ too loud, swallows the others" */
export const saidOf = ({ says }: Symptom, player: string): string =>
  says.replace('{player}', player || 'The player');
