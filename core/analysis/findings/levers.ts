import { ceilingAt, isInFaces, type FacedRoom } from '../../acoustics/faced-room';
import { isInside } from '../../acoustics/reflections';
import { patternAOf, type Pattern } from '../../acoustics/patterns';
import { stripsOf } from '../../arrays/routing';
import { canDo, patternWord } from '../../kit/needs';
import { looksSteeply } from '../../localisation/prepared-array';
import { contextOf } from '../../prepare/context';
import { playersOf } from '../../prepare/for-whom';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session, SessionTechnique, Source } from '../../session/schema';
import { cosDeg, sinDeg, toDeg, wrapDeg } from '../../units/guard';
import { formatNumber, formatSigned, lengthText } from '../../units/format';
import { nearestOnStretch } from '../../units/geometry';
import { clamp } from '../../units/numbers';
import { distanceToOutline } from '../../units/polygon';
import { distance, planDistance, type Vec3 } from '../../units/vector';
import { roomOf } from '../../hall';
import { highestM } from '../room';
import { withPattern } from '../summary';
import type { Fix, Lever } from './finding';
import { middleOfPlayers } from './causes/picture';

/**
 * What can be turned about an array, one thing a lever, the gentlest step first. How far each goes
 * is said by the hall and the kit; what comes of a step is for who tries it.
 */

/** Where no hall says it: so far a cable reaches, m. */
const NO_WALL_M = 60;
/** Kept to walls and ceiling, m. */
const WALL_M = 0.3;
const LOWEST_M = 0.2;

const thousandths = (metres: number): number => Math.round(metres * 1000) / 1000 || 0;

/** Steps that grow with what they add up to: 5 cm at first, a tenth of the way later. */
function* growing(to: number, first = 0.1): Generator<number> {
  for (
    let value = first;
    value <= to + 1e-9;
    value += Math.max(0.05, value > 1 ? value * 0.07 : 0.1)
  ) {
    yield Math.round(value * 20) / 20;
  }
}

const setOf = (
  array: MicArray,
  label: string,
  set: Extract<Fix['changes'][number], { kind: 'array' }>['set'],
): Fix => ({ label, changes: [{ kind: 'array', id: array.id, set }] });

/** An array that is a named standard is no longer one with other numbers. */
const techniqueSet = (array: MicArray, label: string, technique: SessionTechnique): Fix =>
  setOf(array, label, array.standard === '' ? { technique } : { technique, standard: '' });

/** Inside a hall of faces with a hand's breadth to everything but what is beneath. */
function isClearInside(room: FacedRoom, at: Vec3): boolean {
  if (!isInFaces(room, at)) return false;
  if (distanceToOutline(at, room.outline) < WALL_M) return false;
  return (ceilingAt(room, at) ?? room.max.z) - at.z >= WALL_M;
}

/** Inside the hall with a hand's breadth to its walls, and within what a session may hold. */
export function isPossible(session: Session, { x, y, z }: Vec3): boolean {
  const { min, max } = BOUNDS.positionM;
  if (![x, y, z].every((value) => value >= min && value <= max)) return false;
  if (z < 0) return false;
  const room = roomOf(session);
  if (!room) return session.venue.heightM === null || z <= session.venue.heightM - WALL_M;
  if ('faces' in room) return isClearInside(room, { x, y, z });
  const smaller = {
    ...room,
    min: { x: room.min.x + WALL_M, y: room.min.y + WALL_M, z: 0 },
    max: { x: room.max.x - WALL_M, y: room.max.y - WALL_M, z: room.max.z - WALL_M },
  };
  return isInside(smaller, { x, y, z });
}

/** Nearer than this to somebody on the way, a stand would go through him, m. */
const THROUGH_M = 0.4;

/** Whether a straight way on the plan leads through a player who was not there before. */
function leadsThrough(
  { sources }: Session,
  from: { x: number; y: number },
  to: { x: number; y: number },
): boolean {
  const [a, b] = [
    { ...from, z: 0 },
    { ...to, z: 0 },
  ];
  return sources.some((source) => {
    const at = { x: source.x, y: source.y, z: 0 };
    const reach = THROUGH_M + source.widthM / 4;
    if (planDistance(source, from) <= reach) return planDistance(source, to) <= reach;
    return nearestOnStretch(at, a, b).distanceM <= reach;
  });
}

/** The players whom an array is for. */
export const playersFor = (session: Session, array: MicArray): readonly Source[] =>
  playersOf(array, session.sources, contextOf(session).speed);

/** A way along a line on the plan, away from or towards the players, as far as it is free. */
function* along(
  session: Session,
  array: MicArray,
  direction: { x: number; y: number },
  mostM: number,
  label: (byM: number, at: Vec3) => string,
): Generator<Fix> {
  for (const byM of growing(mostM)) {
    const at = {
      x: thousandths(array.x + byM * direction.x),
      y: thousandths(array.y + byM * direction.y),
      z: array.z,
    };
    if (!isPossible(session, at) || leadsThrough(session, array, at)) return;
    yield setOf(array, label(byM, at), { x: at.x, y: at.y });
  }
}

/** On the plan from an array to its players' middle; along its aim where they are around it. */
function towardsPlayers(session: Session, array: MicArray): { x: number; y: number; farM: number } {
  const players = playersFor(session, array);
  const middle = middleOfPlayers(players);
  const [dx, dy] = [middle.x - array.x, middle.y - array.y];
  const farM = Math.hypot(dx, dy);
  return players.length > 0 && farM > 0.3
    ? { x: dx / farM, y: dy / farM, farM }
    : { x: sinDeg(array.aimDeg), y: cosDeg(array.aimDeg), farM };
}

/** Farther from its players on the plan; a steep one is raised instead. */
export function back(session: Session, array: MicArray): Lever {
  if (looksSteeply(array))
    return array.tiltDeg < 0 ? raised(session, array) : lowered(session, array);
  const { x, y, farM } = towardsPlayers(session, array);
  const { units } = session.settings;
  return along(
    session,
    array,
    { x: -x, y: -y },
    NO_WALL_M,
    (byM) =>
      `Move it back by ${lengthText(byM, units)}, to ${lengthText(farM + byM, units)} from the players’ middle`,
  );
}

/** Nearer to its players on the plan; a steep one is lowered instead. */
export function closer(session: Session, array: MicArray): Lever {
  if (looksSteeply(array))
    return array.tiltDeg < 0 ? lowered(session, array) : raised(session, array);
  const { x, y, farM } = towardsPlayers(session, array);
  const { units } = session.settings;
  return along(
    session,
    array,
    { x, y },
    farM - 0.5,
    (byM) =>
      `Move it closer by ${lengthText(byM, units)}, to ${lengthText(farM - byM, units)} from the players’ middle`,
  );
}

/** To either side, across its way to the players. */
export function* sideways(session: Session, array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { x, y } = towardsPlayers(session, array);
  const { units } = session.settings;
  yield* along(
    session,
    array,
    { x: sign * y, y: -sign * x },
    NO_WALL_M / 4,
    (byM) => `Move it ${lengthText(byM, units)} to ${sign > 0 ? 'its right' : 'its left'}`,
  );
}

/** An array higher, in small steps and larger ones, m. */
export function* raised(session: Session, array: MicArray): Generator<Fix> {
  const { units } = session.settings;
  for (const byM of growing(highestM(session) - array.z)) {
    const z = thousandths(array.z + byM);
    if (!isPossible(session, { ...array, z })) return;
    yield setOf(array, `Raise it by ${lengthText(byM, units)}, to ${lengthText(z, units)}`, { z });
  }
}

/** An array lower, in small steps and larger ones, m. */
export function* lowered(session: Session, array: MicArray): Generator<Fix> {
  const { units } = session.settings;
  for (const byM of growing(array.z - LOWEST_M)) {
    const z = thousandths(array.z - byM);
    yield setOf(array, `Lower it by ${lengthText(byM, units)}, to ${lengthText(z, units)}`, { z });
  }
}

/** Turned so that its players' middle is before it. */
export function aimed(session: Session, array: MicArray): Lever {
  const players = playersFor(session, array);
  if (players.length === 0 || looksSteeply(array)) return [];
  const bearings = players
    .map(({ x, y }) => wrapDeg(toDeg(Math.atan2(x - array.x, y - array.y)) - array.aimDeg))
    .sort((a, b) => a - b);
  const [least = 0, most = 0] = [bearings[0], bearings[bearings.length - 1]];
  const middle = middleOfPlayers(players);
  const mean = wrapDeg(toDeg(Math.atan2(middle.x - array.x, middle.y - array.y)) - array.aimDeg);
  const turns = [...new Set([Math.round(mean), Math.round((least + most) / 2)])];
  return turns
    .filter((deg) => Math.abs(deg) >= 1 && Math.abs(deg) < 180)
    .map((deg) => {
      const aimDeg = wrapDeg(Math.round(array.aimDeg + deg)) || 0;
      return setOf(
        array,
        `Turn it ${formatNumber(Math.abs(deg), 0)}° to the ${deg < 0 ? 'left' : 'right'}`,
        { aimDeg },
      );
    });
}

/** Whether the angle between its capsules makes any difference: omnis hear all round. */
export const isDirectional = ({ technique }: Pick<MicArray, 'technique'>): boolean =>
  technique.kind === 'pair' && patternAOf(technique.pattern) < 1;

const LEAST_ANGLE_DEG = 40;
const MOST_ANGLE_DEG = 180;

/** Another included angle of a pair, wider (1) or smaller (−1), in degrees. */
export function* angles(array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { technique } = array;
  if (technique.kind !== 'pair' || !isDirectional(array)) return;
  const now = technique.includedAngleDeg;
  for (
    let deg = Math.round(now) + sign;
    deg >= LEAST_ANGLE_DEG && deg <= MOST_ANGLE_DEG;
    deg += sign
  ) {
    yield techniqueSet(array, `Set the included angle to ${deg}°`, {
      ...technique,
      includedAngleDeg: deg,
    });
  }
}

const LEAST_SPACING_M = 0.03;
/** Wider than its players are apart nobody puts a pair. */
const widestM = (players: readonly Source[]): number => {
  const xs = players.flatMap(({ x, widthM }) => [x - widthM / 2, x + widthM / 2]);
  const ys = players.flatMap(({ y, widthM }) => [y - widthM / 2, y + widthM / 2]);
  const span = (values: readonly number[]): number =>
    values.length > 0 ? Math.max(...values) - Math.min(...values) : 0;
  return clamp(Math.hypot(span(xs), span(ys)), 0.6, BOUNDS.spacingM.max);
};

/** Another spacing of a pair, wider (1) or smaller (−1), m. */
export function* spacings(session: Session, array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { technique } = array;
  if (technique.kind !== 'pair') return;
  // What is at one point stays so: another technique is no step of this one.
  if (technique.spacingM === 0) return;
  const most = widestM(playersFor(session, array));
  const { units } = session.settings;
  let spacingM = technique.spacingM;
  for (;;) {
    const step = spacingM < 0.6 ? 0.005 : spacingM < 2 ? 0.02 : 0.1;
    const next = Math.round((Math.round(spacingM / step) * step + sign * step) * 1000) / 1000;
    if (next < LEAST_SPACING_M || next > most) return;
    spacingM = next;
    if ((spacingM - technique.spacingM) * sign <= 0) continue;
    yield techniqueSet(array, `Set the spacing to ${lengthText(spacingM, units, 'bar')}`, {
      ...technique,
      spacingM,
    });
  }
}

/** Another level of the side against the mid, up (1) or down (−1), in half decibels. */
export function* sideLevels(array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { technique } = array;
  if (technique.kind !== 'mid-side') return;
  const { min, max } = BOUNDS.gainDb;
  const to = sign > 0 ? Math.min(max, 12) : Math.max(min, -20);
  for (
    let db = Math.round(technique.sideGainDb * 2) / 2 + sign * 0.5;
    sign * (to - db) >= 0;
    db += sign * 0.5
  ) {
    yield techniqueSet(array, `Set the side to ${formatSigned(db, 1)} dB`, {
      ...technique,
      sideGainDb: db,
    });
  }
}

/** A larger array drawn together or apart, its shape kept. */
export function* scaled(array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { technique } = array;
  if (technique.kind !== 'custom') return;
  for (let percent = 100 + sign * 5; percent >= 20 && percent <= 300; percent += sign * 5) {
    const by = percent / 100;
    const capsules = technique.capsules.map((capsule) => ({
      ...capsule,
      dx: thousandths(capsule.dx * by),
      dy: thousandths(capsule.dy * by),
      dz: thousandths(capsule.dz * by),
    }));
    yield techniqueSet(array, `Make it ${percent} % of its size`, { ...technique, capsules });
  }
}

const PATTERN_ORDER = [
  'omni',
  'subcardioid',
  'cardioid',
  'supercardioid',
  'hypercardioid',
  'figure-eight',
] as const satisfies readonly Pattern[];

/** Other patterns of the microphones at hand, the nearest first; any where no kit is known. */
export function* patterns(
  { kit }: Session,
  array: MicArray,
  wanted: (patternA: number, now: number) => boolean = () => true,
): Generator<Fix> {
  const { technique } = array;
  if (technique.kind === 'custom') return;
  const now = patternAOf(technique.kind === 'mid-side' ? technique.midPattern : technique.pattern);
  const others = PATTERN_ORDER.filter((pattern) => {
    const patternA = patternAOf(pattern);
    if (Math.abs(patternA - now) < 1e-9 || !wanted(patternA, now)) return false;
    return kit.microphones.length === 0 || kit.microphones.some((mic) => canDo(mic, pattern));
  }).sort((a, b) => Math.abs(patternAOf(a) - now) - Math.abs(patternAOf(b) - now));
  for (const pattern of others) {
    yield techniqueSet(
      array,
      `Take ${patternWord(pattern)}${technique.kind === 'mid-side' ? ' for the mid' : technique.kind === 'pair' ? 's' : ''}`,
      withPattern(technique, pattern),
    );
  }
}

/** Patterns that are narrower than the present one and not a figure-eight. */
export const narrowerPatterns = (session: Session, array: MicArray): Lever =>
  patterns(session, array, (patternA, now) => patternA < now && patternA > 0);
/** Patterns that are wider than the present one. */
export const widerPatterns = (session: Session, array: MicArray): Lever =>
  patterns(session, array, (patternA, now) => patternA > now);

/** By more than this an array is switched off rather than balanced, dB. */
const MOST_FADER_DB = 15;

/** Its fader, down or up, in half decibels at first. */
export function* faders(array: MicArray, sign: 1 | -1): Generator<Fix> {
  const { min, max } = BOUNDS.gainDb;
  const { faderDb } = array.mix;
  for (let by = 1; by <= MOST_FADER_DB; by += 1) {
    const db = Math.round((faderDb + sign * by) * 2) / 2;
    if (db < min || db > max) return;
    yield setOf(
      array,
      `${sign < 0 ? 'Lower' : 'Raise'} the fader of ${array.name} to ${formatSigned(db, 1)} dB`,
      {
        mix: { ...array.mix, faderDb: db },
      },
    );
  }
}

/** All its channels later by so much, to a hundredth of a millisecond. */
export function delayed(array: MicArray, byMs: number, label: string): Fix[] {
  const capsules = stripsOf(array.technique, array.mix.capsules).map((strip) => ({
    ...strip,
    delayMs: Math.round((strip.delayMs + byMs) * 100) / 100,
  }));
  if (capsules.some(({ delayMs }) => delayMs > BOUNDS.delayMs.max || delayMs < 0)) return [];
  return [setOf(array, label, { mix: { ...array.mix, capsules } })];
}

/** A microphone moved along the straight line to a player, as far as it keeps clear of him. */
export function* nearer(
  session: Session,
  array: MicArray,
  player: Source,
  clearM: number,
): Generator<Fix> {
  const { units } = session.settings;
  const farM = distance(player, array);
  for (const byM of growing(farM - clearM, 0.05)) {
    const share = byM / farM;
    const at = {
      x: thousandths(array.x + share * (player.x - array.x)),
      y: thousandths(array.y + share * (player.y - array.y)),
      z: thousandths(array.z + share * (player.z - array.z)),
    };
    if (!isPossible(session, at)) return;
    yield setOf(array, `Move ${array.name} ${lengthText(byM, units)} nearer to ${player.name}`, at);
  }
}

/** … and away from one. */
export function* farther(session: Session, array: MicArray, player: Source): Generator<Fix> {
  const { units } = session.settings;
  const farM = Math.max(0.01, distance(player, array));
  for (const byM of growing(3, 0.05)) {
    const share = byM / farM;
    const at = {
      x: thousandths(array.x - share * (player.x - array.x)),
      y: thousandths(array.y - share * (player.y - array.y)),
      z: thousandths(array.z - share * (player.z - array.z)),
    };
    if (!isPossible(session, at) || at.z < LOWEST_M) return;
    yield setOf(array, `Move ${array.name} ${lengthText(byM, units)} back from ${player.name}`, at);
  }
}

/** An array left out, those that matter least first. */
export function* leftOut(session: Session): Generator<Fix> {
  const order: readonly MicArray['role'][] = [
    'ambience',
    'surround',
    'outrigger',
    'spot',
    'overhead',
  ];
  const enabled = session.arrays.filter(({ enabled: on, role }) => on && order.includes(role));
  for (const array of [...enabled].sort((a, b) => order.indexOf(a.role) - order.indexOf(b.role))) {
    yield setOf(array, `Leave out ${array.name}`, { enabled: false });
  }
}
