import { checkSpeed, inRange } from '../units/guard';
import { add, dot, length, scale, subtract, type Vec3 } from '../units/vector';
import { OCTAVES_HZ } from './reverberation-time';

/**
 * What a screen takes off the sound that has to go round its edge: 10 lg(3 + 20 N), N the Fresnel
 * number of the detour; 0 where there is none.
 * @param detourM longer than the straight way, 0 … 10 000 m
 * @param frequencyHz 1 … 40 000 Hz
 * @param speed speed of sound, m/s
 * @returns dB, 0 and more
 * Source: Z. Maekawa, Applied Acoustics 1 (1968). Of a half-infinite thin screen: an estimate.
 * @throws RangeError where detourM is outside 0 … 10000 m, frequencyHz is outside 1 … 40000 Hz, speed is
 *   outside 250 … 450 m/s
 */
export function screenAttenuation(detourM: number, frequencyHz: number, speed: number): number {
  inRange('detourM', detourM, 0, MOST_DETOUR_M, 'm');
  inRange('frequencyHz', frequencyHz, 1, 40000, 'Hz');
  checkSpeed(speed);
  if (detourM === 0) return 0;
  return 10 * Math.log10(3 + (20 * 2 * detourM * frequencyHz) / speed);
}

/** An edge that sound can go round, m. */
export type Edge = readonly [from: Vec3, to: Vec3];

/** Something that sound can go round. */
export interface Thing {
  edges: readonly Edge[];
  /** Edges that one way can lead over, one after the other, and in either order. */
  pairs: readonly (readonly [Edge, Edge])[];
}

/** Every edge of a thing with every other. */
export const pairsOf = (edges: readonly Edge[]): [Edge, Edge][] =>
  edges.flatMap((first, i) => edges.slice(i + 1).map((second): [Edge, Edge] => [first, second]));

const onEdge = ([from, to]: Edge, t: number): Vec3 => add(from, scale(subtract(to, from), t));

/** Where on an edge the way from a point over it to another is shortest, 0 … 1: straight, once both are folded into one plane. */
function shortestOver(a: Vec3, [from, to]: Edge, b: Vec3): number {
  const [x, y, z] = [to.x - from.x, to.y - from.y, to.z - from.z];
  const square = Math.max(x * x + y * y + z * z, 1e-12);
  const [ax, ay, az] = [a.x - from.x, a.y - from.y, a.z - from.z];
  const [bx, by, bz] = [b.x - from.x, b.y - from.y, b.z - from.z];
  const [ta, tb] = [(ax * x + ay * y + az * z) / square, (bx * x + by * y + bz * z) / square];
  const far = Math.sqrt(Math.max(0, ax * ax + ay * ay + az * az - ta * ta * square));
  const other = Math.sqrt(Math.max(0, bx * bx + by * by + bz * bz - tb * tb * square));
  const total = far + other;
  const t = total > 1e-9 ? ta + ((tb - ta) * far) / total : ta;
  return Math.min(1, Math.max(0, t));
}

/** Places of an edge that are tried where its best one is not in sight. */
const TRIED = [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1];
/** How often a way over two edges is drawn tight. */
const TIGHTENED = 4;

/** As `distance`, in fewer steps. */
function apart(a: Vec3, b: Vec3): number {
  const [x, y, z] = [a.x - b.x, a.y - b.y, a.z - b.z];
  return Math.sqrt(x * x + y * y + z * z);
}

/** Two ways round go to different sides where they leave the straight line so differently: cosine. */
const OTHER_SIDE = 0.5;
const MOST_SIDES = 3;
/** A longer one is as good as none, m. */
const MOST_DETOUR_M = 10_000;

/** Where a way leaves the straight line, as a unit vector across it. */
function sideOf(from: Vec3, to: Vec3, over: Vec3): Vec3 {
  const line = subtract(to, from);
  const along = dot(subtract(over, from), line) / Math.max(dot(line, line), 1e-12);
  const off = subtract(over, add(from, scale(line, along)));
  return scale(off, 1 / Math.max(length(off), 1e-9));
}

/**
 * How much longer than the straight line the shortest ways from a point to another are that go round
 * one edge or two of one thing, one for every side of what stands between, m.
 * @param things each thing that stands there
 * @param isFree whether the straight line between two points, m, is open
 * @returns shortest first; [0] where they are in sight; empty where no such way is open
 */
export function detoursRound(
  from: Vec3,
  to: Vec3,
  things: readonly Thing[],
  isFree: (a: Vec3, b: Vec3) => boolean,
): number[] {
  if (isFree(from, to)) return [0];
  const straight = apart(from, to);
  const ways: { long: number; side: Vec3; over: Vec3[] }[] = [];
  for (const edge of things.flatMap(({ edges }) => edges)) {
    const best = onEdge(edge, shortestOver(from, edge, to));
    const isOpen = isFree(from, best) && isFree(best, to);
    for (const p of isOpen ? [best] : TRIED.map((t) => onEdge(edge, t))) {
      const long = apart(from, p) + apart(p, to);
      ways.push({ long, side: sideOf(from, to, p), over: [p] });
    }
  }
  for (const pair of things.flatMap(({ pairs }) => pairs)) {
    const [one, other] = [onEdge(pair[0], 0.5), onEdge(pair[1], 0.5)];
    // The nearer one first: the other way round it leads back.
    const isTurned = apart(from, one) > apart(from, other);
    const [first, second] = isTurned ? [pair[1], pair[0]] : pair;
    let [p, q] = isTurned ? [other, one] : [one, other];
    let isBack = false;
    for (let i = 0; i < TIGHTENED && !isBack; i++) {
      p = onEdge(first, shortestOver(from, first, q));
      q = onEdge(second, shortestOver(p, second, to));
      // There and back again across the line is no way round.
      isBack = i % 2 === 1 && dot(sideOf(from, to, p), sideOf(from, to, q)) < OTHER_SIDE;
    }
    if (isBack) continue;
    const long = apart(from, p) + apart(p, q) + apart(q, to);
    ways.push({ long, side: sideOf(from, to, scale(add(p, q), 0.5)), over: [p, q] });
  }
  // The shortest first: whether a way is open is asked only where its side has none yet.
  ways.sort((a, b) => a.long - b.long);
  const kept: typeof ways = [];
  for (const way of ways) {
    if (kept.length === MOST_SIDES) break;
    if (kept.some(({ side }) => dot(side, way.side) >= OTHER_SIDE)) continue;
    const stops = [from, ...way.over, to];
    if (stops.every((stop, k) => k === 0 || isFree(stops[k - 1] ?? from, stop))) kept.push(way);
  }
  return kept.map(({ long }) => Math.min(MOST_DETOUR_M, Math.max(0, long - straight)));
}

/**
 * What something takes off the sound that goes round it by several sides, by octave: their amplitudes
 * together, never more than in the open. What is narrower than a wavelength hides nothing.
 * @param detoursM of each side, m; empty where no way is open
 * @param speed speed of sound, m/s
 * @returns dB, 0 and more; null where no way is open
 */
export function shadowByOctave(
  detoursM: readonly number[],
  speed: number,
): { hz: number; db: number }[] | null {
  if (detoursM.length === 0) return null;
  return OCTAVES_HZ.map((hz) => {
    const amplitude = detoursM.reduce(
      (sum, detourM) => sum + 10 ** (-screenAttenuation(detourM, hz, speed) / 20),
      0,
    );
    return { hz, db: Math.max(0, -20 * Math.log10(amplitude)) };
  });
}
