import { solved } from '../units/linear';
import type { MeasuredAt } from './measured';
import { cuesAt, type Stand } from './stand';

/** Something about a stand that may be other than planned: one number. */
export interface Freedom {
  /** where it applies to one place alone, its number */
  place?: number;
  /** standard deviation that is expected of it; large where nothing is known */
  usual: number;
  /** a small step of it, for the slope */
  step: number;
  apply: (stand: Stand, value: number) => Stand;
}

/** How well a stand explains what was measured, its freedoms set as well as they can be. */
export interface Fit {
  /** sum of squares of what is left, in deviations, and of the freedoms in theirs */
  chi2: number;
  values: number[];
  /** standard deviations of as many of the values as were asked for */
  within: number[];
  stand: Stand;
  /** of the values: how much is known of them together, by deviations */
  known: number[][];
}

/** A polarity that is other than it should be counts as so many squares of a deviation. */
const POLARITY = 30;
/** A null is not as deep as its drawing: levels this far down say nothing, dB. */
const NULL_DB = 20;
const ROUNDS = 4;

interface Row {
  residual: number;
  weight: number;
}

/** What is left of the measured at one place, in a fixed order: delay and level of each channel. */
function rowsAt(stand: Stand, measured: MeasuredAt, place: number): Row[] {
  const at = stand.places[place];
  const cues = at ? cuesAt(stand, at) : [];
  return measured.flatMap((one, k) => {
    const cue = cues[k];
    if (!one || !cue) return [];
    const delay = { residual: one.delayMs - cue.delayMs, weight: 1 / one.delayWithinMs ** 2 };
    const readable = one.levelWithinDb !== null && Math.abs(cue.levelDb) < NULL_DB + 20;
    // The farther down, the more of it is the pattern's own and not the plan's.
    const loose = Math.max(0, Math.abs(cue.levelDb) - NULL_DB / 2) * 0.1;
    const level = {
      residual: readable ? one.levelDb - cue.levelDb : 0,
      weight: readable ? 1 / ((one.levelWithinDb ?? 1) ** 2 + loose ** 2) : 0,
    };
    return [delay, level];
  });
}

/** Polarities that are not as the stand has them; those near a null are left out. */
function turnedOver(stand: Stand, measured: readonly MeasuredAt[]): number {
  return measured.reduce((sum, at, place) => {
    const where = stand.places[place];
    const cues = where ? cuesAt(stand, where) : [];
    const wrong = at.filter((one, k) => {
      const cue = cues[k];
      return one && cue && Math.abs(cue.levelDb) < NULL_DB / 2 && one.polarity !== cue.polarity;
    });
    return sum + wrong.length;
  }, 0);
}

const applied = (stand: Stand, freedoms: readonly Freedom[], values: readonly number[]): Stand =>
  freedoms.reduce((so, { apply }, i) => apply(so, values[i] ?? 0), stand);

/** How the rows of each place go with a freedom; null where it does not touch the place. */
type Slopes = readonly (readonly number[] | null)[];

/** @param rows of the stand as it is, by place */
function slopesOf(
  here: Stand,
  measured: readonly MeasuredAt[],
  rows: readonly (readonly Row[])[],
  { apply, step, place: only }: Freedom,
): Slopes {
  const moved = apply(here, step);
  return measured.map((at, place) => {
    if (only !== undefined && only !== place) return null;
    const next = rowsAt(moved, at, place);
    return (rows[place] ?? []).map(
      ({ residual }, r) => (residual - (next[r]?.residual ?? residual)) / step,
    );
  });
}

const rowsOf = (here: Stand, measured: readonly MeasuredAt[]): Row[][] =>
  measured.map((at, place) => rowsAt(here, at, place));

/** Weighted sum over all rows of two slopes. */
function product(rows: readonly (readonly Row[])[], one: Slopes, other: Slopes): number {
  let sum = 0;
  for (let place = 0; place < rows.length; place++) {
    const [a, b, list] = [one[place], other[place], rows[place]];
    if (!a || !b || !list) continue;
    for (let r = 0; r < list.length; r++) {
      sum += (list[r] as Row).weight * (a[r] as number) * (b[r] as number);
    }
  }
  return sum;
}

function towards(rows: readonly (readonly Row[])[], slopes: Slopes): number {
  let sum = 0;
  for (let place = 0; place < rows.length; place++) {
    const [a, list] = [slopes[place], rows[place]];
    if (!a || !list) continue;
    for (let r = 0; r < list.length; r++) {
      const { weight, residual } = list[r] as Row;
      sum += weight * (a[r] as number) * residual;
    }
  }
  return sum;
}

interface Equations {
  matrix: number[][];
  right: number[];
}

/** Weights and slopes of everything measured, about some values of the freedoms. */
function equations(
  rows: readonly (readonly Row[])[],
  slopes: readonly Slopes[],
  freedoms: readonly Freedom[],
  values: readonly number[],
): Equations {
  const matrix = slopes.map((one, i) =>
    slopes.map((other, j) => (j < i ? 0 : product(rows, one, other))),
  );
  const right = slopes.map((one) => towards(rows, one));
  freedoms.forEach(({ usual }, i) => {
    const row = matrix[i] as number[];
    for (let j = 0; j < i; j++) row[j] = matrix[j]?.[i] ?? 0;
    row[i] = (row[i] ?? 0) + 1 / usual ** 2 + 1e-9;
    right[i] = (right[i] ?? 0) - (values[i] ?? 0) / usual ** 2;
  });
  return { matrix, right };
}

function equationsAt(
  stand: Stand,
  measured: readonly MeasuredAt[],
  freedoms: readonly Freedom[],
  values: readonly number[],
): Equations {
  const here = applied(stand, freedoms, values);
  const rows = rowsOf(here, measured);
  const slopes = freedoms.map((freedom) => slopesOf(here, measured, rows, freedom));
  return equations(rows, slopes, freedoms, values);
}

/**
 * How much better each of several explanations would be than none, were everything straight: a first
 * look at many, so that only the best are set as well as they can be.
 * @param tried freedoms of each, beside the usual ones
 * @returns squares of a deviation that each takes away in all
 */
export function promises(
  stand: Stand,
  measured: readonly MeasuredAt[],
  usual: readonly Freedom[],
  tried: readonly (readonly Freedom[])[],
): number[] {
  const rows = rowsOf(stand, measured);
  const known = usual.map((freedom) => slopesOf(stand, measured, rows, freedom));
  const none = usual.map(() => 0);
  const base = equations(rows, known, usual, none);
  return tried.map((freedoms) => {
    const own = freedoms.map((freedom) => slopesOf(stand, measured, rows, freedom));
    const all = [...known, ...own];
    const n = usual.length;
    const matrix = all.map((one, i) =>
      all.map((other, j) =>
        i < n && j < n ? (base.matrix[i]?.[j] ?? 0) : product(rows, one, other),
      ),
    );
    own.forEach((_, k) => {
      const row = matrix[n + k] as number[];
      row[n + k] = (row[n + k] ?? 0) + 1 / (freedoms[k]?.usual ?? 1) ** 2 + 1e-9;
    });
    const right = [...base.right, ...own.map((one) => towards(rows, one))];
    const change = solved(matrix, right);
    return change ? change.reduce((sum, value, i) => sum + value * (right[i] ?? 0), 0) : 0;
  });
}

/** Sum of squares of what is left, and of what the freedoms cost. */
export function squares(
  stand: Stand,
  measured: readonly MeasuredAt[],
  freedoms: readonly Freedom[],
  values: readonly number[],
): number {
  const here = applied(stand, freedoms, values);
  const left = measured.reduce(
    (sum, at, place) =>
      sum +
      rowsAt(here, at, place).reduce(
        (all, { residual, weight }) => all + weight * residual ** 2,
        0,
      ),
    0,
  );
  const cost = freedoms.reduce((sum, { usual }, i) => sum + ((values[i] ?? 0) / usual) ** 2, 0);
  return left + cost + POLARITY * turnedOver(here, measured);
}

/** The first of a step and its halves that betters the sum of squares; null where none does. */
function half(
  values: readonly number[],
  change: readonly number[],
  best: number,
  of: (values: readonly number[]) => number,
): [number[], number] | null {
  for (let share = 1; share > 0.1; share /= 2) {
    const next = values.map((value, i) => value + share * (change[i] ?? 0));
    const chi2 = of(next);
    if (chi2 < best - 1e-6) return [next, chi2];
  }
  return null;
}

/**
 * Sets the freedoms of a stand so that it explains what was measured as well as it can: weighted least
 * squares about their usual sizes, a few rounds of slopes.
 * @param measured by place, in the order of the stand's places
 * @param asked of so many of the first freedoms it is said how certain they are
 * @param from where it begins; a start of its own for each of several
 * @param rounds at most, 1 … 50
 */
export function fitted(
  stand: Stand,
  measured: readonly MeasuredAt[],
  freedoms: readonly Freedom[],
  asked = 0,
  { from, rounds = ROUNDS }: { from?: readonly number[]; rounds?: number } = {},
): Fit {
  let values = freedoms.map((_, i) => from?.[i] ?? 0);
  let best = squares(stand, measured, freedoms, values);
  for (let round = 0; round < rounds; round++) {
    const { matrix, right } = equationsAt(stand, measured, freedoms, values);
    const change = solved(matrix, right);
    if (!change) break;
    const better = half(values, change, best, (next) => squares(stand, measured, freedoms, next));
    if (!better) break;
    [values, best] = better;
  }
  const { matrix } = equationsAt(stand, measured, freedoms, values);
  const within = freedoms.slice(0, asked).map((_, i) =>
    spreadOf(
      matrix,
      freedoms.map((__, j) => (i === j ? 1 : 0)),
    ),
  );
  return { chi2: best, values, within, stand: applied(stand, freedoms, values), known: matrix };
}

/**
 * How certain something is that goes with the values of a fit in a straight line.
 * @param known of the fit
 * @param slopes of it with each of the values
 * @returns a standard deviation, in its unit
 */
export function spreadOf(known: readonly (readonly number[])[], slopes: readonly number[]): number {
  const column = solved(known, slopes);
  const square = column?.reduce((sum, value, i) => sum + value * (slopes[i] ?? 0), 0) ?? 0;
  return Math.sqrt(Math.max(0, square));
}

/**
 * How much would be known of the values of a fit with one more place heard.
 * @param fit of the freedoms, none of which is of that place
 * @param measured nothing but how certain it would be is read of it
 */
export function knownWith(
  { known, stand }: Fit,
  freedoms: readonly Freedom[],
  place: Stand['places'][number],
  measured: MeasuredAt,
): number[][] {
  const one = { ...stand, places: [place] };
  const rows = rowsOf(one, [measured]);
  const slopes = freedoms.map((freedom) =>
    freedom.place === undefined ? slopesOf(one, [measured], rows, freedom) : [null],
  );
  return known.map((row, i) =>
    row.map((value, j) => value + product(rows, slopes[i] as Slopes, slopes[j] as Slopes)),
  );
}
