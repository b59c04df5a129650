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

/** The compressing power by powers of two, and by 256 steps between them with a short series. */
const STEPS = 256;
const [VALUE, WORDS] = (() => {
  const value = new Float64Array(1);
  return [value, new Uint32Array(value.buffer)] as const;
})();
const BINADE_UNIT = Float64Array.from({ length: 2047 }, (_, e) => 2 ** (1023 - e));
const BINADE = Float64Array.from({ length: 2047 }, (_, e) => 2 ** ((e - 1023) * TRADE_EXPONENT));
const MIDDLE = Float64Array.from({ length: STEPS }, (_, i) => 1 / (1 + (i + 0.5) / STEPS));
const STEP = Float64Array.from({ length: STEPS }, (_, i) =>
  power(1 + (i + 0.5) / STEPS, TRADE_EXPONENT),
);
/** Coefficients of (1 + t)^0.83, of t to its fifth power. */
const SERIES = [1, 2, 3, 4, 5].map((n) => {
  let c = 1;
  for (let k = 0; k < n; k++) c *= (TRADE_EXPONENT - k) / (k + 1);
  return c;
}) as [number, number, number, number, number];
const [S1, S2, S3, S4, S5] = SERIES;

/** v^0.83 for v ≥ 0, right to the last digits of a double. */
function compressedSize(v: number): number {
  VALUE[0] = v;
  const high = WORDS[1] ?? 0;
  const exponent = high >>> 20;
  if (exponent === 0 || exponent > 2046) return power(v, TRADE_EXPONENT);
  const step = (high >>> 12) & (STEPS - 1);
  const t = v * (BINADE_UNIT[exponent] ?? 0) * (MIDDLE[step] ?? 0) - 1;
  const series = 1 + t * (S1 + t * (S2 + t * (S3 + t * (S4 + t * S5))));
  return (BINADE[exponent] ?? 0) * (STEP[step] ?? 0) * series;
}

const compressed = (v: number): number => (v < 0 ? -compressedSize(-v) : compressedSize(v));

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
/** From this index on (1°) the grid is fine enough to interpolate on to 10⁻⁷ degrees. */
const SMOOTH_FROM = 100;
const AT_FULL = weightsAt(FULL_DEG);
const AT_THREE_QUARTERS = weightsAt(0.75 * FULL_DEG);

const excessOnGrid = (level: number, time: number, i: number): number =>
  level * (GRID_LEVEL[i] ?? 0) + time * (GRID_TIME[i] ?? 0) - 1;

/**
 * How much a compressed time is worth as a level: the curves of both are nearly alike in shape, so
 * that a single sum says already about where an image is.
 */
const LEVEL_PER_TIME = power(12.7, TRADE_EXPONENT);
/** Index of the grid angle that a compressed level alone reaches, by equal steps of the level. */
const GUESSES = 512;
const GUESS_PER_LEVEL = GUESSES * AT_FULL.level;
const GUESS = new Uint16Array(GUESSES + 1);
for (let i = 0, index = 0; i <= GUESSES; i++) {
  while (index < GRID_SIZE - 2 && (i / GUESS_PER_LEVEL) * (GRID_LEVEL[index] ?? 0) >= 1) index += 1;
  GUESS[i] = index;
}
/** So far may the way from a guess to the index be walked. */
const FEW_STEPS = 6;

/** Index of the first grid angle at which the cues no longer suffice. */
function firstInsufficient(level: number, time: number): number {
  const sum = (level + time * LEVEL_PER_TIME) * GUESS_PER_LEVEL;
  if (!(sum > 0 && sum < GUESSES)) return firstByHalving(level, time);
  const guess = GUESS[sum | 0] ?? 0;
  const excess = excessOnGrid(level, time, guess);
  const fall = excess - excessOnGrid(level, time, guess + 1);
  const better = guess + Math.floor(excess / fall) + 1;
  if (!(better >= 1 && better < GRID_SIZE)) return firstByHalving(level, time);
  // A step or two from there as a rule.
  let index = better;
  const last = better + FEW_STEPS;
  while (index < last && excessOnGrid(level, time, index) >= 0) index += 1;
  if (index > better) return index < last ? index : firstByHalving(level, time);
  const first = Math.max(0, better - FEW_STEPS);
  while (index > first && excessOnGrid(level, time, index - 1) < 0) index -= 1;
  return index > first ? index : firstByHalving(level, time);
}

/** The same by halving, from no guess. */
function firstByHalving(level: number, time: number): number {
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

/** Weights × deg^0.83 up to the grid's smooth part: near the centre only these are smooth. */
const NEAR_LEVEL = new Float64Array(SMOOTH_FROM + 2);
const NEAR_TIME = new Float64Array(SMOOTH_FROM + 2);
for (let i = 0; i < NEAR_LEVEL.length; i++) {
  const deg = Math.max(i * GRID_DEG, 1e-9);
  NEAR_LEVEL[i] = power(levelForAngle(deg) / deg, -TRADE_EXPONENT);
  NEAR_TIME[i] = power(timeForAngle(deg) / deg, -TRADE_EXPONENT);
}

/** Value between grid points, by the parabola through three, and its slope a degree. */
function nearAt(grid: Float64Array, i: number, t: number): { value: number; slope: number } {
  const [a, b, c] = [grid[i] ?? 0, grid[i + 1] ?? 0, grid[i + 2] ?? 0];
  const [rise, bend] = [b - a, (c - 2 * b + a) / 2];
  return {
    value: a + t * (rise + (t - 1) * bend),
    slope: (rise + (2 * t - 1) * bend) / GRID_DEG,
  };
}

const MOST_TURNS = 10;
const NEAR_TOLERANCE = 1e-12;

/**
 * The angle within the first degree, where deg^0.83 = level · W_level + time · W_time: by Newton's
 * way over deg^0.83, as the right side hardly changes there. 0 where the cues cancel.
 * @param index of the first grid angle that is too wide
 */
function solveNearCentre(level: number, time: number, index: number): number {
  let deg = (index + 0.5) * GRID_DEG;
  for (let turn = 0; turn < MOST_TURNS; turn++) {
    const i = Math.min(SMOOTH_FROM - 1, Math.floor(deg / GRID_DEG));
    const t = deg / GRID_DEG - i;
    const [atLevel, atTime] = [nearAt(NEAR_LEVEL, i, t), nearAt(NEAR_TIME, i, t)];
    const now = compressedSize(deg);
    const excess = level * atLevel.value + time * atTime.value - now;
    const slope = level * atLevel.slope + time * atTime.slope;
    const next = now - excess / ((slope * deg) / (TRADE_EXPONENT * now) - 1);
    if (!(next > 0)) return 0;
    const before = deg;
    deg = power(next, 1 / TRADE_EXPONENT);
    if (Math.abs(deg - before) <= NEAR_TOLERANCE * deg) break;
  }
  return deg;
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
  surelyNarrower: { at75: 0.4, full: 0.85 },
  shift,
  margin,
  timeNeeded,
};
