import { describe, expect, it } from 'vitest';
import { tryDamagedSound } from './sound';
import { tryDamaged, tryEverything, type Trouble } from './run';

/** `npm test` runs a tenth of each, `npm run soak` all of it. */
const fraction = process.env.ROTUNDA_SOAK === '1' ? 1 : 0.1;
const SESSIONS = 2000 * fraction;
const FILES = 10_000 * fraction;
const RECORDINGS = 5000 * fraction;
const PARTS = 4;
const LONGEST_MS = 3_600_000 * fraction + 120_000;

async function troubles(
  from: number,
  count: number,
  attempt: (seed: number) => Promise<Trouble[]>,
): Promise<Trouble[]> {
  const found: Trouble[] = [];
  for (let seed = from; seed < from + count && found.length < 20; seed++) {
    found.push(...(await attempt(seed)));
  }
  return found;
}

describe.each(Array.from({ length: PARTS }, (_, part) => part))('part %i', (part) => {
  it(
    'valid sessions: no throw, no figure that is none, nothing that holds a core for long',
    { timeout: LONGEST_MS },
    async () => {
      const count = SESSIONS / PARTS;
      expect(await troubles(1 + part * count, count, tryEverything)).toEqual([]);
    },
  );

  it(
    'damaged files: read or refused with what is allowed, never a crash',
    { timeout: LONGEST_MS },
    async () => {
      const count = FILES / PARTS;
      expect(await troubles(1 + part * count, count, tryDamaged)).toEqual([]);
    },
  );

  it(
    'damaged recordings: read and measured, or refused with what is allowed',
    { timeout: LONGEST_MS },
    async () => {
      const count = RECORDINGS / PARTS;
      expect(await troubles(1 + part * count, count, tryDamagedSound)).toEqual([]);
    },
  );
});
