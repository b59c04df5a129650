import { describe, expect, it } from 'vitest';
import { sessionFrom } from '../../core/session';
import { dayCalendar } from './day-ics';

const session = (date: string, title = 'Take') =>
  sessionFrom({
    id: 'séance 1',
    title: 'Evening; part 1, quiet\nBEGIN:VEVENT',
    venue: { name: 'Chapel, north\r\nEND:VCALENDAR' },
    brief: {
      date,
      timetable: { start: '10:00', entries: [{ id: 'a:b "c"', title, minutes: 30 }] },
    },
  });

describe('the day as a calendar file', () => {
  it('escapes texts and ids, so that nothing typed becomes an entry of its own', () => {
    const text = dayCalendar(session('2026-12-12', 'Take 1; "loud", \\ end\nX-A:1')) ?? '';
    const lines = text.replaceAll(/\r?\n[ \t]/g, '').split(/\r?\n/);
    expect(lines.filter((line) => line.startsWith('BEGIN:'))).toEqual([
      'BEGIN:VCALENDAR',
      'BEGIN:VEVENT',
    ]);
    expect(lines.filter((line) => line.startsWith('X-A'))).toEqual([]);
    expect(lines.find((line) => line.startsWith('SUMMARY:'))).toBe(
      'SUMMARY:Take 1\\; "loud"\\, \\\\ end\\nX-A:1',
    );
    expect(lines.find((line) => line.startsWith('UID:'))).toMatch(/^UID:[\w.~!*'()-]+$/);
    expect(lines.find((line) => line.startsWith('DTSTART'))).toBe('DTSTART:20261212T100000');
  });

  it('is none for a date that is no day', () => {
    expect(dayCalendar(session('2026-02-31'))).toBeNull();
    expect(dayCalendar(session('next week'))).toBeNull();
    expect(dayCalendar(session('2028-02-29'))).not.toBeNull();
  });
});
