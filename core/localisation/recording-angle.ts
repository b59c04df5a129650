import { checkSpeed, cosDeg, inRange, sinDeg } from '../units/guard';
import { reachedBetween } from '../units/numbers';
import { farCues, nearCues, type Cues, type PreparedArray } from './cues';
import { marginOf, placeOf } from './placed';
import { modelsFor } from './models/index';
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

/** Cues at every whole step outward on one side, each computed once and only when asked for. */
type Outward = (step: number) => Cues | null;

function outward(cuesAt: CuesAtAngle, side: 1 | -1): Outward {
  const known: (Cues | null | undefined)[] = [];
  return (step) => (known[step] ??= cuesAt(step * STEP_DEG * side));
}

interface Crossing {
  /** scan step at whose inner side the crossing lies */
  step: number;
  angleDeg: number;
}

const shareOf = ({ icldDb, ictdMs }: Cues): number =>
  Math.abs(icldDb) / 15 + Math.abs(ictdMs) / 1.12;

/**
 * Below this sum of the cues' shares, |dB|/15 + |ms|/1.12, no model's image is as wide as a level:
 * the least is the traded one's at 75 %, the added one's at 100 %. 0 where nothing is known.
 */
function surelyNarrower(level: number): number {
  if (level >= 1) return 0.73;
  return level >= 0.5 ? 0.4 * level : 0;
}

/** Walks outward on one side until the image is as wide as the level; null if it never is. */
function findCrossing(
  cuesAt: CuesAtAngle,
  scan: Outward,
  model: LocalisationModel,
  level: number,
  side: 1 | -1,
  from: number,
): Crossing | null {
  const narrower = surelyNarrower(level);
  for (let step = from; step <= LIMIT_DEG / STEP_DEG; step++) {
    const cues = scan(step);
    const lost = !cues || cues.antiphase;
    if (!lost && !cues.events && shareOf(cues) < narrower) continue;
    const turning = lost && scan(step - 1)?.antiphase === false;
    if (!turning && (lost || marginOf(cues, model, level) < 0)) continue;
    const inner = (step - 1) * STEP_DEG * side;
    const outer = step * STEP_DEG * side;
    const at = (angle: number): Cues | null => {
      if (angle === inner) return scan(step - 1);
      return angle === outer ? cues : cuesAt(angle);
    };
    const marginAt = (angle: number): number | null => {
      const here = at(angle);
      return here && !here.antiphase ? marginOf(here, model, level) : null;
    };
    const angleDeg = reachedBetween(marginAt, inner, outer, TOLERANCE_DEG);
    if (angleDeg !== null) return { step, angleDeg: Math.abs(angleDeg) };
  }
  return null;
}

const COARSE_STEPS = 6;

/**
 * The widest image on one side, for arrays that never reach the loudspeaker: coarsely over the
 * half circle, then degree by degree around the best.
 */
function widestImage(scan: Outward, model: LocalisationModel): WidestImage {
  const last = LIMIT_DEG / STEP_DEG;
  let best = 0;
  let widest = 0;
  const look = (step: number): void => {
    const cues = scan(step);
    if (!cues || cues.antiphase) return;
    const shift = Math.abs(placeOf(cues, model));
    if (shift > widest) {
      widest = shift;
      best = step;
    }
  };
  for (let step = COARSE_STEPS; step <= last; step += COARSE_STEPS) look(step);
  const centre = best;
  const to = Math.min(last, centre + COARSE_STEPS - 1);
  for (let step = Math.max(1, centre - COARSE_STEPS + 1); step <= to; step++) look(step);
  return { shift: widest, atDeg: best * STEP_DEG };
}

function scanSide(
  cuesAt: CuesAtAngle,
  scan: Outward,
  model: LocalisationModel,
  side: 1 | -1,
): RecordingAngle {
  const at75 = findCrossing(cuesAt, scan, model, 0.75, side, 1);
  const full = at75 && findCrossing(cuesAt, scan, model, 1, side, at75.step);
  return {
    halfDeg: full?.angleDeg ?? null,
    half75Deg: at75?.angleDeg ?? null,
    widest: full ? { shift: 1, atDeg: full.angleDeg } : widestImage(scan, model),
  };
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
  const result: PerModel<RecordingAngle> = {};
  const scanRight = outward(cuesAt, 1);
  const scanLeft = outward(cuesAt, -1);
  for (const model of modelsFor(array.coincident)) {
    const right = scanSide(cuesAt, scanRight, model, 1);
    const left = array.symmetric ? right : scanSide(cuesAt, scanLeft, model, -1);
    result[model.id] = {
      halfDeg: meanOf(right.halfDeg, left.halfDeg),
      half75Deg: meanOf(right.half75Deg, left.half75Deg),
      widest: right.widest.shift >= left.widest.shift ? right.widest : left.widest,
    };
  }
  return result;
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
  return findCrossing(cuesAt, outward(cuesAt, 1), model, level, 1, 1)?.angleDeg ?? null;
}

const SLOPE_STEP_DEG = 0.05;

/**
 * Steepness of the localisation curve at the centre, shift per degree of source angle
 * (0.02 means that 10° of stage fill 20 % of the half base). Null without an image there.
 */
export function centreSlopes(array: PreparedArray, cuesAt: CuesAtAngle): PerModel<number | null> {
  const right = cuesAt(SLOPE_STEP_DEG);
  const left = cuesAt(-SLOPE_STEP_DEG);
  const result: PerModel<number | null> = {};
  for (const model of modelsFor(array.coincident)) {
    const usable = right && left && !right.antiphase && !left.antiphase;
    result[model.id] = usable
      ? (placeOf(right, model) - placeOf(left, model)) / (2 * SLOPE_STEP_DEG)
      : null;
  }
  return result;
}
