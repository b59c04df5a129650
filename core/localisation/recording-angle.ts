import { checkSpeed, cosDeg, inRange, sinDeg } from '../units/guard';
import { farCues, nearCues, pointAround } from './cues';
import { middleOf } from './models/consensus';
import { modelsFor, perModel } from './models/index';
import type { LocalisationModel, ModelId } from './models/model';
import type { OwnShape } from './models/own';
import { placeOf, placesOf } from './placed';
import type { PreparedArray } from './prepared-array';
import { LAST_STEP, Side, STEP_DEG, type CuesAtAngle } from './scan-side';

export type { CuesAtAngle } from './scan-side';

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

/**
 * A distant source at the array's own height plane: the textbook view.
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function farField(array: PreparedArray, speed: number): CuesAtAngle {
  checkSpeed(speed);
  return (azimuthDeg, into) => farCues(array, azimuthDeg, speed, into);
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
  const point = { x, y, z: heightM };
  return (azimuthDeg, into) => {
    const towards = array.aimDeg + azimuthDeg;
    point.x = x + distanceM * sinDeg(towards);
    point.y = y + distanceM * cosDeg(towards);
    return nearCues(array, point, speed, into);
  };
}

interface Crossing {
  /** scan step at whose inner side the crossing lies */
  step: number;
  angleDeg: number;
}

/**
 * Below what sum of the cues' shares an image is surely narrower than a level.
 * @param level size of the shift, 0 … 1
 * @returns a lower bound of |dB|/15 + |ms|/1.12, 0 … 6
 */
export function surelyNarrower(model: LocalisationModel, level: number): number {
  const { at75, full } = model.surelyNarrower;
  return level >= 1 ? full : level >= 0.75 ? at75 : level >= 0.5 ? 0.4 * level : 0;
}

/** Walks outward on one side until a model's image is as wide as the level; null if it never is. */
function findCrossing(
  side: Side,
  level: number,
  model: LocalisationModel,
  from: number,
  known: (step: number) => number | null = () => null,
): Crossing | null {
  const start = side.firstPerhapsWide(surelyNarrower(model, level), from);
  for (let step = start; step <= side.lastStep; step++) {
    const margin = side.margin(step, model, level);
    const turning = margin === null && side.hasImage(step - 1);
    if (!turning && (margin === null || margin < 0)) continue;
    const angleDeg = known(step) ?? side.reached(step, model, level);
    if (angleDeg !== null) return { step, angleDeg };
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
  side: Side,
  level: number,
  step: number,
  found: readonly (Crossing | null)[],
): number | null {
  if (!side.hasImage(step - 1) || !side.hasImage(step)) return null;
  if (side.byEvents(step - 1) || side.byEvents(step)) return null;
  if (side.isOpposed(step - 1) || side.isOpposed(step)) return null;
  let already = 0;
  let [first, second] = [Infinity, Infinity];
  for (const i of MEMBERS) {
    const model = side.models[i];
    if (!model) return null;
    if ((side.margin(step - 1, model, level) ?? -1) >= 0) already += 1;
    else if ((side.margin(step, model, level) ?? -1) >= 0) {
      const crossing = found[i];
      if (crossing?.step !== step) return null;
      const at = crossing.angleDeg;
      if (at < first) [first, second] = [at, first];
      else if (at < second) second = at;
    }
  }
  const angle = already > 1 ? Infinity : already === 1 ? first : second;
  return angle < Infinity ? angle : null;
}

/** The step of the second of the three that cross; past the last where no two do. */
function secondStep(found: readonly (Crossing | null)[]): number {
  const never = LAST_STEP + 1;
  return middleOf(found[1]?.step ?? never, found[2]?.step ?? never, found[3]?.step ?? never);
}

/**
 * The first step at which the consensus may be as wide: nowhere before are two of the three, except
 * where several events are weighed against each other.
 */
function consensusFrom(side: Side, start: number, found: readonly (Crossing | null)[]): number {
  const second = secondStep(found);
  let step = start;
  if (side.isPlain) return Math.max(start, second);
  while (step < second && !side.byEvents(step)) step += 1;
  return step;
}

/** The crossings of all models at a level, each from a step of its own; null where it has none. */
function crossings(
  side: Side,
  level: number,
  from: readonly (number | null)[],
): readonly (Crossing | null)[] {
  const found = side.models.map((): Crossing | null => null);
  for (let i = CONSENSUS + 1; i < found.length; i++) {
    const [start, model] = [from[i] ?? null, side.models[i]];
    if (start !== null && model) found[i] = findCrossing(side, level, model, start);
  }
  const [start, consensus] = [from[CONSENSUS] ?? null, side.models[CONSENSUS]];
  if (start !== null && consensus) {
    const first = consensusFrom(side, start, found);
    found[CONSENSUS] = findCrossing(side, level, consensus, first, (step) =>
      secondOfThree(side, level, step, found),
    );
  }
  return found;
}

const COARSE_STEPS = 6;
/** Shifts no farther apart than this differ by rounding alone. */
const SAME_SHIFT = 1e-12;

/**
 * A model's widest image on one side, for arrays that never reach the loudspeaker: coarsely over
 * the half circle, then degree by degree around the best.
 */
function widestImage(side: Side, ofModel: number): WidestImage {
  let best = 0;
  let widest = 0;
  const look = (step: number): void => {
    const shift = Math.abs(side.places(step)[ofModel] ?? 0);
    if (shift > widest + SAME_SHIFT) {
      widest = shift;
      best = step;
    }
  };
  for (let step = COARSE_STEPS; step <= side.lastStep; step += COARSE_STEPS) look(step);
  const centre = best;
  const to = Math.min(side.lastStep, centre + COARSE_STEPS - 1);
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
 * @param own a listener's own model, beside the others
 * Source: the notion after M. Williams, AES preprint 2466 (1987).
 */
export function recordingAngles(
  array: PreparedArray,
  cuesAt: CuesAtAngle,
  own: OwnShape | null = null,
): PerModel<RecordingAngle> {
  const { coincident } = array;
  const models = modelsFor(coincident, own);
  const scan = (sign: 1 | -1): RecordingAngle[] =>
    scanSide(new Side(cuesAt, sign, models, (cues) => placesOf(cues, coincident, own), array));
  const rightSide = scan(1);
  if (array.symmetric) return perModel(coincident, rightSide, own);
  const leftSide = scan(-1);
  const both = rightSide.map((right, i): RecordingAngle => {
    const left = leftSide[i] ?? right;
    return {
      halfDeg: meanOf(right.halfDeg, left.halfDeg),
      half75Deg: meanOf(right.half75Deg, left.half75Deg),
      widest: right.widest.shift >= left.widest.shift ? right.widest : left.widest,
    };
  });
  return perModel(coincident, both, own);
}

/**
 * The half angle on one side alone, in one model and for one level: the cheap form for solvers and
 * searches.
 * @param level size of the shift, 0.01 … 1
 * @param sign 1 on the right side, −1 on the left
 * @returns degrees off the aim; null where it is never reached
 * @throws RangeError where level is outside 0.01 … 1
 */
export function halfAngle(
  cuesAt: CuesAtAngle,
  model: LocalisationModel,
  level: number,
  sign: 1 | -1 = 1,
): number | null {
  inRange('level', level, 0.01, 1);
  const side = new Side(cuesAt, sign, [model], (cues) => [placeOf(cues, model)]);
  return findCrossing(side, level, model, 1)?.angleDeg ?? null;
}

const SLOPE_STEP_DEG = 0.05;

/**
 * Steepness of the localisation curve at the centre, shift per degree of source angle
 * (0.02 means that 10° of stage fill 20 % of the half base). Null without an image there.
 */
export function centreSlopes(
  array: PreparedArray,
  cuesAt: CuesAtAngle,
  own: OwnShape | null = null,
): PerModel<number | null> {
  const right = cuesAt(SLOPE_STEP_DEG);
  const left = cuesAt(-SLOPE_STEP_DEG);
  const { coincident } = array;
  if (!right || !left || right.antiphase || left.antiphase) {
    const none = modelsFor(coincident, own).map(() => null);
    return perModel<number | null>(coincident, none, own);
  }
  const from = placesOf(left, coincident, own);
  const slopes = placesOf(right, coincident, own).map(
    (shift, i) => (shift - (from[i] ?? 0)) / (2 * SLOPE_STEP_DEG),
  );
  return perModel<number | null>(coincident, slopes, own);
}
