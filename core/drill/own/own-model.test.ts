import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { answersOf, madeListener } from '../fixtures/listeners';
import { checkSound, imageSound } from './sound';
import { SET_UP_CHECKS } from './checks';
import { askedImages, LEVELS_DB, TIMES_MS, type HeardImage } from './images';
import { curvesWithSpread, listenerOf, rankCorrelation, refusedAnswers } from './listener';

/** A tenth of the listeners in every run, all of them in the long one. */
const LISTENERS = process.env.ROTUNDA_SOAK ? 100 : 10;
const DBS = Array.from({ length: 18 }, (_, i) => i + 1);
const MSS = Array.from({ length: 24 }, (_, i) => (i + 1) * 0.05);

describe('the images that are asked', () => {
  it('are 54 of level, 54 of time and 12 of both, mirrored, each sound as often', () => {
    const images = askedImages(5);
    const of = (is: (one: (typeof images)[number]) => boolean) => images.filter(is);
    expect(of(({ ictdMs }) => ictdMs === 0)).toHaveLength(6 * LEVELS_DB.length);
    expect(of(({ icldDb }) => icldDb === 0)).toHaveLength(6 * TIMES_MS.length);
    expect(of(({ icldDb, ictdMs }) => icldDb !== 0 && ictdMs !== 0)).toHaveLength(12);
    const sum = images.reduce((total, { icldDb, ictdMs }) => total + icldDb + ictdMs, 0);
    expect(sum).toBeCloseTo(0, 9);
    for (const sound of ['voice', 'noise bursts', 'clicks'] as const) {
      expect(of((one) => one.sound === sound)).toHaveLength(40);
    }
    expect(askedImages(5)).toEqual(images);
    expect(askedImages(6)).not.toEqual(images);
  });
});

describe('a listener’s own model from made-up listeners', () => {
  it('misses by 3.5 % on average and 12 % at the worst for nine of ten; nine of ten intervals hold', () => {
    const count = LISTENERS;
    let [good, inside, points] = [0, 0, 0];
    for (let i = 1; i <= count; i++) {
      const made = madeListener(i);
      const found = listenerOf(answersOf(made, askedImages(i), 31 * i + 7));
      if ('none' in found) throw new Error(found.none.reason);
      const { middle, low, high } = curvesWithSpread(found.listener);
      const errors: number[] = [];
      const look = (cue: 'level' | 'time', at: number): void => {
        const truth = Math.min(1, made[cue](at));
        errors.push(Math.abs(middle[cue](at) - truth));
        points += 1;
        if (truth >= low[cue](at) - 1e-9 && truth <= high[cue](at) + 1e-9) inside += 1;
      };
      DBS.forEach((db) => look('level', db));
      MSS.forEach((ms) => look('time', ms));
      const mean = errors.reduce((sum, error) => sum + error, 0) / errors.length;
      if (mean <= 0.035 && Math.max(...errors) <= 0.12) good += 1;
    }
    expect(good).toBeGreaterThanOrEqual(Math.floor(0.9 * count));
    expect(inside / points).toBeGreaterThanOrEqual(0.85);
    expect(inside / points).toBeLessThanOrEqual(0.97);
  });

  const images = askedImages(3);
  const answers = answersOf(madeListener(4), images, 9);
  const reasonOf = (heard: readonly HeardImage[]): string => {
    const found = listenerOf(heard);
    return 'none' in found ? found.none.reason : 'a model';
  };

  it('refuses whoever answers at random, is swapped, or hears one side, with the reason', () => {
    for (let seed = 1; seed <= 10; seed++) {
      const random = seededRandom(seed);
      const blind = images.map(({ icldDb, ictdMs }) => ({ icldDb, ictdMs, at: 2 * random() - 1 }));
      expect(reasonOf(blind)).toMatch(/do not follow the cue/);
    }
    expect(reasonOf(answers.map((one) => ({ ...one, at: -one.at })))).toMatch(/heard on the left/);
    const random = seededRandom(2);
    const right = answers.map((one) => ({ ...one, at: 0.6 + 0.4 * random() }));
    expect(reasonOf(right)).toMatch(/answers are on the right/);
    const still = answers.map((one) => (one.icldDb === 0 ? { ...one, at: 0.1 * random() } : one));
    expect(reasonOf(still)).toMatch(/Time differences do not move the image/);
  });

  it('refuses too few, and makes one of 36 and 36', () => {
    expect(refusedAnswers([])?.reason).toMatch(/0 answers to level/);
    const half = (count: number) => {
      const taken = { level: 0, time: 0 };
      return answers.filter(({ icldDb, ictdMs }) => {
        if (icldDb !== 0 && ictdMs !== 0) return false;
        return (taken[ictdMs === 0 ? 'level' : 'time'] += 1) <= count;
      });
    };
    expect(reasonOf(half(35))).toMatch(/35 answers/);
    expect(reasonOf(half(36))).toBe('a model');
  });

  it('rises, ends at or below the loudspeaker, and is the same for the same answers', () => {
    const found = listenerOf(answers);
    if ('none' in found) throw new Error(found.none.reason);
    for (const shifts of [found.listener.levels, found.listener.times]) {
      shifts.forEach((shift, i) => expect(shift).toBeGreaterThanOrEqual(shifts[i - 1] ?? 0));
      expect(Math.max(...shifts)).toBeLessThanOrEqual(1);
    }
    expect(listenerOf(answers)).toEqual(found);
  });
});

describe('correlation by rank', () => {
  it('is 1 of what rises together however bent, −1 of what falls, and takes ties', () => {
    expect(rankCorrelation([1, 2, 3, 4], [1, 8, 27, 64])).toBeCloseTo(1, 12);
    expect(rankCorrelation([1, 2, 3], [3, 2, 1])).toBeCloseTo(-1, 12);
    expect(rankCorrelation([1, 1, 2, 2], [5, 5, 7, 7])).toBeCloseTo(1, 12);
    expect(rankCorrelation([1, 1], [2, 3])).toBe(0);
  });
});

const energy = (plane: Float32Array): number =>
  plane.reduce((sum, value) => sum + value * value, 0);

describe('the sound of an image', () => {
  it('has its level difference and no other, at every kind of sound', () => {
    for (const sound of ['voice', 'noise bursts', 'clicks'] as const) {
      const [left, right] = imageSound({ icldDb: 9, ictdMs: 0, sound });
      expect(10 * Math.log10(energy(right) / energy(left))).toBeCloseTo(9, 1);
    }
  });

  it('comes earlier on the right where it should', () => {
    const [left, right] = imageSound({ icldDb: 0, ictdMs: 0.5, sound: 'clicks' });
    const peak = (plane: Float32Array): number =>
      plane.reduce(
        (best, value, i) => (Math.abs(value) > Math.abs(plane[best] ?? 0) ? i : best),
        0,
      );
    expect((peak(left) - peak(right)) / 48).toBeCloseTo(0.5, 1);
  });

  it('of a check is where it is said to be', () => {
    expect(energy(checkSound('left')[1])).toBe(0);
    expect(energy(checkSound('right')[0])).toBe(0);
    const [a, b] = checkSound('balance');
    expect([...a]).toEqual([...b]);
    const [left, right] = checkSound('phase');
    const middle = left.length / 2;
    expect(left[4000]).toBeCloseTo(-(right[4000] ?? 0), 9);
    expect(left[middle + 4000]).toBeCloseTo(right[middle + 4000] ?? 1, 9);
    for (const { answers, truth } of SET_UP_CHECKS) expect(answers).toContain(truth);
  });
});
