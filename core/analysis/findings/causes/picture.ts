import { sum } from 'd3-array';
import { cuesFrom, nearArrivals } from '../../../localisation/cues';
import { placeOf } from '../../../localisation/placed';
import { speakingModel } from '../../../localisation/leading';
import { looksSteeply } from '../../../localisation/prepared-array';
import { readyArray } from '../../../prepare/arrays';
import { contextOf } from '../../../prepare/context';
import { playersOf } from '../../../prepare/for-whom';
import type { MicArray, Session, Source } from '../../../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../../../units/guard';
import { pointsAt } from '../../edges-at';
import { ensembleFrame } from '../../ensemble-frame';
import { LARGE_GAP_PCT } from '../../criteria';

/** What an array makes of the players that it is for, against where they sit. */

/** A direction on the plan, as a unit vector. */
export interface Direction {
  x: number;
  y: number;
}

/** How an array and its players stand to each other. */
export interface Standing {
  players: readonly Source[];
  /** from the array to the middle of its players; null where they are all around it or below it */
  towards: Direction | null;
  /** to the right of whom the picture is for */
  right: Direction;
  /** it stands where its players turn their backs, and not on the audience's side */
  behind: boolean;
}

/** Players closer than this on the plan are around the array, not before or behind it, m. */
const AROUND_M = 0.5;
/** Seen over more than this, players are all around it, degrees. */
const AROUND_DEG = 200;
/** How far players agree where they play, 0 … 1. */
const AGREED = 0.35;

const rightOf = (aimDeg: number): Direction => ({ x: cosDeg(aimDeg), y: -sinDeg(aimDeg) });
const dot = (a: Direction, b: Direction): number => a.x * b.x + a.y * b.y;
const times = ({ x, y }: Direction, by: number): Direction => ({ x: x * by, y: y * by });

/** The middle of some players on the plan. */
export function middleOfPlayers(players: readonly Source[]): Direction {
  const count = Math.max(1, players.length);
  return { x: sum(players, ({ x }) => x) / count, y: sum(players, ({ y }) => y) / count };
}

/** Where players play to on the whole: shorter than 1 where they disagree. */
function facingOf(players: readonly Source[]): Direction {
  const count = Math.max(1, players.length);
  return {
    x: sum(players, ({ facingDeg }) => sinDeg(facingDeg)) / count,
    y: sum(players, ({ facingDeg }) => cosDeg(facingDeg)) / count,
  };
}

/** Whether players are seen over more than a half circle, so that no aim has them all before it. */
function areAround(array: MicArray, players: readonly Source[]): boolean {
  const angles = players
    .map(({ x, y }) => toDeg(Math.atan2(x - array.x, y - array.y)))
    .sort((a, b) => a - b);
  const [first = 0] = angles;
  const gaps = angles.map((angle, i) => (angles[i + 1] ?? first + 360) - angle);
  return 360 - Math.max(...gaps, 0) > AROUND_DEG;
}

/** Where the audience of a session sits by its plan. */
const AUDIENCE: Direction = { x: 0, y: -1 };

/** @returns null where the array is for nobody */
export function standingOf(session: Session, array: MicArray): Standing | null {
  const players = playersOf(array, session.sources, contextOf(session).speed);
  if (players.length === 0) return null;
  const turn = session.settings.perspective === 'audience' ? 1 : -1;
  if (looksSteeply(array)) {
    const right = rightOf(ensembleFrame(players)?.aimDeg ?? 0);
    return { players, towards: null, right: times(right, turn), behind: false };
  }
  const middle = middleOfPlayers(players);
  const away = { x: middle.x - array.x, y: middle.y - array.y };
  const farM = Math.hypot(away.x, away.y);
  if (farM < AROUND_M || (players.length > 2 && areAround(array, players))) {
    return { players, towards: null, right: times(rightOf(array.aimDeg), turn), behind: false };
  }
  const towards = times(away, 1 / farM);
  const facing = facingOf(players);
  const agreed = Math.hypot(facing.x, facing.y) >= AGREED;
  const behind = agreed && dot(facing, towards) > AGREED && dot(towards, AUDIENCE) > -AGREED;
  const natural = { x: towards.y, y: -towards.x };
  return { players, towards, right: times(natural, turn * (behind ? -1 : 1)), behind };
}

/** How far an array's own right agrees with that of whom the picture is for, −1 … 1. */
export const agreement = (array: MicArray, { right }: Standing): number =>
  dot(rightOf(array.aimDeg), right);

/** Azimuth from an array to its players, degrees off its aim; null where they are around it. */
export function offAim(array: MicArray, { towards }: Standing): number | null {
  if (!towards) return null;
  return wrapDeg(toDeg(Math.atan2(towards.x, towards.y)) - array.aimDeg);
}

/** What an array's picture is worth: 0 where everybody is heard where he sits. */
export interface Picture {
  badness: number;
  /** heard on the other side than they sit */
  swapped: number;
  /** without a stable image, or not heard at all */
  lost: number;
  /** all heard at one place though they sit apart */
  collapsed: boolean;
  /** largest gap between neighbours, percent of the base */
  gapPct: number;
  /** it hears them from behind */
  fromBehind: boolean;
  players: number;
}

/** Nearer to the middle than this nobody has a side: m, and image shift. */
const SIDE_M = 0.15;
const SIDE_SHIFT = 0.08;
/** Apart by this, and heard within that, players have collapsed to one place: m, and shift. */
const APART_M = 0.6;
const ONE_PLACE = 0.06;
/** A channel so far below the other is not heard beside it, dB. */
const UNHEARD_DB = 20;
/** Nothing of a player is left, energy of all channels against all capsules. */
const SILENT = 1e-4;
/** A hole alone is worth asking why. */
const HOLE_BADNESS = 0.25;
/** Wide players are looked at from end to end where they are few. */
const FEW = 3;

/** Turned from its players by more than this, what hears by direction hears their room, degrees. */
const BACK_DEG = 100;
const BACK_BADNESS = 0.6;

/** Whether a directional array turns its back to its players, in a role that does not. */
function turnsItsBack(array: MicArray, standing: Standing): boolean {
  if (array.role === 'ambience' || array.role === 'surround') return false;
  const off = offAim(array, standing);
  if (off === null || Math.abs(off) < BACK_DEG) return false;
  return readyArray(array).capsules.some(({ patternA }) => patternA < 0.9);
}

/** Judges the picture of an array with its strips as they are, in the session's model. */
export function pictureOf(session: Session, array: MicArray, standing: Standing): Picture {
  const ready = readyArray(array);
  const { speed } = contextOf(session);
  const model = speakingModel(session.settings, ready.coincident);
  const { players, right } = standing;
  const few = players.length <= FEW;
  let [swapped, lost, count] = [0, 0, 0];
  const shifts: number[] = [];
  const places: number[] = [];
  for (const player of players) {
    for (const point of few ? pointsAt(ready, player) : [player]) {
      const arrivals = nearArrivals(ready, point, speed);
      if (!arrivals) continue;
      count += 1;
      const across = dot({ x: point.x - array.x, y: point.y - array.y }, right);
      const cues = cuesFrom(ready, arrivals);
      let [energy, whole] = [0, 0];
      arrivals.forEach(({ gain }, i) => {
        energy += (ready.weights[i] ?? 0) * gain * gain;
        whole += gain * gain;
      });
      if (cues.antiphase || energy < SILENT * whole) {
        lost += 1;
        continue;
      }
      // So much weaker a channel is not heard beside the other, whatever its time says.
      const alone = Math.abs(cues.icldDb) > UNHEARD_DB;
      const shift = alone ? Math.sign(cues.icldDb) : placeOf(cues, model);
      shifts.push(shift);
      places.push(across);
      if (Math.abs(across) > SIDE_M && Math.abs(shift) > SIDE_SHIFT && across * shift < 0) {
        swapped += 1;
      }
    }
  }
  const spanOf = (values: readonly number[]): number =>
    values.length > 1 ? Math.max(...values) - Math.min(...values) : 0;
  const collapsed = spanOf(places) > APART_M && spanOf(shifts) < ONE_PLACE;
  const sorted = [...shifts].sort((a, b) => a - b);
  const gaps = sorted.slice(1).map((shift, i) => (shift - (sorted[i] ?? 0)) * 50);
  const gapPct = players.length > 2 ? Math.max(0, ...gaps) : 0;
  const all = Math.max(1, count);
  return {
    badness:
      (swapped + lost) / all +
      (turnsItsBack(array, standing) ? BACK_BADNESS : 0) +
      (collapsed ? 1 : 0) +
      (array.role === 'main' && players.length > FEW && gapPct > LARGE_GAP_PCT
        ? HOLE_BADNESS + (gapPct - LARGE_GAP_PCT) / 100
        : 0),
    swapped,
    lost,
    collapsed,
    gapPct,
    fromBehind: turnsItsBack(array, standing),
    players: all,
  };
}
