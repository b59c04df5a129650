import type { MicArray, Session, Source } from '../../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../../units/guard';
import { lengthText } from '../../units/format';
import { planDistance } from '../../units/vector';
import type { Fix } from './finding';
import { isPossible } from './levers';

/** What can be done about the seating: somebody moved, as far as there is room for him. */

/** Nearer to a neighbour than this nobody can play, m; who sits nearer already stays so. */
const ELBOW_M = 0.8;
/** Farther than this nobody is asked to move his chair, m. */
const MOST_M = 3;
/** So many are asked to move at once. */
const MOST_PLAYERS = 4;

const hundredths = (metres: number): number => Math.round(metres * 100) / 100 || 0;

function hasRoom(session: Session, source: Source, at: { x: number; y: number }): boolean {
  if (!isPossible(session, { ...at, z: source.z })) return false;
  return session.sources.every((other) => {
    if (other.id === source.id) return true;
    const least = Math.min(ELBOW_M + other.widthM / 2, planDistance(source, other));
    return planDistance(at, other) >= least;
  });
}

const seat = (source: Source, at: { x: number; y: number }): Fix['changes'][number] => ({
  kind: 'source',
  id: source.id,
  set: { x: at.x, y: at.y },
});

const TURN_STEP_DEG = 5;

/** Players turned around an array towards its aim, at their own distances, all by as much as each needs. */
export function* seatsFartherIn(
  session: Session,
  array: MicArray,
  out: readonly { id: string }[],
): Generator<Fix> {
  const players = session.sources.filter(({ id }) => out.some((one) => one.id === id));
  if (players.length === 0 || players.length > MOST_PLAYERS) return;
  for (let toDeg_ = 60; toDeg_ >= 5; toDeg_ -= TURN_STEP_DEG) {
    let there = session;
    const changes: Fix['changes'] = [];
    for (const player of players) {
      const off = wrapDeg(toDeg(Math.atan2(player.x - array.x, player.y - array.y)) - array.aimDeg);
      if (Math.abs(off) <= toDeg_) continue;
      const farM = planDistance(player, array);
      const bearing = array.aimDeg + Math.sign(off) * toDeg_;
      const at = {
        x: hundredths(array.x + farM * sinDeg(bearing)),
        y: hundredths(array.y + farM * cosDeg(bearing)),
      };
      if (planDistance(at, player) > MOST_M || !hasRoom(there, player, at)) return;
      changes.push(seat(player, at));
      there = {
        ...there,
        sources: there.sources.map((one) => (one.id === player.id ? { ...one, ...at } : one)),
      };
    }
    if (changes.length === 0) continue;
    const names = players.map(({ name }) => name).join(', ');
    yield { label: `Seat ${names} within ${toDeg_}° of its aim`, changes };
  }
}

const STEP_M = 0.1;

/** A player moved straight towards an array (sign 1) or away from it (−1). */
export function* seatAlong(
  session: Session,
  array: MicArray,
  player: Source,
  sign: 1 | -1,
): Generator<Fix> {
  const farM = planDistance(player, array);
  if (farM < 0.3) return;
  for (let byM = 2 * STEP_M; byM <= Math.min(MOST_M, sign > 0 ? farM - 1 : MOST_M); byM += STEP_M) {
    const share = (sign * byM) / farM;
    const at = {
      x: hundredths(player.x + share * (array.x - player.x)),
      y: hundredths(player.y + share * (array.y - player.y)),
    };
    if (!hasRoom(session, player, at)) return;
    const by = lengthText(byM, session.settings.units);
    yield {
      label: `Seat ${player.name} ${by} ${sign > 0 ? 'nearer' : 'farther back'}`,
      changes: [seat(player, at)],
    };
  }
}

/** A player moved to where he is clear of what he is in the way of: the nearest free place about. */
export function* seatAbout(session: Session, player: Source): Generator<Fix> {
  for (let byM = STEP_M; byM <= MOST_M; byM += 2 * STEP_M) {
    for (let turn = 0; turn < 360; turn += 45) {
      const at = {
        x: hundredths(player.x + byM * sinDeg(turn)),
        y: hundredths(player.y + byM * cosDeg(turn)),
      };
      if (!hasRoom(session, player, at)) continue;
      const by = lengthText(byM, session.settings.units);
      yield { label: `Move ${player.name} by ${by}`, changes: [seat(player, at)] };
    }
  }
}
