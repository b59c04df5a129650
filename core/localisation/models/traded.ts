import { inRange } from '../../units/guard';
import type { LocalisationModel } from './model';

/** Exponent of the trade between the cues: Rotunda's own fit to published recording angles. */
const TRADE_EXPONENT = 0.83;

const FULL_DEG = 30;
const STEP_DEG = 10;

/** Simonsen's averaged data: level and time alone that place an image at 0, 10, 20, 30°. */
const LEVEL_DB = [0, 2.5, 5.5, 15] as const;
const TIME_MS = [0, 0.2, 0.44, 1.12] as const;
/** Slopes of the monotone cubic (PCHIP) through them, per degree. */
const LEVEL_SLOPES = [0.225, 3 / 11, 0.456, 1.275] as const;
const TIME_SLOPES = [0.018, 0.24 / 11, 0.408 / 11.5, 0.09] as const;

type Knots = readonly [number, number, number, number];

/** Monotone cubic Hermite through the four knots at 0, 10, 20, 30°. */
function curve(values: Knots, slopes: Knots, deg: number): number {
  const i = Math.min(2, Math.floor(deg / STEP_DEG));
  const t = deg / STEP_DEG - i;
  const [y0, y1] = [values[i] ?? 0, values[i + 1] ?? 0];
  const [m0, m1] = [(slopes[i] ?? 0) * STEP_DEG, (slopes[i + 1] ?? 0) * STEP_DEG];
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    (2 * t3 - 3 * t2 + 1) * y0 + (t3 - 2 * t2 + t) * m0 + (3 * t2 - 2 * t3) * y1 + (t3 - t2) * m1
  );
}

/**
 * Level difference that alone places an image at an angle of 0 … 30°, dB.
 * @throws RangeError where deg is outside 0 … 30°
 */
export const levelForAngle = (deg: number): number =>
  curve(LEVEL_DB, LEVEL_SLOPES, inRange('deg', deg, 0, FULL_DEG, '°'));
/**
 * Time difference that alone places an image at an angle of 0 … 30°, ms.
 * @throws RangeError where deg is outside 0 … 30°
 */
export const timeForAngle = (deg: number): number =>
  curve(TIME_MS, TIME_SLOPES, inRange('deg', deg, 0, FULL_DEG, '°'));

/** v^exponent for v ≥ 0; the way over the logarithm is several times faster than a power. */
const power = (v: number, exponent: number): number => Math.exp(exponent * Math.log(v));

const compressed = (v: number): number =>
  v < 0 ? -power(-v, TRADE_EXPONENT) : power(v, TRADE_EXPONENT);

/** How much each cue, compressed, counts towards an image at an angle (what it needs is 1). */
interface Weights {
  level: number;
  time: number;
}

const weightsAt = (deg: number): Weights => ({
  level: power(levelForAngle(deg), -TRADE_EXPONENT),
  time: power(timeForAngle(deg), -TRADE_EXPONENT),
});

/** Weights every 0.01°, by which an angle is found without taking powers. */
const GRID_DEG = 0.01;
const GRID_SIZE = FULL_DEG / GRID_DEG;
const GRID_LEVEL = new Float64Array(GRID_SIZE);
const GRID_TIME = new Float64Array(GRID_SIZE);
for (let i = 0; i < GRID_SIZE; i++) {
  const weights = weightsAt((i + 1) * GRID_DEG);
  GRID_LEVEL[i] = weights.level;
  GRID_TIME[i] = weights.time;
}
/** From this index on (1°) the grid is fine enough to interpolate on to 10⁻⁸ degrees. */
const SMOOTH_FROM = 100;
const AT_FULL = weightsAt(FULL_DEG);
const AT_THREE_QUARTERS = weightsAt(0.75 * FULL_DEG);

const TOLERANCE = 1e-13;
const MOST_STEPS = 60;

const excessOnGrid = (level: number, time: number, i: number): number =>
  level * (GRID_LEVEL[i] ?? 0) + time * (GRID_TIME[i] ?? 0) - 1;

/** Index of the first grid angle at which the cues no longer suffice, by halving. */
function firstInsufficient(level: number, time: number): number {
  let low = 0;
  let high = GRID_SIZE - 1;
  while (high > low) {
    const middle = (low + high) >> 1;
    if (excessOnGrid(level, time, middle) >= 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Zero of a smooth function from three neighbouring grid points (inverse quadratic). */
function interpolated(before: number, at: number, after: number, index: number): number {
  const step =
    (before * after) / ((at - before) * (at - after)) +
    (2 * before * at) / ((after - before) * (after - at));
  return (index + step) * GRID_DEG;
}

/**
 * The angle in (0, 30°) at which the compressed cues exactly suffice: interpolated on the grid, or
 * near the centre, where the weights are steep, by false position (Illinois) on the exact curves.
 */
function solveAngle(level: number, time: number): number {
  const index = firstInsufficient(level, time);
  if (index < SMOOTH_FROM) return solveNearCentre(level, time, index);
  return interpolated(
    excessOnGrid(level, time, index - 2),
    excessOnGrid(level, time, index - 1),
    excessOnGrid(level, time, index),
    index - 1,
  );
}

function solveNearCentre(level: number, time: number, index: number): number {
  const excess = (deg: number): number => {
    const weights = weightsAt(deg);
    return level * weights.level + time * weights.time - 1;
  };
  let high = (index + 1) * GRID_DEG;
  let low = index === 0 ? 1e-9 : index * GRID_DEG;
  let atLow = index === 0 ? excess(low) : excessOnGrid(level, time, index - 1);
  let atHigh = excessOnGrid(level, time, index);
  if (!(atLow > 0)) return index === 0 ? 0 : low;
  let last = 0;
  for (let step = 0; step < MOST_STEPS; step++) {
    const straight = low + ((high - low) * atLow) / (atLow - atHigh);
    const next = index === 0 && step % 2 === 0 ? Math.sqrt(low * high) : straight;
    const value = excess(next);
    if (Math.abs(value) < TOLERANCE || high - low < TOLERANCE) return next;
    if (value > 0) {
      low = next;
      atLow = value;
      if (last === 1) atHigh /= 2;
      last = 1;
    } else {
      high = next;
      atHigh = value;
      if (last === -1) atLow /= 2;
      last = -1;
    }
  }
  return (low + high) / 2;
}

const sideOf = (icldDb: number, ictdMs: number): -1 | 0 | 1 => {
  const lean = icldDb / 15 + ictdMs / 1.12;
  return lean === 0 ? 0 : lean < 0 ? -1 : 1;
};

function weightsForShift(wanted: number): Weights {
  if (wanted === 1) return AT_FULL;
  return wanted === 0.75 ? AT_THREE_QUARTERS : weightsAt(wanted * FULL_DEG);
}

function margin(icldDb: number, ictdMs: number, wanted: number): number {
  const side = sideOf(icldDb, ictdMs);
  const weights = weightsForShift(wanted);
  return compressed(icldDb * side) * weights.level + compressed(ictdMs * side) * weights.time - 1;
}

function timeNeeded(icldDb: number, wanted: number): number {
  const weights = weightsForShift(wanted);
  const left = (1 - compressed(icldDb) * weights.level) / weights.time;
  return left < 0 ? -power(-left, 1 / TRADE_EXPONENT) : power(left, 1 / TRADE_EXPONENT);
}

function shift(icldDb: number, ictdMs: number): number {
  const side = sideOf(icldDb, ictdMs);
  if (side === 0) return 0;
  const level = compressed(icldDb * side);
  const time = compressed(ictdMs * side);
  if (level * AT_FULL.level + time * AT_FULL.time >= 1) return side;
  return (side * solveAngle(level, time)) / FULL_DEG;
}

export const traded: LocalisationModel = {
  id: 'traded',
  name: 'traded cues',
  holds: 'Level and time trade against each other; each helps less the more of the other there is.',
  authors: 'Simonsen, Williams',
  source:
    'Listening data of G. Simonsen (1984) as used by M. Williams, AES preprint 2466 (1987); ' +
    'exponent 0.83 is Rotunda’s own fit to the published angles of the standard pairs.',
  range:
    'Level to 15 dB, time to 1.12 ms, ±30° loudspeakers, listener in the middle. ' +
    'Leaves out frequency, room and head movement.',
  levelOnly: false,
  shift,
  margin,
  timeNeeded,
};
