import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { HELP, runCommand } from './commands';
import { Usage } from './result';

/** Paths are relative to where the command was typed, also when a script runner changed folders. */
const readText = (file: string): string =>
  readFileSync(resolve(process.env.INIT_CWD ?? process.cwd(), file), 'utf8');

try {
  const { status, out, bytes, errors } = runCommand(process.argv.slice(2), readText);
  for (const line of errors) process.stderr.write(`${line}\n`);
  if (bytes) process.stdout.write(bytes);
  if (out !== '') process.stdout.write(`${out}\n`);
  process.exitCode = status;
} catch (error) {
  if (!(error instanceof Usage)) throw error;
  process.stderr.write(`${error.message}\n\n${HELP}\n`);
  process.exitCode = 2;
}
