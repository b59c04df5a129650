import { added } from './added';
import type { LocalisationModel } from './model';
import { traded } from './traded';
import { twoSlope } from './two-slope';

/** The three models that know both cues. */
/** Those of which it is the middle one. */
export const VOICES = [traded, added, twoSlope] as const;

/** The middle one of three: shifts −1 … +1, margins, or times, ms. */
export function middleOf(a: number, b: number, c: number): number {
  if (a < b) return b < c ? b : a < c ? c : a;
  return a < c ? a : b < c ? c : b;
}

function shift(icldDb: number, ictdMs: number): number {
  return middleOf(
    traded.shift(icldDb, ictdMs),
    added.shift(icldDb, ictdMs),
    twoSlope.shift(icldDb, ictdMs),
  );
}

/**
 * The margin of the middle one, from those of the three, in any order.
 * @param shiftNow the consensus's own shift, asked for only where two are so wide
 */
function middleMargin(
  a: number,
  b: number,
  c: number,
  level: number,
  shiftNow: () => number,
): number {
  const middle = middleOf(a, b, c);
  if (middle < 0) return middle;
  // Two are so wide, but where cues oppose each other perhaps on either side.
  const size = Math.abs(shiftNow());
  return size >= level ? middle : size - level;
}

function margin(icldDb: number, ictdMs: number, level: number): number {
  return middleMargin(
    traded.margin(icldDb, ictdMs, level),
    added.margin(icldDb, ictdMs, level),
    twoSlope.margin(icldDb, ictdMs, level),
    level,
    () => shift(icldDb, ictdMs),
  );
}

/** Two of three suffice, so the second of the times that they need. */
function timeNeeded(icldDb: number, level: number): number | null {
  const [a, b, c] = VOICES.map((model) => model.timeNeeded(icldDb, level) ?? Infinity);
  const second = middleOf(a ?? Infinity, b ?? Infinity, c ?? Infinity);
  return Number.isFinite(second) ? second : null;
}

export const consensus: LocalisationModel = {
  id: 'consensus',
  name: 'consensus',
  holds: 'The median of traded cues, added shifts and two slopes; full where two of them are.',
  authors: 'median of three models',
  source: 'Rotunda’s own: the middle one of the three models of both cues.',
  range:
    'That of the three; it agrees with the published recording angles. How far they are apart is the ' +
    'whisker. Leaves out frequency and the kind of signal.',
  levelOnly: false,
  surelyNarrower: { at75: 0.4, full: 0.73 },
  shift,
  margin,
  timeNeeded,
};
