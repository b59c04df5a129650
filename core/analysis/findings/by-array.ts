import type { MicArray, Session } from '../../session/schema';
import type { GainRow } from '../gain';

/** Channels of one array and kind together: one sentence an array. */
export function byArray(rows: readonly GainRow[]): GainRow[][] {
  const groups = new Map<string, GainRow[]>();
  for (const row of rows) groups.set(row.arrayId, [...(groups.get(row.arrayId) ?? []), row]);
  return [...groups.values()];
}

/** An array by its id; undefined where there is none. */
export const arrayOf = (session: Session, id: string | undefined): MicArray | undefined =>
  session.arrays.find((array) => array.id === id);
