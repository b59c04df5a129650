import { solved } from '../../units/linear';
import { clamp } from '../../units/numbers';
import { seededRandom } from '../../units/random';
import {
  joinedShift,
  KNOTS_DB,
  KNOTS_MS,
  ownCurves,
  type OwnShape,
} from '../../localisation/models/own';
import type { HeardImage } from './images';

/**
 * A listener's curves from where images were heard: least squares that forgive outliers, by damped
 * Gauss–Newton steps over the logarithms of the increments.
 */

/** Misses from which on an answer pulls less and less, share of the half base. */
const FORGIVEN = 0.15;
/** How far a bend of the curve, joining and the side may go before they cost as much as an answer. */
const BEND = 0.8;
const JOINING_SPREAD = 0.25;
const SIDE_SPREAD = 0.1;
const ANSWER_SPREAD = 0.1;
/** An answer this far out says only that the image is there or farther out. */
const AT_END = 0.9;
/** A curve may go beyond the loudspeaker while it is looked for: noise is cut off there. */
const BEYOND = 1.3;
const MOST_STEPS = 30;
const STEPS_AGAIN = 6;
const H = 1e-4;

const COUNT = KNOTS_DB.length;
const JOINING = 2 * COUNT;
const SIDE = JOINING + 1;

/** Logarithms of the increments of level and of time, the logarithm of joining, and the side. */
type Parameters = readonly number[];

const START: Parameters = [
  ...[0.22, 0.2, 0.17, 0.2, 0.15].map(Math.log),
  ...[0.2, 0.25, 0.22, 0.2, 0.13].map(Math.log),
  0,
  0,
];

/** A shape as it is looked for, and how far right of the middle everything is heard. */
export interface FoundShape extends OwnShape {
  side: number;
}

function shapeOf(parameters: Parameters): FoundShape {
  const rising = (from: number): number[] => {
    let sum = 0;
    return KNOTS_DB.map((_, i) => (sum += Math.exp(parameters[from + i] ?? 0)));
  };
  return {
    levels: rising(0),
    times: rising(COUNT),
    joining: Math.exp(parameters[JOINING] ?? 0),
    side: parameters[SIDE] ?? 0,
  };
}

/** An answer that counts so often. */
type Weighed = HeardImage & { count: number };

function missOf(expected: number, at: number): number {
  const isBeyond = expected * at > 0 && Math.abs(expected) >= Math.abs(at);
  return Math.abs(at) >= AT_END && isBeyond ? 0 : at - clamp(expected, -BEYOND, BEYOND);
}

function misses(parameters: Parameters, answers: readonly Weighed[]): number[] {
  const { side, ...shape } = shapeOf(parameters);
  const curves = ownCurves(shape);
  return answers.map(({ icldDb, ictdMs, at }) =>
    missOf(joinedShift(curves, shape.joining, icldDb, ictdMs) + side, at),
  );
}

/** How much slopes change from one stretch to the next, of the mean slope. */
function bends(knots: readonly number[], values: readonly number[]): number[] {
  const steep = values.map((value, i) => {
    const width = (knots[i] ?? 1) - (knots[i - 1] ?? 0);
    return ((value - (values[i - 1] ?? 0)) / width) * (knots[COUNT - 1] ?? 1);
  });
  return steep.slice(1).map((slope, i) => BEND * ANSWER_SPREAD * (slope - (steep[i] ?? 0)));
}

function priors(parameters: Parameters): number[] {
  const { levels, times, joining, side } = shapeOf(parameters);
  return [
    ...bends(KNOTS_DB, levels),
    ...bends(KNOTS_MS, times),
    (ANSWER_SPREAD * Math.log(joining)) / JOINING_SPREAD,
    (ANSWER_SPREAD * side) / SIDE_SPREAD,
  ];
}

function costOf(parameters: Parameters, answers: readonly Weighed[]): number {
  let sum = 0;
  misses(parameters, answers).forEach((miss, i) => {
    sum += (answers[i]?.count ?? 0) * FORGIVEN ** 2 * Math.log1p((miss / FORGIVEN) ** 2);
  });
  for (const miss of priors(parameters)) sum += miss * miss;
  return sum;
}

/** The normal equations at a place. */
function equationsAt(
  parameters: Parameters,
  answers: readonly Weighed[],
): { matrix: number[][]; right: number[] } {
  const n = parameters.length;
  const moved = parameters.map((_, k) => parameters.map((value, j) => value + (j === k ? H : 0)));
  const matrix = parameters.map(() => new Array<number>(n).fill(0));
  const right = new Array<number>(n).fill(0);
  const add = (
    base: readonly number[],
    columns: readonly number[][],
    weight: (miss: number, i: number) => number,
  ): void =>
    base.forEach((miss, i) => {
      const w = weight(miss, i);
      const slopes = columns.map((column) => ((column[i] ?? 0) - miss) / H);
      slopes.forEach((slope, j) => {
        if (slope === 0) return;
        right[j] = (right[j] ?? 0) - w * slope * miss;
        const row = matrix[j] ?? [];
        slopes.forEach((other, k) => (row[k] = (row[k] ?? 0) + w * slope * other));
      });
    });
  add(
    misses(parameters, answers),
    moved.map((at) => misses(at, answers)),
    (miss, i) => (answers[i]?.count ?? 0) / (1 + (miss / FORGIVEN) ** 2),
  );
  add(priors(parameters), moved.map(priors), () => 1);
  return { matrix, right };
}

/** Least cost from a place on, in at most so many steps. */
function leastFrom(from: Parameters, answers: readonly Weighed[], steps: number): Parameters {
  let at = from;
  let least = costOf(at, answers);
  let damping = 1e-3;
  for (let step = 0; step < steps; step++) {
    const { matrix, right } = equationsAt(at, answers);
    let gained = 0;
    for (let tries = 0; tries < 8 && gained === 0; tries++) {
      const damped = matrix.map((row, i) =>
        row.map((value, j) => (i === j ? value * (1 + damping) + 1e-9 : value)),
      );
      const move = solved(damped, right) ?? [];
      const next = at.map((value, i) => clamp(value + clamp(move[i] ?? 0, -1, 1), -8, 3));
      const cost = costOf(next, answers);
      if (cost < least) {
        gained = least - cost;
        [at, least] = [next, cost];
        damping = Math.max(1e-6, damping / 5);
      } else damping *= 8;
    }
    if (gained < 1e-6 * least) break;
  }
  return at;
}

const once = (answers: readonly HeardImage[]): Weighed[] =>
  answers.map((answer) => ({ ...answer, count: 1 }));

/** The likeliest shape, and where it was found. */
export function likeliest(answers: readonly HeardImage[]): {
  shape: FoundShape;
  parameters: Parameters;
} {
  const parameters = leastFrom(START, once(answers), MOST_STEPS);
  return { shape: shapeOf(parameters), parameters };
}

/**
 * Shapes of answers drawn again and again from those to the same size, either side together.
 * @param parameters of the likeliest
 * @param repeats 2 … 1000
 */
export function drawnAgain(
  answers: readonly HeardImage[],
  parameters: Parameters,
  repeats: number,
  seed: number,
): FoundShape[] {
  const random = seededRandom(seed);
  const sizes = new Map<string, number[]>();
  answers.forEach(({ icldDb, ictdMs }, i) => {
    const size = `${Math.abs(icldDb)} ${Math.abs(ictdMs)}`;
    const same = sizes.get(size);
    if (same) same.push(i);
    else sizes.set(size, [i]);
  });
  return Array.from({ length: repeats }, () => {
    const counts = new Array<number>(answers.length).fill(0);
    for (const same of sizes.values()) {
      for (const _ of same) {
        const drawn = same[Math.floor(random() * same.length)] ?? 0;
        counts[drawn] = (counts[drawn] ?? 0) + 1;
      }
    }
    const drawn = answers.flatMap((answer, i) => {
      const count = counts[i] ?? 0;
      return count > 0 ? [{ ...answer, count }] : [];
    });
    return shapeOf(leastFrom(parameters, drawn, STEPS_AGAIN));
  });
}
