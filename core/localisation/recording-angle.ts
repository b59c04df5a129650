import { checkSpeed, cosDeg, inRange, sinDeg } from '../units/guard';
import { reachedBetween } from '../units/numbers';
import { farCues, nearCues, pointAround, type Cues, type PreparedArray } from './cues';
import { middleOf } from './models/consensus';
import { marginOf, placeOf, placesOf } from './placed';
import { modelsFor, perModel } from './models/index';
import type { LocalisationModel, ModelId } from './models/model';

/** The widest image a scan found. */
export interface WidestImage {
  /** size of the shift, 0 … 1 */
  shift: number;
  /** source angle off the aim where it occurs, degrees */
  atDeg: number;
}

/** Recording angle in one model, as half angles either side of the aim. */
export interface RecordingAngle {
  /** where the image first reaches the loudspeaker (100 %); null where it never does */
  halfDeg: number | null;
  /** where it first reaches 75 %; inside it the curve is close to linear */
  half75Deg: number | null;
  widest: WidestImage;
}

export type PerModel<T> = Partial<Record<ModelId, T>>;

/** Cues at a source angle off the aim; null where there is no figure. */
export type CuesAtAngle = (azimuthDeg: number) => Cues | null;

const STEP_DEG = 1;
const LIMIT_DEG = 180;
const LAST_STEP = LIMIT_DEG / STEP_DEG;
const TOLERANCE_DEG = 1e-8;

/**
 * A distant source at the array's own height plane: the textbook view.
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function farField(array: PreparedArray, speed: number): CuesAtAngle {
  checkSpeed(speed);
  return (azimuthDeg) => farCues(array, azimuthDeg, speed);
}

/**
 * A real source on an arc around the array, at the ensemble's distance and height.
 * @throws RangeError where speed is outside 250 … 450 m/s, distanceM is outside 0 … 1000 m,
 *   heightM is outside −400 … 400 m
 */
export function inPlace(
  array: PreparedArray,
  distanceM: number,
  heightM: number,
  speed: number,
): CuesAtAngle {
  checkSpeed(speed);
  inRange('distanceM', distanceM, 0, 1000, 'm');
  inRange('heightM', heightM, -400, 400, 'm');
  if (array.steep) {
    return (azimuthDeg) => {
      const point = pointAround(array, azimuthDeg, distanceM, heightM);
      return point && nearCues(array, point, speed);
    };
  }
  const { x, y } = array.centre;
  // As pointAround, whose distance and height have just been checked.
  return (azimuthDeg) => {
    const towards = array.aimDeg + azimuthDeg;
    const point = {
      x: x + distanceM * sinDeg(towards),
      y: y + distanceM * cosDeg(towards),
      z: heightM,
    };
    return nearCues(array, point, speed);
  };
}

/**
 * One side of an array at every whole step outward, each computed once and only when asked for:
 * its cues, and the places that they are worth in every model of the scan.
 */
interface Side {
  sign: 1 | -1;
  models: readonly LocalisationModel[];
  cuesAt: CuesAtAngle;
  cues: (step: number) => Cues | null;
  /** places at a step; empty where there is no image */
  places: (step: number) => readonly number[];
}

const NOTHING: readonly number[] = [];

function sideOf(
  cuesAt: CuesAtAngle,
  sign: 1 | -1,
  models: readonly LocalisationModel[],
  placesAt: (cues: Cues) => readonly number[],
): Side {
  const known: (Cues | null | undefined)[] = [];
  const cues = (step: number): Cues | null => {
    const found = known[step];
    return found === undefined ? (known[step] = cuesAt(step * STEP_DEG * sign)) : found;
  };
  const placesKnown: (readonly number[] | undefined)[] = [];
  const places = (step: number): readonly number[] => {
    const before = placesKnown[step];
    if (before) return before;
    const here = cues(step);
    return (placesKnown[step] = here && !here.antiphase ? placesAt(here) : NOTHING);
  };
  return { sign, models, cuesAt, cues, places };
}

interface Crossing {
  /** scan step at whose inner side the crossing lies */
  step: number;
  angleDeg: number;
}

const shareOf = ({ icldDb, ictdMs }: Cues): number =>
  Math.abs(icldDb) / 15 + Math.abs(ictdMs) / 1.12;

/**
 * Below this sum of the cues' shares, |dB|/15 + |ms|/1.12, a model's image is surely narrower than
 * a level, by the two levels of a scan; 0 where nothing is known.
 */
const SURELY_NARROWER: Readonly<Record<ModelId, { at75: number; full: number }>> = {
  consensus: { at75: 0.4, full: 0.73 },
  traded: { at75: 0.4, full: 0.85 },
  added: { at75: 0.5, full: 0.73 },
  'two-slope': { at75: 0.55, full: 0.88 },
  tangent: { at75: 1, full: 6 },
};

/**
 * Below what sum of the cues' shares an image is surely narrower than a level.
 * @param level size of the shift, 0 … 1
 * @returns a lower bound of |dB|/15 + |ms|/1.12, 0 … 6
 */
export function surelyNarrower(model: ModelId, level: number): number {
  const { at75, full } = SURELY_NARROWER[model];
  return level >= 1 ? full : level >= 0.75 ? at75 : level >= 0.5 ? 0.4 * level : 0;
}

/** The first step outward from which a model's image may be as wide as a level, or is lost. */
function firstPerhapsWide({ cues }: Side, narrower: number, from: number): number {
  let step = from;
  for (; step <= LAST_STEP; step++) {
    const here = cues(step);
    if (!here || here.antiphase || here.events || shareOf(here) >= narrower) break;
  }
  return step;
}

/** A model's margin of cues, null where they have no image. */
const marginIn = (here: Cues | null, model: LocalisationModel, level: number): number | null =>
  here && !here.antiphase ? marginOf(here, model, level) : null;

/** Walks outward on one side until a model's image is as wide as the level; null if it never is. */
function findCrossing(
  side: Side,
  level: number,
  model: LocalisationModel,
  from: number,
  known: (step: number) => number | null = () => null,
): Crossing | null {
  const { sign, cuesAt, cues } = side;
  const start = firstPerhapsWide(side, surelyNarrower(model.id, level), from);
  for (let step = start; step <= LAST_STEP; step++) {
    const margin = marginIn(cues(step), model, level);
    const turning = margin === null && cues(step - 1)?.antiphase === false;
    if (!turning && (margin === null || margin < 0)) continue;
    const angle = known(step);
    if (angle !== null) return { step, angleDeg: angle };
    const inner = (step - 1) * STEP_DEG * sign;
    const outer = step * STEP_DEG * sign;
    const marginAt = (at: number): number | null => {
      if (at === inner) return marginIn(cues(step - 1), model, level);
      if (at === outer) return margin;
      return marginIn(cuesAt(at), model, level);
    };
    const angleDeg = reachedBetween(marginAt, inner, outer, TOLERANCE_DEG);
    if (angleDeg !== null) return { step, angleDeg: Math.abs(angleDeg) };
  }
  return null;
}

/** The consensus comes first in every scan, and after it the three of which it is the middle one. */
const CONSENSUS = 0;
const MEMBERS = [1, 2, 3] as const;

/**
 * Where the consensus crosses within a step: with the second of the three, where their crossings
 * in it are known and the cues do not oppose each other; null where it must be looked for.
 */
function secondOfThree(
  { models, cues }: Side,
  level: number,
  step: number,
  found: readonly (Crossing | null)[],
): number | null {
  const [before, after] = [cues(step - 1), cues(step)];
  if (!before || !after || before.events || after.events) return null;
  if (before.antiphase || after.antiphase) return null;
  if (before.icldDb * before.ictdMs < 0 || after.icldDb * after.ictdMs < 0) return null;
  let already = 0;
  const within: number[] = [];
  for (const i of MEMBERS) {
    const model = models[i];
    if (!model) return null;
    if (marginOf(before, model, level) >= 0) already += 1;
    else if (marginOf(after, model, level) >= 0) {
      const crossing = found[i];
      if (crossing?.step !== step) return null;
      within.push(crossing.angleDeg);
    }
  }
  within.sort((a, b) => a - b);
  return already > 1 ? null : (within[1 - already] ?? null);
}

/** The step of the second of the three that cross; past the last where no two do. */
function secondStep(found: readonly (Crossing | null)[]): number {
  const steps = MEMBERS.map((i) => found[i]?.step ?? LAST_STEP + 1);
  return middleOf(steps[0] ?? 0, steps[1] ?? 0, steps[2] ?? 0);
}

/**
 * The first step at which the consensus may be as wide: nowhere before are two of the three, except
 * where several events are weighed against each other.
 */
function consensusFrom({ cues }: Side, start: number, found: readonly (Crossing | null)[]): number {
  const second = secondStep(found);
  let step = start;
  while (step < second && !cues(step)?.events) step += 1;
  return step;
}

/** The crossings of all models at a level, each from a step of its own; null where it has none. */
function crossings(
  side: Side,
  level: number,
  from: readonly (number | null)[],
): readonly (Crossing | null)[] {
  const found = side.models.map((): Crossing | null => null);
  for (let i = found.length - 1; i >= CONSENSUS; i--) {
    const [start, model] = [from[i] ?? null, side.models[i]];
    if (start === null || !model) continue;
    found[i] =
      i === CONSENSUS
        ? findCrossing(side, level, model, consensusFrom(side, start, found), (step) =>
            secondOfThree(side, level, step, found),
          )
        : findCrossing(side, level, model, start);
  }
  return found;
}

const COARSE_STEPS = 6;

/**
 * A model's widest image on one side, for arrays that never reach the loudspeaker: coarsely over
 * the half circle, then degree by degree around the best.
 */
function widestImage(side: Side, ofModel: number): WidestImage {
  let best = 0;
  let widest = 0;
  const look = (step: number): void => {
    const shift = Math.abs(side.places(step)[ofModel] ?? 0);
    if (shift > widest) {
      widest = shift;
      best = step;
    }
  };
  for (let step = COARSE_STEPS; step <= LAST_STEP; step += COARSE_STEPS) look(step);
  const centre = best;
  const to = Math.min(LAST_STEP, centre + COARSE_STEPS - 1);
  for (let step = Math.max(1, centre - COARSE_STEPS + 1); step <= to; step++) look(step);
  return { shift: widest, atDeg: best * STEP_DEG };
}

/** What one side makes of every model. */
function scanSide(side: Side): RecordingAngle[] {
  const at75 = crossings(
    side,
    0.75,
    side.models.map(() => 1),
  );
  const full = crossings(
    side,
    1,
    at75.map((crossing) => crossing?.step ?? null),
  );
  return side.models.map((_, i) => {
    const angle = full[i]?.angleDeg ?? null;
    return {
      halfDeg: angle,
      half75Deg: at75[i]?.angleDeg ?? null,
      widest: angle === null ? widestImage(side, i) : { shift: 1, atDeg: angle },
    };
  });
}

function meanOf(a: number | null, b: number | null): number | null {
  return a === null || b === null ? null : (a + b) / 2;
}

/**
 * Recording angle of an array in every model that may speak for it: the half angle at which the
 * image first reaches the loudspeaker, by an outward scan in 1° steps refined by bisection.
 * Asymmetric arrays are scanned on both sides and the mean is given.
 * Source: the notion after M. Williams, AES preprint 2466 (1987).
 */
export function recordingAngles(
  array: PreparedArray,
  cuesAt: CuesAtAngle,
): PerModel<RecordingAngle> {
  const { coincident } = array;
  const models = modelsFor(coincident);
  const scan = (sign: 1 | -1): RecordingAngle[] =>
    scanSide(sideOf(cuesAt, sign, models, (cues) => placesOf(cues, coincident)));
  const rightSide = scan(1);
  const leftSide = array.symmetric ? rightSide : scan(-1);
  const both = rightSide.map((right, i): RecordingAngle => {
    const left = leftSide[i] ?? right;
    return {
      halfDeg: meanOf(right.halfDeg, left.halfDeg),
      half75Deg: meanOf(right.half75Deg, left.half75Deg),
      widest: right.widest.shift >= left.widest.shift ? right.widest : left.widest,
    };
  });
  return perModel(coincident, both);
}

/**
 * The half angle on the right side alone, in one model and for one level: the cheap form for
 * solvers and searches.
 * @param level size of the shift, 0.01 … 1
 * @returns degrees off the aim; null where it is never reached
 * @throws RangeError where level is outside 0.01 … 1
 */
export function halfAngle(
  cuesAt: CuesAtAngle,
  model: LocalisationModel,
  level: number,
): number | null {
  inRange('level', level, 0.01, 1);
  const side = sideOf(cuesAt, 1, [model], (cues) => [placeOf(cues, model)]);
  return findCrossing(side, level, model, 1)?.angleDeg ?? null;
}

const SLOPE_STEP_DEG = 0.05;

/**
 * Steepness of the localisation curve at the centre, shift per degree of source angle
 * (0.02 means that 10° of stage fill 20 % of the half base). Null without an image there.
 */
export function centreSlopes(array: PreparedArray, cuesAt: CuesAtAngle): PerModel<number | null> {
  const right = cuesAt(SLOPE_STEP_DEG);
  const left = cuesAt(-SLOPE_STEP_DEG);
  const { coincident } = array;
  if (!right || !left || right.antiphase || left.antiphase) {
    const none = modelsFor(coincident).map(() => null);
    return perModel<number | null>(coincident, none);
  }
  const from = placesOf(left, coincident);
  const slopes = placesOf(right, coincident).map(
    (shift, i) => (shift - (from[i] ?? 0)) / (2 * SLOPE_STEP_DEG),
  );
  return perModel<number | null>(coincident, slopes);
}
