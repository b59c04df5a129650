import { describe, expect, it } from 'vitest';
import { figureEightSymmetry, pairMatch } from '../audio/fixtures/memory';
import { whiteNoise } from '../audio/signal/generate';
import { filterWords, matchWords, symmetryWords } from './microphones';

const RATE = 48_000;
const noise = whiteNoise(4 * RATE, 1);
const louder = (db: number) => noise.map((v) => v * 10 ** (db / 20));

describe('what a match says', () => {
  it('is the trim, what is left, and whether an equaliser is worth it', () => {
    const match = pairMatch(noise, louder(-0.4), RATE);
    expect(match?.trimDb).toBeCloseTo(0.4, 3);
    expect(match && matchWords(match, 'Left', 'Right')).toEqual([
      'Right is 0.4 dB softer than Left: trim it by +0.4 dB.',
      expect.stringMatching(/^Then they match within 0\.0 dB from 100 Hz to 10 kHz;/),
      'No equaliser is worth it.',
    ]);
    const same = pairMatch(noise, noise, RATE);
    expect(same && matchWords(same, 'Left', 'Right')[0]).toBe('Right is as loud as Left.');
  });

  it('names filters as one sets them', () => {
    expect(filterWords({ kind: 'peak', hz: 3150, gainDb: 1.2, q: 1.4 })).toBe(
      'peak +1.2 dB at 3.15 kHz, Q 1.4',
    );
    expect(filterWords({ kind: 'low shelf', hz: 160, gainDb: -2, q: 0.7 })).toBe(
      'low shelf −2.0 dB at 160 Hz',
    );
  });
});

describe('what a figure-eight says', () => {
  it('is how much softer it is behind, and how deep its null is', () => {
    const found = figureEightSymmetry(noise, louder(-1), louder(-30), RATE);
    expect(found && symmetryWords(found, 'Ribbon')).toEqual([
      'Ribbon is 1.0 dB softer behind than in front, as a pattern of 0.054 omnidirectional part would be.',
      'From its edge it is 30.0 dB below its front.',
    ]);
    const alike = figureEightSymmetry(noise, noise, null, RATE);
    expect(alike && symmetryWords(alike, 'Ribbon')).toEqual([
      'Ribbon is as loud behind as in front.',
    ]);
  });
});
