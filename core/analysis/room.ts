import { mean } from 'd3-array';
import {
  earlyReflections,
  ROOM_SURFACES,
  type Reflection,
  type RoomSurface,
  type Shoebox,
} from '../acoustics/reflections';
import { reverberationTimes, type BandTimes, type Surface } from '../acoustics/reverberation-time';
import { readyArray } from '../prepare/arrays';
import { remembered } from '../units/remember';
import type { MicArray, Session, Source, Venue } from '../session/schema';
import { speedOfSound } from '../units/sound';

type Absorption = Venue['surfaces'][number]['absorption'];

function atFrequency(absorption: Absorption, frequencyHz: number): number | null {
  return typeof absorption === 'number' ? absorption : (absorption[`${frequencyHz}`] ?? null);
}

function meanAbsorption(venue: Venue, surface: RoomSurface, frequencyHz: number): number | null {
  const values = venue.surfaces
    .filter((entry) => entry.surface === surface)
    .flatMap((entry) => atFrequency(entry.absorption, frequencyHz) ?? []);
  return mean(values) ?? null;
}

/** The hall as a shoebox in the plan frame; null while its size or its place is not known. */
export const shoeboxOf = ({ venue }: Pick<Session, 'venue'>): Shoebox | null => boxOf(venue);

const boxOf = remembered((venue: Venue): Shoebox | null => {
  const { widthM, depthM, heightM, origin } = venue;
  if (widthM === null || depthM === null || heightM === null || origin === null) return null;
  const left = -origin.x;
  const front = -origin.y;
  const absorption = Object.fromEntries(
    ROOM_SURFACES.map((surface) => [surface, meanAbsorption(venue, surface, 1000)]),
  ) as Shoebox['absorption'];
  return {
    min: { x: left, y: front, z: 0 },
    max: { x: left + widthM, y: front + depthM, z: heightM },
    absorption,
  };
});

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
  const room = shoeboxOf(session);
  const capsule = readyArray(array).capsules[capsuleIndex];
  if (!room || !capsule) return null;
  return earlyReflections(room, source, capsule, speedOfSound(session.venue.temperatureC), order);
}

/** An early reflection with the capsule that hears it strongest. */
export interface HeardReflection extends Reflection {
  capsule: string;
}

/**
 * Early reflections of a source at an array: each way over the surfaces once, at the capsule that
 * hears it strongest, strongest first. Empty without a hall around both.
 */
export function reflectionsAtArray(
  session: Session,
  array: MicArray,
  source: Source,
  order: 1 | 2 = 2,
): HeardReflection[] {
  const best = new Map<string, HeardReflection>();
  readyArray(array).capsules.forEach(({ label }, index) => {
    for (const reflection of reflectionsAt(session, array, index, source, order) ?? []) {
      const way = reflection.surfaces.join();
      const known = best.get(way);
      if (!known || reflection.levelDb > known.levelDb) {
        best.set(way, { ...reflection, capsule: label });
      }
    }
  });
  return [...best.values()].sort((a, b) => b.levelDb - a.levelDb);
}

export type RoomTimes =
  | { kind: 'times'; bands: BandTimes[] }
  /** surfaces whose absorption is not known, or the hall's size */
  | { kind: 'missing'; what: string[] };

const HUMIDITY_PCT = 50;

/** Reverberation time from the hall's surfaces, by octave band, or what is missing for it. */
export function reverberationFromSurfaces({ venue }: Pick<Session, 'venue'>): RoomTimes {
  const { widthM, depthM, heightM } = venue;
  if (widthM === null || depthM === null || heightM === null) {
    return { kind: 'missing', what: ['size of the hall'] };
  }
  const areas: Record<RoomSurface, number> = {
    floor: widthM * depthM,
    ceiling: widthM * depthM,
    left: depthM * heightM,
    right: depthM * heightM,
    front: widthM * heightM,
    back: widthM * heightM,
  };
  const unknown = ROOM_SURFACES.filter((surface) => meanAbsorption(venue, surface, 1000) === null);
  if (unknown.length > 0) return { kind: 'missing', what: unknown };
  const surfacesAt = (frequencyHz: number): Surface[] =>
    ROOM_SURFACES.map((surface) => ({
      areaM2: areas[surface],
      absorption:
        meanAbsorption(venue, surface, frequencyHz) ?? meanAbsorption(venue, surface, 1000) ?? 0,
    }));
  const volume = widthM * depthM * heightM;
  return {
    kind: 'times',
    bands: reverberationTimes(volume, surfacesAt, venue.temperatureC, HUMIDITY_PCT),
  };
}
