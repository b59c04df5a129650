import { describe, expect, it } from 'vitest';
import { demoSessions } from '../demo';
import { sessionFrom, versionText, type Session } from '../session';
import { seededRandom } from '../units/random';
import { differences, isEqual, withDifferences } from '.';

const NOW = '2026-01-01T00:00:00.000Z';
const demos = demoSessions(NOW);
const plain = (session: Session): unknown => {
  const { blobs: _blobs, ...plan } = JSON.parse(versionText(session)) as Record<string, unknown>;
  return plan;
};

/** A session with a few things other, as a hand or another program could make them. */
function changed(session: Session, random: () => number): Session {
  const copy = structuredClone(session);
  const any = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
  const edits: (() => void)[] = [
    () => void Object.assign(any(copy.sources) ?? {}, { x: random() * 4, y: random() * 4 }),
    () => void Object.assign(any(copy.sources) ?? {}, { levelDb: 70 + random() * 20, lid: 'off' }),
    () =>
      void Object.assign(any(copy.arrays) ?? {}, { z: 1 + random() * 3, enabled: random() < 0.5 }),
    () =>
      void Object.assign(any(copy.arrays)?.mix ?? {}, { faderDb: -10 * random(), capsules: [] }),
    () =>
      void Object.assign(any(copy.arrays) ?? {}, {
        technique: { kind: 'single', pattern: 'omni' },
      }),
    () => {
      const technique = any(copy.arrays)?.technique;
      if (technique?.kind === 'pair') technique.spacingM = random();
    },
    () => void copy.sources.splice(Math.floor(random() * copy.sources.length), 1),
    () => void copy.arrays.splice(Math.floor(random() * copy.arrays.length), 1),
    () => void copy.sources.unshift(...copy.sources.splice(-2)),
    () => void copy.arrays.reverse(),
    () => {
      const one = any(session.sources);
      if (one) copy.sources.splice(1, 0, { ...one, id: `new ${random()}` });
    },
    () => void (copy.venue.rt60S = random() * 3),
    () => void (copy.brief.notes = `${random()}`),
    () => void (copy.settings.units = random() < 0.5 ? 'metric' : 'imperial'),
    () => void copy.venue.datumPoints.reverse(),
    () => void copy.kit.microphones.pop(),
    () => void (copy.title = `${random()}`),
  ];
  for (let i = 0; i < 1 + random() * 6; i++) any(edits)?.();
  return copy;
}

describe('differences', () => {
  it('lead from the first to the second, for made pairs', () => {
    for (let seed = 1; seed <= 500; seed++) {
      const random = seededRandom(seed);
      const from = demos[seed % demos.length] as Session;
      const before = changed(from, random);
      const after = changed(random() < 0.8 ? before : (demos[0] as Session), random);
      const found = differences(before, after);
      expect(isEqual(plain(withDifferences(before, found)), plain(after)), `seed ${seed}`).toBe(
        true,
      );
      expect(differences(before, before)).toEqual([]);
    }
  });

  it('leave whatever they are not about the object it was', () => {
    const before = demos[0] as Session;
    const after = { ...structuredClone(before), title: 'Another' };
    const put = withDifferences(before, differences(before, after));
    expect(put.title).toBe('Another');
    expect(put.arrays).toBe(before.arrays);
    expect(put.sources).toBe(before.sources);
  });

  const pair = sessionFrom({
    sources: [
      { id: 'a', name: 'Viol', x: 0, y: 2 },
      { id: 'b', name: 'Flute', x: 1, y: 2 },
    ],
    arrays: [
      {
        id: 'm',
        name: 'Main',
        y: -2,
        standard: 'something',
        technique: { kind: 'pair', spacingM: 0.17, includedAngleDeg: 110, pattern: 'cardioid' },
      },
    ],
  });
  const said = (change: (draft: Session) => void): { words: string; sounds: boolean }[] => {
    const after = structuredClone(pair);
    change(after);
    return differences(pair, after).map(({ words, sounds }) => ({ words, sounds }));
  };

  it('say what was done, in words and figures', () => {
    expect(
      said(({ arrays: [main] }) => {
        if (main?.technique.kind === 'pair') main.technique.spacingM = 0.3;
        if (main) main.standard = '';
      }),
    ).toEqual([{ words: 'Main: spacing 17.0 cm → 30.0 cm', sounds: true }]);
    expect(
      said(({ arrays: [main] }) => {
        if (main) [main.x, main.y, main.z] = [0.2, -2.5, 3];
      }).map(({ words }) => words),
    ).toEqual([
      'Main: moved 0.50 m towards the audience and 0.20 m to the right',
      'Main: height 2.50 m → 3.00 m',
    ]);
  });

  it('take players who went the same way for one matter', () => {
    const both = said(({ sources }) => sources.forEach((one) => (one.y += 0.5)));
    expect(both).toEqual([{ words: 'Viol, Flute: moved 0.50 m upstage', sounds: true }]);
    const apart = said(({ sources }) => sources.forEach((one, i) => (one.y += 0.5 + i)));
    expect(apart).toHaveLength(2);
  });

  it('tell what cannot be heard from what can', () => {
    expect(said((draft) => void (draft.brief.notes = 'x'))[0]?.sounds).toBe(false);
    expect(said((draft) => void (draft.venue.rt60S = 2))[0]?.sounds).toBe(true);
    expect(
      said(({ arrays: [main] }) => {
        if (main) main.name = 'Bar';
      })[0]?.sounds,
    ).toBe(false);
  });
});
