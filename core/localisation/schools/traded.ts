import type { School } from './school';

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

/** Level difference that alone places an image at an angle of 0 … 30°, dB. */
export const levelForAngle = (deg: number): number => curve(LEVEL_DB, LEVEL_SLOPES, deg);
/** Time difference that alone places an image at an angle of 0 … 30°, ms. */
export const timeForAngle = (deg: number): number => curve(TIME_MS, TIME_SLOPES, deg);

const compressed = (v: number): number => (v < 0 ? -((-v) ** TRADE_EXPONENT) : v ** TRADE_EXPONENT);

/** How far the two cues together exceed what an image at this angle needs (≥ 0: at least there). */
function excess(levelDb: number, timeMs: number, deg: number): number {
  return compressed(levelDb / levelForAngle(deg)) + compressed(timeMs / timeForAngle(deg)) - 1;
}

const NEAR_CENTRE_DEG = 1e-4;
const TOLERANCE_DEG = 1e-9;

/** The angle in (0, 30°) at which the cues exactly suffice, by bisection with secant steps. */
function solveAngle(levelDb: number, timeMs: number): number {
  let low = NEAR_CENTRE_DEG;
  let high = FULL_DEG;
  let atLow = excess(levelDb, timeMs, low);
  let atHigh = excess(levelDb, timeMs, high);
  if (atLow <= 0) return 0;
  // The excess falls like a power of the angle; steps on its logarithm would need care at its
  // zero, so a secant step alternates with a halving one, which bounds the work.
  for (let step = 0; step < 80 && high - low > TOLERANCE_DEG; step++) {
    const secant = low + (atLow / (atLow - atHigh)) * (high - low);
    const next = step % 2 === 0 && secant > low && secant < high ? secant : (low + high) / 2;
    const value = excess(levelDb, timeMs, next);
    if (value === 0) return next;
    if (value > 0) {
      low = next;
      atLow = value;
    } else {
      high = next;
      atHigh = value;
    }
  }
  return (low + high) / 2;
}

function shift(icldDb: number, ictdMs: number): number {
  const lean = icldDb / 15 + ictdMs / 1.12;
  if (lean === 0) return 0;
  const side = lean < 0 ? -1 : 1;
  const level = icldDb * side;
  const time = ictdMs * side;
  if (excess(level, time, FULL_DEG) >= 0) return side;
  return (side * solveAngle(level, time)) / FULL_DEG;
}

export const traded: School = {
  id: 'traded',
  name: 'traded cues',
  holds: 'Level and time trade against each other; each helps less the more of the other there is.',
  source:
    'Listening data of G. Simonsen (1984) as used by M. Williams, AES preprint 2466 (1987); ' +
    'exponent 0.83 is Rotunda’s own fit to the published angles of the standard pairs.',
  range:
    'Level to 15 dB, time to 1.12 ms, ±30° loudspeakers, listener in the middle. ' +
    'Leaves out frequency, room and head movement.',
  levelOnly: false,
  shift,
};
