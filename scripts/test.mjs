// The whole check, on a fresh machine or a ready one: install what is missing, then formats, lint,
// types, unit tests, end-to-end tests, and one closing line.
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { bin, ensureBuild, ensurePackages, ensureSystem, ROOT, run } from './ensure.mjs';

ensurePackages();
ensureSystem();

const results = join(ROOT, 'test-results');
rmSync(results, { recursive: true, force: true });
let passed = 0;
let failed = 0;
/** Said again below everything else, where it is found. */
const wrong = [];

function step(name, command, args) {
  process.stdout.write(`\n== ${name}\n`);
  const ok = run(command, args) === 0;
  if (!ok) {
    process.stdout.write(`== ${name}: failed\n`);
    wrong.push(name);
  }
  return ok;
}

/** Steps without tests of their own count as one each. */
function check(name, command, args) {
  if (step(name, command, args)) passed += 1;
  else failed += 1;
}

function counted(file, read) {
  if (!existsSync(file)) {
    failed += 1;
    return;
  }
  const [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')));
  passed += good;
  failed += bad;
}

check('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
check('Lint', bin('eslint'), ['.', '--max-warnings', '0']);
check('Types', bin('tsc'), ['--noEmit']);
check('Types of the core', bin('tsc'), ['--noEmit', '-p', 'core']);
check('Types of server and command', bin('tsc'), ['--noEmit', '-p', 'server']);

const unitFile = join(results, 'unit.json');
const unitOk = step('Unit tests', bin('vitest'), [
  'run',
  '--reporter=dot',
  '--reporter=json',
  `--outputFile.json=${unitFile}`,
]);
counted(unitFile, (r) => {
  for (const file of r.testResults) {
    for (const { status, fullName, failureMessages } of file.assertionResults) {
      if (status === 'failed') {
        wrong.push(`${relative(ROOT, file.name)}: ${fullName}\n${failureMessages.join('\n')}`);
      }
    }
  }
  return [r.numPassedTests, r.numFailedTests + (unitOk ? 0 : r.numFailedTests === 0)];
});

ensureBuild();
const e2eFile = join(results, 'e2e.json');
const e2eOk = step('End-to-end tests', bin('playwright'), ['test']);
counted(e2eFile, ({ stats }) => {
  const bad = stats.unexpected + stats.flaky;
  return [stats.expected, bad + (e2eOk ? 0 : bad === 0)];
});

for (const text of wrong) process.stdout.write(`\nFailed: ${text}\n`);
process.stdout.write(`\n${passed} passed, ${Number(failed)} failed\n`);
process.exit(failed === 0 ? 0 : 1);
