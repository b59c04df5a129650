import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { contour, short } from '../fixtures/heard';
import { PLAYER_NAMES, playerFor, PLAYERS } from './kinds';
import { phraseOf, scoreOf } from './phrase';
import { notesOf, PHRASE_NAMES, strokesOf } from './score';

/**
 * What every player plays and how it sounds, in figures: what changes here changes for whoever
 * listens. It is looked at, and frozen anew with `vitest -u` when it is meant.
 */

const RATE = 16_000;

describe('all players', () => {
  it('sound as they did', async () => {
    const phrases = PLAYER_NAMES.map((name, i) => [
      name,
      contour(phraseOf(name, PHRASE_NAMES[i % 4] ?? 'chorale', 7 + i, RATE), 36),
    ]);
    await expect(told({ phrases })).toMatchFileSnapshot('../fixtures/pinned-players.txt');
  });

  it('play the notes that they did', async () => {
    const voices = ['soprano', 'alto', 'tenor', 'bass'] as const;
    const lines = PHRASE_NAMES.flatMap((phrase) =>
      voices.map((voice) => [phrase, voice, short(notesOf(phrase, voice, [36, 84], 3))]),
    );
    const strokes = [short(strokesOf(1, 0.5, 50, 8)), short(strokesOf(0.5, 0, 60, 8))];
    const scores = PLAYER_NAMES.map((name) => [name, scoreOf(name, 'staccato', 9).length]);
    const words = [
      ...[
        'Violin I',
        'Double bass',
        'cor anglais',
        'Grand piano',
        'snare drum',
        'soprano',
        'choir',
      ],
      ...[
        'chest organ',
        'guitar',
        'viol',
        'theorbo',
        'claves',
        'announcer',
        'kit',
        '',
        'waterfall',
      ],
    ].map((kind) => [kind, playerFor(kind)]);
    const models = Object.values(PLAYERS).map(({ model }) => model);
    await expect(told({ lines, strokes, scores, words, models })).toMatchFileSnapshot(
      '../fixtures/pinned-scores.txt',
    );
  });
});
