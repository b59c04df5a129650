import type { MicArray, Source } from '../session/schema';
import { planDistance } from '../units/vector';
import { arrivalsAt } from './arrays';

type Role = MicArray['role'];

/** Whom an array of a role is for where nothing is chosen. */
const BY_ROLE: Readonly<Record<Role, 'everybody' | 'heard nearest' | 'below'>> = {
  main: 'everybody',
  outrigger: 'everybody',
  ambience: 'everybody',
  surround: 'everybody',
  spot: 'heard nearest',
  overhead: 'below',
};

/** The entry with the least cost; null of an empty list. */
function least<T>(list: readonly T[], cost: (entry: T) => number): T | null {
  let best: T | null = null;
  let lowest = Infinity;
  for (const entry of list) {
    const here = cost(entry);
    if (best === null || here < lowest) [best, lowest] = [entry, here];
  }
  return best;
}

/** How near a player is as a microphone hears it: its distance, longer away from where it looks. */
function heardDistance(array: MicArray, source: Source, speed: number): number {
  const arrivals = arrivalsAt(array, source, speed);
  if (!arrivals) return 0;
  return 1 / Math.max(...arrivals.map(({ gain }) => Math.abs(gain)), 1e-9);
}

interface Chosen {
  sources: readonly Source[];
  speed: number;
  players: readonly Source[];
}
const known = new WeakMap<MicArray, Chosen>();

/**
 * The players that an array is for, in the order of the list: those that were chosen; else by its
 * role everybody, for a spot the player whom it hears nearest whatever the level, for overheads the
 * instrument below. What it hears of others is spill.
 * @param sources all players; chosen ones that are gone are left out, and none left is none chosen
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function playersOf(
  array: MicArray,
  sources: readonly Source[],
  speed: number,
): readonly Source[] {
  const last = known.get(array);
  if (last?.sources === sources && last.speed === speed) return last.players;
  const players = find(array, sources, speed);
  known.set(array, { sources, speed, players });
  return players;
}

function find(array: MicArray, sources: readonly Source[], speed: number): readonly Source[] {
  const { for: whom } = array;
  if (whom?.kind === 'all') return sources;
  if (whom) {
    const [ids, groups] = [new Set(whom.sources), new Set(whom.groups)];
    const chosen = sources.filter(({ id, group }) => ids.has(id) || groups.has(group));
    if (chosen.length > 0) return chosen;
  }
  const usual = BY_ROLE[array.role];
  if (usual === 'everybody') return sources;
  const one =
    usual === 'below'
      ? least(sources, (source) => Math.max(0, planDistance(source, array) - source.widthM / 2))
      : least(sources, (source) => heardDistance(array, source, speed));
  if (!one) return [];
  // What hangs over one piece of a set hangs over the whole of it.
  const { pieceOf } = one;
  if (usual !== 'below' || !pieceOf) return [one];
  return sources.filter((source) => source.pieceOf?.id === pieceOf.id);
}

/**
 * The spots and overheads of a list that are for one player alone, or for pieces of its set alone.
 * @param sources all players
 * @param speed speed of sound, m/s
 * @throws RangeError where speed is outside 250 … 450 m/s
 */
export function arraysOnlyFor(
  source: Source,
  arrays: readonly MicArray[],
  sources: readonly Source[],
  speed: number,
): MicArray[] {
  return arrays.filter((array) => {
    if (BY_ROLE[array.role] === 'everybody') return false;
    const players = playersOf(array, sources, speed);
    return players.length > 0 && players.every((one) => ofOneSet(one, source));
  });
}

const ofOneSet = (a: Source, b: Source): boolean =>
  a.id === b.id || (a.pieceOf !== null && a.pieceOf.id === b.pieceOf?.id);

/**
 * "everybody", or the names of the players that an array is for; "nobody yet" without any.
 * @param speed speed of sound, 250 … 450 m/s
 */
export function forWhomText(array: MicArray, sources: readonly Source[], speed: number): string {
  const players = playersOf(array, sources, speed);
  if (players === sources || (sources.length > 1 && players.length === sources.length)) {
    return 'everybody';
  }
  if (players.length === 0) return 'nobody yet';
  const names = players.map(({ name, id }) => name || id);
  return names.length <= 3
    ? names.join(', ')
    : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;
}
