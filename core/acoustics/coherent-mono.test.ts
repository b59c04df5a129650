import { describe, expect, it } from 'vitest';
import { coherentMono, coherentResponse, coherentSumDb, monoDip, sumBelow, type MonoWave } from '.';
import { seededRandom } from '../units/random';
import { monoSum } from './mono';
import { monoResponse } from '../fixtures/closed';

const side = (gain: number, timeMs: number): MonoWave => ({
  gain,
  energy: gain * gain,
  timeS: timeMs / 1000,
});
/** In the middle of both channels. */
const centre = (gain: number, timeMs: number): MonoWave => ({
  gain: gain * Math.SQRT2,
  energy: gain * gain,
  timeS: timeMs / 1000,
});

describe('the mono sum of several waves', () => {
  it.each([
    [1, 1, 0.5],
    [1, 0.8, 2.9],
    [0.4, -0.3, 1.7],
  ])('is that of two channels where there are two: %s, %s, %s ms', (left, right, ms) => {
    const waves = [side(left, 0), side(right, ms)];
    const two = monoSum(left, right, ms);
    expect(coherentSumDb(waves)).toBeCloseTo(two.sumDb, 9);
    expect(coherentMono(waves).combDb).toBeCloseTo(two.combDb, 3);
    expect(coherentMono(waves).firstNotchHz).toBeCloseTo(two.firstNotchHz ?? NaN, 2);
    const bands = coherentResponse(waves).map(({ levelDb }) => levelDb);
    const wanted = monoResponse(left, right, ms).map(({ levelDb }) => levelDb);
    bands.forEach((level, i) => expect(level).toBeCloseTo(wanted[i] ?? NaN, 9));
  });

  it('a centre microphone 1 m nearer than both others makes its first null at 172 Hz', () => {
    const ms = (metres: number) => (metres / 343.4) * 1000;
    const waves = [side(1 / 5, ms(5)), centre(1 / 4, ms(4)), side(1 / 5, ms(5))];
    const dip = monoDip(waves);
    expect(dip.firstNullHz).toBeCloseTo(171.7, 1);
    expect(dip.deepestDb).toBeLessThan(-10);
  });

  it('a wave that outweighs the others has no null, but a deepest dip', () => {
    const dip = monoDip([side(1, 0), side(0.3, 1), side(0.2, 1.7)]);
    expect(dip.firstNullHz).toBeNull();
    expect(dip.deepestDb).toBeLessThan(-3);
    expect(dip.deepestDb).toBeGreaterThan(-10);
  });

  it('is nothing of nothing, twice the level of one in both, and bare where two cancel', () => {
    expect(coherentMono([])).toEqual({ firstNotchHz: null, combDb: 0, sumDb: 0 });
    expect(coherentMono([centre(0.5, 3)]).sumDb).toBeCloseTo(3.0103, 4);
    expect(coherentSumDb([centre(1, 0), centre(-1, 0)])).toBeLessThan(-100);
  });

  it('looks no farther than it is told to', () => {
    const waves = [side(1, 0), side(1, 0.1)];
    expect(monoDip(waves, 4000).firstNullHz).toBeNull();
    expect(monoDip(waves, 6000).firstNullHz).toBeCloseTo(5000, 0);
  });
});

describe('a quick look at many sums', () => {
  it('finds a loss exactly, and none where there is none', () => {
    const random = seededRandom(7);
    for (let round = 0; round < 400; round++) {
      const waves = Array.from({ length: 2 + Math.floor(random() * 6) }, () =>
        side((random() < 0.3 ? -1 : 1) * (0.1 + random()), random() * 8),
      );
      const exact = coherentSumDb(waves);
      expect(sumBelow(waves, -1.5)).toBe(exact < -1.5 ? exact : null);
    }
    expect(sumBelow([], -1.5)).toBeNull();
    expect(sumBelow([side(1, 0), side(-1, 200)], -1.5)).toBeNull();
  });
});
