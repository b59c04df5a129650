import { sum } from 'd3-array';
import type { Timetable, TimetableEntry } from '../session/schema';

/** One entry with its times, minutes after midnight. */
export interface Slot {
  entry: TimetableEntry;
  fromMin: number;
  toMin: number;
  /** how long the players have played without a break when it ends */
  loadMin: number;
}

export interface Conflict {
  entryId: string | null;
  message: string;
}

export interface Plan {
  slots: Slot[];
  /** sum of all entries, minutes */
  totalMin: number;
  playingMin: number;
  /** how often the players play: takes and options together */
  playings: number;
  endMin: number;
  conflicts: Conflict[];
}

const MINUTES_A_DAY = 1440;

/** Minutes after midnight of "hh:mm"; null for anything else. */
function minutesOf(time: string): number | null {
  const match = /^([01]\d|2[0-3]):([0-5]\d)$/.exec(time);
  return match ? Number(match[1]) * 60 + Number(match[2]) : null;
}

/** Minutes since midnight, 0 … 10,000, as "09:05", and past midnight "00:30 (+1 day)"; 0 and more. */
export function timeText(minutes: number): string {
  const two = (value: number) => `${Math.floor(value)}`.padStart(2, '0');
  const days = Math.floor(minutes / MINUTES_A_DAY);
  const clock = `${two((minutes % MINUTES_A_DAY) / 60)}:${two(minutes % 60)}`;
  return days === 0 ? clock : `${clock} (+${days} day${days === 1 ? '' : 's'})`;
}

function loadAfter(entry: TimetableEntry, before: number, breakMin: number): number {
  if (entry.playing) return before + entry.minutes;
  // Setting up lets the players rest only when it is as long as a break.
  return entry.kind === 'break' || entry.minutes >= breakMin ? 0 : before;
}

/**
 * The day in order: each entry follows the one before. Conflicts: more playing without a break
 * than agreed, takes before a line check, no time for the strike, past the end.
 */
export function planDay(timetable: Timetable): Plan {
  const start = minutesOf(timetable.start) ?? 540;
  const slots: Slot[] = [];
  const conflicts: Conflict[] = [];
  let at = start;
  let loadMin = 0;
  let checked = false;
  for (const entry of timetable.entries) {
    const before = loadMin;
    loadMin = loadAfter(entry, loadMin, timetable.breakMin);
    slots.push({ entry, fromMin: at, toMin: at + entry.minutes, loadMin });
    at += entry.minutes;
    if (loadMin > timetable.breakAfterMin && before <= timetable.breakAfterMin) {
      conflicts.push({
        entryId: entry.id,
        message: `${entry.title}: the players have then played ${loadMin} min without a break; agreed are ${timetable.breakAfterMin} min.`,
      });
    }
    if (entry.kind === 'line-check') checked = true;
    if (entry.kind === 'take' && !checked) {
      checked = true;
      conflicts.push({
        entryId: entry.id,
        message: `${entry.title} comes before any line check.`,
      });
    }
  }
  const clock = timetable.end === null ? null : minutesOf(timetable.end);
  // An end before the beginning is that of the night.
  const end = clock !== null && clock <= start ? clock + MINUTES_A_DAY : clock;
  if (end !== null && at > end) {
    conflicts.push({
      entryId: null,
      message: `The day ends at ${timeText(at)}, ${at - end} min after the hall must be left (${timeText(end)}).`,
    });
  }
  const total = (entries: readonly TimetableEntry[]) => sum(entries, ({ minutes }) => minutes);
  return {
    slots,
    totalMin: at - start,
    playingMin: total(timetable.entries.filter(({ playing }) => playing)),
    playings: timetable.entries.filter(({ playing }) => playing).length,
    endMin: at,
    conflicts,
  };
}

/**
 * The entries with a break put in before every one that would take the players past their load.
 * @param idOf gives a fresh id for each break
 */
export function withBreaks(timetable: Timetable, idOf: () => string): TimetableEntry[] {
  let load = 0;
  return timetable.entries.flatMap((entry) => {
    const next = loadAfter(entry, load, timetable.breakMin);
    if (next <= timetable.breakAfterMin || load === 0) {
      load = next;
      return [entry];
    }
    load = loadAfter(entry, 0, timetable.breakMin);
    const pause: TimetableEntry = {
      id: idOf(),
      title: 'Break',
      kind: 'break',
      minutes: timetable.breakMin,
      playing: false,
    };
    return [pause, entry];
  });
}

/**
 * A usual day for comparing so many set-ups: move, take and listen for each.
 * @param options 1 … 20
 */
export function usualDay(options: number, idOf: () => string): TimetableEntry[] {
  const entry = (
    title: string,
    kind: TimetableEntry['kind'],
    minutes: number,
    playing = false,
  ): TimetableEntry => ({ id: idOf(), title, kind, minutes, playing });
  return [
    entry('Load in', 'load-in', 45),
    entry('Build', 'build', 60),
    entry('Line check', 'line-check', 20),
    ...Array.from({ length: options }, (_, i) => [
      entry(`Option ${i + 1}: move`, 'option', 8),
      entry(`Option ${i + 1}: take`, 'take', 6, true),
      entry(`Option ${i + 1}: listen`, 'option', 8),
    ]).flat(),
    entry('Takes', 'take', 75, true),
    entry('Strike', 'strike', 45),
  ];
}
