import { expect, it } from 'vitest';
import { tryRemedies } from './remedies';
import type { Trouble } from './run';

/** `npm test` runs a tenth, `npm run soak` all of it. */
const SESSIONS = process.env.ROTUNDA_SOAK === '1' ? 500 : 50;
const FIRST = 1;

it('several lids closed over one array are findings of their own', () => {
  expect(tryRemedies(107).troubles).toEqual([]);
});

it(
  'every way out removes or shrinks its finding and brings nothing graver',
  { timeout: SESSIONS * 60_000 },
  () => {
    let ways = 0;
    const troubles: Trouble[] = [];
    for (let seed = FIRST; seed < FIRST + SESSIONS && troubles.length < 20; seed++) {
      const run = tryRemedies(seed);
      ways += run.ways;
      troubles.push(...run.troubles);
    }
    expect(troubles).toEqual([]);
    // Made sessions offer ways out in plenty: a run that found none has tried nothing.
    expect(ways).toBeGreaterThan(SESSIONS);
  },
);
