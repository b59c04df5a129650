import { mean } from 'd3-array';
import type { KnownMark } from './marks';
import { plainName } from './words';

/** Spots in a hall that were listened from, and how good they were for whom. */

/** Spots nearer to each other than this are one, m. */
export const ONE_SPOT_M = 0.6;
/** Listeners whose ratings lie no farther apart than this agree. */
export const AGREE_WITHIN = 1;

export interface Rated {
  listener: string;
  /** mean of what they said here, 0 … 5 */
  rating: number;
  /** how often they rated it */
  count: number;
}

export interface ListeningSpot {
  /** the name that was given last, or "1", "2" … */
  name: string;
  x: number;
  y: number;
  z: number;
  listeners: Rated[];
  /** mean over the listeners where they agree; null where they do not, or nobody rated it */
  rating: number | null;
  /** of several who do not agree: what each said is shown apart */
  apart: boolean;
  tags: string[];
  marks: KnownMark[];
}

const LISTENER = 'somebody';

function ratedBy(marks: readonly KnownMark[]): Rated[] {
  const byName = new Map<string, { name: string; ratings: number[] }>();
  for (const { mark } of marks) {
    if (mark.rating === null) continue;
    const name = mark.by.trim() || LISTENER;
    const own = byName.get(plainName(name)) ?? { name, ratings: [] };
    own.ratings.push(mark.rating);
    byName.set(plainName(name), own);
  }
  return [...byName.values()].map(({ name, ratings }) => ({
    listener: name,
    rating: mean(ratings) ?? 0,
    count: ratings.length,
  }));
}

function spotOf(marks: readonly KnownMark[], number: number): ListeningSpot {
  const listeners = ratedBy(marks);
  const ratings = listeners.map(({ rating }) => rating);
  const apart = ratings.length > 1 && Math.max(...ratings) - Math.min(...ratings) > AGREE_WITHIN;
  const named = marks.filter(({ mark }) => mark.name.trim() !== '').at(-1);
  const middle = (axis: 'x' | 'y' | 'z'): number => mean(marks, ({ mark }) => mark[axis] ?? 0) ?? 0;
  return {
    name: named?.mark.name ?? `Spot ${number}`,
    x: middle('x'),
    y: middle('y'),
    z: middle('z'),
    listeners,
    rating: apart || ratings.length === 0 ? null : (mean(ratings) ?? null),
    apart,
    tags: [...new Set(marks.flatMap(({ mark }) => mark.tags))],
    marks: [...marks],
  };
}

/**
 * The spots of a session that were listened from: marks near each other are one spot. A mark belongs to the
 * nearest spot whose first mark is within reach, so that spots do not chain through a row of seats.
 */
export function listeningSpots(marks: readonly KnownMark[]): ListeningSpot[] {
  const groups: KnownMark[][] = [];
  for (const known of marks) {
    const { mark } = known;
    if (mark.use !== 'ears' || mark.x === null || mark.y === null) continue;
    const off = ([first]: KnownMark[]): number =>
      first
        ? Math.hypot((first.mark.x ?? 0) - (mark.x ?? 0), (first.mark.y ?? 0) - (mark.y ?? 0))
        : Infinity;
    const [nearest] = groups
      .filter((group) => off(group) <= ONE_SPOT_M)
      .sort((a, b) => off(a) - off(b));
    if (nearest) nearest.push(known);
    else groups.push([known]);
  }
  return groups.map((group, i) => spotOf(group, i + 1));
}

const RATING_SAME = 1e-9;

/**
 * The best spot, in words: of those on which its listeners agree; equals are all named.
 * @returns what is missing where none can be named
 */
export function bestSpotText(spots: readonly ListeningSpot[]): string {
  const agreed = spots.filter(({ rating }) => rating !== null);
  const apart = spots.filter((spot) => spot.apart);
  const top = Math.max(...agreed.map(({ rating }) => rating ?? 0));
  const best = agreed.filter(({ rating }) => Math.abs((rating ?? 0) - top) < RATING_SAME);
  const [first] = best;
  const besides =
    apart.length === 0
      ? ''
      : ` The listeners do not agree on ${apart.map(({ name }) => `“${name}”`).join(', ')}.`;
  if (!first) {
    return spots.length === 0
      ? 'Nobody has rated a spot yet.'
      : `No spot can be called best: ${apart.length > 0 ? 'the listeners do not agree' : 'none is rated'}.`;
  }
  const who = (spot: ListeningSpot): string =>
    spot.listeners.length === 1
      ? `${spot.listeners[0]?.listener ?? ''} alone says so`
      : `${spot.listeners.length} listeners agree`;
  const rating = `${Number(top.toFixed(1))} of 5`;
  return best.length === 1
    ? `Best: ${first.name}, ${rating}; ${who(first)}.${besides}`
    : `${best.length} spots are equally good, ${rating}: ${best.map(({ name }) => name).join(', ')}.${besides}`;
}

export const LISTENING_HEAD = [
  ...['Spot', 'x (m)', 'y (m)', 'Height (m)', 'Listener', 'Rating', 'Times', 'Agreed', 'Tags'],
] as const;

/** A row a listener of a spot. */
export const listeningRows = (spots: readonly ListeningSpot[]): string[][] =>
  spots.flatMap((spot) =>
    (spot.listeners.length > 0
      ? spot.listeners
      : [{ listener: '', rating: null, count: 0 } as const]
    ).map(({ listener, rating, count }) => [
      spot.name,
      ...[spot.x, spot.y, spot.z].map((m) => m.toFixed(2)),
      listener,
      rating === null ? '' : String(Number(rating.toFixed(2))),
      String(count),
      spot.rating === null ? '' : String(Number(spot.rating.toFixed(2))),
      spot.tags.join(', '),
    ]),
  );
