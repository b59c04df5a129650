import { describe, expect, it } from 'vitest';
import { told } from '../../fixtures/told';
import { contour } from '../fixtures/heard';
import { delayed, makeSignal, pinkNoise, SIGNAL_NAMES, whiteNoise } from './generate';

/** The signals sample for sample, as a text of their levels; frozen anew with `vitest -u`. */
describe('made signals', () => {
  it('are as they were', async () => {
    const made = SIGNAL_NAMES.map((name, i) => {
      const options = { sampleRateHz: 4000 + 1000 * (i % 3), seconds: 1.3, seed: 11 + i };
      const planes = makeSignal(name, { ...options, correlation: 0.3, delayMs: 1.7, hz: 333 });
      return [name, planes.map((plane) => [plane.length, contour(plane, 16)])];
    });
    const noise = [whiteNoise(500, 4), pinkNoise(500, 4)].map((samples) => [
      ...samples.slice(0, 6),
    ]);
    const shifted = [0.25, 1, 3.5].map((by) => [...delayed(whiteNoise(12, 1), by)]);
    await expect(told({ made, noise, shifted })).toMatchFileSnapshot(
      '../fixtures/pinned-signals.txt',
    );
  });
});
