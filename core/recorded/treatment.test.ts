import { describe, expect, it } from 'vitest';
import {
  isTreated,
  placed,
  processingOf,
  treatedNames,
  treatmentWords,
  UNTREATED,
} from './treatment';

const decode = { mid: 0, side: 1, sideDb: -3, sideHighPassHz: 120 };

describe('what is done to a recording', () => {
  it('is nothing until something is', () => {
    expect(isTreated(UNTREATED)).toBe(false);
    expect(isTreated({ ...UNTREATED, shiftMs: [0, 0], gainDb: [0], inverted: [false] })).toBe(
      false,
    );
    expect(isTreated({ ...UNTREATED, shiftMs: [0, -0.02] })).toBe(true);
    expect(isTreated({ ...UNTREATED, decode })).toBe(true);
    expect(processingOf(UNTREATED, 2)).toEqual({
      decode: null,
      shiftMs: [],
      gainDb: [],
      inverted: [],
    });
  });

  it('is told channel by channel, then what comes of them', () => {
    const treatment = {
      ...UNTREATED,
      decode,
      shiftMs: [0, 0, -4.1],
      gainDb: [0, 0.5],
      inverted: [false, false, true],
    };
    const names = ['Mid', 'Side', 'Viol spot'];
    expect(treatmentWords(treatment, names)).toEqual([
      'Side: +0.50 dB.',
      'Viol spot: 4.100 ms earlier, turned over.',
      'Mid and Side decoded, the side at −3.0 dB, the side above 120 Hz alone.',
    ]);
    expect(treatedNames(treatment, names)).toEqual(['L', 'R', 'Viol spot']);
    expect(treatedNames({ ...treatment, fold: 'mono' }, names)).toEqual(['Mono']);
    expect(processingOf({ ...treatment, fold: 'stereo' }, 3).fold).toHaveLength(2);
  });

  it('a place beyond the list fills what was never said', () => {
    expect(placed([], 2, 5, 0)).toEqual([0, 0, 5]);
    expect(placed([1, 2], 0, 9, 0)).toEqual([9, 2]);
  });
});
