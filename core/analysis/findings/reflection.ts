import type { Reflection, Room, RoomSurface } from '../../acoustics/reflections';
import { readyArray } from '../../prepare/arrays';
import { contextOf } from '../../prepare/context';
import { distance, dot, type Vec3 } from '../../units/vector';
import { closer, lowered } from './levers';
import { seatAbout } from './seat-levers';
import { isKnown, mainArrays } from '../../session/lists';
import type { MicArray, Session, Source } from '../../session/schema';
import { formatNumber, lengthText } from '../../units/format';
import { isFloorLike, roomOf, theSurface } from '../../hall';
import { reflectionsAtArray, type HeardReflection } from '../room';
import { firstOf, namesOf, sourcesOf, type Found, type Rule } from './finding';

/** Stronger than this against the direct sound is heard as a colour, dB. */
const STRONG_DB = -8;
/** The wall nearest to a player, when as near as this, is named from less on. */
const NEAR_WALL_M = 1;
const NEAR_WALL_DB = -12;
/** What comes later is the room's answer, not a comb, ms. */
const EARLY_MS = 15;

const isCeiling = (surface: RoomSurface): boolean => surface.startsWith('ceiling');

/** What is done about a surface that no change of the plan takes away. */
const softened = (surface: RoomSurface): string =>
  isCeiling(surface)
    ? 'Something absorbing hung above the players takes it away.'
    : 'A curtain or a screen before it takes it away.';

/** Every surface but the floor: its name, and how far a point is before it, m. */
function answering(room: Room): { surface: RoomSurface; far: (at: Vec3) => number }[] {
  if ('faces' in room) {
    return room.faces
      .filter((face) => face.reflects && !isFloorLike(face))
      .map(({ id, normal, offset }) => ({ surface: id, far: (at) => dot(normal, at) - offset }));
  }
  const { min, max } = room;
  return [
    { surface: 'left', far: ({ x }) => x - min.x },
    { surface: 'right', far: ({ x }) => max.x - x },
    { surface: 'front', far: ({ y }) => y - min.y },
    { surface: 'back', far: ({ y }) => max.y - y },
    { surface: 'ceiling', far: ({ z }) => max.z - z },
  ];
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
  const room = roomOf(session);
  if (!room) return false;
  const size = Math.max(...readyArray(array).capsules.map((of) => distance(of.position, array)));
  const straightM = distance(source, array);
  const latestM = straightM + (EARLY_MS / 1000) * speed + 2 * size;
  return answering(room).some(({ far: farFrom }) => {
    const [near, far] = [farFrom(source), farFrom(array)];
    if (near < 0 && 'faces' in room) return false;
    const along = straightM ** 2 - (near - far) ** 2;
    return Math.sqrt(Math.max(0, along) + (near + far) ** 2) < latestM;
  });
}

/** The strongest early answer to a player, and that of the wall beside it; the floor is always there. */
function answersTo(session: Session, array: MicArray, source: Source): Answer[] {
  const room = roomOf(session);
  if (!room || !mayAnswer(session, array, source)) return [];
  const surfaces = new Map(answering(room).map(({ surface, far }) => [surface, far]));
  const early = reflectionsAtArray(session, array, source, 1).flatMap((reflection): Answer[] => {
    const [surface] = reflection.surfaces;
    const far = surface === undefined ? undefined : surfaces.get(surface);
    return !surface || !far || reflection.delayMs >= EARLY_MS
      ? []
      : [{ surface, reflection, distanceM: far(source) }];
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
  const called = theSurface(roomOf(session), surface);
  const beside =
    distanceM < NEAR_WALL_M ? `, ${lengthText(distanceM, session.settings.units)} from it` : '';
  const direct = atNull
    ? ` It lies in a null of ${main.name}: the direct sound counts as 25 dB down.`
    : '';
  return {
    severity: 'note',
    message: `${source.name}${beside}: ${called} answers with ${level} at ${main.name}, a comb from ${formatNumber(firstNotchHz, 0)} Hz.${direct}`,
    sources: [source],
    arrays: [main],
    surfaces: [surface],
    figures: { levelDb, delayMs, firstNotchHz },
    size: levelDb - NEAR_WALL_DB + 0.5,
    todo: softened(surface),
    levers: () => [
      closer(session, main),
      ...(isCeiling(surface) ? [lowered(session, main)] : []),
      ...(distanceM < NEAR_WALL_M && source.widthM < 2 ? [seatAbout(session, source)] : []),
    ],
    cause: {
      key: `${main.id} ${surface}`,
      weight: levelDb,
      words: (all) =>
        `${called.charAt(0).toUpperCase()}${called.slice(1)} answers ${all.length} players strongly at ${main.name}: ${namesOf(session, sourcesOf(all))}, the worst with ${level}, a comb from ${formatNumber(firstOf(all, 'firstNotchHz'), 0)} Hz.`,
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
