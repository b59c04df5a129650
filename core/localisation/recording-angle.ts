import { farCues, nearCues, pointAround, type Cues, type PreparedArray } from './cues';
import { schoolsFor, type School, type SchoolId } from './schools';

/** The widest image a scan found. */
export interface WidestImage {
  /** size of the shift, 0 … 1 */
  shift: number;
  /** source angle off the aim where it occurs, degrees */
  atDeg: number;
}

/** Recording angle in one school, as half angles either side of the aim. */
export interface RecordingAngle {
  /** where the image first reaches the loudspeaker (100 %); null where it never does */
  halfDeg: number | null;
  /** where it first reaches 75 %; inside it the curve is close to linear */
  half75Deg: number | null;
  widest: WidestImage;
}

export type PerSchool<T> = Partial<Record<SchoolId, T>>;

/** Cues at a source angle off the aim; null where there is no figure. */
export type CuesAtAngle = (azimuthDeg: number) => Cues | null;

const STEP_DEG = 1;
const LIMIT_DEG = 180;
const FULL = 1 - 1e-9;
const BISECTIONS = 34;

/** A distant source at the array's own height plane: the textbook view. */
export function farField(array: PreparedArray, speed: number): CuesAtAngle {
  return (azimuthDeg) => farCues(array, azimuthDeg, speed);
}

/** A real source on an arc around the array, at the ensemble's distance and height. */
export function inPlace(
  array: PreparedArray,
  distanceM: number,
  heightM: number,
  speed: number,
): CuesAtAngle {
  return (azimuthDeg) => nearCues(array, pointAround(array, azimuthDeg, distanceM, heightM), speed);
}

interface Scan {
  halfDeg: number | null;
  half75Deg: number | null;
  widest: WidestImage;
}

/** Image size without its side, or null where there is none. */
function sizeOf(cues: Cues | null, school: School): number | null {
  if (!cues || cues.antiphase) return null;
  return Math.abs(school.shift(cues.icldDb, cues.ictdMs));
}

/** Narrows a crossing between two scan angles; `outer` is where the image has reached the level. */
function refine(
  cuesAt: CuesAtAngle,
  school: School,
  level: number,
  inner: number,
  outer: number,
): number {
  let low = inner;
  let high = outer;
  for (let i = 0; i < BISECTIONS; i++) {
    const middle = (low + high) / 2;
    const size = sizeOf(cuesAt(middle), school);
    if (size === null || size >= level) high = middle;
    else low = middle;
  }
  return Math.abs(low + high) / 2;
}

/** Walks outward on one side until the image reaches the loudspeaker, or all the way round. */
function scanSide(cuesAt: CuesAtAngle, school: School, side: 1 | -1): Scan {
  const scan: Scan = { halfDeg: null, half75Deg: null, widest: { shift: 0, atDeg: 0 } };
  let inner = 0;
  for (let angle = STEP_DEG; angle <= LIMIT_DEG; angle += STEP_DEG) {
    const outer = angle * side;
    const size = sizeOf(cuesAt(outer), school);
    const lost = size === null;
    const reached = lost ? reachesBeforeLoss(cuesAt, school, inner, outer) : size;
    if (scan.half75Deg === null && reached !== null && reached >= 0.75) {
      scan.half75Deg = refine(cuesAt, school, 0.75, inner, outer);
    }
    if (reached !== null && reached >= FULL) {
      scan.halfDeg = refine(cuesAt, school, FULL, inner, outer);
      scan.widest = { shift: 1, atDeg: scan.halfDeg };
      return scan;
    }
    if (reached !== null && reached > scan.widest.shift) {
      scan.widest = { shift: reached, atDeg: angle };
    }
    inner = outer;
  }
  return scan;
}

/** Channels turn antiphase between two angles: how wide does the image get just before? */
function reachesBeforeLoss(
  cuesAt: CuesAtAngle,
  school: School,
  inner: number,
  outer: number,
): number | null {
  if (sizeOf(cuesAt(inner), school) === null) return null;
  let low = inner;
  let high = outer;
  for (let i = 0; i < BISECTIONS; i++) {
    const middle = (low + high) / 2;
    if (sizeOf(cuesAt(middle), school) === null) high = middle;
    else low = middle;
  }
  const size = sizeOf(cuesAt(low), school);
  return size;
}

function meanOf(a: number | null, b: number | null): number | null {
  return a === null || b === null ? null : (a + b) / 2;
}

/**
 * Recording angle of an array in every school that may speak for it: the half angle at which the
 * image first reaches the loudspeaker, by an outward scan in 1° steps refined by bisection.
 * Asymmetric arrays are scanned on both sides and the mean is given.
 */
export function recordingAngles(
  array: PreparedArray,
  cuesAt: CuesAtAngle,
): PerSchool<RecordingAngle> {
  const result: PerSchool<RecordingAngle> = {};
  for (const school of schoolsFor(array.coincident)) {
    const right = scanSide(cuesAt, school, 1);
    const left = array.symmetric ? right : scanSide(cuesAt, school, -1);
    result[school.id] = {
      halfDeg: meanOf(right.halfDeg, left.halfDeg),
      half75Deg: meanOf(right.half75Deg, left.half75Deg),
      widest: right.widest.shift >= left.widest.shift ? right.widest : left.widest,
    };
  }
  return result;
}

const SLOPE_STEP_DEG = 0.05;

/**
 * Steepness of the localisation curve at the centre, shift per degree of source angle
 * (0.02 means that 10° of stage fill 20 % of the half base). Null without an image there.
 */
export function centreSlopes(array: PreparedArray, cuesAt: CuesAtAngle): PerSchool<number | null> {
  const right = cuesAt(SLOPE_STEP_DEG);
  const left = cuesAt(-SLOPE_STEP_DEG);
  const result: PerSchool<number | null> = {};
  for (const school of schoolsFor(array.coincident)) {
    const usable = right && left && !right.antiphase && !left.antiphase;
    result[school.id] = usable
      ? (school.shift(right.icldDb, right.ictdMs) - school.shift(left.icldDb, left.ictdMs)) /
        (2 * SLOPE_STEP_DEG)
      : null;
  }
  return result;
}
