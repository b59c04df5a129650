import { describe, expect, it } from 'vitest';
import { aboutWord, GLOSSARY } from './glossary';
import { timeOf } from './time-of';

describe('a time of day', () => {
  it.each([
    ['9', '09:00'],
    ['9:30', '09:30'],
    ['0930', '09:30'],
    ['23.59', '23:59'],
    [' 7h15 ', '07:15'],
    ['00:00', '00:00'],
  ])('reads %s as %s', (text, time) => expect(timeOf(text)).toBe(time));

  it.each(['', '24:00', '12:60', '9:5', 'noon', '-1', '12:30 PM'])('refuses “%s”', (text) =>
    expect(timeOf(text)).toBeNull(),
  );
});

describe('the glossary', () => {
  it('explains a label by the words that it begins with, the longest first', () => {
    expect(aboutWord('Spacing')).toBe(GLOSSARY.spacing);
    expect(aboutWord('In place, 100 %')).toBe(GLOSSARY['in place']);
    expect(aboutWord('Recording angle there')).toBe(GLOSSARY['recording angle']);
    expect(aboutWord('Name')).toBeUndefined();
  });
});
