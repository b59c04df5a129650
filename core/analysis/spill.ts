import { arrivalsAt, readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { remembered } from '../units/remember';
import type { MicArray, Session } from '../session/schema';
import { amplitudeDb, inRange } from '../units/guard';
import { length, subtract, type Vec3 } from '../units/vector';
import { heardArrays } from './mix';

/** One microphone: a capsule of an array. */
export interface SpillRow {
  arrayId: string;
  arrayName: string;
  role: MicArray['role'];
  label: string;
  position: Vec3;
  /** the source it hears loudest, which it is taken to be for */
  ownSourceId: string | null;
  /** level of each source, dB against its own source (0 for that one); null at the capsule */
  spillDb: Record<string, number | null>;
}

/** Each source in each heard microphone: patterns, distances, levels and gains included. */
export const spillMatrix: (session: Session) => readonly SpillRow[] = remembered((session) => {
  const { speed } = contextOf(session);
  return heardArrays(session).flatMap((array) => {
    const ready = readyArray(array);
    return ready.capsules.map((capsule, index) => {
      const levels = session.sources.map((source) => {
        const gain = arrivalsAt(array, source, speed)?.[index]?.gain;
        return {
          id: source.id,
          db: gain === undefined ? null : source.levelDb + amplitudeDb(gain),
        };
      });
      const known = levels.filter(
        (level): level is { id: string; db: number } => level.db !== null,
      );
      const own = known.reduce<{ id: string; db: number } | null>(
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

/**
 * Every two spot microphones that are for different sources. A pair inside one array is not
 * judged by this rule: its mono sum is.
 */
export function threeToOne(session: Session): ThreeToOne[] {
  const sources = new Map(session.sources.map((source) => [source.id, source]));
  const spots = spillMatrix(session).filter(({ role }) => role === 'spot');
  return spots.flatMap((first, i) =>
    spots.slice(i + 1).flatMap((second) => {
      const [a, b] = [sources.get(first.ownSourceId ?? ''), sources.get(second.ownSourceId ?? '')];
      if (!a || !b || a === b || first.arrayId === second.arrayId) return [];
      const working = Math.max(
        length(subtract(first.position, a)),
        length(subtract(second.position, b)),
      );
      const spillDb = Math.max(first.spillDb[b.id] ?? -120, second.spillDb[a.id] ?? -120);
      return {
        firstArrayId: first.arrayId,
        secondArrayId: second.arrayId,
        ratio: length(subtract(first.position, second.position)) / Math.max(working, 0.01),
        spillDb,
        rippleDb: rippleDb(spillDb),
      };
    }),
  );
}
