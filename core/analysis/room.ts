import { earlyReflections, type Reflection } from '../acoustics/reflections';
import { hallMeasures, roomOf, surfacesOf } from '../hall';
import { reverberationTimes, type BandTimes, type Surface } from '../acoustics/reverberation-time';
import { realGain, sensitivity } from '../acoustics/patterns';
import { pointsAt } from './edges-at';
import { powerDb } from '../units/guard';
import { clamp } from '../units/numbers';
import { broughtIntoFaces } from './into-faces';
import { dot, length, subtract, type Vec3 } from '../units/vector';
import { readyArray } from '../prepare/arrays';
import type { MicArray, Session, Source } from '../session/schema';
import { speedOfSound } from '../units/sound';

/** Where neither hall nor kit says it, no stand goes higher, m; and kept to a ceiling, m. */
const NO_CEILING_M = 12;
const CEILING_M = 0.3;

/** The highest that a microphone can be put: by the kit's stands and the hall, m. */
export function highestM({ kit, venue }: Pick<Session, 'kit' | 'venue'>): number {
  const stands = kit.stands.map(({ maxHeightM }) => maxHeightM);
  const ceiling = venue.heightM === null ? NO_CEILING_M : venue.heightM - CEILING_M;
  return Math.min(stands.length > 0 ? Math.max(...stands) : NO_CEILING_M, ceiling);
}

/** What is moved back into the hall is put so far from its walls, m. */
const CLEAR_M = 0.3;

function within(low: number, high: number, value: number): number | null {
  if (value >= low && value <= high) return null;
  const clear = Math.min(CLEAR_M, (high - low) / 2);
  return Math.round(clamp(value, low + clear, high - clear) * 1000) / 1000;
}

/**
 * The coordinates that have to change for a point to be in the hall, 0.3 m clear of its walls; none
 * where it is inside, or where the hall is not known. Of a hall whose place is not known only the
 * ceiling counts.
 */
export function broughtIn(
  session: Pick<Session, 'venue'>,
  { x, y, z }: Vec3,
): { x?: number; y?: number; z?: number } {
  const room = roomOf(session);
  const { heightM } = session.venue;
  if (!room) {
    const inZ = heightM === null || z < 0 ? null : within(0, heightM, z);
    return inZ === null ? {} : { z: inZ };
  }
  if ('faces' in room) return broughtIntoFaces(room, { x, y, z });
  const { min, max } = room;
  const [inX, inY, inZ] = [
    within(min.x, max.x, x),
    within(min.y, max.y, y),
    within(min.z, max.z, z),
  ];
  return {
    ...(inX === null ? {} : { x: inX }),
    ...(inY === null ? {} : { y: inY }),
    ...(inZ === null ? {} : { z: inZ }),
  };
}

/** Players and arrays that are not in the hall, as far as it is known. */
export function outsideHall({ venue, sources, arrays }: Session): {
  sources: Source[];
  arrays: MicArray[];
} {
  const out = (at: Vec3): boolean => Object.keys(broughtIn({ venue }, at)).length > 0;
  return { sources: sources.filter(out), arrays: arrays.filter(out) };
}

/**
 * Early reflections of a source at one capsule of an array.
 * @param capsuleIndex 0 … in the technique's order
 * @param order surfaces met on the way at most, 1 or 2
 * @returns null without a hall around both
 */
export function reflectionsAt(
  session: Session,
  array: MicArray,
  capsuleIndex: number,
  source: Source,
  order: 1 | 2 = 2,
): Reflection[] | null {
  const room = roomOf(session);
  const capsule = readyArray(array).capsules[capsuleIndex];
  if (!room || !capsule) return null;
  return earlyReflections(room, source, capsule, speedOfSound(session.venue.temperatureC), order);
}

/** An early reflection at an array as a whole, its times those at the capsule that hears it most. */
export interface HeardReflection extends Reflection {
  capsule: string;
  /** the source lies in a null of every capsule: the direct sound is what a real null leaves */
  atNull: boolean;
}

/** Each capsule's part in an array's energy; all alike where the mix gives none of them any. */
function weightsOf({ weights }: { weights: readonly number[] }): readonly number[] {
  return weights.some((weight) => weight > 0) ? weights : weights.map(() => 1);
}

/**
 * Early reflections of a source at an array: each way over the surfaces once, its energy over all
 * capsules against that of the direct sound, strongest first. A wide source's direct sound is the
 * mean over its ends and middle. Empty without a hall around both.
 */
export function reflectionsAtArray(
  session: Session,
  array: MicArray,
  source: Source,
  order: 1 | 2 = 2,
): HeardReflection[] {
  const ready = readyArray(array);
  const weights = weightsOf(ready);
  const heard = ready.capsules.map((_, i) => reflectionsAt(session, array, i, source, order) ?? []);
  const [first] = heard;
  if (!first || first.length === 0) return [];
  const points = pointsAt(ready, source);
  let [direct, exact] = [0, 0];
  for (const point of points) {
    ready.capsules.forEach(({ position, axis, patternA }, i) => {
      const line = subtract(point, position);
      const pathM = Math.max(length(line), 0.01);
      const gain = sensitivity(patternA, dot(line, axis) / pathM) / pathM;
      direct += ((weights[i] ?? 0) * realGain(gain, pathM) ** 2) / points.length;
      exact += ((weights[i] ?? 0) * gain * gain) / points.length;
    });
  }
  const ways = new Map<string, { energy: number; most: HeardReflection }>();
  heard.forEach((list, i) => {
    for (const reflection of list) {
      const way = reflection.surfaces.join();
      const known = ways.get(way);
      const capsule = ready.capsules[i]?.label ?? '';
      const energy = (known?.energy ?? 0) + (weights[i] ?? 0) * reflection.gain ** 2;
      const most =
        known && Math.abs(known.most.gain) >= Math.abs(reflection.gain)
          ? known.most
          : { ...reflection, capsule, atNull: exact < direct / 2 };
      ways.set(way, { energy, most });
    }
  });
  return [...ways.values()]
    .map(({ energy, most }) => ({ ...most, levelDb: powerDb(energy / direct) }))
    .sort((a, b) => b.levelDb - a.levelDb);
}

export type RoomTimes =
  | { kind: 'times'; bands: BandTimes[] }
  /** surfaces whose absorption is not known, or the hall's size */
  | { kind: 'missing'; what: string[] };

const HUMIDITY_PCT = 50;

/** Reverberation time from the hall's surfaces, by octave band, or what is missing for it. */
export function reverberationFromSurfaces({ venue }: Pick<Session, 'venue'>): RoomTimes {
  const measures = hallMeasures(venue);
  const middle = surfacesOf(venue, 1000);
  if (!measures || !middle) return { kind: 'missing', what: ['size of the hall'] };
  const unknown = middle.filter(({ absorption }) => absorption === null).map(({ id }) => id);
  if (unknown.length > 0) return { kind: 'missing', what: unknown };
  const usual = new Map(middle.map(({ id, absorption }) => [id, absorption ?? 0]));
  const surfacesAt = (frequencyHz: number): Surface[] =>
    (surfacesOf(venue, frequencyHz) ?? []).map(({ id, areaM2, absorption }) => ({
      areaM2,
      absorption: absorption ?? usual.get(id) ?? 0,
    }));
  return {
    kind: 'times',
    bands: reverberationTimes(measures.volumeM3, surfacesAt, venue.temperatureC, HUMIDITY_PCT),
  };
}
