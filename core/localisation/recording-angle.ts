import { checkSpeed, cosDeg, inRange, sinDeg } from '../units/guard';
import { reachedBetween } from '../units/numbers';
import { once } from '../units/remember';
import { farCues, nearCues, pointAround, type Cues, type PreparedArray } from './cues';
import { marginOf, marginsFor, placeOf, placesOf } from './placed';
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

/** Cues at whole steps outward against one level, in every model of a scan. */
interface LevelScan {
  level: number;
  /** before this step no model's image is as wide */
  first: () => number;
  /** by how much the cues at a step exceed what the level needs; empty where there is no image */
  margins: (step: number) => readonly number[];
}

/**
 * One side of an array at every whole step outward, each computed once and only when asked for:
 * its cues, and what they are worth in every model of the scan.
 */
interface Side {
  sign: 1 | -1;
  models: readonly LocalisationModel[];
  cuesAt: CuesAtAngle;
  cues: (step: number) => Cues | null;
  against: (level: number) => LevelScan;
  /** places at a step; empty where there is no image */
  places: (step: number) => readonly number[];
}

const NOTHING: readonly number[] = [];

function sideOf(
  cuesAt: CuesAtAngle,
  sign: 1 | -1,
  models: readonly LocalisationModel[],
  marginsAt: (cues: Cues, level: number) => readonly number[],
  placesAt: (cues: Cues) => readonly number[],
): Side {
  const known: (Cues | null | undefined)[] = [];
  const cues = (step: number): Cues | null => {
    const found = known[step];
    return found === undefined ? (known[step] = cuesAt(step * STEP_DEG * sign)) : found;
  };
  const eachStep = (of: (here: Cues) => readonly number[]): LevelScan['margins'] => {
    const found: (readonly number[] | undefined)[] = [];
    return (step) => {
      const before = found[step];
      if (before) return before;
      const here = cues(step);
      return (found[step] = here && !here.antiphase ? of(here) : NOTHING);
    };
  };
  const against = (level: number): LevelScan => ({
    level,
    first: once(() => firstPerhapsWide(cues, level)),
    margins: eachStep((here) => marginsAt(here, level)),
  });
  return { sign, models, cuesAt, cues, against, places: eachStep(placesAt) };
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

/** The first step outward whose cues may be as wide as a level in some model, or are lost. */
function firstPerhapsWide(cues: Side['cues'], level: number): number {
  const narrower = surelyNarrower(level);
  let step = 1;
  for (; step <= LAST_STEP; step++) {
    const here = cues(step);
    if (!here || here.antiphase || here.events || shareOf(here) >= narrower) break;
  }
  return step;
}

/** Walks outward on one side until a model's image is as wide as the level; null if it never is. */
function findCrossing(
  side: Side,
  { level, first, margins }: LevelScan,
  ofModel: number,
  from: number,
  known: (step: number) => number | null = () => null,
): Crossing | null {
  const { sign, cuesAt } = side;
  const model = side.models[ofModel];
  if (!model) return null;
  for (let step = Math.max(from, first()); step <= LAST_STEP; step++) {
    const margin = margins(step)[ofModel];
    const turning = margin === undefined && side.cues(step - 1)?.antiphase === false;
    if (!turning && (margin === undefined || margin < 0)) continue;
    const angle = known(step);
    if (angle !== null) return { step, angleDeg: angle };
    const inner = (step - 1) * STEP_DEG * sign;
    const outer = step * STEP_DEG * sign;
    const marginAt = (at: number): number | null => {
      if (at === inner) return margins(step - 1)[ofModel] ?? null;
      if (at === outer) return margin ?? null;
      const here = cuesAt(at);
      return here && !here.antiphase ? marginOf(here, model, level) : null;
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
  side: Side,
  { margins }: LevelScan,
  step: number,
  found: readonly (Crossing | null)[],
): number | null {
  const [before, after] = [side.cues(step - 1), side.cues(step)];
  if (!before || !after || before.events || after.events) return null;
  if (before.icldDb * before.ictdMs < 0 || after.icldDb * after.ictdMs < 0) return null;
  const [inner, outer] = [margins(step - 1), margins(step)];
  let already = 0;
  const within: number[] = [];
  for (const i of MEMBERS) {
    const [from, to] = [inner[i], outer[i]];
    if (from === undefined || to === undefined) return null;
    if (from >= 0) already += 1;
    else if (to >= 0) {
      const crossing = found[i];
      if (crossing?.step !== step) return null;
      within.push(crossing.angleDeg);
    }
  }
  within.sort((a, b) => a - b);
  return already > 1 ? null : (within[1 - already] ?? null);
}

/** The crossings of all models at a level, each from a step of its own; null where it has none. */
function crossings(
  side: Side,
  level: number,
  from: readonly (number | null)[],
): readonly (Crossing | null)[] {
  const scan = side.against(level);
  const found = side.models.map((): Crossing | null => null);
  for (let i = found.length - 1; i > CONSENSUS; i--) {
    const start = from[i] ?? null;
    if (start !== null) found[i] = findCrossing(side, scan, i, start);
  }
  const start = from[CONSENSUS] ?? null;
  if (start !== null) {
    found[CONSENSUS] = findCrossing(side, scan, CONSENSUS, start, (step) =>
      secondOfThree(side, scan, step, found),
    );
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
    scanSide(
      sideOf(
        cuesAt,
        sign,
        models,
        (cues, level) => marginsFor(cues, coincident, level),
        (cues) => placesOf(cues, coincident),
      ),
    );
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
  const side = sideOf(
    cuesAt,
    1,
    [model],
    (cues) => [marginOf(cues, model, level)],
    (cues) => [placeOf(cues, model)],
  );
  return findCrossing(side, side.against(level), 0, 1)?.angleDeg ?? null;
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
