import { describe, expect, it } from 'vitest';
import { short } from './audio/fixtures/heard';
import { anatomyOf, INSTRUMENTS } from './ensembles';
import { told } from './fixtures/told';

/**
 * Tables, limits and lists that the core holds, as they stand: what is changed in them on purpose is
 * frozen anew with `vitest -u`, and seen in the change.
 */

const MODULES = import.meta.glob<Record<string, unknown>>(
  ['./**/*.ts', '!./**/*.test.ts', '!./**/fixtures/**', '!./demo/**', '!./test-*.ts'],
  { eager: true },
);

/** What is content of a value: no code, and of what is long its beginning and how long it is. */
function content(value: unknown, depth = 0): unknown {
  if (typeof value === 'function' || value === undefined) return undefined;
  if (value instanceof RegExp) return String(value);
  if (ArrayBuffer.isView(value)) return short(value, 8);
  if (value instanceof Map || value instanceof Set) return content([...value], depth);
  if (Array.isArray(value)) return value.map((one) => content(one, depth + 1));
  if (value === null || typeof value !== 'object') return value;
  const isPlain = Object.getPrototypeOf(value) === Object.prototype;
  if (!isPlain || depth > 6) return undefined;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [key, content(one, depth + 1)]),
  );
}

describe('what the core holds', () => {
  it('are the same tables and limits', async () => {
    const tables: [string, unknown][] = [];
    for (const [path, exported] of Object.entries(MODULES)) {
      if (path.endsWith('/index.ts')) continue;
      for (const [name, value] of Object.entries(exported)) {
        const held = content(value);
        if (held !== undefined) tables.push([`${path} ${name}`, held]);
      }
    }
    for (const { kind } of INSTRUMENTS) tables.push([`parts of ${kind}`, anatomyOf({ kind })]);
    tables.sort(([a], [b]) => (a < b ? -1 : 1));
    await expect(told(Object.fromEntries(tables))).toMatchFileSnapshot(
      './fixtures/pinned-held.txt',
    );
  });
});
