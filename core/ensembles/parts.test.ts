import { describe, expect, it } from 'vitest';
import { newSource } from '../session';
import { vec } from '../units';
import { partsOf } from './parts';

describe('a wide instrument as points', () => {
  const piano = newSource({
    id: 'p',
    name: 'Piano',
    kind: 'piano',
    levelDb: 90,
    q: 2,
    facingDeg: 100,
    widthM: 2.4,
  });
  let count = 0;
  const parts = partsOf(piano, [vec(-1, 1, 1), vec(0, 1.5, 1), vec(1, 2.00049, 1)], () => {
    count += 1;
    return `id${count}`;
  });

  it('are points of their own, numbered, in a section of their instrument', () => {
    expect(parts.map(({ id, name, group, widthM }) => [id, name, group, widthM])).toEqual([
      ['id1', 'Piano 1 of 3', 'Piano', 0],
      ['id2', 'Piano 2 of 3', 'Piano', 0],
      ['id3', 'Piano 3 of 3', 'Piano', 0],
    ]);
    expect(parts[2]).toMatchObject({ x: 1, y: 2, kind: 'piano', q: 2, facingDeg: 100 });
  });

  it('together they are as loud as the whole', () => {
    const power = parts.reduce((sum, { levelDb }) => sum + 10 ** (levelDb / 10), 0);
    expect(10 * Math.log10(power)).toBeCloseTo(90, 1);
  });
});
