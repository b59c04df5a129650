import { describe, expect, it } from 'vitest';
import { seededRandom } from '../units/random';
import { listenerErrors, type HeardPlace } from './heard';
import { modelById, type CommonModelId } from './models/index';

const about = { by: 'Anna', through: 'loudspeakers', coincident: false } as const;

/** Answers of somebody who hears as one model says, but so much farther in, with so much noise. */
function answersOf(
  model: CommonModelId,
  { count = 60, narrower = 0, noise = 0.06, seed = 1 } = {},
) {
  const random = seededRandom(seed);
  const normal = (): number =>
    noise * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return Array.from({ length: count }, (_, i): HeardPlace => {
    const [levelDb, delayMs] = [-9 + 18 * random(), -0.45 + 0.9 * random()];
    const at = modelById(model).shift(levelDb, -delayMs);
    const shift = Math.max(-1, Math.min(1, at - narrower * Math.sign(at) + normal()));
    return { ...about, passage: `${i}`, levelDb, delayMs, shift };
  });
}

const find = (answers: readonly HeardPlace[], model: CommonModelId) =>
  listenerErrors(answers)[0]?.models.find((one) => one.model === model);

describe('where somebody heard what', () => {
  it('says by how much a model is farther out, and which is nearest', () => {
    const answers = answersOf('added', { narrower: 0.08 });
    const added = find(answers, 'added');
    expect(added?.outward).toBeGreaterThan(0.05);
    expect(added?.outward).toBeLessThan(0.11);
    expect(added?.within).toBeGreaterThan(0.008);
    expect(added?.within).toBeLessThan(0.025);
    expect(added?.places).toBe(60);
    const [plain] = listenerErrors(answersOf('traded', { noise: 0.02 }));
    expect(plain?.nearest).toBe('traded');
  });

  it('has intervals that hold in 19 of 20', () => {
    let [held, all] = [0, 0];
    for (let seed = 1; seed <= 200; seed++) {
      const found = find(answersOf('consensus', { count: 12, noise: 0.04, seed }), 'consensus');
      if (found?.within == null || found.outward === null) continue;
      all += 1;
      if (Math.abs(found.outward) <= found.within) held += 1;
    }
    expect(all).toBe(200);
    expect(held / all).toBeGreaterThan(0.9);
    expect(held / all).toBeLessThan(0.99);
  });

  it('is never of two listeners at once, nor of loudspeakers and headphones', () => {
    const answers = [
      ...answersOf('added', { count: 20 }),
      ...answersOf('traded', { count: 30 }).map((one) => ({ ...one, by: 'Bert' })),
      ...answersOf('traded', { count: 10 }).map((one) => ({
        ...one,
        through: 'headphones' as const,
      })),
    ];
    expect(listenerErrors(answers).map(({ by, through, places }) => [by, through, places])).toEqual(
      [
        ['Bert', 'loudspeakers', 30],
        ['Anna', 'loudspeakers', 20],
        ['Anna', 'headphones', 10],
      ],
    );
  });

  it('counts two answers to one passage as one place', () => {
    const [first] = answersOf('added', { count: 1 });
    if (!first) throw new Error('no answer');
    const [anna] = listenerErrors([
      { ...first, shift: 0.2 },
      { ...first, shift: 0.4 },
    ]);
    const shift = modelById('consensus').shift(first.levelDb, -first.delayMs);
    expect(anna?.places).toBe(1);
    expect(anna?.models[0]?.rms).toBeCloseTo(Math.abs(shift - 0.3), 12);
  });

  it('says no interval of few, nothing of outward in the middle, nothing of levels alone with time', () => {
    expect(listenerErrors([])).toEqual([]);
    const few = listenerErrors(answersOf('added', { count: 4 }))[0];
    expect(few?.models.every(({ within }) => within === null)).toBe(true);
    expect(few?.nearest).toBeNull();
    const middle: HeardPlace = { ...about, passage: 'a', levelDb: 0, delayMs: 0, shift: 0.1 };
    const [of] = listenerErrors([middle]);
    expect(of?.models[0]).toMatchObject({ outward: null, rms: 0.1 });
    expect(of?.models.map(({ model }) => model)).not.toContain('tangent');
    const [coincident] = listenerErrors([{ ...middle, coincident: true }]);
    expect(coincident?.models.map(({ model }) => model)).toContain('tangent');
  });
});
