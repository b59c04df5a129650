import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { KEY_WORDS } from './key-words';
import { actionOf, chordOf, KEYS, type KeyPlace } from './keys';

/** At the Soundcheck letters are heard before they do anything else. */
const meet = (a: KeyPlace, b: KeyPlace): boolean =>
  a === b || ([a, b].includes('everywhere') && ![a, b].includes('soundcheck'));

describe('the keys', () => {
  it('never clash: one place, one key, one thing', () => {
    KEYS.forEach((one, i) => {
      expect(new Set(one.chords).size).toBe(one.chords.length);
      for (const other of KEYS.slice(i + 1)) {
        if (!meet(one.where, other.where)) continue;
        const shared = one.chords.filter((chord) => other.chords.includes(chord));
        expect({ of: [one.chords, other.chords], shared }).toMatchObject({ shared: [] });
      }
    });
  });

  it('are found as they are pressed', () => {
    const press = (key: string, held: Partial<KeyboardEvent> = {}) =>
      chordOf({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held });
    expect(press('z', { metaKey: true })).toBe('Ctrl+Z');
    expect(press('Z', { ctrlKey: true, shiftKey: true })).toBe('Ctrl+Shift+Z');
    expect(press(' ')).toBe('Space');
    expect(press('+', { shiftKey: true })).toBe('+');
    expect(press('B', { shiftKey: true })).toBe('Shift+B');
    expect(actionOf('B', true)).toBe('candidate');
    expect(actionOf('B', false)).toBeNull();
    expect(actionOf('Shift+B', false)).toBe('candidate');
    expect(actionOf('Shift+B', true)).toBe('candidate');
    expect(actionOf('Shift+M', false)).toBeNull();
    expect(actionOf('0', false)).toBeNull();
  });

  it('stand in the guide, all of them', () => {
    const guide = readFileSync('docs/guide.md', 'utf8');
    for (const { chords, where } of KEYS) {
      const [chord = ''] = chords;
      const own = chord.startsWith('Shift+') ? `image line ${chord.slice(6)}` : `${where} ${chord}`;
      const words = KEY_WORDS[own];
      expect(words, own).toBeDefined();
      expect(guide).toContain(words);
    }
  });
});
