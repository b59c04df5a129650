import { describe, expect, it } from 'vitest';
import { PLANTS } from '../../../fixtures/plants';
import { newArray, newSource, sessionFrom, type Session } from '../../../session';
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

  it('a name alone that says the other side than its place and its pan', () => {
    const named = (name: string, x: number, pan: number): Session =>
      sessionFrom({
        sources: [-2, 0, 2].map((at, i) =>
          newSource({ id: `p${i}`, name: `Player ${i}`, kind: 'violin', x: at, y: 3, z: 1.2 }),
        ),
        arrays: [
          newArray({ id: 'm', name: 'Main pair', role: 'main', x: 0, y: -1, z: 2.7 }),
          newArray({
            id: 's',
            name,
            role: 'spot',
            x,
            y: 2.4,
            z: 1.4,
            technique: { kind: 'single', pattern: 'cardioid' },
            mix: {
              faderDb: -10,
              mute: false,
              capsules: [{ pan, gainDb: 0, polarity: 1, delayMs: 9 }],
            },
          }),
        ],
      });
    const of = (session: Session) =>
      found(session).find(({ code }) => code === 'name-of-other-side');
    const wrong = named('Spot LEFT', 2, 0.7);
    const finding = of(wrong);
    expect(finding?.message).toContain('Spot LEFT stands on the right and is panned right');
    expect(finding && mendable(wrong, finding).fix?.label).toBe('Call it Spot RIGHT');
    expect(of(named('Spot links', 2, 0.7))).toBeDefined();
    // Named rightly, in the middle, or for the place alone: nothing to say.
    for (const [name, x, pan] of [
      ['Spot right', 2, 0.7],
      ['Spot left', 0.3, 0.7],
      ['Spot left', 2, 0],
      ['Spot stage left', 2, 0.7],
    ] as const) {
      expect(of(named(name, x, pan))).toBeUndefined();
    }
  });
});
