import { expect, it } from 'vitest';
import { demoSessions } from '../core/demo';
import { patchesBetween, stageDocument as schema } from '../core/stage';
import { sheetModel } from './sheet-model';
import { stageDocument } from './stage-document';

it('is the sheet in the words that are printed, and nothing of what it does not show', () => {
  for (const session of demoSessions('2026-01-01T00:00:00Z')) {
    const shown = stageDocument(session, false);
    expect(schema.parse(shown)).toEqual(shown);
    const model = sheetModel(session, true);
    expect(shown.arrays.map(({ positions }) => positions)).toEqual(
      model.parts.map(({ positions }) => positions),
    );
    const text = JSON.stringify(shown);
    expect(text).not.toContain('"kit"');
    if (session.brief.notes) expect(text).not.toContain(session.brief.notes);
  }
});

it('a height that changes takes less than half of the whole', () => {
  const [session] = demoSessions('2026-01-01T00:00:00Z');
  if (!session) throw new Error('no demo');
  const higher = {
    ...session,
    arrays: session.arrays.map((array, i) => (i === 0 ? { ...array, z: array.z + 0.1 } : array)),
  };
  const [before, after] = [stageDocument(session, false), stageDocument(higher, false)];
  const patches = JSON.stringify(patchesBetween(before, after));
  expect(patches.length).toBeGreaterThan(0);
  expect(patches.length).toBeLessThan(JSON.stringify(after).length / 2);
});
