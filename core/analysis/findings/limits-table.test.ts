import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { AMBIENCE, beside, calmWith, OUT, SPOT } from '../../fixtures/calm';
import { saidOf, withNumber, type Limit } from '../../test-limits';
import { PLANTED } from '../../fixtures/planted';
import { analyseSession } from '..';

/**
 * Where every rule begins and ends as one number of a set-up moves, and what it says there. Written
 * by scripts/write-limits.ts; a place that moves is a rule that changed.
 */

const LIMITS = JSON.parse(
  readFileSync(new URL('../../fixtures/limits.json', import.meta.url), 'utf8'),
) as Limit[];
const CALM = calmWith(beside(SPOT, OUT, AMBIENCE));

const byCode = new Map<string, Limit[]>();
for (const limit of LIMITS) byCode.set(limit.code, [...(byCode.get(limit.code) ?? []), limit]);

describe('where a rule begins to speak', () => {
  it.each([...byCode])('%s', (code, limits) => {
    for (const { base, path, said, not, message } of limits) {
      const session = base === 'calm' ? CALM : PLANTED[base]?.session;
      if (!session) throw new Error(`no set-up ${base}`);
      const at = (value: number) =>
        saidOf(analyseSession(withNumber(session, path, value)).findings).get(code);
      expect(at(said), `${base}: ${path} = ${said}`).toBe(message);
      expect(at(not), `${base}: ${path} = ${not}`).toBeUndefined();
    }
  });
});
