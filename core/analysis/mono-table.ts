import { coherentMono, coherentResponse } from '../acoustics/coherent-mono';
import type { MonoBand } from '../acoustics/mono';
import { monoWaves, nearArrivals } from '../localisation/cues';
import type { PreparedArray } from '../localisation/prepared-array';
import { readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import { knownArrays } from '../session/lists';
import type { Session, Source } from '../session/schema';
import type { Vec3 } from '../units/vector';
import { edgesAt } from './edges-at';
import { prepareMix } from './mix';

/** What mono leaves of one player, or of one end of a wide one. */
export interface MonoRow {
  sourceId: string;
  part: 'whole' | 'middle' | 'left end' | 'right end';
  /** mean over 100 Hz … 10 kHz against the power of both channels, dB */
  sumDb: number;
  /** null where nothing comes to nothing */
  firstNullHz: number | null;
  /** peak to dip of the comb, dB, at most 60 */
  rippleDb: number;
  bands: MonoBand[];
}

/** Ends by the array's own left and right. */
function partsOf(ready: PreparedArray, source: Source): { part: MonoRow['part']; at: Vec3 }[] {
  if (source.widthM === 0) return [{ part: 'whole', at: source }];
  const [left, right] = edgesAt(ready, source);
  return [
    { part: 'left end', at: left },
    { part: 'middle', at: source },
    { part: 'right end', at: right },
  ];
}

/**
 * The mono sum of every player, with all pans, gains, polarities and delays.
 * @param arrayId one array alone; null: the whole mix of what is heard
 * @returns nothing at a capsule, and nothing for an array that is not in use
 */
export function* monoRows(
  session: Session,
  arrayId: string | null,
): Generator<number, MonoRow[], undefined> {
  const array = knownArrays(session).find(({ id }) => id === arrayId);
  const ready = arrayId === null ? prepareMix(session) : array ? readyArray(array) : null;
  if (!ready) return [];
  const { speed } = contextOf(session);
  const rows: MonoRow[] = [];
  for (const [i, source] of session.sources.entries()) {
    for (const { part, at } of partsOf(ready, source)) {
      const arrivals = nearArrivals(ready, at, speed);
      if (!arrivals) continue;
      const waves = monoWaves(ready, arrivals);
      const { sumDb, firstNotchHz, combDb } = coherentMono(waves);
      rows.push({
        sourceId: source.id,
        part,
        sumDb,
        firstNullHz: firstNotchHz,
        rippleDb: combDb,
        bands: coherentResponse(waves),
      });
    }
    yield (i + 1) / session.sources.length;
  }
  return rows;
}
