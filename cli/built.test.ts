import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { wavHeader } from '../core/audio/wav';
import { runCommand } from './commands';
import { HELP } from './help';
import { machineFiles } from './machine';

const folder = mkdtempSync(join(tmpdir(), 'rotunda-built-'));
afterAll(() => rmSync(folder, { recursive: true }));

const EXAMPLE = join(import.meta.dirname, '..', 'docs', 'example.rotunda.json');
const SCRIPT = join(import.meta.dirname, '..', 'scripts', 'rotunda.mjs');

/** The command as a user has it: built, in a process of its own, from whatever folder. */
const built = (...args: string[]) =>
  spawnSync(process.execPath, [SCRIPT, ...args], {
    encoding: 'utf8',
    cwd: folder,
    // Where a package script was called from: not what this is about.
    env: { ...process.env, INIT_CWD: folder },
  });

it('the built command says and does what its sources do', async () => {
  for (const args of [
    ['pair', '--pattern', 'cardioid', '--spacing', '0.17', '--angle', '110'],
    ['check', EXAMPLE],
    ['help'],
  ]) {
    const { stdout, stderr, status } = built(...args);
    const wanted = await runCommand(args, { ...machineFiles, progress: () => undefined });
    expect(stdout, args.join(' ')).toBe(`${wanted.out}\n`);
    expect(status).toBe(wanted.status);
    // On a busy machine it may say how far it is.
    expect(stderr.replace(/^[a-z]+: \d+ %\s*/gim, '')).toBe('');
  }
  // Files are where the user is; compiled transforms and readers of FLAC come with it.
  const take = ['render', EXAMPLE, '--seconds', '2', '--rate', '16000', '--out', 'take.wav'];
  const { status, stderr } = built(...take);
  expect(stderr).not.toMatch(/wasm|Error/);
  expect(status).toBe(0);
  expect(readFileSync(join(folder, 'take.wav')).subarray(0, 4).toString()).toBe('RIFF');
  const read = built('measure', 'take.wav', '--what', 'levels');
  expect(JSON.parse(read.stdout)).toMatchObject({ name: 'take' });
}, 60_000);

it('wrong usage is said with the help, and has a status of its own', () => {
  const { stdout, stderr, status } = built('nothing');
  expect(status).toBe(2);
  expect(stdout).toBe('');
  expect(stderr).toBe(`unknown command “nothing”\n\n${HELP}\n`);
});

it('folders, pipes, empty stretches and files without samples are said, not waited for', async () => {
  const pipe = join(folder, 'pipe.wav');
  execFileSync('mkfifo', [pipe]);
  const own = { ...machineFiles, progress: () => undefined };
  const take = join(folder, 'tone.wav');
  await runCommand(['signal', 'tone', '--seconds', '1', '--out', take], own);
  const empty = join(folder, 'empty.wav');
  writeFileSync(
    empty,
    wavHeader({ kind: 'integer', bits: 24, channels: 2, sampleRateHz: 48_000 }, 0),
  );
  for (const [args, said] of [
    [['measure', folder], 'it is a folder; allowed: a file'],
    [['validate', folder], 'it is a folder; allowed: a file'],
    [['measure', pipe], 'it is a pipe or a device; allowed: a file'],
    [['check', pipe], 'it is a pipe or a device; allowed: a file'],
    [['measure', take, '--from', '1', '--to', '1'], 'nothing to measure: from 1 to 1 s'],
    [['measure', empty], 'nothing to measure'],
  ] as const) {
    const { status, out, errors } = await runCommand(args, own);
    expect([status, out], args.join(' ')).toEqual([1, '']);
    expect(errors.join('\n')).toContain(said);
  }
});
