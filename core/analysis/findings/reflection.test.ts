import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom } from '../../session';
import { seededRandom } from '../../units/random';
import { analyseSession } from '../analyse';
import { reflectionsAtArray } from '../room';

const random = seededRandom(11);
const between = (low: number, high: number): number => low + (high - low) * random();

describe('early answers of the hall', () => {
  it('are found wherever one is strong and early, in rooms and places of all kinds', () => {
    let answers = 0;
    for (let i = 0; i < 150; i++) {
      const [widthM, depthM, heightM] = [between(4, 20), between(5, 30), between(2.6, 12)];
      const at = () => ({ x: between(0.4, widthM - 0.4), y: between(0.4, depthM - 0.4) });
      const session = sessionFrom({
        venue: { widthM, depthM, heightM, origin: { x: 0, y: 0 } },
        sources: [
          newSource({ id: 'p', name: 'Player', kind: 'violin', ...at(), z: between(0.4, 2) }),
        ],
        arrays: [
          newArray({
            id: 'm',
            role: 'main',
            ...at(),
            z: between(0.5, heightM - 0.4),
            aimDeg: between(-180, 180),
            technique: {
              kind: 'pair',
              pattern: 'omni',
              spacingM: between(0, 2),
              includedAngleDeg: 0,
            },
          }),
        ],
      });
      const [array] = session.arrays;
      const [source] = session.sources;
      if (!array || !source) throw new Error('an array and a player');
      const [strongest] = reflectionsAtArray(session, array, source, 1).filter(
        ({ surfaces, delayMs }) => surfaces[0] !== 'floor' && delayMs < 15,
      );
      const strong = strongest !== undefined && strongest.levelDb >= -8;
      answers += Number(strong);
      const found = analyseSession(session).findings.filter(
        ({ code }) => code === 'strong-reflection',
      );
      if (strong) expect(found.map(({ sourceIds }) => sourceIds).flat()).toContain('p');
      if (!strongest) expect(found).toEqual([]);
    }
    expect(answers).toBeGreaterThan(20);
  });
});
