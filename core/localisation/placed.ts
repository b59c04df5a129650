import type { Cues } from './cues';
import { extentOfEvents, shiftOfEvents, type WeighedEvents } from './events';
import { modelsFor, shiftsOf } from './models/index';
import type { LocalisationModel } from './models/model';
import type { OwnShape } from './models/own';

/**
 * Where cues place an image in a model, −1 … +1.
 * @param louderDb by how much the right channel of every pair is too loud, dB
 */
export function placeOf(cues: Cues, model: LocalisationModel, louderDb = 0): number {
  if (!cues.events) return model.shift(cues.icldDb + louderDb, cues.ictdMs);
  return shiftOfEvents(louderDb === 0 ? cues.events : mismatched(cues.events, louderDb), model);
}

/** The same cues where the right channel of every pair is so much louder, dB. */
export const louderRight = (cues: Cues, db: number): Cues => ({
  ...cues,
  icldDb: cues.icldDb + db,
  ...(cues.events && { events: mismatched(cues.events, db) }),
});

const mismatched = (weighed: WeighedEvents, db: number): WeighedEvents => ({
  ...weighed,
  events: weighed.events.map((event) => {
    if (!event.pair) return event;
    const parts = event.parts.map((part) => ({ ...part, icldDb: part.icldDb + db }));
    return { ...event, parts };
  }),
});

/** How far cues exceed what an image of a size needs, on either side; as a model's margin. */
export const marginOf = (
  { icldDb, ictdMs, events }: Pick<Cues, 'icldDb' | 'ictdMs' | 'events'>,
  model: LocalisationModel,
  level: number,
): number =>
  events ? Math.abs(shiftOfEvents(events, model)) - level : model.margin(icldDb, ictdMs, level);

/** The places in all models that may speak for an array, in the order of modelsFor. */
export const placesOf = (cues: Cues, coincident: boolean, own: OwnShape | null = null): number[] =>
  cues.events
    ? modelsFor(coincident, own).map((model) => placeOf(cues, model))
    : shiftsOf(coincident, cues.icldDb, cues.ictdMs, own);

/** How far the bands of cues spread in each of these models; null where all bands agree. */
export function extentsOf(
  { events }: Cues,
  coincident: boolean,
  own: OwnShape | null = null,
): ({ left: number; right: number } | null)[] | null {
  return events ? modelsFor(coincident, own).map((model) => extentOfEvents(events, model)) : null;
}
