import { deviation, mean } from 'd3-array';
import { ownCurves, type OwnCurves, type OwnShape } from '../../localisation/models/own';
import { clamp } from '../../units/numbers';
import { drawnAgain, likeliest, type FoundShape } from './fit';
import type { HeardImage } from './images';

/** Where the truth lies nine times of ten, at the knots: shifts. */
export type Interval = readonly [low: number, high: number];

/** A listener's own model with how sure it is. */
export interface Listener extends OwnShape {
  levelSpread: Interval[];
  timeSpread: Interval[];
  joiningSpread: Interval;
  /** how far right of the middle everything was heard, shift */
  side: number;
  /** typical miss of an answer, shift */
  scatter: number;
  /** how many answers of level alone, of time alone, of both */
  answers: readonly [levels: number, times: number, both: number];
}

/** Why answers make no model. */
export interface NoModel {
  reason: string;
  /** what to look at */
  way: string;
}

/** Fewer answers of level alone, or of time alone, make no model. */
export const FEWEST_ANSWERS = 36;
/** Standard deviations on either side of nine times of ten. */
const NINE_OF_TEN = 1.645;
/** What the form of the fit itself may miss, shift: from simulated listeners. */
const OWN_MISS = 0.02;
const REPEATS = 120;
const SEED = 19;
/** Answers to one size are six; drawn from themselves they spread too little. */
const DRAWN_TOO_NARROW = Math.sqrt(6 / 5);
/** Below this the answers do not follow the cue, or follow it the wrong way. */
const FOLLOWS = 0.5;
/** So many answers on one side: the other one is not heard. */
const ONE_SIDED = 0.8;
/** Scatter of answers that says nothing about a place any more, shift. */
const TOO_SCATTERED = 0.35;

/** Correlation by rank, −1 … +1; 0 where either does not change. Source: C. Spearman (1904). */
export function rankCorrelation(x: readonly number[], y: readonly number[]): number {
  const ranks = (values: readonly number[]): number[] => {
    const order = values.map((value, i) => ({ value, i })).sort((a, b) => a.value - b.value);
    const out = new Array<number>(values.length).fill(0);
    for (let from = 0; from < order.length;) {
      let to = from;
      while (order[to + 1]?.value === order[from]?.value) to += 1;
      for (let k = from; k <= to; k++) out[order[k]?.i ?? 0] = (from + to) / 2;
      from = to + 1;
    }
    return out;
  };
  const [a, b] = [ranks(x), ranks(y)];
  const middle = (values: readonly number[]): number => mean(values) ?? 0;
  const [ma, mb] = [middle(a), middle(b)];
  let [both, ofA, ofB] = [0, 0, 0];
  a.forEach((value, i) => {
    const [da, db] = [value - ma, (b[i] ?? 0) - mb];
    both += da * db;
    ofA += da * da;
    ofB += db * db;
  });
  return ofA > 0 && ofB > 0 ? both / Math.sqrt(ofA * ofB) : 0;
}

const ofLevel = ({ ictdMs }: HeardImage): boolean => ictdMs === 0;
const ofTime = ({ icldDb }: HeardImage): boolean => icldDb === 0;

const KINDS = [
  { what: 'level', is: ofLevel, size: ({ icldDb }: HeardImage) => icldDb },
  { what: 'time', is: ofTime, size: ({ ictdMs }: HeardImage) => ictdMs },
] as const;

/** What is wrong with answers, before anything is fitted; null where nothing is. */
export function refusedAnswers(answers: readonly HeardImage[]): NoModel | null {
  for (const { what, is } of KINDS) {
    const count = answers.filter(is).length;
    if (count < FEWEST_ANSWERS) {
      return {
        reason: `${count} answers to ${what} differences alone are too few for a model: it takes ${FEWEST_ANSWERS}, and 54 for the accuracy that is claimed.`,
        way: 'Go on where you stopped.',
      };
    }
  }
  const right = answers.filter(({ at }) => at > 0.05).length / answers.length;
  const left = answers.filter(({ at }) => at < -0.05).length / answers.length;
  if (Math.max(left, right) >= ONE_SIDED) {
    const side = right > left ? 'right' : 'left';
    const share = Math.round(100 * Math.max(left, right));
    return {
      reason: `${share} % of the answers are on the ${side}, where half of them would be expected.`,
      way: `Is the other loudspeaker silent or much softer, do you sit off the middle, or does one ear hear less? Do the check of the set-up again.`,
    };
  }
  const followed = KINDS.map(({ what, is, size }) => {
    const of = answers.filter(is);
    return {
      what,
      follows: rankCorrelation(
        of.map(size),
        of.map(({ at }) => at),
      ),
    };
  });
  if (followed.every(({ follows }) => follows <= -FOLLOWS)) {
    return {
      reason: 'Louder or earlier on the right was heard on the left all through.',
      way: 'The loudspeakers are swapped, or the headphones are on the wrong way round: change them and begin again.',
    };
  }
  const lost = followed.find(({ follows }) => follows < FOLLOWS);
  if (!lost) return null;
  const figure = lost.follows.toFixed(2);
  return lost.what === 'level' || followed.every(({ follows }) => follows < FOLLOWS)
    ? {
        reason: `The answers do not follow the cue (rank correlation with ${lost.what} ${figure}; a model wants ${FOLLOWS} or more).`,
        way: 'Are the loudspeakers swapped, or is one silent? Do the check of the set-up again.',
      }
    : {
        reason: `Time differences do not move the image (rank correlation ${figure}; a model wants ${FOLLOWS} or more), level differences do.`,
        way: 'Are both loudspeakers in phase and equally far from you? One metre of difference is 2.9 ms, more than all that was asked.',
      };
}

/** The knots of a curve with what they may be instead: rising, and at most at the loudspeaker. */
function knotsOf(
  likely: readonly number[],
  drawn: readonly (readonly number[])[],
): { shifts: number[]; spread: Interval[] } {
  const bounded = (value: number): number => clamp(value, 0, 1);
  const spread = likely.map((value, i): Interval => {
    const values = drawn.map((of) => bounded(of[i] ?? 0));
    const own = DRAWN_TOO_NARROW * (deviation(values) ?? 0);
    const half = NINE_OF_TEN * Math.hypot(own, OWN_MISS);
    return [bounded(bounded(value) - half), bounded(bounded(value) + half)];
  });
  const shifts = likely.map(bounded);
  const last = likely.length - 1;
  // What cannot be told from the loudspeaker is at the loudspeaker.
  if ((spread[last]?.[1] ?? 0) >= 1) shifts[last] = 1;
  return { shifts, spread };
}

function scatterOf(answers: readonly HeardImage[], shape: FoundShape, from: OwnShape): number {
  const curves = ownCurves(from);
  const misses = answers.flatMap((answer) => {
    const [db, ms] = [Math.abs(answer.icldDb), Math.abs(answer.ictdMs)];
    if (db > 0 && ms > 0) return [];
    const size = ms === 0 ? curves.level(db) : curves.time(ms);
    const at = (answer.icldDb + answer.ictdMs > 0 ? size : -size) + shape.side;
    return [Math.abs(answer.at - clamp(at, -1, 1))];
  });
  // The middle one: blind answers do not count. Of a normal spread it is 0.6745 of its deviation.
  const sorted = misses.sort((a, b) => a - b);
  return (sorted[Math.floor(sorted.length / 2)] ?? 0) / 0.6745;
}

/**
 * A listener's own model from where images were heard, with intervals that hold nine times of ten.
 * @param answers differences positive to the right, places −1 … +1; in any order
 * @returns the model, or why there is none
 */
export function listenerOf(
  answers: readonly HeardImage[],
): { listener: Listener } | { none: NoModel } {
  const none = refusedAnswers(answers);
  if (none) return { none };
  const { shape, parameters } = likeliest(answers);
  const drawn = drawnAgain(answers, parameters, REPEATS, SEED);
  const levels = knotsOf(
    shape.levels,
    drawn.map((one) => one.levels),
  );
  const times = knotsOf(
    shape.times,
    drawn.map((one) => one.times),
  );
  const joining = clamp(shape.joining, 0.3, 3);
  const logs = drawn.map((one) => Math.log(one.joining));
  const factor = Math.exp(NINE_OF_TEN * Math.hypot(deviation(logs) ?? 0, 0.1));
  const own: OwnShape = { levels: levels.shifts, times: times.shifts, joining };
  const scatter = scatterOf(answers, shape, own);
  if (scatter > TOO_SCATTERED) {
    return {
      none: {
        reason: `The answers scatter by ±${Math.round(100 * scatter)} % of the half base around any curve; a model wants ${100 * TOO_SCATTERED} % or less.`,
        way: 'Take it up again when you are rested, in the middle between the loudspeakers, in a quiet room.',
      },
    };
  }
  const count = (is: (one: HeardImage) => boolean): number => answers.filter(is).length;
  return {
    listener: {
      ...own,
      levelSpread: levels.spread,
      timeSpread: times.spread,
      joiningSpread: [joining / factor, joining * factor],
      side: shape.side,
      scatter,
      answers: [count(ofLevel), count(ofTime), count((one) => !ofLevel(one) && !ofTime(one))],
    },
  };
}

/** A listener's curves, and the lower and upper ends of where they may be. */
export function curvesWithSpread({
  levels,
  times,
  levelSpread,
  timeSpread,
}: Pick<Listener, 'levels' | 'times' | 'levelSpread' | 'timeSpread'>): {
  middle: OwnCurves;
  low: OwnCurves;
  high: OwnCurves;
} {
  const end = (which: 0 | 1): OwnCurves =>
    ownCurves({
      levels: levelSpread.map((interval) => interval[which]),
      times: timeSpread.map((interval) => interval[which]),
    });
  return { middle: ownCurves({ levels, times }), low: end(0), high: end(1) };
}

/** The widest half interval, shift. */
export function widestSpread({
  levelSpread,
  timeSpread,
}: Pick<Listener, 'levelSpread' | 'timeSpread'>): number {
  return Math.max(...[...levelSpread, ...timeSpread].map(([low, high]) => (high - low) / 2));
}
