import { describe, expect, it } from 'vitest';
import { sheetModel } from '../paper/sheet-model';
import { sheetPdf } from '../paper/sheet-pdf';
import { withSessionInside } from '../paper/attached-session';
import { demoSessions } from '../core/demo';
import { markOf } from '../core/recall';
import { writeSessionText, type Session } from '../core/session';
import { fonts } from './fonts';
import { differenceCommand, recallCommand } from './recall';
import type { Machine } from './session-file';

const [nonet, choir] = demoSessions('2026-01-01T00:00:00.000Z') as [Session, Session];

const machineOf = (files: Record<string, Uint8Array | Session>): Machine => ({
  read(file) {
    const found = files[file];
    if (!found) return Promise.reject(new Error('no such file'));
    return Promise.resolve(
      found instanceof Uint8Array ? found : new TextEncoder().encode(writeSessionText(found)),
    );
  },
  open: () => Promise.reject(new Error('not opened')),
  write: () => Promise.reject(new Error('not written')),
  progress: () => undefined,
});

function withMark(session: Session, rating: number): Session {
  const [array] = session.arrays;
  if (!array) throw new Error('no array');
  const said = markOf(session, { at: array, array, made: 'plan', name: 'Good', rating });
  const mark = { ...said, id: 'm', at: '2025-01-01T00:00:00.000Z', strikes: '', amends: '' };
  return { ...session, marks: [mark] };
}

describe('recall', () => {
  it('says what is missing, and what other sessions offer', async () => {
    const now = { ...nonet, id: 'now' };
    const machine = machineOf({ now, then: withMark(nonet, 4), other: withMark(choir, 5) });
    const { status, out } = await recallCommand(['now', 'then', 'other'], machine);
    expect(status).toBe(0);
    const said = JSON.parse(out) as {
      complete: string;
      missing: unknown[];
      offered: { name: string; from: string; words: string }[];
    };
    expect(said.complete).toMatch(/^It can be put up again; \d things/);
    expect(said.offered.map(({ from }) => from)).toEqual([nonet.title]);
    expect(said.offered[0]?.words).toMatch(
      /^Last here: \d+ (months|years) ago, 4 of 5, stands 5\.25 m from A, 5\.25 m from B/,
    );
  });

  it('refuses what it does not know, and says which file cannot be read', async () => {
    await expect(recallCommand([], machineOf({}))).rejects.toThrow('recall takes one FILE');
    await expect(recallCommand(['a', '--pdf'], machineOf({}))).rejects.toThrow('unknown option');
    expect(await recallCommand(['gone'], machineOf({}))).toMatchObject({
      status: 1,
      errors: ['gone: cannot be read (no such file)'],
    });
  });
});

describe('difference', () => {
  it('is that of the page, and a sheet is a session', async () => {
    const after = structuredClone(nonet);
    const [array] = after.arrays;
    if (array) array.z += 0.4;
    const pdf = await withSessionInside(
      sheetPdf(after, sheetModel(after, false), fonts()),
      writeSessionText(after),
    );
    const machine = machineOf({ before: nonet, after, sheet: pdf });
    const one = await differenceCommand(['before', 'after'], machine);
    const other = await differenceCommand(['before', 'sheet'], machine);
    expect(other.out).toBe(one.out);
    const { changes } = JSON.parse(one.out) as { changes: { words: string; players: string[] }[] };
    expect(changes).toHaveLength(1);
    expect(changes[0]?.words).toBe('Main pair: height 2.70 m → 3.10 m');
    expect(changes[0]?.players.length).toBeGreaterThan(0);
    const csv = await differenceCommand(['before', 'after', '--csv'], machine);
    expect(csv.out).toContain('Main pair: height 2.70 m → 3.10 m');
    await expect(differenceCommand(['before'], machine)).rejects.toThrow('two files');
  });
});
