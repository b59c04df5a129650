import { expect, it } from 'vitest';
import { shiftsOf } from '../../localisation/models';
import { scaled, soundOf } from '../fixtures/made';
import { curvesOf } from '../measure/curves';
import { delayed, pinkNoise, whiteNoise } from '../signal/generate';
import { heardImage } from './heard-image';

const [RATE, SECONDS] = [48_000, 6];
const LENGTH = SECONDS * RATE;
const first = scaled(whiteNoise(LENGTH, 1), 0.1);

async function heard(second: Float32Array) {
  const sound = await soundOf([first, second], RATE);
  const { differences } = await curvesOf(sound, { from: 0, to: LENGTH });
  expect(differences.values).toHaveLength(SECONDS / differences.stepS);
  return differences.values.map(heardImage);
}

it('two channels are an image over time as the models have it, and none where there is none', async () => {
  for (const image of await heard(first)) expect(image?.shift).toBeCloseTo(0, 5);
  // Softer and later on the right: as much level and time to the left.
  const shifts = shiftsOf(false, -6.0206, -0.5);
  for (const image of (await heard(scaled(delayed(first, 24), 0.5))).slice(1)) {
    expect(image?.shift).toBeCloseTo(shifts[0] ?? NaN, 2);
    expect(image?.low).toBeCloseTo(Math.min(...shifts), 2);
    expect(image?.high).toBeCloseTo(Math.max(...shifts), 2);
  }
  const other = scaled(pinkNoise(LENGTH, 9), 0.2);
  for (const none of [scaled(first, -1), other, new Float32Array(LENGTH)]) {
    expect(await heard(none)).toEqual(Array.from({ length: 15 }, () => null));
  }
});
