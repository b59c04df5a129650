import type { MicArray, Session } from '../session/schema';
import { lengthText, type UnitSystem } from '../units/format';
import { fromFaces, surfacesOf } from './anatomy';
import { withCases } from './pieces';

/** Instruments within this of an array can be measured from, m. */
const NEAR_M = 4;

/** A surface that the height of an array can be set out from. */
export interface Reference {
  sourceId: string;
  surface: string;
  /** "strings of Piano" */
  name: string;
  /** above the datum, m */
  heightM: number;
}

/** The surfaces near an array, the one that it is measured from among them. */
export function referencesFor(session: Session, array: MicArray): Reference[] {
  return withCases(session.sources).flatMap((source) => {
    const near = Math.hypot(source.x - array.x, source.y - array.y) <= NEAR_M;
    if (!near && array.measuredFrom?.sourceId !== source.id) return [];
    return surfacesOf(source).map(({ name, heightM }) => ({
      sourceId: source.id,
      surface: name,
      name: `${name} of ${source.name}`,
      heightM,
    }));
  });
}

/** What an array's height is set out from; null: the floor, also where the instrument is gone. */
export function referenceOf(session: Session, array: MicArray): Reference | null {
  const { measuredFrom } = array;
  if (!measuredFrom) return null;
  return (
    referencesFor(session, array).find(
      ({ sourceId, surface }) =>
        sourceId === measuredFrom.sourceId && surface === measuredFrom.surface,
    ) ?? null
  );
}

/** Nearer than this on the plan, a height may be meant from the instrument, m. */
const OVER_IT_M = 1.5;

/**
 * What a height over an instrument leaves open, in words: from the floor, or from one of its
 * surfaces?
 * @returns null where it is said, and where no instrument with a surface is near
 */
export function aboveWhat(session: Session, array: MicArray, units: UnitSystem): string | null {
  if (referenceOf(session, array)) return null;
  const instruments = withCases(session.sources);
  const far = (id: string) => {
    const source = instruments.find((entry) => entry.id === id);
    return source ? Math.hypot(source.x - array.x, source.y - array.y) : Infinity;
  };
  const [nearest] = referencesFor(session, array)
    .filter(({ sourceId }) => far(sourceId) <= OVER_IT_M)
    .sort(
      (a, b) =>
        far(a.sourceId) - far(b.sourceId) ||
        Math.abs(array.z - a.heightM) - Math.abs(array.z - b.heightM),
    );
  if (!nearest) return null;
  const over = array.z - nearest.heightM;
  return `Above what? It is read from the floor, ${lengthText(Math.abs(over), units, Math.abs(over) < 1 ? 'bar' : 'floor')} ${over < 0 ? 'below' : 'above'} the ${nearest.name}.`;
}

/** "28 cm above the strings of Piano"; null where it is measured from the floor. */
export function heightWords(session: Session, array: MicArray, units: UnitSystem): string | null {
  const reference = referenceOf(session, array);
  if (!reference) return null;
  const above = array.z - reference.heightM;
  const over = above < 0 ? 'below' : 'above';
  return `${lengthText(Math.abs(above), units, Math.abs(above) < 1 ? 'bar' : 'floor')} ${over} the ${reference.name}`;
}

/** A face within this is what a microphone is set out from, m. */
const AT_FACE_M = 1;

/** "50 cm from the soundboard of Upright" for every face that an array stands at; null where there is none. */
export function faceWords(session: Session, array: MicArray, units: UnitSystem): string | null {
  const faces = withCases(session.sources).flatMap((source) =>
    fromFaces(source, array)
      .filter(({ metres }) => metres < AT_FACE_M)
      .map(
        ({ name, metres }) =>
          `${lengthText(metres, units, 'bar')} from the ${name} of ${source.name}`,
      ),
  );
  return faces.length === 0 ? null : faces.join(', ');
}

/** Height and distance of an array as they are set out from instruments; null from the floor alone. */
export function placeWords(session: Session, array: MicArray, units: UnitSystem): string | null {
  const words = [heightWords(session, array, units), faceWords(session, array, units)];
  return words.filter((word) => word !== null).join(', ') || null;
}
