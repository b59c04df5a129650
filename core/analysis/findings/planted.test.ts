import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { AMBIENCE, beside, calmWith, OUT, SPOT } from '../../fixtures/calm';
import { PLANTED } from '../../fixtures/planted';
import { PLANTS } from '../../fixtures/plants';
import type { Session } from '../../session';
import { analyseSession } from '..';
import { RULES } from '.';
import { checksTable } from './checks-table';

/**
 * A set-up in which nothing is wrong, and for every rule the same with one fault planted in it:
 * exactly that is found. What every set-up raises (cables, phantom power) is left out.
 */

const ROUTINE = new Set(['cables', 'phantom']);
const codesOf = (session: Session): string[] => [
  ...new Set(
    analyseSession(session)
      .findings.map(({ code }) => code)
      .filter((code) => !ROUTINE.has(code)),
  ),
];

describe('a set-up in which nothing is wrong', () => {
  it.each([
    ['a main pair', calmWith({})],
    ['with a spot', calmWith(beside(SPOT))],
    ['with outriggers', calmWith(beside(OUT))],
    ['with microphones for the hall', calmWith(beside(AMBIENCE))],

    ['with all of them', calmWith(beside(SPOT, OUT, AMBIENCE))],
  ])('%s: nothing is found', (_name, session) => {
    expect(
      analyseSession(session)
        .findings.filter(({ code }) => !ROUTINE.has(code))
        .map(({ code, message }) => `${code}: ${message}`),
    ).toEqual([]);
  });
});

describe('one planted fault', () => {
  it.each(Object.entries(PLANTED))(
    '%s: is found, and nothing that it does not make',
    (code, { session, also = [] }) => {
      const found = codesOf(session);
      const expected = ROUTINE.has(code) ? also : [code, ...also];
      expect([...found].sort().join(' ')).toBe([...expected].sort().join(' '));
    },
  );

  it('is there for every rule, and every rule speaks only as it says', () => {
    // Causes are planted in fixtures/plants.ts, each in several roles.
    const causes = new Set(PLANTS.map(({ code }) => code));
    const lacking = RULES.map(({ code }) => code).filter(
      (code) => !(code in PLANTED) && !causes.has(code),
    );
    expect(lacking).toEqual([]);
    const severities = new Map(RULES.map((rule) => [rule.code, rule.severities]));
    for (const { session } of [...Object.values(PLANTED), ...PLANTS]) {
      for (const { code, severity } of analyseSession(session).findings) {
        expect(severities.get(code), code).toContain(severity);
      }
    }
  });

  it('stands in the published table (npm run schema)', () => {
    const published = new URL('../../../docs/checks.md', import.meta.url);
    expect(readFileSync(published, 'utf8')).toBe(checksTable());
  });

  it('is the same whichever array stands first, and none names what is not in use', () => {
    const all = calmWith(beside(SPOT, OUT, { ...AMBIENCE, aimDeg: 180 }));
    const words = (session: Session) =>
      analyseSession(session)
        .findings.map(({ message }) => message)
        .sort();
    const [first, ...rest] = all.arrays;
    if (!first) throw new Error('an array is expected');
    expect(words({ ...all, arrays: [...rest, first] }).join('\n')).toContain('faces the hall');
    const off = { ...all, arrays: all.arrays.map((a) => ({ ...a, enabled: a.id === 'main' })) };
    expect(words(off).join(' ')).not.toMatch(/Spot|Outriggers|Ambience/);
  });
});
