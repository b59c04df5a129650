import { describe, expect, it } from 'vitest';
import { newArray, newSource, sessionFrom, type Session } from '../session';
import { threeMicTree } from '../arrays';
import { monoRows, type MonoRow } from './mono-table';
import { sessionFigures } from '.';

function rowsOf(session: Session, arrayId: string | null): MonoRow[] {
  const steps = monoRows(session, arrayId);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

const AB = { kind: 'pair', pattern: 'omni', spacingM: 0.5, includedAngleDeg: 0 } as const;
const session = sessionFrom({
  sources: [
    newSource({ id: 'one', x: 1, y: 3 }),
    newSource({ id: 'wide', x: -1, y: 3, widthM: 1.5 }),
  ],
  arrays: [
    newArray({ id: 'ab', role: 'main', x: 0, y: 0, z: 2, technique: AB }),
    newArray({
      id: 'tree',
      x: 0,
      y: -1,
      z: 3,
      technique: {
        kind: 'custom',
        capsules: threeMicTree(2, 1.2, 'omni').capsules.map((capsule) => ({ ...capsule })),
      },
    }),
    newArray({ id: 'off', enabled: false }),
  ],
});

describe('what mono leaves', () => {
  it('is told of every player, and of both ends and the middle of a wide one', () => {
    const rows = rowsOf(session, 'ab');
    expect(rows.map(({ sourceId, part }) => `${sourceId} ${part}`)).toEqual([
      'one whole',
      'wide left end',
      'wide middle',
      'wide right end',
    ]);
    for (const { bands } of rows) expect(bands).toHaveLength(21);
  });

  it('of one array is what its figures say', () => {
    const [figures, tree] = sessionFigures(session);
    const [one] = rowsOf(session, 'ab');
    const mono = figures?.sources[0]?.mono;
    expect(one?.sumDb).toBeCloseTo(mono?.sumDb ?? NaN, 9);
    expect(one?.firstNullHz).toBeCloseTo(mono?.firstNotchHz ?? NaN, 2);
    const [ofTree] = rowsOf(session, 'tree');
    expect(ofTree?.rippleDb).toBeCloseTo(tree?.sources[0]?.mono?.combDb ?? NaN, 9);
  });

  it('of the whole mix counts every strip: a second pair turned round takes all', () => {
    const twice: Session = {
      ...session,
      arrays: session.arrays.slice(0, 1).flatMap((array) => [
        array,
        {
          ...array,
          id: 'again',
          mix: {
            ...array.mix,
            capsules: [-1, 1].map((pan) => ({ pan, gainDb: 0, polarity: -1 as const, delayMs: 0 })),
          },
        },
      ]),
    };
    for (const { sumDb } of rowsOf(twice, null)) expect(sumDb).toBeLessThan(-60);
    for (const { sumDb } of rowsOf(session, null)) expect(sumDb).toBeGreaterThan(-3);
  });

  it('is nothing of what is not in use, and nothing at a capsule', () => {
    expect(rowsOf(session, 'off')).toEqual([]);
    expect(rowsOf({ ...session, arrays: [] }, null)).toEqual([]);
    const at = { ...session, sources: [newSource({ id: 'at', x: 0.25, y: 0, z: 2 })] };
    expect(rowsOf(at, 'ab')).toEqual([]);
  });
});
