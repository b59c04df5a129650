import { applyPatches, enablePatches, type Patch } from 'immer';
import { expect, it } from 'vitest';
import { seededRandom } from '../units/random';
import { patchesBetween } from './patches';

enablePatches();

function anyJson(random: () => number, depth: number): unknown {
  const kind = Math.floor(random() * (depth > 0 ? 6 : 4));
  if (kind === 0) return null;
  if (kind === 1) return random() < 0.5;
  if (kind === 2) return Math.floor(random() * 5);
  if (kind === 3) return 'abc'.slice(Math.floor(random() * 3));
  const length = Math.floor(random() * 4);
  const inner = () => anyJson(random, depth - 1);
  return kind === 4
    ? Array.from({ length }, inner)
    : Object.fromEntries(Array.from({ length }, (_, i) => ['pqrs'[i] ?? 't', inner()]));
}

it('patches make one document of any other', () => {
  const random = seededRandom(7);
  for (let i = 0; i < 500; i++) {
    const [before, after] = [{ of: anyJson(random, 4) }, { of: anyJson(random, 4) }];
    const patches = patchesBetween(before, after);
    expect(applyPatches(before, patches as Patch[])).toEqual(after);
  }
});

it('what is the same takes none, and one figure takes one', () => {
  const before = { arrays: [{ z: 2.5, name: 'Main' }, { z: 3 }], title: 'x' };
  expect(patchesBetween(before, structuredClone(before))).toEqual([]);
  const after = { ...before, arrays: [{ z: 2.52, name: 'Main' }, { z: 3 }] };
  expect(patchesBetween(before, after)).toEqual([
    { op: 'replace', path: ['arrays', 0, 'z'], value: 2.52 },
  ]);
});
