import { added } from './added';
import { consensus, middleOf } from './consensus';
import { inRange } from '../../units/guard';
import { checkCues, type LocalisationModel, type ModelId } from './model';
import { tangent } from './tangent';
import { traded } from './traded';
import { twoSlope } from './two-slope';

export type { LocalisationModel, ModelId } from './model';
export { levelForAngle, timeForAngle } from './traded';

/** The same model with its arguments checked, so that nothing but a shift comes out of it. */
function guarded(model: LocalisationModel): LocalisationModel {
  const { shift, margin, timeNeeded } = model;
  return {
    ...model,
    shift: (icldDb, ictdMs) => {
      checkCues(icldDb, ictdMs);
      return shift(icldDb, ictdMs);
    },
    margin: (icldDb, ictdMs, level) => {
      checkCues(icldDb, ictdMs);
      inRange('level', level, 0.01, 1);
      return margin(icldDb, ictdMs, level);
    },
    timeNeeded: (icldDb, level) => {
      checkCues(icldDb, 0);
      inRange('level', level, 0.01, 1);
      return timeNeeded(icldDb, level);
    },
  };
}

/** For cues that the core itself computed, which need no check. */
const PLAIN: readonly LocalisationModel[] = [consensus, traded, added, twoSlope, tangent];
const PLAIN_KNOWING_TIME = PLAIN.filter(({ levelOnly }) => !levelOnly);

export const MODELS: readonly LocalisationModel[] = PLAIN.map(guarded);
export const MODEL_IDS: readonly ModelId[] = MODELS.map(({ id }) => id);

const BY_ID = Object.fromEntries(MODELS.map((model) => [model.id, model])) as Readonly<
  Record<ModelId, LocalisationModel>
>;

export function modelById(id: ModelId): LocalisationModel {
  return BY_ID[id];
}

/**
 * The models that may speak for an array: all for a coincident one, else those that know time.
 * Their functions take cues as the core computes them, without checking each.
 */
export function modelsFor(coincident: boolean): readonly LocalisationModel[] {
  return coincident ? PLAIN : PLAIN_KNOWING_TIME;
}

/** What was found for each of modelsFor, in their order, by their names. */
export function perModel<T>(coincident: boolean, found: readonly T[]): Partial<Record<ModelId, T>> {
  // By index, not taken apart: this is done for every player at every array.
  const each = found as readonly [T, T, T, T, T];
  const known: Partial<Record<ModelId, T>> = {
    consensus: each[0],
    traded: each[1],
    added: each[2],
    'two-slope': each[3],
  };
  if (coincident) known.tangent = each[4];
  return known;
}

/**
 * What is made of the shift in each model that may speak for an array, by its name. The consensus
 * is one of the others, and shares what is made of it.
 * @param icldDb dB, as the core computes it
 * @param ictdMs ms
 */
export function shiftsByModel<T>(
  coincident: boolean,
  icldDb: number,
  ictdMs: number,
  make: (shift: number) => T,
): Partial<Record<ModelId, T>> {
  const byTraded = traded.shift(icldDb, ictdMs);
  const byAdded = added.shift(icldDb, ictdMs);
  const byTwoSlopes = twoSlope.shift(icldDb, ictdMs);
  const middle = middleOf(byTraded, byAdded, byTwoSlopes);
  const [first, second, third] = [make(byTraded), make(byAdded), make(byTwoSlopes)];
  const known: Partial<Record<ModelId, T>> = {
    consensus: middle === byTraded ? first : middle === byAdded ? second : third,
    traded: first,
    added: second,
    'two-slope': third,
  };
  if (coincident) known.tangent = make(tangent.shift(icldDb, ictdMs));
  return known;
}

/**
 * The shifts of all models that may speak for an array, in the order of modelsFor; those of which
 * the consensus is made are asked once.
 * @param icldDb dB, as the core computes it
 * @param ictdMs ms
 */
export function shiftsOf(coincident: boolean, icldDb: number, ictdMs: number): number[] {
  const byTraded = traded.shift(icldDb, ictdMs);
  const byAdded = added.shift(icldDb, ictdMs);
  const byTwoSlopes = twoSlope.shift(icldDb, ictdMs);
  const middle = middleOf(byTraded, byAdded, byTwoSlopes);
  return coincident
    ? [middle, byTraded, byAdded, byTwoSlopes, tangent.shift(icldDb, ictdMs)]
    : [middle, byTraded, byAdded, byTwoSlopes];
}
