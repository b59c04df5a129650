// What the command costs as a user starts it: a process of its own each time, CPU time of all of it.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { COMMAND, ensureCommand } from './command.mjs';

const RUNS = 5;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

/** CPU time of the command with its arguments, s. */
function cpuOf(args) {
  const { status, stderr } = spawnSync(
    'bash',
    [
      '-c',
      `TIMEFORMAT='%U %S'; time "$@" > /dev/null 2> /dev/null`,
      'bash',
      process.execPath,
      COMMAND,
      ...args,
    ],
    { encoding: 'utf8' },
  );
  if (status !== 0) throw new Error(`rotunda ${args.join(' ')} ended with ${status}`);
  const [user, system] = stderr.trim().split(' ').map(Number);
  return user + system;
}

/** @param session file of eight capsules before twelve players */
export async function benchCommand(folder, session) {
  await ensureCommand();
  const runs = (args) => median(Array.from({ length: RUNS }, () => cpuOf(args)));
  const pair = runs(['pair', '--pattern', 'cardioid', '--spacing', '0.3', '--angle', '90']);
  say('Command for one pair, whole', `${pair.toFixed(2)} s`, 'CPU time, wanted 0.4 s');
  const take = runs(['render', session, '--out', join(folder, 'take.wav'), '--seconds', '30']);
  say('Command for a take of 30 s, 8 × 12, whole', `${take.toFixed(1)} s`, 'CPU time, wanted 3 s');
}
