import { describe, expect, it } from 'vitest';
import { newArray } from '../session';
import { mountSpanM, mountsOf } from './mounts';

const pair = (spacingM: number) =>
  newArray({
    id: 'a',
    name: 'Pair',
    x: 1,
    y: 2,
    z: 3,
    technique: { kind: 'pair', pattern: 'omni', spacingM, includedAngleDeg: 0 },
  });
const tree = (dz: number) =>
  newArray({
    id: 't',
    name: 'Tree',
    technique: {
      kind: 'custom',
      capsules: (
        [
          ['L', -1, 0],
          ['C', 0, 1.5],
          ['R', 1, 0],
          ['Lh', -1, 0],
        ] as const
      ).map(([label, dx, dy], i) => ({
        label,
        dx,
        dy,
        dz: i === 3 ? dz : 0,
        azimuthDeg: 0,
        elevationDeg: 0,
        pattern: 'omni' as const,
      })),
    },
  });

describe('the stands of an array', () => {
  it('is one below its middle as far as a bar reaches', () => {
    expect(mountsOf(pair(1.2))).toEqual([{ name: 'Pair', capsules: [0, 1], x: 1, y: 2, z: 3 }]);
    const [mount] = mountsOf(pair(0.4));
    expect(mount && mountSpanM(pair(0.4), mount)).toBeCloseTo(0.4, 12);
  });

  it('is one for each microphone beyond, below each of them', () => {
    expect(mountsOf(pair(1.201)).map(({ name, x, y }) => [name, x, y])).toEqual([
      ['Pair L', 1 - 0.6005, 2],
      ['Pair R', 1 + 0.6005, 2],
    ]);
  });

  it('carries a height microphone with the one below it, as high as the higher', () => {
    const mounts = mountsOf(tree(1));
    expect(mounts.map(({ name }) => name)).toEqual(['Tree L and Lh', 'Tree C', 'Tree R']);
    expect(mounts[0]?.z).toBeCloseTo(3.5, 12);
    expect(mountsOf(tree(1.3)).map(({ name }) => name)).toContain('Tree Lh');
  });
});
