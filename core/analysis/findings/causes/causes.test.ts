import { describe, expect, it } from 'vitest';
import { PLANTS } from '../../../fixtures/plants';
import type { Session } from '../../../session';
import { analyseSession, applyFix, mendable, type Finding } from '../..';

/**
 * One planted cause: it is named first, by one finding, and nothing is said beside it that was not
 * said before; its action leads back to the set-up in which nothing is wrong.
 */

const ROUTINE = new Set(['cables', 'phantom', 'over-people', 'hearing']);
const found = (session: Session): Finding[] =>
  analyseSession(session).findings.filter(({ code }) => !ROUTINE.has(code));
const keys = (list: readonly Finding[]): string[] => list.map(({ key }) => key);

describe('one planted cause', () => {
  it.each(PLANTS.map((plant) => [plant.name, plant] as const))('%s', (_name, plant) => {
    const { sound, session, code, arrayId } = plant;
    const before = new Set(keys(found(sound)));
    const here = found(session);
    const [first] = here;
    expect(first?.code, here.map(({ message }) => message).join('\n')).toBe(code);
    if (arrayId !== null) expect(first?.arrayIds).toContain(arrayId);
    const beside = here.slice(1).filter(({ key }) => !before.has(key));
    expect(beside.map(({ message }) => message)).toEqual([]);
    if (!first) throw new Error('a cause');
    const { fix } = mendable(session, first);
    if (!fix) throw new Error('an action');
    const mended = found(applyFix(session, fix)).filter(({ severity }) => severity !== 'note');
    expect(mended.filter(({ key }) => !before.has(key)).map(({ message }) => message)).toEqual([]);
  });

  it('at least thirty of them, in three roles and more', () => {
    expect(PLANTS.length).toBeGreaterThanOrEqual(90);
    for (const role of ['main', 'outrigger', 'section', 'overhead', 'ambience']) {
      expect(PLANTS.filter(({ name }) => name.startsWith(`${role}: `)).length).toBeGreaterThan(10);
    }
  });
});
