import { sum } from 'd3-array';
import { leadingOf, speakingModel } from '../localisation/leading';
import { playersOf } from '../prepare/for-whom';
import type { MicArray, Session, Source } from '../session/schema';
import { amplitudeDb, cosDeg, inRange, sinDeg } from '../units/guard';
import { stripsOf } from '../arrays/routing';
import { nearCues } from '../localisation/cues';
import { prepareArray } from '../localisation/prepared-array';
import { placeOf } from '../localisation/placed';
import { readyArray } from '../prepare/arrays';
import { stageOf } from './array-figures';
import { contextOf } from '../prepare/context';
import { sourceFigures } from './source-figures';
import { pointsAt } from './edges-at';

/** What an array makes of the ensemble at one place. */
export interface SweepPoint {
  /** distance on the plan from the ensemble's middle, or height, m */
  valueM: number;
  /** width of the picture, rightmost minus leftmost image, percent of the base; null without any */
  widthPct: number | null;
  /** how evenly all is picked up: loudest minus softest point, distance and pattern only, dB */
  unevennessDb: number;
}

function measure(
  session: Session,
  array: MicArray,
  players: readonly Source[],
  valueM: number,
): SweepPoint | null {
  const { speed } = contextOf(session);
  const ready = readyArray(array);
  const model = speakingModel(session.settings, ready.coincident);
  const levels: number[] = [];
  const shifts: number[] = [];
  for (const source of players) {
    const points = pointsAt(ready, source);
    for (const point of points) {
      const cues = nearCues(ready, point, speed);
      if (!cues) continue;
      levels.push(amplitudeDb(Math.hypot(cues.left, cues.right)));
      if (!cues.antiphase) shifts.push(placeOf(cues, model));
    }
  }
  if (levels.length === 0) return null;
  return {
    valueM,
    widthPct: shifts.length === 0 ? null : ((Math.max(...shifts) - Math.min(...shifts)) / 2) * 100,
    unevennessDb: Math.max(...levels) - Math.min(...levels),
  };
}

/**
 * The array moved along its aim, so that it stands at each distance from the ensemble's middle.
 * Width and coverage are apart: close positions are wide but uneven.
 */
export function distanceSweep(
  session: Session,
  array: MicArray,
  distancesM: readonly number[],
): SweepPoint[] {
  const players = playersOf(array, session.sources, contextOf(session).speed);
  const count = players.length;
  if (count === 0) return [];
  const middle = {
    x: sum(players, ({ x }) => x) / count,
    y: sum(players, ({ y }) => y) / count,
  };
  return distancesM.flatMap((distance) => {
    inRange('distanceM', distance, 0, 200, 'm');
    const x = middle.x - sinDeg(array.aimDeg) * distance;
    const y = middle.y - cosDeg(array.aimDeg) * distance;
    return measure(session, { ...array, x, y }, players, distance) ?? [];
  });
}

/** The array raised and lowered where it stands. */
export function heightSweep(
  session: Session,
  array: MicArray,
  heightsM: readonly number[],
): SweepPoint[] {
  const players = playersOf(array, session.sources, contextOf(session).speed);
  return heightsM.flatMap((z) => {
    inRange('heightM', z, -200, 200, 'm');
    return measure(session, { ...array, z }, players, z) ?? [];
  });
}

/** The picture with a centre microphone at one level. */
export interface CentreFill {
  gainDb: number;
  imageWidthPct: number;
  largestGapPct: number;
}

/**
 * What a centre microphone does to the hole: its gain swept, stage figures of the mix estimate in
 * the session's model. Empty where the array has no capsule of that label.
 * @param label of the centre capsule, usually C
 * @param gainsDb −60 … 24 dB each
 */
export function centreFillSweep(
  session: Session,
  array: MicArray,
  label: string,
  gainsDb: readonly number[],
): CentreFill[] {
  const { technique, mix } = array;
  const index =
    technique.kind === 'custom'
      ? technique.capsules.findIndex((capsule) => capsule.label === label)
      : -1;
  if (index < 0) return [];
  const context = contextOf(session);
  const { model } = session.settings;
  const strips = stripsOf(technique, mix.capsules);
  return gainsDb.flatMap((gainDb) => {
    inRange('gainDb', gainDb, -60, 24, 'dB');
    const set = strips.map((strip, i) => (i === index ? { ...strip, gainDb } : strip));
    const ready = prepareArray(array, set);
    const stages = stageOf(session.sources.map((source) => sourceFigures(ready, source, context)));
    const stage = leadingOf(stages, model);
    return stage
      ? { gainDb, imageWidthPct: stage.imageWidthPct, largestGapPct: stage.largestGapPct }
      : [];
  });
}

/** The least gap is worth this much of the picture's width at the most. */
const WIDTH_KEPT = 0.75;
/** A gap smaller by less than this is the same gap, percent. */
const SAME_GAP_PCT = 1;

/** A centre level, and a smaller gap that it is not worth its price for. */
export interface BestCentreFill extends CentreFill {
  /** the smallest gap of all, where it would give the picture away; null where this is it */
  skipped: CentreFill | null;
}

/**
 * The centre level that closes the hole without giving the picture away: the smallest largest gap
 * among those that leave three quarters of the fullest picture; of equal ones the lowest level.
 * @param now what there is already: what is not better than that by a percent is not proposed
 * @returns null without points, and where nothing is better
 */
export function bestCentreFill(
  points: readonly CentreFill[],
  now: CentreFill | null = null,
): BestCentreFill | null {
  const fullest = Math.max(0, ...points.map(({ imageWidthPct }) => imageWidthPct));
  const least = (list: readonly CentreFill[]): CentreFill | null =>
    list.reduce<CentreFill | null>(
      (best, point) =>
        !best || point.largestGapPct < best.largestGapPct - SAME_GAP_PCT ? point : best,
      null,
    );
  const best = least(points.filter(({ imageWidthPct }) => imageWidthPct >= fullest * WIDTH_KEPT));
  if (!best || (now && best.largestGapPct > now.largestGapPct - SAME_GAP_PCT)) return null;
  const smallest = least(points);
  const skips = smallest && smallest.largestGapPct < best.largestGapPct - SAME_GAP_PCT;
  return { ...best, skipped: skips ? smallest : null };
}

/** How far a player's image wanders when the player sways. */
export interface Sway {
  sourceId: string;
  /** image at the extremes of the sway, shift −1 … +1; null in antiphase */
  from: number | null;
  to: number | null;
}

/**
 * Each source moved sideways, across the line to the array, by ± a distance on the plan.
 * @throws RangeError where swayM is outside 0 … 10 m
 */
export function movementSensitivity(session: Session, array: MicArray, swayM: number): Sway[] {
  inRange('swayM', swayM, 0, 10, 'm');
  const { speed } = contextOf(session);
  const ready = readyArray(array);
  const model = speakingModel(session.settings, ready.coincident);
  return session.sources.map((source) => {
    // Under an array that looks down a sway goes along it.
    const [dx, dy] = ready.steep
      ? [sinDeg(array.aimDeg), cosDeg(array.aimDeg)]
      : [source.x - array.x, source.y - array.y];
    const size = Math.max(Math.hypot(dx, dy), 1e-9);
    const image = (by: number): number | null => {
      const moved = { x: source.x + (dy / size) * by, y: source.y - (dx / size) * by, z: source.z };
      const cues = nearCues(ready, moved, speed);
      return cues && !cues.antiphase ? placeOf(cues, model) : null;
    };
    const ends = [image(-swayM), image(swayM)];
    const known = ends.filter((end) => end !== null);
    return {
      sourceId: source.id,
      from: known.length === 0 ? null : Math.min(...known),
      to: known.length === 0 ? null : Math.max(...known),
    };
  });
}
