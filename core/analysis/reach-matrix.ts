import { arrivalsAt, readyArray, realGainOf } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import type { MicArray, Session, Source } from '../session/schema';
import { amplitudeDb } from '../units/guard';

/** One microphone of the matrix. */
export interface ReachColumn {
  arrayId: string;
  arrayName: string;
  label: string;
}

/** One piece at one microphone. */
export interface ReachCell {
  distanceM: number;
  /** way of the sound and delay of the channel, ms */
  arrivalMs: number;
  /** at the capsule, pattern included, dB SPL */
  levelDb: number;
  /** where its sum with the microphone that hears the piece loudest first cancels; null for that one */
  firstNullHz: number | null;
}

export interface ReachMatrix {
  columns: ReachColumn[];
  /** in the order of the sources; null at a capsule */
  rows: { sourceId: string; cells: (ReachCell | null)[] }[];
}

/** Later than this apart two arrivals have no null below 20 kHz, ms. */
const NO_NULL_MS = 0.025;

/**
 * Every piece at every microphone: how far, how late, how loud, and where it combs with the one that
 * hears the piece loudest.
 * @param arrays any arrays, in use or not
 * @param sources the pieces, in the order wanted
 */
export function reachMatrix(
  session: Session,
  arrays: readonly MicArray[],
  sources: readonly Source[],
): ReachMatrix {
  const { speed } = contextOf(session);
  const columns = arrays.flatMap((array) =>
    readyArray(array).capsules.map(({ label }) => ({
      arrayId: array.id,
      arrayName: array.name,
      label,
    })),
  );
  const rows = sources.map((source) => {
    const heard = arrays.flatMap((array) => {
      const { capsules, routes } = readyArray(array);
      const arrivals = arrivalsAt(array, source, speed);
      return capsules.map((_, i) => {
        const arrival = arrivals?.[i];
        return arrival
          ? {
              distanceM: arrival.timeS * speed,
              arrivalMs: arrival.timeS * 1000 + (routes[i]?.delayMs ?? 0),
              levelDb: source.levelDb + amplitudeDb(realGainOf(arrival, speed)),
            }
          : null;
      });
    });
    const loudest = heard.reduce<(typeof heard)[number]>(
      (best, cell) => (cell && (!best || cell.levelDb > best.levelDb) ? cell : best),
      null,
    );
    const cells = heard.map((cell): ReachCell | null => {
      if (!cell) return null;
      const apartMs = loudest ? Math.abs(cell.arrivalMs - loudest.arrivalMs) : 0;
      const firstNullHz = cell === loudest || apartMs < NO_NULL_MS ? null : 500 / apartMs;
      return { ...cell, firstNullHz };
    });
    return { sourceId: source.id, cells };
  });
  return { columns, rows };
}
