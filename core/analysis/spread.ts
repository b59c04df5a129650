import type { Session, Source } from '../session/schema';
import { ownedSource } from './arrivals';
import { heardArrays } from './mix';

/** How far images are from keeping the players' own distances, and what else takes many of them. */

/** A player's direction at an array, degrees, and its image, −1 … +1. */
export interface Seen {
  azimuthDeg: number;
  shift: number;
}

/**
 * How far the images are from lying as the players do: root mean square of what is off a straight
 * line between the two outermost, percent of the base. 0 with fewer than three.
 */
export function spacingOffPct(seen: readonly Seen[]): number {
  if (seen.length < 3) return 0;
  let [first, last] = [seen[0] as Seen, seen[0] as Seen];
  for (const one of seen) {
    if (one.azimuthDeg < first.azimuthDeg) first = one;
    if (one.azimuthDeg > last.azimuthDeg) last = one;
  }
  const arc = last.azimuthDeg - first.azimuthDeg;
  if (!(arc > 1e-6)) return 0;
  const slope = (last.shift - first.shift) / arc;
  let squares = 0;
  for (const { azimuthDeg, shift } of seen) {
    squares += (shift - first.shift - slope * (azimuthDeg - first.azimuthDeg)) ** 2;
  }
  return Math.sqrt(squares / seen.length) * 50;
}

/** Less deep than this there is no front and no back, m. */
const SHALLOW_M = 1;

/**
 * How much softer the back half is than the front half, dB; 0 where nobody sits behind another.
 * @param players depth from the front, m, and level through distance and pattern, dB
 */
export function frontToBackDb(players: readonly { depthM: number; db: number }[]): number {
  let [near, far] = [Infinity, -Infinity];
  for (const { depthM } of players) {
    near = Math.min(near, depthM);
    far = Math.max(far, depthM);
  }
  if (!(far - near >= SHALLOW_M)) return 0;
  const middle = (near + far) / 2;
  let [front, back, inFront, behind] = [0, 0, 0, 0];
  for (const { depthM, db } of players) {
    if (depthM < middle) {
      front += db;
      inFront += 1;
    } else {
      back += db;
      behind += 1;
    }
  }
  return inFront > 0 && behind > 0 ? front / inFront - back / behind : 0;
}

/** How much of a place time makes, 0 … 1; null in the middle, where neither does. */
export function timeShareOf(icldDb: number, ictdMs: number): number | null {
  const [level, time] = [Math.abs(icldDb) / 15, Math.abs(ictdMs) / 1.12];
  return level + time > 0.02 ? time / (level + time) : null;
}

/** Players with a microphone of their own: how loud the main array hears them decides less. */
export function withOwnSpot(session: Session): ReadonlySet<Source['id']> {
  return new Set(
    heardArrays(session)
      .filter(({ role }) => role === 'spot')
      .flatMap(({ id }) => ownedSource(session, id)?.id ?? []),
  );
}
