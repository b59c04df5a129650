import { describe, expect, it } from 'vitest';
import { analyseSession } from '../analysis';
import { readyArray } from '../prepare/arrays';
import { newSource, sessionFrom } from '../session';
import { presetArray, presetsFor } from './presets';

describe('microphones for one instrument', () => {
  const guitar = newSource({
    id: 'g',
    name: 'Guitar',
    kind: 'guitar',
    x: 1,
    y: 2,
    z: 0.8,
    facingDeg: 200,
  });
  const kit = newSource({
    id: 'k',
    name: 'Kit',
    kind: 'drum kit',
    x: -1,
    y: 3,
    z: 0.9,
    widthM: 1.5,
  });

  it('stand before it, look at it, and are for it alone', () => {
    for (const preset of presetsFor(guitar)) {
      const array = presetArray(preset, guitar, 'a', preset.name);
      expect(Math.hypot(array.x - 1, array.y - 2)).toBeCloseTo(preset.awayM, 2);
      expect(array.aimDeg).toBe(20);
      expect(array.for).toEqual({ kind: 'some', groups: [], sources: ['g'] });
      const [first] = readyArray(array).capsules;
      const towards = (first?.axis.x ?? 0) * (1 - array.x) + (first?.axis.y ?? 0) * (2 - array.y);
      expect(towards).toBeGreaterThan(0);
    }
  });

  it('of a kit are over its middle, wider and lower for the cymbals', () => {
    const [whole, cymbals] = presetsFor(kit).map((preset) => presetArray(preset, kit, 'o', 'Over'));
    expect(whole).toMatchObject({ x: -1, y: 3, z: 2.2, role: 'overhead', tiltDeg: -90 });
    expect(cymbals?.z).toBeLessThan(whole?.z ?? 0);
    if (!whole) throw new Error('overheads are expected');
    const { findings } = analyseSession(sessionFrom({ sources: [kit], arrays: [whole] }));
    expect(findings.map(({ code }) => code)).not.toContain('overhead-distance');
    expect(findings.map(({ code }) => code)).not.toContain('overhead-coverage');
  });

  it('say when and why, each by a name of its own', () => {
    const all = [...presetsFor(guitar), ...presetsFor(kit)];
    expect(new Set(all.map(({ id }) => id)).size).toBe(6);
    for (const { reason } of all) expect(reason).toMatch(/\.$/);
  });
});
