import { ROOM_SURFACES, type Reflection, type RoomSurface } from '../../acoustics/reflections';
import { readyArray } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import { distance, type Vec3 } from '../../units/vector';
import { closer, lowered } from './levers';
import { seatAbout } from './seat-levers';
import { isKnown, mainArrays } from '../../session/lists';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber, lengthText } from '../../units/format';
import { reflectionsAtArray, shoeboxOf, type HeardReflection } from '../room';
import { firstOf, namesOf, sourcesOf, type Found, type Rule } from './finding';

/** Stronger than this against the direct sound is heard as a colour, dB. */
const STRONG_DB = -8;
/** The wall nearest to a player, when as near as this, is named from less on. */
const NEAR_WALL_M = 1;
const NEAR_WALL_DB = -12;
/** What comes later is the room's answer, not a comb, ms. */
const EARLY_MS = 15;

/** As the hall's own page calls them: nobody need know which wall is the front one. */
const SURFACE_WORDS: Readonly<Record<RoomSurface, string>> = {
  left: 'left wall',
  right: 'right wall',
  front: 'wall behind the audience',
  back: 'wall behind the stage',
  floor: 'floor',
  ceiling: 'ceiling',
};
const ANSWERING = ROOM_SURFACES.filter((surface) => surface !== 'floor');
const surfaceName = (surface: RoomSurface): string => SURFACE_WORDS[surface];

/** What is done about a surface that no change of the plan takes away. */
const softened = (surface: RoomSurface): string =>
  surface === 'ceiling'
    ? 'Something absorbing hung above the players takes it away.'
    : 'A curtain or a screen before it takes it away.';

/** How far something is from a wall, m. */
function distanceTo(session: Session, at: Vec3, surface: RoomSurface): number {
  const room = shoeboxOf(session);
  if (!room) return Infinity;
  const { min, max } = room;
  const by: Record<RoomSurface, number> = {
    left: at.x - min.x,
    right: max.x - at.x,
    front: at.y - min.y,
    back: max.y - at.y,
    floor: at.z - min.z,
    ceiling: max.z - at.z,
  };
  return by[surface];
}

interface Answer {
  surface: RoomSurface;
  reflection: HeardReflection;
  distanceM: number;
}

/**
 * Whether any surface but the floor answers as early as that at some capsule: the way over it is
 * longer than the straight one by at least that of the array's middle, less its size.
 */
function mayAnswer(session: Session, array: MicArray, source: Source): boolean {
  const { speed } = contextOf(session);
  const size = Math.max(...readyArray(array).capsules.map((of) => distance(of.position, array)));
  const straightM = distance(source, array);
  const latestM = straightM + (EARLY_MS / 1000) * speed + 2 * size;
  return ANSWERING.some((surface) => {
    const [near, far] = [source, array].map((at) => distanceTo(session, at, surface));
    const along = straightM ** 2 - ((near ?? 0) - (far ?? 0)) ** 2;
    return Math.sqrt(Math.max(0, along) + ((near ?? 0) + (far ?? 0)) ** 2) < latestM;
  });
}

/** The strongest early answer to a player, and that of the wall beside it; the floor is always there. */
function answersTo(session: Session, array: MicArray, source: Source): Answer[] {
  if (!mayAnswer(session, array, source)) return [];
  const early = reflectionsAtArray(session, array, source, 1).flatMap((reflection): Answer[] => {
    const [surface] = reflection.surfaces;
    return !surface || surface === 'floor' || reflection.delayMs >= EARLY_MS
      ? []
      : [{ surface, reflection, distanceM: distanceTo(session, source, surface) }];
  });
  const [strongest] = early;
  const nearest = [...early].sort((a, b) => a.distanceM - b.distanceM)[0];
  const told: Answer[] = [];
  if (strongest && strongest.reflection.levelDb >= STRONG_DB) told.push(strongest);
  if (
    nearest &&
    nearest !== strongest &&
    nearest.distanceM < NEAR_WALL_M &&
    nearest.reflection.levelDb >= NEAR_WALL_DB
  ) {
    told.push(nearest);
  }
  return told;
}

const levelOf = ({ levelDb, delayMs, atMost }: Reflection): string =>
  `${atMost ? 'up to ' : ''}${formatNumber(levelDb, 1)} dB after ${formatNumber(delayMs, 1)} ms`;

function answered(session: Session, main: MicArray, source: Source, answer: Answer): Found {
  const { surface, reflection, distanceM } = answer;
  const { levelDb, delayMs, firstNotchHz, atNull } = reflection;
  const level = levelOf(reflection);
  const beside =
    distanceM < NEAR_WALL_M ? `, ${lengthText(distanceM, session.settings.units)} from it` : '';
  const direct = atNull
    ? ` It lies in a null of ${main.name}: the direct sound counts as 25 dB down.`
    : '';
  return {
    severity: 'note',
    message: `${source.name}${beside}: the ${surfaceName(surface)} answers with ${level} at ${main.name}, a comb from ${formatNumber(firstNotchHz, 0)} Hz.${direct}`,
    sources: [source],
    arrays: [main],
    figures: { levelDb, delayMs, firstNotchHz },
    size: levelDb - NEAR_WALL_DB + 0.5,
    todo: softened(surface),
    levers: () => [
      closer(session, main),
      ...(surface === 'ceiling' ? [lowered(session, main)] : []),
      ...(distanceM < NEAR_WALL_M && source.widthM < 2 ? [seatAbout(session, source)] : []),
    ],
    cause: {
      key: `${main.id} ${surface}`,
      weight: levelDb,
      words: (all) =>
        `The ${surfaceName(surface)} answers ${all.length} players strongly at ${main.name}: ${namesOf(session, sourcesOf(all))}, the worst with ${level}, a comb from ${formatNumber(firstOf(all, 'firstNotchHz'), 0)} Hz.`,
    },
  };
}

export const REFLECTION_RULES: readonly Rule[] = [
  {
    code: 'strong-reflection',
    evidence: 'reflections',
    basis: 'physics',
    severities: ['note'],
    reason:
      'A strong early reflection makes a comb with the direct sound (image sources; energy of both channels).',
    of: 'session',
    check: (session) =>
      mainArrays(session)
        .filter(isKnown)
        .flatMap((main) =>
          session.sources.flatMap((source) =>
            answersTo(session, main, source).map((answer) =>
              answered(session, main, source, answer),
            ),
          ),
        ),
  },
];
