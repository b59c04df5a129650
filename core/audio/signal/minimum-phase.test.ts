import { expect, it } from 'vitest';
import { seededRandom } from '../../units/random';
import { minimumPhase } from './minimum-phase';

const OCTAVES = [125, 250, 500, 1000, 2000, 4000, 8000];

/** Level of a response at a frequency, dB. */
function levelAt(response: Float32Array, hz: number, rate: number): number {
  let [re, im] = [0, 0];
  response.forEach((value, i) => {
    re += value * Math.cos((2 * Math.PI * hz * i) / rate);
    im -= value * Math.sin((2 * Math.PI * hz * i) / rate);
  });
  return 10 * Math.log10(re * re + im * im);
}

it.each([44_100, 48_000, 96_000, 192_000])(
  'has its gain at every octave, and its loudest sample first, at %s Hz',
  (rate) => {
    const random = seededRandom(7);
    for (let trial = 0; trial < 12; trial++) {
      // From bare stone to a heavy curtain.
      const octaves = OCTAVES.map((hz) => ({ hz, gain: Math.sqrt(0.25 + 0.75 * random()) }));
      const response = minimumPhase(octaves, rate);
      expect(response.length).toBeLessThanOrEqual(0.02 * rate);
      for (const { hz, gain } of octaves) {
        expect(Math.abs(levelAt(response, hz, rate) - 20 * Math.log10(gain)), `${hz}`).toBeLessThan(
          0.5,
        );
      }
      const loudest = response.reduce(
        (best, v, i) => (Math.abs(v) > Math.abs(response[best] ?? 0) ? i : best),
        0,
      );
      expect(loudest).toBe(0);
    }
  },
);

it('nothing is changed by gains of one, and out of range is refused', () => {
  const one = minimumPhase([{ hz: 1000, gain: 1 }], 48_000);
  expect(one[0]).toBeCloseTo(1, 6);
  expect(one.length).toBe(1);
  expect(() => minimumPhase([{ hz: 1000, gain: 0 }], 48_000)).toThrow(RangeError);
  expect(() => minimumPhase([{ hz: 1000, gain: 1 }], 7999)).toThrow(RangeError);
});
