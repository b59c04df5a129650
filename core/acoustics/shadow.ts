import { checkSpeed, inRange } from '../units/guard';
import { add, distance, dot, length, scale, subtract, type Vec3 } from '../units/vector';
import { OCTAVES_HZ } from './reverberation-time';

/**
 * What a screen takes off the sound that has to go round its edge: 10 lg(3 + 20 N), N the Fresnel
 * number of the detour; 0 where there is none.
 * @param detourM longer than the straight way, 0 … 100 m
 * @param frequencyHz 1 … 40 000 Hz
 * @param speed speed of sound, m/s
 * @returns dB, 0 and more
 * Source: Z. Maekawa, Applied Acoustics 1 (1968). Of a half-infinite thin screen: an estimate.
 * @throws RangeError where detourM is outside 0 … 100 m, frequencyHz is outside 1 … 40000 Hz, speed is
 *   outside 250 … 450 m/s
 */
export function screenAttenuation(detourM: number, frequencyHz: number, speed: number): number {
  inRange('detourM', detourM, 0, 100, 'm');
  inRange('frequencyHz', frequencyHz, 1, 40000, 'Hz');
  checkSpeed(speed);
  if (detourM === 0) return 0;
  return 10 * Math.log10(3 + (20 * 2 * detourM * frequencyHz) / speed);
}

/** An edge that sound can go round, m. */
export type Edge = readonly [from: Vec3, to: Vec3];

const onEdge = ([from, to]: Edge, t: number): Vec3 => add(from, scale(subtract(to, from), t));

/** Where on an edge the way from a point over it to another is shortest, 0 … 1. */
function shortestOver(a: Vec3, edge: Edge, b: Vec3): number {
  let [low, high] = [0, 1];
  const long = (t: number): number => {
    const p = onEdge(edge, t);
    return distance(a, p) + distance(p, b);
  };
  for (let i = 0; i < 40; i++) {
    const [left, right] = [low + (high - low) / 3, high - (high - low) / 3];
    if (long(left) < long(right)) high = right;
    else low = left;
  }
  return (low + high) / 2;
}

/** Places of an edge that are tried where its best one is not in sight. */
const TRIED = [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1];
/** How often a way over two edges is drawn tight. */
const TIGHTENED = 8;

/** Two ways round go to different sides where they leave the straight line so differently: cosine. */
const OTHER_SIDE = 0.5;
const MOST_SIDES = 3;

/** Where a way leaves the straight line, as a unit vector across it. */
function sideOf(from: Vec3, to: Vec3, over: Vec3): Vec3 {
  const line = subtract(to, from);
  const along = dot(subtract(over, from), line) / Math.max(dot(line, line), 1e-12);
  const off = subtract(over, add(from, scale(line, along)));
  return scale(off, 1 / Math.max(length(off), 1e-9));
}

/**
 * How much longer than the straight line the shortest ways from a point to another are that go round
 * one edge or two, one for every side of what stands between, m.
 * @param isFree whether the straight line between two points, m, is open
 * @returns shortest first; [0] where they are in sight; empty where no such way is open
 */
export function detoursRound(
  from: Vec3,
  to: Vec3,
  edges: readonly Edge[],
  isFree: (a: Vec3, b: Vec3) => boolean,
): number[] {
  if (isFree(from, to)) return [0];
  const straight = distance(from, to);
  const ways: { long: number; side: Vec3 }[] = [];
  for (const edge of edges) {
    const through = (t: number): { p: Vec3; long: number } => {
      const p = onEdge(edge, t);
      return { p, long: distance(from, p) + distance(p, to) };
    };
    const isOpen = ({ p }: { p: Vec3 }): boolean => isFree(from, p) && isFree(p, to);
    const best = through(shortestOver(from, edge, to));
    const [found] = isOpen(best)
      ? [best]
      : TRIED.map(through)
          .filter(isOpen)
          .sort((a, b) => a.long - b.long);
    if (found) ways.push({ long: found.long, side: sideOf(from, to, found.p) });
  }
  for (const first of edges) {
    for (const second of edges) {
      if (first === second) continue;
      let [p, q] = [onEdge(first, 0.5), onEdge(second, 0.5)];
      for (let i = 0; i < TIGHTENED; i++) {
        p = onEdge(first, shortestOver(from, first, q));
        q = onEdge(second, shortestOver(p, second, to));
      }
      // There and back again across the line is no way round.
      if (dot(sideOf(from, to, p), sideOf(from, to, q)) < OTHER_SIDE) continue;
      if (!isFree(from, p) || !isFree(p, q) || !isFree(q, to)) continue;
      const long = distance(from, p) + distance(p, q) + distance(q, to);
      ways.push({ long, side: sideOf(from, to, scale(add(p, q), 0.5)) });
    }
  }
  ways.sort((a, b) => a.long - b.long);
  const kept: typeof ways = [];
  for (const way of ways) {
    if (kept.length === MOST_SIDES) break;
    if (kept.every(({ side }) => dot(side, way.side) < OTHER_SIDE)) kept.push(way);
  }
  return kept.map(({ long }) => Math.max(0, long - straight));
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
