import { consensus, middleOf, VOICES } from './consensus';
import { inRange } from '../../units/guard';
import { remembered } from '../../units/remember';
import { checkCues, type CommonModelId, type LocalisationModel, type ModelId } from './model';
import { ownModel, type OwnShape } from './own';
import { tangent } from './tangent';

export type { CommonModelId, LocalisationModel, ModelId } from './model';
export * from './own';
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

/**
 * Every model there is: the consensus first, then those of which it is the middle one, then the others.
 * For cues that the core itself computed, which need no check.
 */
const PLAIN: readonly LocalisationModel[] = [consensus, ...VOICES, tangent];
const PLAIN_KNOWING_TIME = PLAIN.filter(({ levelOnly }) => !levelOnly);

export const MODELS: readonly LocalisationModel[] = PLAIN.map(guarded);
export const MODEL_IDS = MODELS.map(({ id }) => id) as readonly CommonModelId[];

const BY_ID = Object.fromEntries(MODELS.map((model) => [model.id, model])) as Readonly<
  Record<CommonModelId, LocalisationModel>
>;

export function modelById(id: CommonModelId): LocalisationModel {
  return BY_ID[id];
}

const withOwn = remembered((own: OwnShape) => {
  const model = ownModel(own);
  return { all: [...PLAIN, model], knowingTime: [...PLAIN_KNOWING_TIME, model] };
});

/**
 * The models that may speak for an array: all for a coincident one, else those that know time.
 * Their functions take cues as the core computes them, without checking each.
 * @param own a listener's own model, which comes last; null where there is none
 */
export function modelsFor(
  coincident: boolean,
  own: OwnShape | null = null,
): readonly LocalisationModel[] {
  if (own) return coincident ? withOwn(own).all : withOwn(own).knowingTime;
  return coincident ? PLAIN : PLAIN_KNOWING_TIME;
}

/** What was found for each of modelsFor, in their order, by their names. */
export function perModel<T>(
  coincident: boolean,
  found: readonly T[],
  own: OwnShape | null = null,
): Partial<Record<ModelId, T>> {
  const known: Partial<Record<ModelId, T>> = {};
  const models = modelsFor(coincident, own);
  // Counted, and no closures: this is done for every player at every array.
  for (let i = 0; i < models.length; i++) {
    known[(models[i] as LocalisationModel).id] = found[i] as T;
  }
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
  own: OwnShape | null = null,
): Partial<Record<ModelId, T>> {
  const shifts = shiftsOf(coincident, icldDb, ictdMs, own);
  const made: T[] = [];
  for (let i = 1; i < shifts.length; i++) made[i] = make(shifts[i] as number);
  made[0] = made[shifts.indexOf(shifts[0] as number, 1)] as T;
  return perModel(coincident, made, own);
}

/**
 * The shifts of all models that may speak for an array, in the order of modelsFor; those of which
 * the consensus is made are asked once.
 * @param icldDb dB, as the core computes it
 * @param ictdMs ms
 */
export function shiftsOf(
  coincident: boolean,
  icldDb: number,
  ictdMs: number,
  own: OwnShape | null = null,
): number[] {
  const models = modelsFor(coincident, own);
  const shifts = [0];
  for (let i = 1; i < models.length; i++) {
    shifts.push((models[i] as LocalisationModel).shift(icldDb, ictdMs));
  }
  shifts[0] = middleOf(...(shifts.slice(1, 1 + VOICES.length) as [number, number, number]));
  return shifts;
}
