import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { analyseCommand } from './analyse';
import { pairCommand } from './pair';
import { Usage, type CommandResult } from './result';
import { validateCommand } from './validate';

const HELP = `rotunda COMMAND …

  pair --pattern P --spacing M --angle DEG [--temperature C] [--distance M] [--height M]
      recording angles of a pair in every school; in place too when a distance is given
  validate FILE
      checks a session file; every problem on a line
  analyse FILE
      every figure of a session as JSON

P is omni, subcardioid, cardioid, supercardioid, hypercardioid, figure-eight or a number from 0 to 1.
Exit status: 0 done, 1 bad input, 2 wrong usage.`;

/** Paths are relative to where the command was typed, also when a script runner changed folders. */
const readText = (file: string): string =>
  readFileSync(resolve(process.env.INIT_CWD ?? process.cwd(), file), 'utf8');

function run(args: readonly string[]): CommandResult {
  const [command, ...rest] = args;
  switch (command) {
    case 'pair':
      return pairCommand(rest);
    case 'validate':
      return validateCommand(rest, readText);
    case 'analyse':
      return analyseCommand(rest, readText);
    case '--help':
    case 'help':
      return { status: 0, out: HELP, errors: [] };
    default:
      throw new Usage(command ? `unknown command “${command}”` : 'no command given');
  }
}

try {
  const { status, out, errors } = run(process.argv.slice(2));
  for (const line of errors) process.stderr.write(`${line}\n`);
  if (out !== '') process.stdout.write(`${out}\n`);
  process.exitCode = status;
} catch (error) {
  if (!(error instanceof Usage)) throw error;
  process.stderr.write(`${error.message}\n\n${HELP}\n`);
  process.exitCode = 2;
}
