import ical from 'ical-generator';
import { planDay } from '../../core/planning';
import type { Session } from '../../core/session';

/** The calendar's own name is written as it is: a line break in it would begin an entry. */
const oneLine = (text: string): string => text.replaceAll(/\p{Cc}+/gu, ' ');

/** An identity that needs no escaping in a calendar file. */
const uidOf = (id: string): string => encodeURIComponent(id).replaceAll('%', '_');

/** The timetable as a calendar file in the hall's own local time; null without a date. */
export function dayCalendar(session: Session): string | null {
  const { date, timetable } = session.brief;
  const day = /^(\d{4})-(\d{2})-(\d{2})$/.exec(date);
  if (!day) return null;
  const [year = 0, month = 1, number = 1] = day.slice(1).map(Number);
  const at = (minutes: number) => new Date(year, month - 1, number, 0, minutes, 0, 0);
  // The 31st of February is no day.
  if (at(0).getMonth() !== month - 1 || at(0).getDate() !== number) return null;
  const calendar = ical({ name: oneLine(session.title), prodId: '//Rotunda//Timetable//EN' });
  for (const { entry, fromMin, toMin } of planDay(timetable).slots) {
    calendar.createEvent({
      id: uidOf(`${session.id}-${entry.id}`),
      start: at(fromMin),
      end: at(toMin),
      floating: true,
      summary: entry.title,
      location: session.venue.name,
    });
  }
  return calendar.toString();
}
