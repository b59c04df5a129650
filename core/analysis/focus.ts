import type { Arrival } from '../localisation/cues';
import type { PreparedArray } from '../localisation/prepared-array';
import { nearArrivals } from '../localisation/cues';
import { focusOf, type Focus, type StereoWave } from '../localisation/listener';
import { readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { knownArrays } from '../session/lists';
import type { Session } from '../session/schema';
import { prepareMix } from './mix';

/** What the bands say of one player. */
export interface FocusRow {
  sourceId: string;
  /** null at a capsule, and where nothing is heard */
  focus: Focus | null;
}

function stereoWaves({ routes }: PreparedArray, arrivals: readonly Arrival[]): StereoWave[] {
  return arrivals.flatMap(({ gain, timeS }, i) => {
    const route = routes[i];
    if (!route) return [];
    const { left, right, delayMs } = route;
    return [{ left: gain * left, right: gain * right, timeS: timeS + delayMs / 1000 }];
  });
}

/**
 * Low, middle and high place of every player, as a listener between the loudspeakers has them of
 * steady sound. Yields the fraction done, 0 … 1.
 * @param arrayId one array alone; null: the whole mix of what is heard
 * @returns nothing for an array that is not in use
 */
export function* focusRows(
  session: Session,
  arrayId: string | null,
): Generator<number, FocusRow[], undefined> {
  const array = knownArrays(session).find(({ id }) => id === arrayId);
  const ready = arrayId === null ? prepareMix(session) : array ? readyArray(array) : null;
  if (!ready) return [];
  const { speed } = contextOf(session);
  const rows: FocusRow[] = [];
  for (const [index, source] of session.sources.entries()) {
    const arrivals = nearArrivals(ready, source, speed);
    const focus = arrivals && focusOf(stereoWaves(ready, arrivals));
    rows.push({ sourceId: source.id, focus });
    if (index % 20 === 19) yield index / session.sources.length;
  }
  return rows;
}
