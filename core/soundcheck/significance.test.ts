import { describe, expect, it } from 'vitest';
import {
  binomialTail,
  holm,
  identificationP,
  preferencesNeeded,
  rightNeeded,
  signTestP,
} from './significance';
import { resultOf, trialsOf, trialsIn, identifiedText, preferredText, type Answer } from './blind';
import { seededRandom } from '../units/random';

/** Exact, by whole numbers: the tail of n fair or unfair draws as a fraction. */
function exactTail(n: number, k: number, one: bigint, of: bigint): number {
  let sum = 0n;
  let choose = 1n;
  for (let j = 0; j <= n; j++) {
    if (j >= k) sum += choose * one ** BigInt(j) * (of - one) ** BigInt(n - j);
    choose = (choose * BigInt(n - j)) / BigInt(j + 1);
  }
  return Number((sum * 10n ** 18n) / of ** BigInt(n)) / 1e18;
}

describe('significance', () => {
  it('is that of whole numbers, for every outcome up to 40 trials', () => {
    for (const n of [1, 2, 5, 10, 16, 25, 40]) {
      for (let k = 0; k <= n; k++) {
        for (const choices of [2, 3, 4, 7]) {
          const exact = exactTail(n, k, 1n, BigInt(choices));
          expect(identificationP(k, n, choices)).toBeCloseTo(exact, 12);
        }
      }
    }
  });

  it('has the known figures of ten trials', () => {
    expect(identificationP(9, 10, 2)).toBeCloseTo(0.0107421875, 12);
    expect(identificationP(8, 10, 2)).toBeCloseTo(0.0546875, 12);
    expect(signTestP(9, 1)).toBeCloseTo(0.021484375, 12);
    expect(rightNeeded(10, 2)).toBe(9);
    expect(preferencesNeeded(10)).toBe(9);
    expect(rightNeeded(4, 2)).toBeNull();
    expect(preferencesNeeded(5)).toBeNull();
    expect(preferencesNeeded(6)).toBe(6);
  });

  it('holds its ends and refuses what is beyond', () => {
    expect(binomialTail(0, 0, 0.5)).toBe(1);
    expect(binomialTail(1000, 1000, 0.5)).toBeCloseTo(2 ** -1000, 300);
    expect(binomialTail(1000, 1, 0.5)).toBeCloseTo(1, 12);
    expect(signTestP(0, 0)).toBe(1);
    expect(signTestP(5, 5)).toBe(1);
    expect(() => binomialTail(10, 11, 0.5)).toThrow('hits');
    expect(() => binomialTail(1001, 0, 0.5)).toThrow('trials');
    expect(() => identificationP(1, 2, 1)).toThrow('choices');
    expect(() => binomialTail(2.5, 1, 0.5)).toThrow('whole');
  });

  it('corrects for all comparisons that were made', () => {
    expect(holm([0.01, 0.04, 0.03])).toEqual([0.03, 0.06, 0.06]);
    expect(holm([0.5, 0.6])).toEqual([1, 1]);
    expect(holm([])).toEqual([]);
  });
});

describe('a blind test', () => {
  it('hears every pair so often as was fixed, in both orders about equally', () => {
    const trials = trialsOf('preference', ['a', 'b', 'c'], 100, seededRandom(3));
    expect(trials).toHaveLength(trialsIn('preference', 3, 100));
    const ab = trials.filter(({ among }) => among.includes('a') && among.includes('b'));
    expect(ab).toHaveLength(100);
    const first = ab.filter(({ among }) => among[0] === 'a').length;
    expect(first).toBeGreaterThan(30);
    expect(first).toBeLessThan(70);
  });

  it('hides each about equally often', () => {
    const trials = trialsOf('identification', ['a', 'b', 'c'], 90, seededRandom(5));
    for (const id of ['a', 'b', 'c']) {
      const count = trials.filter(({ hidden }) => hidden === id).length;
      expect(count).toBeGreaterThan(15);
      expect(count).toBeLessThan(45);
    }
    expect(() => trialsOf('identification', ['a'], 10, Math.random)).toThrow('allowed: 2 to 26');
  });

  const prefers = (said: readonly string[]): Answer[] =>
    said.map((one) => ({ among: ['a', 'b'], hidden: null, said: one }));

  it('counts a listener once, however often he answered', () => {
    const steady = prefers(Array<string>(10).fill('a'));
    const alone = resultOf('preference', ['a', 'b'], [{ by: 'Ada', answers: steady }]);
    expect(alone.together).toEqual([]);
    expect(alone.own[0]?.pairs[0]?.p).toBeCloseTo(2 / 1024, 12);
    const three = ['Ada', 'Bo', 'Cy'].map((by) => ({ by, answers: steady }));
    const [pair] = resultOf('preference', ['a', 'b'], three).together;
    expect(pair).toMatchObject({ forOne: 3, forOther: 0, ties: 0 });
    expect(pair?.p).toBeCloseTo(0.25, 12);
  });

  it('leaves ties out and shows them', () => {
    const answers = prefers(['a', 'a', 'a', 'a', 'a', 'a', '', '']);
    const [own] = resultOf('preference', ['a', 'b'], [{ by: '', answers }]).own;
    expect(own?.pairs[0]).toMatchObject({ forOne: 6, forOther: 0, ties: 2 });
    const names = new Map([
      ['a', 'Close'],
      ['b', 'Far'],
    ]);
    const text = own?.pairs[0] && preferredText('Ada', own.pairs[0], names, false);
    expect(text).toBe(
      'Ada: Close rather than Far, sure: 6 to 0, 2 without a difference left out, p = 0.031.',
    );
  });

  it('says what would have told where it cannot be told', () => {
    const answers = (right: number): Answer[] =>
      Array.from({ length: 10 }, (_, i) => ({
        among: ['a', 'b'],
        hidden: 'a',
        said: i < right ? 'a' : 'b',
      }));
    const text = (right: number): string => {
      const result = resultOf(
        'identification',
        ['a', 'b'],
        [{ by: 'Ada', answers: answers(right) }],
      );
      const [one] = result.identified;
      return one ? identifiedText(one) : '';
    };
    expect(text(9)).toBe(
      'Ada can tell them apart, sure: 9 of 10 right; guessing does as well 11 times in 1000 (p = 0.011).',
    );
    expect(text(8)).toBe(
      'Whether Ada can tell them apart cannot be told: 8 of 10 right; guessing does as well 55 times in 1000 (p = 0.055); 9 right would have been sure.',
    );
  });
});
