// The command as one bundle of plain scripts, so that it starts without a loader.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './ensure.mjs';
import { buildForNode } from './for-node.mjs';

const OUT = join(ROOT, 'node_modules', '.rotunda', 'command');
/** What is run. */
export const COMMAND = join(OUT, 'main.js');
const INPUTS = ['cli', 'core', 'paper', 'package-lock.json', 'scripts/for-node.mjs'];

/** When a file, or anything in a folder, was last written, ms. */
function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
}

/** Builds the command when its sources are newer than it is. */
export async function ensureCommand() {
  const built = existsSync(COMMAND) ? statSync(COMMAND).mtimeMs : 0;
  if (INPUTS.every((name) => newest(join(ROOT, name)) < built)) return;
  await buildForNode('cli/main.ts', OUT, { minify: false, empty: true });
}
