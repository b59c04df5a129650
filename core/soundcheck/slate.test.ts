import { describe, expect, it } from 'vitest';
import { usualDay } from '../planning/timetable';
import { sessionFrom, type Timetable } from '../session';
import { dayLeft } from './day-left';
import { letterOf, numberWords, slateText } from './slate';

describe('words of a slate', () => {
  it('speaks numbers', () => {
    expect([0, 4, 13, 20, 42, 100, 101, 999].map(numberWords)).toEqual([
      ...['zero', 'four', 'thirteen', 'twenty', 'forty-two', 'one hundred'],
      ...['one hundred and one', 'nine hundred and ninety-nine'],
    ]);
    expect([1000, -1, 1.5].map(numberWords)).toEqual(['1000', '-1', '1.5']);
  });
  it('says piece, option and take', () => {
    expect(slateText('Serenade 2', 'C', 4)).toBe('Serenade two, option C, take four.');
    expect(slateText('', '', 12)).toBe('Take twelve.');
    expect(slateText('  ', 'AA', 1)).toBe('Option AA, take one.');
  });
  it('has letters enough', () => {
    expect([0, 25, 26, 51, 52, 701, 702].map(letterOf)).toEqual([
      ...['A', 'Z', 'AA', 'AZ', 'BA', 'ZZ', 'AAA'],
    ]);
  });
});

describe('the day that is left', () => {
  const day = (entries: Timetable['entries']): Timetable => ({
    ...sessionFrom({}).brief.timetable,
    start: '09:00',
    entries,
  });
  let count = 0;
  const usual = usualDay(3, () => `${(count += 1)}`);

  it('counts by the timetable, then by this day itself', () => {
    // Built and checked by 11:05; an option takes 8 + 6 + 8 minutes; the last one ends at 12:11.
    const left = dayLeft(day(usual), 665);
    expect(left).toMatchObject({ eachMin: 22, from: 'the timetable', beforeBreak: null });
    const own = dayLeft(day(usual), 700, [640, 655, 671, 690]);
    expect(own).toMatchObject({ eachMin: 16, from: 'this day' });
  });
  it('names the next break, and what is over', () => {
    const entry = { id: 'x', title: 'x', kind: 'option' as const, minutes: 60, playing: true };
    const pause = { id: 'b', title: 'Break', kind: 'break' as const, minutes: 15, playing: false };
    const left = dayLeft(day([entry, pause, { ...entry, id: 'y' }]), 9 * 60 + 10);
    expect(left.breakAt).toBe('10:00');
    expect(left.endAt).toBe('11:15');
    expect(dayLeft(day([entry]), 700).words).toBe(
      'The day of the timetable is over; it ended at 10:00.',
    );
    expect(dayLeft(day([]), 700).words).toContain('There is no timetable');
  });
});
