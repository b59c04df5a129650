import { describe, expect, it } from 'vitest';
import { scaled, soundOf } from '../fixtures/made';
import { whiteNoise } from '../signal/generate';
import type { Sound } from '../sound';
import { Cancelled, type Work } from '../work';
import { matchOf } from './asked';
import { curvesOf, delayMatrix, stereoPoints } from './curves';
import { MEASURABLE } from './meters';
import { overviewOf, sketchOf } from './overview';
import { pyramidOf } from './pyramid';
import { measureTake } from './take';

const [RATE, SECONDS] = [48_000, 8];
const whole = { from: 0, to: RATE * SECONDS };
const noise = scaled(whiteNoise(RATE * SECONDS, 1), 0.1);
const stretch = { fromS: 0, toS: SECONDS };

const works: Record<string, (sound: Sound, work: Partial<Work>) => Promise<unknown>> = {
  ...Object.fromEntries(
    MEASURABLE.map((what) => [
      what,
      (sound: Sound, work: Partial<Work>) => measureTake(sound, { what: [what], ...work }),
    ]),
  ),
  'many channels': (sound, work) => measureTake(sound, work),
  curves: (sound, work) => curvesOf(sound, whole, [0, 1], work),
  points: (sound, work) => stereoPoints(sound, whole, [0, 1], 1000, work),
  matrix: (sound, work) => delayMatrix(sound, whole, [0, 1], 200, work),
  match: (sound, work) => matchOf(sound, 0, 1, stretch, work),
  pyramid: (sound, work) => pyramidOf(sound, work),
  sketch: (sound, work) => sketchOf(sound, 500, work),
  overview: (sound, work) => overviewOf(sound, 500, work),
};

describe.each(Object.entries(works))('long work, %s', (name, run) => {
  const many = name === 'many channels';
  const planes = Array.from({ length: many ? 20 : 2 }, () => noise);

  it('breathes at least once for every second of sound, and its progress never falls', async () => {
    let [breaths, last] = [0, 0];
    await run(await soundOf(planes, RATE), {
      progress(fraction) {
        expect(fraction).toBeGreaterThanOrEqual(last);
        expect(fraction).toBeLessThanOrEqual(1);
        last = fraction;
      },
      breathe() {
        breaths += 1;
        return Promise.resolve();
      },
    });
    expect(breaths).toBeGreaterThanOrEqual(SECONDS - 1);
    expect(last).toBeGreaterThan(0.8);
  });

  it('ends at the next step once it is given up', async () => {
    const signal = { aborted: false };
    let after = 0;
    const work = run(await soundOf(planes, RATE), {
      signal,
      breathe() {
        after += signal.aborted ? 1 : 0;
        signal.aborted = true;
        return Promise.resolve();
      },
    });
    await expect(work).rejects.toBeInstanceOf(Cancelled);
    expect(after).toBe(0);
  });
});
