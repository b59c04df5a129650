import { arrivalsAt, readyArray, realGainOf } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { playersOf } from '../prepare/for-whom';
import { remembered } from '../units/remember';
import { sourceEdges } from '../ensembles/extent';
import { stripsOf } from '../arrays/routing';
import type { MicArray, Session, Source } from '../session/schema';
import { clamp } from '../units/numbers';
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
  /** place in the technique's order */
  capsule: number;
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
        capsule: index,
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
  /** peak-to-dip ripple of the player who suffers more, as both are mixed: strips and faders, dB */
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

/** Level of each player as a microphone brings it to the mix, dB: with its strip and fader. */
function mixedLevels(session: Session): Map<string, Map<string, number>[]> {
  const { speed } = contextOf(session);
  return new Map(
    heardArrays(session).map((array) => {
      const strips = stripsOf(array.technique, array.mix.capsules);
      const levels = readyArray(array).capsules.map((_, i) => {
        const gainDb = array.mix.faderDb + (strips[i]?.gainDb ?? 0);
        return new Map(
          session.sources.flatMap((source): [string, number][] => {
            const arrival = arrivalsAt(array, source, speed)?.[i];
            return arrival
              ? [[source.id, gainDb + source.levelDb + amplitudeDb(realGainOf(arrival, speed))]]
              : [];
          }),
        );
      });
      return [array.id, levels];
    }),
  );
}

/**
 * Every two spots that are for different players. The worst two capsules speak for two arrays; two
 * microphones of one player are no such pair, nor are those of one array: their mono sum is judged.
 */
export const threeToOne: (session: Session) => readonly ThreeToOne[] = remembered((session) => {
  const sources = new Map(session.sources.map((source) => [source.id, source]));
  const levels = mixedLevels(session);
  const spots = spillMatrix(session).filter(({ role }) => role === 'spot');
  const worst = new Map<string, ThreeToOne>();
  spots.forEach((first, i) => {
    for (const second of spots.slice(i + 1)) {
      const [a, b] = [sources.get(first.ownSourceId ?? ''), sources.get(second.ownSourceId ?? '')];
      if (!a || !b || a === b || first.arrayId === second.arrayId) continue;
      const working = Math.max(
        distance(first.position, partOf(a, first.position)),
        distance(second.position, partOf(b, second.position)),
      );
      const spillDb = Math.max(first.spillDb[b.id] ?? -120, second.spillDb[a.id] ?? -120);
      const inMix = ({ arrayId, capsule }: SpillRow, { id }: Source): number =>
        levels.get(arrayId)?.[capsule]?.get(id) ?? -120;
      const leaks = [a, b].map((source) =>
        clamp(inMix(first, source) - inMix(second, source), -240, 240),
      );
      const found = {
        firstArrayId: first.arrayId,
        secondArrayId: second.arrayId,
        ratio: distance(first.position, second.position) / Math.max(working, 0.01),
        spillDb,
        rippleDb: Math.max(...leaks.map(rippleDb)),
      };
      const key = `${first.arrayId} ${second.arrayId}`;
      const known = worst.get(key);
      if (!known || found.ratio < known.ratio) worst.set(key, found);
    }
  });
  return [...worst.values()];
});

/** Where a microphone listens to a source: of a wide one, the part that is nearest to it. */
function partOf(source: Source, position: Vec3): Vec3 {
  if (source.widthM === 0) return source;
  const [a, b] = sourceEdges(source, position);
  const { fraction } = nearestOnStretch(position, a, b);
  return add(a, scale(subtract(b, a), fraction));
}
