import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { pair, player } from '../core/fixtures/parts';
import { sessionFrom, writeSessionText } from '../core/session';
import { runCommand } from './commands';
import { machineFiles } from './machine';
import { Usage } from './result';

const folder = mkdtempSync(join(tmpdir(), 'rotunda-against-'));
const path = (name: string): string => join(folder, name);
const machine = { ...machineFiles, progress: () => undefined };
const run = (...args: string[]) => runCommand(args, machine);

const SEATS = [
  ['a', -2, 3],
  ['b', -0.7, 3.6],
  ['c', 0.8, 3.8],
  ['d', 2.1, 3],
] as const;

/** A session and the claps of its four places, once as planned and once with the pair turned. */
function saved(name: string, aimDeg: number): string {
  const session = sessionFrom({
    id: name,
    venue: { widthM: 14, depthM: 20, heightM: 7, rt60S: 1.2, origin: { x: 7, y: 8 } },
    sources: SEATS.map(([id, x, y]) => player(id, 'viola', x, y)),
    arrays: [
      {
        ...{ id: 'main', name: 'Main', x: 0, y: 0, z: 2.5, aimDeg },
        technique: pair('cardioid', 0.17, 110),
      },
    ],
  });
  writeFileSync(path(`${name}.json`), writeSessionText(session));
  return path(`${name}.json`);
}

interface Held {
  sentence: string;
  why: string;
  causes: { kind: string; values: number[] }[];
  figures: { what: string; agreement: string }[];
  passages: { name: string }[];
  missing: string[];
}

describe('measure --against', () => {
  const [plan, turned] = [saved('plan', 0), saved('turned', 8)];
  const claps = SEATS.map(([, x, y]) => `${x},${y},1.2`).join(';');
  const rendered = async (session: string, name: string): Promise<string> => {
    const take = path(`${name}.wav`);
    const { errors } = await run(
      ...['render', session, '--out', take, '--take', 'claps', '--claps', claps],
    );
    expect(errors).toEqual([]);
    return take;
  };
  const held = async (...args: string[]): Promise<Held> => {
    const { out, status, errors } = await run('measure', ...args);
    expect([status, errors]).toEqual([0, []]);
    return JSON.parse(out) as Held;
  };

  it('a pair that was turned is found, one that stands as planned is left in peace', async () => {
    const found = await held(await rendered(turned, 'turned'), '--against', plan, '--claps');
    expect(found.causes.map(({ kind }) => kind)).toContain('turned');
    expect(found.causes.find(({ kind }) => kind === 'turned')?.values[0]).toBeCloseTo(8, 0);
    expect(found.sentence).toMatch(/^Not as planned: /);
    const good = await held(await rendered(plan, 'good'), '--against', plan, '--claps');
    expect(good.sentence).toMatch(/^Main stands as planned/);
    expect(good.passages.map(({ name }) => name)).toEqual(SEATS.map(([id]) => `Viola ${id}`));
    expect([good.causes, good.missing]).toEqual([[], []]);
  });

  it('prints it, and finds who leads where no silence stands between', async () => {
    const take = await rendered(plan, 'printed');
    const pdf = path('verdict.pdf');
    await held(take, '--against', plan, '--claps', '--report', pdf);
    expect(readFileSync(pdf).subarray(0, 5).toString()).toBe('%PDF-');
    const music = path('music.wav');
    await run(
      ...['render', plan, '--out', music, '--seconds', '8', '--phrase', 'scale'],
      ...['--player', 'Viola b'],
    );
    const led = await held(music, '--against', plan, '--leads');
    expect(new Set(led.passages.map(({ name }) => name))).toEqual(new Set(['Viola b']));
    expect(led.figures.map(({ what, agreement }) => [what, agreement])).toContainEqual([
      ...['delay', 'agrees'],
    ]);
    await expect(
      run('measure', music, '--against', plan, '--leads', '--order', 'a'),
    ).rejects.toThrow(Usage);
  });

  it('says how a pair really stands by claps about it', async () => {
    const at = '-2.8,2.8,1.3;0,1.5,1.3;2.8,2.8,1.3;2.6,-1.5,1.3;0,-3,1.3;-2.6,-1.5,1.3';
    const take = path('about.wav');
    await run('render', turned, '--out', take, '--take', 'claps', '--claps', at);
    const { out, errors } = await run('measure', take, '--claps', '--bar', plan, '--at', at);
    expect(errors).toEqual([]);
    const bar = JSON.parse(out) as {
      sentence: string;
      figures: { field: string; value: number; within: number }[];
    };
    const aim = bar.figures.find(({ field }) => field === 'aimDeg');
    expect(Math.abs((aim?.value ?? 0) - 8)).toBeLessThan(aim?.within ?? 0);
    expect(bar.sentence).toMatch(/^Main: .*aim (7|8)(\.\d)?° ± /);
    const wrong = async (...args: string[]) =>
      (await run('measure', take, '--claps', '--bar', plan, ...args)).errors.join(' ');
    expect(await wrong()).toMatch(/the session has no places for claps; say them by --at/);
    expect(await wrong('--at', '0,x')).toMatch(/--at: .* allowed: up to 60 places/);
    expect(await wrong('--at', at, '--tape', '0')).toMatch(/--tape: .*0\.1/);
    expect(await wrong('--at', '0,1;1,1')).toMatch(/6 passages stand apart .* 2 places/);
    await expect(run('measure', take, '--bar', plan)).rejects.toThrow(Usage);
    await expect(run('measure', take, '--tape', '2')).rejects.toThrow(Usage);
  });

  it('says what is wrong with what was typed', async () => {
    const take = await rendered(plan, 'again');
    const problem = async (...args: string[]) =>
      (await run('measure', take, ...args)).errors.join(' ');
    expect(await problem('--against', path('none.json'))).toMatch(/none\.json: cannot be read/);
    expect(await problem('--against', plan, '--order', 'a,x')).toMatch(
      /nobody is called "x"; allowed: Viola a, Viola b/,
    );
    expect(await problem('--against', plan, '--order', 'a,b')).toMatch(
      /again: 4 passages stand apart by a second of silence, and 2 places/,
    );
    await expect(run('measure', take, '--claps')).rejects.toThrow(Usage);
  });
});
