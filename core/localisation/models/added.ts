import { clamp } from '../../units/numbers';
import type { LocalisationModel } from './model';

const SLOPE_PER_DB = 0.075;
const SLOPE_PER_MS = 1.3;
const LINEAR_TO = 0.75;
const FULL_DB = 18;
const FULL_MS = 1.1;

/** From the end of the straight part, a cubic Hermite that reaches 1 with slope 0. */
function saturating(value: number, slope: number, fullAt: number): number {
  const linearEnd = LINEAR_TO / slope;
  if (value <= linearEnd) return slope * value;
  if (value >= fullAt) return 1;
  const width = fullAt - linearEnd;
  const t = (value - linearEnd) / width;
  const t2 = t * t;
  const t3 = t2 * t;
  return (2 * t3 - 3 * t2 + 1) * LINEAR_TO + (t3 - 2 * t2 + t) * slope * width + (3 * t2 - 2 * t3);
}

function odd(value: number, slope: number, fullAt: number): number {
  return value < 0 ? -saturating(-value, slope, fullAt) : saturating(value, slope, fullAt);
}

function sum(icldDb: number, ictdMs: number): number {
  return odd(icldDb, SLOPE_PER_DB, FULL_DB) + odd(ictdMs, SLOPE_PER_MS, FULL_MS);
}

function shift(icldDb: number, ictdMs: number): number {
  return clamp(sum(icldDb, ictdMs), -1, 1);
}

function margin(icldDb: number, ictdMs: number, level: number): number {
  return Math.abs(sum(icldDb, ictdMs)) - level;
}

/** The tail for time: what lacks of the full shift is u²·(AT_END + RISE·u), u from its end. */
const TAIL_MS = FULL_MS - LINEAR_TO / SLOPE_PER_MS;
const RISE = SLOPE_PER_MS * TAIL_MS - 2 * (1 - LINEAR_TO);
const AT_END = 1 - LINEAR_TO - RISE;
const TURNS = 8;

/** Inverse of the saturating curve for time; in the tail by Newton's way from beyond the place. */
function timeForShift(amount: number): number | null {
  if (amount > 1) return null;
  if (amount <= LINEAR_TO) return amount / SLOPE_PER_MS;
  const root = Math.sqrt(1 - amount);
  let u = Math.min(1, root / Math.sqrt(AT_END));
  for (let turn = 0; turn < TURNS; turn++) {
    const q = Math.sqrt(AT_END + RISE * u);
    const step = (u * q - root) / (q + (RISE * u) / (2 * q));
    u -= step;
    if (Math.abs(step) < 1e-15) break;
  }
  return FULL_MS - u * TAIL_MS;
}

function timeNeeded(icldDb: number, level: number): number | null {
  const amount = level - odd(icldDb, SLOPE_PER_DB, FULL_DB);
  if (amount >= 0) return timeForShift(amount);
  const opposing = timeForShift(-amount);
  return opposing === null ? null : -opposing;
}

export const added: LocalisationModel = {
  id: 'added',
  name: 'added shifts',
  holds: 'Each cue shifts the image by its own amount, and the shifts add.',
  authors: 'Wittek, Theile',
  source:
    'H. Wittek & G. Theile, AES convention paper 5568 (2002); tail above 75 % is Rotunda’s own.',
  range:
    '7.5 % per dB to 10 dB and 13 % per 0.1 ms to 0.58 ms, ±30° loudspeakers. ' +
    'Leaves out frequency and the kind of signal.',
  levelOnly: false,
  surelyNarrower: { at75: 0.5, full: 0.73 },
  shift,
  margin,
  timeNeeded,
};
