import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { buildForNode } from '../scripts/for-node.mjs';
import type { Trouble } from './run';

/** `npm test` runs a tenth of each, `npm run soak` all of it. */
const fraction = process.env.ROTUNDA_SOAK === '1' ? 1 : 0.1;
const SESSIONS = 2000 * fraction;
const FILES = 10_000 * fraction;
const RECORDINGS = 5000 * fraction;
const PARTS = 4;
const LONGEST_MS = 3_600_000 * fraction + 120_000;

let folder = '';
beforeAll(async () => {
  // Beside the packages, so that compiled ones are found from there.
  mkdirSync('node_modules/.rotunda', { recursive: true });
  folder = mkdtempSync('node_modules/.rotunda/fuzz-');
  await buildForNode('fuzz/main.ts', folder);
}, LONGEST_MS);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** In a process of its own, built as it ships: nothing beside it counts as its time. */
async function tried(kind: string, from: number, count: number) {
  const { stdout } = await promisify(execFile)(
    process.execPath,
    [join(folder, 'main.js'), kind, `${from}`, `${count}`],
    { maxBuffer: 2 ** 26 },
  );
  return JSON.parse(stdout) as { tried: number; found: Trouble[] };
}

describe.each(Array.from({ length: PARTS }, (_, part) => part))('part %i', (part) => {
  it.each([
    [
      'valid sessions: no throw, no figure that is none, nothing that holds a core for long',
      'sessions',
      SESSIONS,
    ],
    ['damaged files: read or refused with what is allowed, never a crash', 'files', FILES],
    [
      'damaged recordings: read and measured, or refused with what is allowed',
      'recordings',
      RECORDINGS,
    ],
  ])('%s', { timeout: LONGEST_MS }, async (_name, kind, all) => {
    const count = all / PARTS;
    expect(await tried(kind, 1 + part * count, count)).toEqual({ tried: count, found: [] });
  });
});
