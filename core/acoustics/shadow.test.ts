import { describe, expect, it } from 'vitest';
import { vec, type Vec3 } from '../units/vector';
import { detoursRound, pairsOf, screenAttenuation, shadowByOctave, type Edge } from './shadow';

const SPEED = 343;

/** A thin wall across the way, from x = −half to half, as high as said. */
function wall(half: number, high: number) {
  const edges: Edge[] = [
    [vec(-half, 0, 0), vec(-half, 0, high)],
    [vec(half, 0, 0), vec(half, 0, high)],
    [vec(-half, 0, high), vec(half, 0, high)],
  ];
  const isFree = (a: Vec3, b: Vec3): boolean => {
    if ((a.y > 1e-9 && b.y > 1e-9) || (a.y < 1e-9 && b.y < 1e-9)) return true;
    if (Math.abs(a.y) < 1e-9 || Math.abs(b.y) < 1e-9) return true;
    const t = a.y / (a.y - b.y);
    const [x, z] = [a.x + t * (b.x - a.x), a.z + t * (b.z - a.z)];
    return Math.abs(x) > half || z > high;
  };
  return { edges, isFree };
}

describe('a screen', () => {
  it('takes off what Maekawa says, 0 in sight, 5 dB at its edge', () => {
    expect(screenAttenuation(0, 1000, SPEED)).toBe(0);
    expect(screenAttenuation(1e-9, 1000, SPEED)).toBeCloseTo(4.77, 2);
    // N = 1: a detour of half a wavelength.
    expect(screenAttenuation(SPEED / 1000 / 2, 1000, SPEED)).toBeCloseTo(10 * Math.log10(23), 9);
    expect(screenAttenuation(SPEED / 1000 / 2, 8000, SPEED)).toBeCloseTo(10 * Math.log10(163), 9);
    expect(() => screenAttenuation(-1, 1000, SPEED)).toThrow('detourM');
    expect(() => screenAttenuation(1, 0, SPEED)).toThrow('frequencyHz');
    expect(() => screenAttenuation(1, 1000, 100)).toThrow(RangeError);
  });

  it('is gone round by its shortest ways, one a side', () => {
    const { edges, isFree } = wall(1, 5);
    const [from, to] = [vec(0, -2, 1), vec(0, 2, 1)];
    const detours = detoursRound(from, to, [{ edges, pairs: pairsOf(edges) }], isFree);
    const aside = 2 * Math.hypot(1, 2) - 4;
    expect(detours[0]).toBeCloseTo(aside, 6);
    expect(detours[1]).toBeCloseTo(aside, 6);
    expect(detours[2]).toBeCloseTo(2 * Math.hypot(4, 2) - 4, 6);
    expect(detoursRound(from, vec(0, -1, 1), [{ edges, pairs: pairsOf(edges) }], isFree)).toEqual([
      0,
    ]);
    expect(detoursRound(from, to, [], isFree)).toEqual([]);
  });

  it('that is narrow hides no low sound, and never makes anything louder', () => {
    const { edges, isFree } = wall(0.15, 5);
    const detours = detoursRound(
      vec(0, -2, 1),
      vec(0, 2, 1),
      [{ edges, pairs: pairsOf(edges) }],
      isFree,
    );
    const octaves = shadowByOctave(detours, SPEED) ?? [];
    expect(octaves.map(({ hz }) => hz)).toEqual([125, 250, 500, 1000, 2000, 4000, 8000]);
    expect(octaves[0]?.db).toBeLessThan(0.5);
    octaves.forEach(({ db }, i) => expect(db).toBeGreaterThanOrEqual(octaves[i - 1]?.db ?? 0));
    expect(shadowByOctave([], SPEED)).toBeNull();
    const wide = wall(6, 9);
    const hidden = shadowByOctave(
      detoursRound(
        vec(0, -2, 1),
        vec(0, 2, 1),
        [{ edges: wide.edges, pairs: pairsOf(wide.edges) }],
        wide.isFree,
      ),
      SPEED,
    );
    expect(hidden?.every(({ db }) => db > 10)).toBe(true);
  });
});
