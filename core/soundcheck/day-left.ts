import { median } from 'd3-array';
import { planDay, timeText } from '../planning/timetable';
import type { Timetable } from '../session/schema';

/** How many options still fit into the day. */

export interface DayLeft {
  /** minutes that one option takes */
  eachMin: number;
  /** where that comes from */
  from: 'this day' | 'the timetable' | 'what is usual';
  /** before the next break; null where none comes any more */
  breakAt: string | null;
  beforeBreak: number | null;
  /** before the tries of the timetable, or the day, are over */
  endAt: string | null;
  beforeEnd: number | null;
  /** in a sentence */
  words: string;
}

const USUAL_MIN = 22;
/** Shorter or longer than this between two options somebody did something else, minutes. */
const [LEAST_MIN, MOST_MIN] = [3, 90];

/** From one option to the next by the clock; null where too few were made. */
function measured(madeMin: readonly number[]): number | null {
  const sorted = [...madeMin].sort((a, b) => a - b);
  const gaps = sorted
    .map((at, i) => at - (sorted[i - 1] ?? at))
    .filter((gap) => gap >= LEAST_MIN && gap <= MOST_MIN);
  return gaps.length >= 2 ? Math.round(median(gaps) ?? USUAL_MIN) : null;
}

/** An option of the timetable: its entries from one to the next, where it has such. */
function planned({ entries }: Timetable): number | null {
  const places = entries.flatMap(({ kind, title }, i) =>
    kind === 'option' || /^option/i.test(title) ? [i] : [],
  );
  const [first] = places;
  const last = places[places.length - 1];
  if (first === undefined || last === undefined) return null;
  const within = entries.slice(first, last + 1).filter(({ kind }) => kind !== 'break');
  const names = new Set(
    within.map(({ title }, i) => /^(.*?\d+)/.exec(title)?.[1] ?? `${title} ${i}`),
  );
  const total = within.reduce((sum, { minutes }) => sum + minutes, 0);
  return total === 0 ? null : Math.max(1, Math.round(total / names.size));
}

const options = (count: number): string =>
  count === 0
    ? 'No more option fits'
    : count === 1
      ? '1 more option fits'
      : `${count} more options fit`;

/**
 * How many options still fit before the next break and before the end.
 * @param nowMin minutes after midnight, 0 … 10,000
 * @param madeMin when each option of today was made, minutes after midnight
 */
export function dayLeft(
  timetable: Timetable,
  nowMin: number,
  madeMin: readonly number[] = [],
): DayLeft {
  const [own, meant] = [measured(madeMin), planned(timetable)];
  const eachMin = own ?? meant ?? USUAL_MIN;
  const from = own !== null ? 'this day' : meant !== null ? 'the timetable' : 'what is usual';
  const { slots, endMin } = planDay(timetable);
  const pause = slots.find(({ entry, fromMin }) => entry.kind === 'break' && fromMin > nowMin);
  const begun = slots.length > 0 && nowMin < endMin;
  const fits = (until: number): number => Math.max(0, Math.floor((until - nowMin) / eachMin));
  const each = `${eachMin} min each, by ${from}`;
  const beforeBreak = begun && pause ? fits(pause.fromMin) : null;
  const beforeEnd = begun ? fits(endMin) : null;
  const breakAt = begun && pause ? timeText(pause.fromMin) : null;
  const endAt = begun ? timeText(endMin) : null;
  const words = !begun
    ? slots.length === 0
      ? 'There is no timetable: give one on Brief, and it is said here how many more fit.'
      : `The day of the timetable is over; it ended at ${timeText(endMin)}.`
    : breakAt !== null
      ? `${options(beforeBreak ?? 0)} before the break at ${breakAt}, ${beforeEnd} before the day ends at ${endAt} (${each}).`
      : `${options(beforeEnd ?? 0)} before the day ends at ${endAt} (${each}).`;
  return { eachMin, from, breakAt, beforeBreak, endAt, beforeEnd, words };
}
