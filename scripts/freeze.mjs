// Freezes anew all that is only held to be as it was: texts, limits, the schema. For changes that were
// looked at: what it changed is printed, file by file.
import { spawnSync } from 'node:child_process';
import { bin, ensurePackages, ROOT, run } from './ensure.mjs';

ensurePackages();
const frozen = spawnSync(
  'git',
  ['grep', '-lE', 'toMatchFileSnapshot|toMatchSnapshot', '--', '*.test.ts', '*.test.tsx'],
  { cwd: ROOT, encoding: 'utf8' },
).stdout.split('\n');
const tests = frozen.filter((name) => name !== '');
const kept = run(bin('vitest'), ['run', ...tests, '-u']);
for (const script of ['write-limits', 'write-schema']) run(bin('tsx'), [`scripts/${script}.ts`]);
run('git', ['--no-pager', 'diff', '--stat']);
process.exit(kept);
