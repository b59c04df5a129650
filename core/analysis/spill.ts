import { arrivalsAt, readyArray, realGainOf } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import { remembered } from '../units/remember';
import { sourceEdges } from '../ensembles/extent';
import { nearArrivals } from '../localisation/cues';
import type { MicArray, Session, Source } from '../session/schema';
import { amplitudeDb, inRange } from '../units/guard';
import { nearestOnStretch } from '../units/geometry';
import { add, distance, scale, subtract, type Vec3 } from '../units/vector';
import { heardArrays } from './mix';

/** One microphone: a capsule of an array. */
export interface SpillRow {
  arrayId: string;
  arrayName: string;
  role: MicArray['role'];
  label: string;
  position: Vec3;
  /** of the players that its array is for, the one it hears loudest */
  ownSourceId: string | null;
  /** level of each source, dB against its own source (0 for that one); null at the capsule */
  spillDb: Record<string, number | null>;
}

/** Each source in each heard microphone: patterns, distances, levels and gains included. */
export const spillMatrix: (session: Session) => readonly SpillRow[] = remembered((session) => {
  const { speed } = contextOf(session);
  return heardArrays(session).flatMap((array) => {
    const ready = readyArray(array);
    const players = new Set(playersOf(array, session.sources, speed).map(({ id }) => id));
    return ready.capsules.map((capsule, index) => {
      const levels = session.sources.map((source) => {
        const arrival = arrivalsAt(array, source, speed)?.[index];
        return {
          id: source.id,
          db: arrival ? source.levelDb + amplitudeDb(realGainOf(arrival, speed)) : null,
        };
      });
      const known = levels.filter(
        (level): level is { id: string; db: number } => level.db !== null,
      );
      const theirs = known.filter(({ id }) => players.has(id));
      const own = (theirs.length > 0 ? theirs : known).reduce<{ id: string; db: number } | null>(
        (best, level) => (!best || level.db > best.db ? level : best),
        null,
      );
      return {
        arrayId: array.id,
        arrayName: array.name,
        role: array.role,
        label: capsule.label,
        position: capsule.position,
        ownSourceId: own?.id ?? null,
        spillDb: Object.fromEntries(
          levels.map(({ id, db }) => [id, db === null || !own ? null : db - own.db]),
        ),
      };
    });
  });
});

/** The 3:1 rule for two separate microphones, and what really spills over. */
export interface ThreeToOne {
  firstArrayId: string;
  secondArrayId: string;
  /** distance between the microphones over the larger of both working distances */
  ratio: number;
  /** the louder spill of the two: the other's source against the own one, dB */
  spillDb: number;
  /** peak-to-dip ripple that this spill makes when both are mixed at equal level, dB */
  rippleDb: number;
}

/**
 * Peak to dip of a sum of one signal with a weaker copy of itself, dB; at most 60.
 * @throws RangeError where spillDb is outside −240 … 240 dB
 */
export function rippleDb(spillDb: number): number {
  inRange('spillDb', spillDb, -240, 240, 'dB');
  const q = 10 ** (-Math.abs(spillDb) / 20);
  return q > 0.998 ? 60 : 20 * Math.log10((1 + q) / (1 - q));
}

/** Where a microphone listens to a source: of a wide one, the part that is nearest to it. */
function partOf(source: Source, position: Vec3): Vec3 {
  if (source.widthM === 0) return source;
  const [a, b] = sourceEdges(source, position);
  const { fraction } = nearestOnStretch(position, a, b);
  return add(a, scale(subtract(b, a), fraction));
}

/** Two parts of one instrument closer than this are one, m. */
const ONE_PART_M = 0.1;

/**
 * Every two spots that are for different sources, or for different parts of a wide one: two string
 * groups of a piano under two microphones. The worst two capsules speak for two arrays; a pair
 * inside one array is not judged by this rule: its mono sum is.
 */
export const threeToOne: (session: Session) => readonly ThreeToOne[] = remembered((session) => {
  const { speed } = contextOf(session);
  const sources = new Map(session.sources.map((source) => [source.id, source]));
  const arrays = new Map(session.arrays.map((array) => [array.id, array]));
  const spots = spillMatrix(session).filter(({ role }) => role === 'spot');
  const worst = new Map<string, ThreeToOne>();
  spots.forEach((first, i) => {
    for (const second of spots.slice(i + 1)) {
      const [a, b] = [sources.get(first.ownSourceId ?? ''), sources.get(second.ownSourceId ?? '')];
      if (!a || !b || first.arrayId === second.arrayId) continue;
      const [partA, partB] = [partOf(a, first.position), partOf(b, second.position)];
      if (a === b && distance(partA, partB) < ONE_PART_M) continue;
      const working = Math.max(distance(first.position, partA), distance(second.position, partB));
      const [one, other] = [arrays.get(first.arrayId), arrays.get(second.arrayId)];
      if (!one || !other) continue;
      const partSpill = (array: MicArray, label: string, own: Vec3, foreign: Vec3): number => {
        const level = (point: Vec3): number => {
          const index = readyArray(array).capsules.findIndex((capsule) => capsule.label === label);
          const arrival = nearArrivals(readyArray(array), point, speed)?.[index];
          return arrival ? amplitudeDb(realGainOf(arrival, speed)) : 0;
        };
        return level(foreign) - level(own);
      };
      const spillDb =
        a === b
          ? Math.max(
              partSpill(one, first.label, partA, partB),
              partSpill(other, second.label, partB, partA),
            )
          : Math.max(first.spillDb[b.id] ?? -120, second.spillDb[a.id] ?? -120);
      const found = {
        firstArrayId: first.arrayId,
        secondArrayId: second.arrayId,
        ratio: distance(first.position, second.position) / Math.max(working, 0.01),
        spillDb,
        rippleDb: rippleDb(spillDb),
      };
      const key = `${first.arrayId} ${second.arrayId}`;
      const known = worst.get(key);
      if (!known || found.ratio < known.ratio) worst.set(key, found);
    }
  });
  return [...worst.values()];
});
