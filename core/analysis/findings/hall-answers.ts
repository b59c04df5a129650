import { directToReverberantDb } from '../../acoustics/reverberant-field';
import type { Room } from '../../acoustics/reflections';
import {
  facingPairs,
  isBetween,
  isFloorLike,
  planesOf,
  roomOf,
  theSurface,
  type Facing,
} from '../../hall';
import { arrivalsAt, readyArray } from '../../prepare/arrays';
import { contextOf, midReverberationTime } from '../../prepare/context';
import { isKnown, mainArrays } from '../../session/lists';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber, lengthText } from '../../units/format';
import { powerDb } from '../../units/guard';
import { dot } from '../../units/vector';
import { reflectionsAtArray, type HeardReflection } from '../room';
import { firstOf, namesOf, sourcesOf, type Found, type Rule } from './finding';
import { back, closer, lowered, playersFor, raised, sideways } from './levers';
import { seatAbout } from './seat-levers';

/** What a hall does with sound beyond its single early reflections. */

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
const listOf = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

// Focus

/** Reflections that come within this are one, ms. */
const TOGETHER_MS = 1;
const LEAST_TOGETHER = 3;
/** Together so much stronger than the strongest single one, and at least so strong, dB. */
const STRONGER_DB = 3;
const HEARD_DB = -10;

interface Focus {
  together: HeardReflection[];
  sumDb: number;
  overDb: number;
}

/** The strongest bundle of reflections that come at once; null where none is more than one wall makes. */
export function focusOf(reflections: readonly HeardReflection[]): Focus | null {
  const list = reflections
    .filter(({ surfaces }) => surfaces.length === 1 && surfaces[0] !== 'floor')
    .sort((a, b) => a.delayMs - b.delayMs);
  const strongest = Math.max(-Infinity, ...list.map(({ levelDb }) => levelDb));
  let best: Focus | null = null;
  list.forEach((first, i) => {
    const together = list.slice(i).filter(({ delayMs }) => delayMs <= first.delayMs + TOGETHER_MS);
    if (together.length < LEAST_TOGETHER) return;
    const sumDb = powerDb(together.reduce((sum, { levelDb }) => sum + 10 ** (levelDb / 10), 0));
    const overDb = sumDb - strongest;
    if (overDb < STRONGER_DB || sumDb < HEARD_DB) return;
    if (!best || sumDb > best.sumDb) best = { together, sumDb, overDb };
  });
  return best;
}

function focussed(session: Session, main: MicArray, source: Source): Found[] {
  const focus = focusOf(reflectionsAtArray(session, main, source, 1));
  if (!focus) return [];
  const room = roomOf(session);
  const { together, sumDb, overDb } = focus;
  const walls = listOf(together.map(({ surfaces }) => theSurface(room, surfaces[0] ?? '')));
  const delayMs = together[0]?.delayMs ?? 0;
  const figures = { sumDb, overDb, delayMs, walls: together.length };
  const words = `${formatNumber(sumDb, 1)} dB after ${formatNumber(delayMs, 1)} ms, ${formatNumber(overDb, 1)} dB more than any one of them`;
  return [
    {
      severity: sumDb >= -4 ? 'caution' : 'note',
      message: `${main.name} is where the hall collects ${source.name}: ${walls} answer within ${TOGETHER_MS} ms of each other, together ${words}.`,
      sources: [source],
      arrays: [main],
      surfaces: together.map(({ surfaces }) => surfaces[0] ?? ''),
      figures,
      size: sumDb - HEARD_DB + 0.5,
      todo: 'Curtains or screens before some of these walls break it up.',
      levers: () => [
        closer(session, main),
        back(session, main),
        sideways(session, main, 1),
        sideways(session, main, -1),
        ...(source.widthM < 2 ? [seatAbout(session, source)] : []),
      ],
      cause: {
        key: `${main.id} focus`,
        weight: sumDb,
        words: (all) =>
          `${main.name} is where the hall collects ${all.length} players: ${namesOf(session, sourcesOf(all))}. Of ${source.name} ${formatNumber(firstOf(all, 'walls'), 0)} walls answer within ${TOGETHER_MS} ms of each other, together ${words}.`,
      },
    },
  ];
}

// Flutter

/** Floor and ceiling flutter where a ceiling is as low as this, m. */
const LOW_CEILING_M = 5;
/** Harder than this throws sound back many times: absorption at 1 kHz. */
const HARD = 0.1;

interface Fluttering extends Facing {
  roundS: number;
}

/** "walls 2 and 6, 3 and 7 (12.00 m apart, 71 ms there and back); the floor and the ceiling (…)" */
function pairsInWords(
  room: Room,
  pairs: readonly Fluttering[],
  units: Session['settings']['units'],
): string {
  const alike = new Map<string, Fluttering[]>();
  for (const pair of pairs) {
    const walls = [pair.first, pair.second].every(({ id }) => /^wall \d+$/.test(id));
    const key = walls ? pair.distanceM.toFixed(2) : `${pair.first.id} ${pair.second.id}`;
    alike.set(key, [...(alike.get(key) ?? []), pair]);
  }
  return [...alike.entries()]
    .map(([, group]) => {
      const [one] = group;
      if (!one) return '';
      const { first, second, distanceM, roundS } = one;
      const numbers = group.map(
        (pair) => `${pair.first.id.slice(5)} and ${pair.second.id.slice(5)}`,
      );
      const names = /^wall \d+$/.test(first.id)
        ? `walls ${numbers.join(', ')}`
        : `${theSurface(room, first.id)} and ${theSurface(room, second.id)}`;
      return `${names} (${lengthText(distanceM, units)} apart, ${formatNumber(roundS * 1000, 0)} ms there and back)`;
    })
    .join('; ');
}

function fluttering(session: Session): Found[] {
  const room = roomOf(session);
  if (!room) return [];
  const { speed } = contextOf(session);
  const { units } = session.settings;
  const hard = facingPairs(room).flatMap((pair) => {
    const [a, b] = [pair.first.absorption, pair.second.absorption];
    // Under a high ceiling those who sit on the floor break it up.
    if (isFloorLike(pair.first) || isFloorLike(pair.second)) {
      if (pair.distanceM > LOW_CEILING_M) return [];
    }
    if (a === null || b === null || a > HARD || b > HARD) return [];
    const within = session.sources.filter((source) => isBetween(pair, source));
    if (within.length === 0) return [];
    // What is left after each way there and back, and how long that takes to fall by 60 dB.
    const roundS = (2 * pair.distanceM) / speed;
    const lossDb = -10 * Math.log10((1 - a) * (1 - b));
    const ringsS = lossDb > 1e-6 ? (60 / lossDb) * roundS : Infinity;
    return [{ ...pair, within, roundS, ringsS }];
  });
  // Only what rings on longer than the hall itself is heard in it.
  const hallS = midReverberationTime(session.venue.rt60S);
  const heard = hard.filter(({ ringsS }) => hallS === null || ringsS > 1.5 * hallS);
  const [worst] = [...heard].sort((a, b) => b.ringsS - a.ringsS);
  if (!worst) return [];
  const level = heard.some(({ first, second }) => first.id === 'floor' || second.id === 'floor');
  const ids = new Set(heard.flatMap(({ within }) => within.map(({ id }) => id)));
  return [
    {
      severity: 'note',
      message: `Hard and parallel, with players between: ${pairsInWords(room, heard, units)}. A clap there may flutter.`,
      sources: session.sources.filter(({ id }) => ids.has(id)),
      surfaces: [...new Set(heard.flatMap(({ first, second }) => [first.id, second.id]))],
      figures: {
        distanceM: worst.distanceM,
        roundMs: worst.roundS * 1000,
        pairs: heard.length,
      },
      size: heard.length,
      subject: 'flutter',
      todo: `Clap where the players sit. A curtain on one of the two, or a screen turned by 5°, stops it${level ? '; of floor and ceiling a carpet' : ''}.`,
    },
  ];
}

// Late answers

/** A balcony's front is looked at from this delay on; every other face from where the session hears echoes, ms. */
const BALCONY_FROM_MS = 15;
/** Softer than this against the direct sound nothing single is heard, dB. */
const LEAST_DB = -20;
/** Single sound stands out of the reverberation around it by so much, dB; and that is taken over so long, s. */
const STANDS_OUT_DB = 3;
const AROUND_S = 0.05;

/** What the reverberation brings at an array in 50 ms from a delay on, against the direct sound, dB; null where it is not known. */
function reverberationAround(
  session: Session,
  array: MicArray,
  source: Source,
  delayMs: number,
): number | null {
  const { criticalDistanceM, speed } = contextOf(session);
  const rt60S = midReverberationTime(session.venue.rt60S);
  if (criticalDistanceM === null || rt60S === null || rt60S <= 0) return null;
  const { weights, diffuse } = readyArray(array);
  const arrivals = arrivalsAt(array, source, speed);
  if (!arrivals || !weights.some((weight) => weight > 0)) return null;
  const wholeDb = -directToReverberantDb(arrivals, weights, diffuse, source.q, criticalDistanceM);
  const decay = (6 * Math.LN10) / rt60S;
  const share = Math.exp((-decay * delayMs) / 1000) * (1 - Math.exp(-decay * AROUND_S));
  return wholeDb + powerDb(share);
}

function lateAnswers(session: Session, main: MicArray, source: Source): Found[] {
  const room = roomOf(session);
  if (!room) return [];
  const planes = new Map(planesOf(room).map((plane) => [plane.id, plane]));
  const balconies = session.venue.obstacles
    .filter(({ kind }) => kind === 'balcony')
    .map(({ name }) => name.trim() || 'balcony');
  const isBalcony = (id: string): boolean => balconies.some((name) => id.startsWith(name));
  const found = reflectionsAtArray(session, main, source, 1).filter((reflection) => {
    const id = reflection.surfaces[0] ?? '';
    const plane = planes.get(id);
    if (!plane || isFloorLike(plane) || reflection.atNull) return false;
    const from = isBalcony(id) ? BALCONY_FROM_MS : session.settings.echoFromMs;
    if (reflection.delayMs < from || reflection.levelDb < LEAST_DB) return false;
    const around = reverberationAround(session, main, source, reflection.delayMs);
    // Where nobody knows how long the hall rings, only what is loud by itself is told.
    return around === null
      ? reflection.levelDb >= LEAST_DB + 10
      : reflection.levelDb >= around + STANDS_OUT_DB;
  });
  const [strongest] = found;
  if (!strongest) return [];
  const id = strongest.surfaces[0] ?? '';
  const { levelDb, delayMs, atMost } = strongest;
  const called = theSurface(room, id);
  const level = `${atMost ? 'up to ' : ''}${formatNumber(levelDb, 1)} dB after ${formatNumber(delayMs, 0)} ms`;
  const as = isBalcony(id) ? 'answers by itself' : 'is heard as an echo';
  return [
    {
      severity: 'note',
      message: `${capital(called)} ${as} of ${source.name} at ${main.name}: ${level}, above the reverberation around it.`,
      sources: [source],
      arrays: [main],
      surfaces: [id],
      figures: { levelDb, delayMs },
      size: levelDb - LEAST_DB + 0.5,
      todo: 'A curtain before it, or something that scatters, takes it away.',
      levers: () => [closer(session, main), lowered(session, main), raised(session, main)],
      cause: {
        key: `${main.id} late ${id}`,
        weight: levelDb,
        words: (all) =>
          `${capital(called)} ${as} of ${all.length} players at ${main.name}: ${namesOf(session, sourcesOf(all))}, the strongest with ${level}, above the reverberation around it.`,
      },
    },
  ];
}

// Corners

/** Nearer than this to two walls, low sound is loaded by both, m. */
const CORNER_M = 1;
/** What goes low enough for walls to load it. */
const LOW =
  /bass|cello|tuba|bassoon|timpan|trombone|drum|gamba|violone|organ|piano|harp$|marimba|tam/i;

function cornered(session: Session): Found[] {
  const room = roomOf(session);
  if (!room) return [];
  const { speed } = contextOf(session);
  const { units } = session.settings;
  const walls = planesOf(room).filter(
    ({ id, normal }) => Math.abs(normal.z) < 0.1 && (/^wall \d+$/.test(id) || !('faces' in room)),
  );
  return session.sources.flatMap((source): Found[] => {
    if (!LOW.test(`${source.kind} ${source.name}`)) return [];
    const near = walls
      .map((wall) => ({ wall, far: dot(wall.normal, source) - wall.offset }))
      .filter(({ far }) => far >= 0 && far < CORNER_M)
      .sort((a, b) => a.far - b.far)
      .slice(0, 2);
    const [first, second] = near;
    if (!first || !second) return [];
    const below = speed / (8 * second.far || 1);
    const belowHz = Math.min(400, Math.round(below / 10) * 10);
    return [
      {
        severity: 'note',
        message: `${source.name} is in a corner, ${lengthText(first.far, units)} from ${theSurface(room, first.wall.id)} and ${lengthText(second.far, units)} from ${theSurface(room, second.wall.id)}: below about ${formatNumber(belowHz, 0)} Hz hard walls add up to 6 dB to what it gives the hall.`,
        sources: [source],
        surfaces: [first.wall.id, second.wall.id],
        figures: { nearM: first.far, farM: second.far, belowHz },
        size: CORNER_M - second.far + 0.1,
        todo: 'Bring it out of the corner if the low notes bloom; leave it where they are thin.',
        levers: () => (source.widthM < 2 ? [seatAbout(session, source)] : []),
      },
    ];
  });
}

const forMains = (
  session: Session,
  look: (session: Session, main: MicArray, source: Source) => Found[],
): Found[] =>
  mainArrays(session)
    .filter(isKnown)
    .flatMap((main) => playersFor(session, main).flatMap((source) => look(session, main, source)));

export const HALL_ANSWER_RULES: readonly Rule[] = [
  {
    code: 'focus',
    evidence: 'reflections',
    basis: 'physics',
    severities: ['caution', 'note'],
    reason:
      'Curved and regular walls bring several reflections to one place at once (image sources; energy of both channels).',
    of: 'session',
    check: (session) => forMains(session, focussed),
  },
  {
    code: 'flutter',
    evidence: 'faces',
    basis: 'physics',
    severities: ['note'],
    reason:
      'Between hard parallel faces sound goes to and fro, and rings on after the rest of the hall is still.',
    of: 'session',
    check: fluttering,
  },
  {
    code: 'late-answer',
    evidence: 'reflections',
    basis: 'physics',
    severities: ['note'],
    reason:
      'A single late reflection is heard where it stands out of the reverberation around it by 3 dB (image sources; exponential decay; 50 ms).',
    of: 'session',
    check: (session) => forMains(session, lateAnswers),
  },
  {
    code: 'in-a-corner',
    evidence: 'faces',
    basis: 'physics',
    severities: ['note'],
    reason: 'Each hard wall nearer than an eighth of a wavelength doubles the power of low sound.',
    of: 'session',
    check: cornered,
  },
];
