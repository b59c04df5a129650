import { describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { foreignMove } from './move-schema';
import { stepOf, type Recipe } from './steps';

const session = demoSession('2026-11-30T12:00:00Z');
const stepBy = (recipe: Recipe) => {
  const made = stepOf(session, recipe);
  if (!made) throw new Error('a change');
  // As it comes over a line.
  return structuredClone({ kind: 'step' as const, step: made.step });
};
const entry = {
  kind: 'entry',
  journal: 'log',
  entry: { id: 'l1', at: '', strikes: '', amends: '', by: '', kind: 'note', text: 'x', about: [] },
};

describe('a move from elsewhere', () => {
  it('is what it was, from a tab', () => {
    for (const move of [
      stepBy((draft) => void (draft.venue.temperatureC = 12)),
      stepBy((draft) => void draft.sources.pop()),
      stepBy((draft) => void (draft.title = 'Otherwise')),
      { kind: 'undo' },
      { kind: 'redo' },
      { kind: 'take back' },
      { kind: 'amend', patches: [{ op: 'replace', path: ['title'], value: 'x' }] },
      entry,
    ]) {
      expect(foreignMove(move, 'tab')).toEqual(move);
    }
  });

  it('is refused where it is none, with the place in it', () => {
    for (const [raw, why] of [
      [null, /no move/],
      [{ kind: 'jump' }, /no move: kind/],
      [
        { kind: 'step', step: { patches: [{ op: 'move', path: [] }], inverse: [] } },
        /step.patches\[0\].op/,
      ],
      [{ kind: 'step', step: { patches: [] } }, /step.inverse/],
      [{ kind: 'entry', journal: 'diary', entry: { id: 'x' } }, /journal/],
      [{ kind: 'entry', journal: 'log', entry: { id: '' } }, /entry.id/],
    ] as const) {
      expect(() => foreignMove(raw, 'tab')).toThrow(why);
    }
  });

  it('changes neither who the session is nor its journals, nor all of it at once', () => {
    for (const path of [['id'], ['version'], ['log', 0], ['acknowledgements'], []]) {
      const patches = [{ op: 'replace', path, value: 'x' }];
      expect(() => foreignMove({ kind: 'amend', patches }, 'tab')).toThrow(
        /not changed from elsewhere/,
      );
      const step = { patches: [], inverse: patches };
      expect(() => foreignMove({ kind: 'step', step }, 'tab')).toThrow(
        /not changed from elsewhere/,
      );
    }
  });

  it('from the stage is what was set out and measured there, and entries', () => {
    const built = stepBy((draft) => {
      draft.rig.asBuilt.push({ arrayId: 'a', field: 'x', value: 1 } as never);
    });
    expect(foreignMove(built, 'stage')).toEqual(built);
    expect(foreignMove(entry, 'stage')).toEqual(entry);
    const moved = stepBy((draft) => {
      const [first] = draft.sources;
      if (first) first.x += 1;
    });
    expect(() => foreignMove(moved, 'stage')).toThrow('sources[0].x is not changed from the stage');
    expect(() => foreignMove({ kind: 'undo' }, 'stage')).toThrow('undo is not made from the stage');
  });
});
