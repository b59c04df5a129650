import { modelById, MODELS } from './models/index';
import type { CommonModelId, LocalisationModel, ModelId } from './models/model';
import { ownModel, type OwnShape } from './models/own';
import type { PerModel, RecordingAngle } from './recording-angle';
import type { StageFigures, StagePlace } from './stage';

/** Speaks where the session's model does not apply: a level-only model on a spaced array. */
export const FALLBACK_MODEL: CommonModelId = 'consensus';

/** The model that a session names, with the listener's own where it carries one. */
export interface ChosenModel {
  model: ModelId;
  own?: OwnShape | null;
}

/** The model that is named: the fallback where it is a listener's own that is not there. */
export function modelOf({ model, own }: ChosenModel): LocalisationModel {
  if (model !== 'own') return modelById(model);
  return own ? ownModel(own) : modelById(FALLBACK_MODEL);
}

/** Every model that a session can be led by: those of everybody, then the listener's own where it is there. */
export const modelsIn = ({ own }: Pick<ChosenModel, 'own'>): readonly LocalisationModel[] =>
  own ? [...MODELS, ownModel(own)] : MODELS;

/**
 * The model that may speak: the session's, or the fallback where it knows levels only and the array
 * makes a time difference.
 */
export function speakingModel(chosen: ChosenModel, coincident: boolean): LocalisationModel {
  const wanted = modelOf(chosen);
  return wanted.levelOnly && !coincident ? modelById(FALLBACK_MODEL) : wanted;
}

/** The model that leads among those that have spoken. */
export function leadingModel(spoken: PerModel<unknown> | null, model: ModelId): ModelId {
  return spoken?.[model] === undefined ? FALLBACK_MODEL : model;
}

/**
 * What the session's model says, or the fallback where it does not apply.
 * @returns null where neither has a figure
 */
export function leadingOf<T>(spoken: PerModel<T> | null | undefined, model: ModelId): T | null {
  return spoken?.[model] ?? spoken?.[FALLBACK_MODEL] ?? null;
}

interface Imaged {
  image: PerModel<StagePlace> | null;
}

/** A player's place and extent in the leading model; null in antiphase or at a capsule. */
export const imageIn = (figures: Imaged | null | undefined, model: ModelId): StagePlace | null =>
  leadingOf(figures?.image, model);

/** The place alone, −1 … +1; null as above. */
export const shiftIn = (figures: Imaged | null | undefined, model: ModelId): number | null =>
  imageIn(figures, model)?.shift ?? null;

interface Angled {
  farField: PerModel<RecordingAngle>;
  inPlace: PerModel<RecordingAngle> | null;
}

/**
 * The recording angle in the leading model, in place where players stand, else in the far field.
 * @returns null without figures
 */
export const anglesIn = (
  figures: Angled | null | undefined,
  model: ModelId,
): RecordingAngle | null => leadingOf(figures?.inPlace ?? figures?.farField, model);

/** How the players fill the base, in the leading model; null without an image. */
export const stageIn = (
  figures: { stage: PerModel<StageFigures> } | null | undefined,
  model: ModelId,
): StageFigures | null => leadingOf(figures?.stage, model);
