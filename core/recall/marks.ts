import { floorUnder, fromFaces, surfacesOf } from '../ensembles/anatomy';
import { matters } from '../session/journals';
import type { Mark, MicArray, Session, Source } from '../session/schema';
import { lengthText, type UnitSystem } from '../units/format';
import { twoTapes } from '../rig/two-tapes';
import { againstOf } from './placed';

/** Marks: places that were good, or were not, measured so that they are found again. */

/** What a mark says, without what every entry has. */
export type MarkSaid = {
  [K in keyof Mark as K extends 'id' | 'at' | 'strikes' | 'amends' ? never : K]: Mark[K];
};

/** A mark as it stands, and where it is from. */
export interface KnownMark {
  /** of its first entry */
  key: string;
  mark: Mark;
  /** when it was first said, ISO 8601 */
  since: string;
  session: { id: string; title: string };
}

/** The marks of a session as they stand; struck ones are left out. */
export const marksOf = (session: Pick<Session, 'id' | 'title' | 'marks'>): KnownMark[] =>
  matters(session.marks).flatMap(({ standing, history }): KnownMark[] => {
    const [first] = history;
    return standing && first
      ? [
          {
            key: first.id,
            mark: standing,
            since: standing.since || first.at,
            session: { id: session.id, title: session.title },
          },
        ]
      : [];
  });

/** Instruments within this of a place can be what it was for, m. */
const AT_INSTRUMENT_M = 6;
/** A surface within this is what a height is set out from, a face what a distance is, m. */
const [OVER_M, FACE_M] = [1, 1.5];

interface Spot {
  x: number;
  y: number;
  z: number;
}

const away = (source: Source, at: { x: number; y: number }): number =>
  Math.hypot(source.x - at.x, source.y - at.y);

/** Distances of a place from fixed points, the floor, and the surfaces of an instrument near it. */
export function measuredAt(
  venue: Pick<Session['venue'], 'datumPoints'>,
  at: Spot,
  source: Source | null,
): Mark['measured'] {
  const tapes = venue.datumPoints.slice(0, 4).map((point) => ({
    from: point.name,
    m: Math.hypot(point.x - at.x, point.y - at.y),
  }));
  const over = source
    ? surfacesOf(source)
        .map(({ name, heightM }) => ({
          from: `above the ${name} of ${source.name}`,
          m: at.z - heightM,
        }))
        .filter(({ m }) => m >= 0 && m <= OVER_M)
        .sort((a, b) => a.m - b.m)
        .slice(0, 1)
    : [];
  const faces = source
    ? fromFaces(source, at)
        .filter(({ metres }) => metres <= FACE_M)
        .map(({ name, metres }) => ({ from: `from the ${name} of ${source.name}`, m: metres }))
    : [];
  const lower = source && at.z < 0 ? [] : [{ from: 'floor', m: Math.max(0, at.z) }];
  return [...tapes, ...lower, ...over, ...faces].map(({ from, m }) => ({
    from,
    m: Math.round(m * 1000) / 1000,
  }));
}

/**
 * The instrument that a place is for: the one that its array is for, else the only one near it.
 * @returns null where none is near, or several are
 */
export function instrumentAt(session: Session, at: Spot, array: MicArray | null): Source | null {
  const named = array?.for?.kind === 'some' ? array.for.sources : [];
  const own = session.sources.filter(({ id }) => named.includes(id));
  if (own.length === 1) return own[0] ?? null;
  const near = session.sources.filter((source) => away(source, at) <= AT_INSTRUMENT_M);
  return near.length === 1 ? (near[0] ?? null) : null;
}

/** An array without what belongs to its own session: players, kit and surfaces by their ids. */
const onItsOwn = (array: MicArray): MicArray => ({
  ...structuredClone(array),
  for: null,
  measuredFrom: null,
  equipment: {
    ...structuredClone(array.equipment),
    microphoneIds: [],
    pair: '',
  },
});

/** What is said of a place: all that a plan knows of it. */
export interface Asked {
  at: Spot;
  /** what stands there */
  array?: MicArray | null;
  /** the instrument that it is for; not given: as it is near */
  source?: Source | null;
  made: Mark['made'];
  name: string;
  by?: string;
  rating?: number | null;
  text?: string;
  tags?: readonly string[];
  use?: Mark['use'];
  take?: string;
}

/** A mark of a place in the plan of a session, measured from all that is fixed there. */
export function markOf(session: Session, asked: Asked): MarkSaid {
  const { at, array = null, made, name } = asked;
  const { venue } = session;
  const source = asked.source === undefined ? instrumentAt(session, at, array) : asked.source;
  const { widthM, depthM, origin } = venue;
  return {
    by: asked.by ?? '',
    name: name.slice(0, 200),
    use: asked.use ?? 'microphones',
    made,
    since: '',
    hall: venue.name,
    instrument: source?.kind ?? '',
    x: at.x,
    y: at.y,
    z: at.z,
    measured: measuredAt(venue, at, source).slice(0, 20),
    fixed: venue.datumPoints.map(({ name: called, x, y, z }) => ({ name: called, x, y, z })),
    room: { widthM, depthM, origin: origin && { ...origin } },
    against:
      source && away(source, at) <= 30
        ? {
            kind: source.kind,
            name: source.name,
            ...againstOf(source, at),
            up: at.z - floorUnder(source),
            facingDeg: source.facingDeg,
          }
        : null,
    array: array && onItsOwn(array),
    take: asked.take ?? '',
    rating: asked.rating ?? null,
    tags: [...(asked.tags ?? [])],
    photographs: [],
    text: asked.text ?? '',
    version: '',
  };
}

/** "4.12 m from A, 5.30 m from B (upstage), 2.80 m up", from the tape points of a plan. */
export function tapesText(
  venue: Pick<Session['venue'], 'datumPoints'>,
  at: Spot,
  units: UnitSystem,
): string {
  const [first, second] = venue.datumPoints;
  const up = `${lengthText(at.z, units)} up`;
  if (!first || !second || Math.hypot(first.x - second.x, first.y - second.y) <= 0.01) {
    return `${up}; two tape points apart from each other would say where`;
  }
  const tapes = twoTapes(at, first, second);
  return `${lengthText(tapes.fromFirstM, units)} from ${first.name}, ${lengthText(tapes.fromSecondM, units)} from ${second.name} (${tapes.side}), ${up}`;
}

/** "4.12 m from A, 5.30 m from B, 2.80 m from floor": as it was measured then. */
export const measuredText = ({ measured }: Pick<Mark, 'measured'>, units: UnitSystem): string =>
  measured
    .map(({ from, m }) =>
      /^(above|below|from) /.test(from)
        ? `${lengthText(m, units, m < 1 ? 'bar' : 'floor')} ${from}`
        : from === 'floor'
          ? `${lengthText(m, units)} up`
          : `${lengthText(m, units)} from ${from}`,
    )
    .join(', ');
