import { deviation, mean } from 'd3-array';
import { MODEL_IDS, modelById, type CommonModelId } from './models/index';

/** Where somebody heard one who sounded alone, and what the two channels said of them. */
export interface HeardPlace {
  /** who listened; empty where no name was given */
  by: string;
  /** how they listened: two that differ are two listeners, also where the name is one */
  through: string;
  /** the passage that it is of: answers to one passage are one place */
  passage: string;
  /** right louder than left, dB */
  levelDb: number;
  /** right later than left, ms */
  delayMs: number;
  /** from two microphones in one place: models that know levels only may speak */
  coincident: boolean;
  /** −1 left … 1 right */
  shift: number;
}

/** One model against the answers of one listener. */
export interface ModelError {
  model: CommonModelId;
  name: string;
  /** places that it may speak of */
  places: number;
  /** farther out than heard: mean, of half the base; null where no place is off the middle */
  outward: number | null;
  /** half of the 95 % interval of that mean; null of fewer than five places */
  within: number | null;
  /** root of the mean square of all that it is off by, of half the base */
  rms: number;
}

/** What the answers of one listener, listening in one way, say of the models. */
export interface ListenerErrors {
  by: string;
  through: string;
  /** places, answers to one passage counted once */
  places: number;
  models: ModelError[];
  /** of those that speak of every place, the one least far off; null where two cannot be told apart */
  nearest: CommonModelId | null;
}

/** Nearer the middle than this nothing is farther out or in. */
const OFF_MIDDLE = 0.02;
/** From fewer no interval is said. */
const FEWEST = 5;
/** The 97.5 % point of the normal distribution. */
const NORMAL = 1.96;

/** The 97.5 % point of Student's t: Cornish and Fisher's expansion, within 1 % from four degrees on. */
function studentT(degrees: number): number {
  const z = NORMAL;
  return (
    z +
    (z ** 3 + z) / (4 * degrees) +
    (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * degrees ** 2) +
    (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * degrees ** 3)
  );
}

/** Mean and half its 95 % interval. @returns null of none; no interval of fewer than five */
function meanWithin(values: readonly number[]): { mean: number; within: number | null } | null {
  const middle = mean(values);
  if (middle === undefined) return null;
  const spread = deviation(values);
  if (spread === undefined || values.length < FEWEST) return { mean: middle, within: null };
  return {
    mean: middle,
    within: (studentT(values.length - 1) * spread) / Math.sqrt(values.length),
  };
}

/** Answers to one passage as one place, in their middle. */
function placesOf(answers: readonly HeardPlace[]): HeardPlace[] {
  const by = new Map<string, HeardPlace[]>();
  for (const answer of answers) {
    by.set(answer.passage, [...(by.get(answer.passage) ?? []), answer]);
  }
  return [...by.values()].flatMap((same) => {
    const [first] = same;
    return first ? [{ ...first, shift: mean(same, ({ shift }) => shift) ?? first.shift }] : [];
  });
}

function errorOf(model: CommonModelId, places: readonly HeardPlace[]): ModelError | null {
  const { name, shift, levelOnly } = modelById(model);
  const consensus = modelById('consensus');
  const spoken = places.filter(({ coincident }) => coincident || !levelOnly);
  if (spoken.length === 0) return null;
  // Later on the right is earlier on the left.
  const off = spoken.map(({ levelDb, delayMs, shift: heard }) => ({
    by: shift(levelDb, -delayMs) - heard,
    side: consensus.shift(levelDb, -delayMs),
  }));
  const outward = meanWithin(
    off.flatMap(({ by, side }) => (Math.abs(side) < OFF_MIDDLE ? [] : by * Math.sign(side))),
  );
  return {
    model,
    name,
    places: spoken.length,
    outward: outward?.mean ?? null,
    within: outward?.within ?? null,
    rms: Math.sqrt(mean(off, ({ by }) => by * by) ?? 0),
  };
}

/** The nearest of two by their squares, place by place; null where chance alone may have it so. */
function nearestOf(
  models: readonly ModelError[],
  places: readonly HeardPlace[],
): CommonModelId | null {
  const [best, next] = models
    .filter((one) => one.places === places.length)
    .sort((a, b) => a.rms - b.rms);
  if (!best || !next || places.length < FEWEST) return null;
  const [one, other] = [modelById(best.model), modelById(next.model)];
  const nearer = meanWithin(
    places.map(({ levelDb, delayMs, shift }) => {
      const [near, far] = [one, other].map((model) => model.shift(levelDb, -delayMs) - shift);
      return (far ?? 0) ** 2 - (near ?? 0) ** 2;
    }),
  );
  return nearer?.within != null && nearer.mean > nearer.within ? best.model : null;
}

/**
 * Which model was nearest to where listeners heard players, listener by listener: never of several
 * together, as two listeners, or one through loudspeakers and headphones, are not one.
 * @param answers in any order; levels −240 … 240 dB, delays −5000 … 5000 ms, shifts −1 … 1
 * @returns the listener with the most places first
 */
export function listenerErrors(answers: readonly HeardPlace[]): ListenerErrors[] {
  const by = new Map<string, HeardPlace[]>();
  for (const answer of answers) {
    const key = JSON.stringify([answer.by, answer.through]);
    by.set(key, [...(by.get(key) ?? []), answer]);
  }
  return [...by.values()]
    .flatMap((all): ListenerErrors[] => {
      const [first] = all;
      if (!first) return [];
      const places = placesOf(all);
      const models = MODEL_IDS.flatMap((id) => errorOf(id, places) ?? []);
      return [
        {
          by: first.by,
          through: first.through,
          places: places.length,
          models,
          nearest: nearestOf(models, places),
        },
      ];
    })
    .sort((a, b) => b.places - a.places);
}
