import { floorUnder } from '../ensembles/anatomy';
import { freeName } from '../session/names';
import { isUntouchedPair } from '../session/create';
import type { MicArray, Session } from '../session/schema';
import { lengthText } from '../units/format';
import { capitalised } from '../units/format';
import { clamp } from '../units/numbers';
import { tapesText, type KnownMark } from './marks';
import { instrumentsFor, placedAtInstrument, placedInHall, type Placed } from './placed';
import { ageText, isSameHall, ratingText } from './words';

/** What worked in the same hall or at the same instrument, offered where it comes up again. */

export interface Offer {
  known: KnownMark;
  /** in the same hall, or at the same kind of instrument */
  same: 'hall and instrument' | 'hall' | 'instrument';
  /** where it is in the present plan, or why that cannot be told */
  placed: Placed;
  /** rated so low that it is a warning */
  poor: boolean;
  /** "Last here: 14 months ago, 4 of 5, 4.12 m from A, 5.30 m from B (upstage), 2.80 m up" */
  words: string;
}

const RANK = { 'hall and instrument': 0, hall: 1, instrument: 2 } as const;
/** Marks that were rated no better than this did not work. */
const POOR = 2;
/** Nobody said how good it was: better than a poor one, less than a good one. */
const UNRATED = 2.5;

/** "1.20 m right of it, 80 cm ahead, 1.50 m above its floor", as the instrument faces. */
export function againstText(
  against: NonNullable<KnownMark['mark']['against']>,
  units: Session['settings']['units'],
): string {
  const length = (metres: number): string =>
    lengthText(Math.abs(metres), units, Math.abs(metres) < 1 ? 'bar' : 'floor');
  const { right, ahead, up } = against;
  const side =
    Math.abs(right) < 0.005 ? '' : `${length(right)} to its ${right < 0 ? 'left' : 'right'}, `;
  return `${side}${length(ahead)} ${ahead < 0 ? 'behind' : 'ahead of'} it, ${length(up)} above its floor`;
}

function wordsOf(
  session: Session,
  { mark, since }: KnownMark,
  same: Offer['same'],
  placed: Placed,
  now: string,
): string {
  const { units } = session.settings;
  const where =
    same === 'instrument'
      ? `At ${mark.against?.name || mark.instrument}${mark.hall === '' ? '' : `, ${mark.hall}`}`
      : 'Last here';
  const facts = [ageText(since, now), ratingText(mark.rating)].filter(Boolean);
  const stands = placed.ok
    ? placed.by === 'instrument' && mark.against
      ? `stands ${againstText(mark.against, units)}`
      : `stands ${tapesText(session.venue, placed, units)}`
    : 'where it stood cannot be told here';
  return `${where}: ${[...facts, stands].join(', ')}.`;
}

function placedIn(session: Session, { mark }: KnownMark, same: Offer['same']): Placed {
  const [source] = instrumentsFor(mark, session);
  const there =
    same === 'instrument' ? null : placedInHall(mark, session.venue, session.settings.units);
  if (there?.ok) return there;
  const at = source && mark.against ? placedAtInstrument(mark, source, floorUnder(source)) : null;
  return at ?? there ?? { ok: false, message: 'It was not measured against an instrument.' };
}

/** What makes two marks one, wherever each of them is kept. */
const sameness = ({ mark }: KnownMark): string =>
  JSON.stringify([mark.name, mark.hall, mark.x, mark.y, mark.z, mark.rating, mark.use]);

/** A mark that came into other sessions with its hall is one: that which was first said. */
function eachOnce(marks: readonly KnownMark[]): KnownMark[] {
  const first = new Map<string, KnownMark>();
  for (const known of marks) {
    const other = first.get(sameness(known));
    if (!other || known.since < other.since) first.set(sameness(known), known);
  }
  return [...first.values()];
}

/** Those of a list that are not among others, as a copy or themselves. */
export function marksBeside(
  marks: readonly KnownMark[],
  others: readonly KnownMark[],
): KnownMark[] {
  const known = new Set(others.map(sameness));
  return marks.filter((one) => !known.has(sameness(one)));
}

/**
 * Marks of other sessions for the hall and the instruments of this one, the best first: those of both,
 * of the hall, of the instrument; then by rating and age. Those that did not work come last.
 * @param now ISO 8601
 */
export function offersFor(session: Session, marks: readonly KnownMark[], now: string): Offer[] {
  const offers = eachOnce(marks).flatMap((known): Offer[] => {
    const { mark } = known;
    if (known.session.id === session.id || mark.use !== 'microphones') return [];
    const hall = isSameHall(mark.hall, session.venue.name);
    const instrument = instrumentsFor(mark, session).length > 0;
    if (!hall && !(instrument && mark.against)) return [];
    const same = hall ? (instrument ? 'hall and instrument' : 'hall') : 'instrument';
    const placed = placedIn(session, known, same);
    const poor = mark.rating !== null && mark.rating <= POOR;
    return [{ known, same, placed, poor, words: wordsOf(session, known, same, placed, now) }];
  });
  const rated = ({ known }: Offer): number => known.mark.rating ?? UNRATED;
  const at = ({ known }: Offer): string => known.since;
  return offers.sort(
    (a, b) =>
      Number(a.poor) - Number(b.poor) ||
      RANK[a.same] - RANK[b.same] ||
      rated(b) - rated(a) ||
      at(b).localeCompare(at(a)),
  );
}

/** An array that is put up at a mark: as it stood there, or the one that is moved there. */
function arrayAt(
  session: Session,
  { mark }: KnownMark,
  place: Placed & { ok: true },
  id: string,
): MicArray | null {
  const { array } = mark;
  if (!array) return null;
  const taken = new Set(
    session.arrays.filter((one) => !isUntouchedPair(one)).map(({ name }) => name),
  );
  return {
    ...structuredClone(array),
    id,
    name: freeName(array.name || mark.name || 'Array', taken),
    enabled: true,
    x: clamp(place.x, -200, 200),
    y: clamp(place.y, -200, 200),
    z: clamp(place.z, -200, 200),
    aimDeg: turned(array.aimDeg, place.turnDeg),
  };
}

/** An azimuth after a turn, −180 … 180. */
function turned(aimDeg: number, byDeg: number): number {
  if (byDeg === 0) return aimDeg;
  const deg = aimDeg + byDeg;
  return deg - 360 * Math.round(deg / 360);
}

/**
 * A session with what stood at a mark put up there.
 * @param instead id of the array in whose place it comes; null: beside the others, or in the place of the
 *   pair that nobody has touched yet
 * @param id of a new array
 * @returns null where nothing is known that could be put up: no array stood there, and none is to be moved
 */
export function withMark(
  session: Session,
  known: KnownMark,
  place: Placed & { ok: true },
  instead: string | null,
  id: string,
): { session: Session; arrayId: string } | null {
  const untouched = session.arrays.find(isUntouchedPair);
  const before = session.arrays.find((one) => one.id === (instead ?? untouched?.id)) ?? null;
  const made = arrayAt(session, known, place, before?.id ?? id);
  if (made) {
    const own = before && !isUntouchedPair(before) ? { ...made, name: before.name } : made;
    return {
      session: {
        ...session,
        arrays: before
          ? session.arrays.map((one) => (one === before ? own : one))
          : [...session.arrays, own],
      },
      arrayId: own.id,
    };
  }
  if (!before) return null;
  // Only the place is known: what is there already goes to it, as it is aimed.
  const moved = { ...before, x: place.x, y: place.y, z: place.z };
  return {
    session: {
      ...session,
      arrays: session.arrays.map((one) => (one === before ? moved : one)),
    },
    arrayId: before.id,
  };
}

/** "Main pair, of Tithe Barn, 4 of 5" */
export const markTitle = ({ mark }: KnownMark): string =>
  capitalised(mark.name || mark.array?.name || (mark.use === 'ears' ? 'listening spot' : 'mark'));
