// How much of the core, or of the app, the unit tests hold: a seeded sample of small faults is planted, one at a
// time, in copies of the tree, and the tests must notice each. Prints the survivors.
//   npm run mutate -- [--count 400] [--seed 1] [--folder app/keeping]
import { spawn } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { parseArgs } from 'node:util';
import { ensurePackages, ensureSystem, ROOT } from './ensure.mjs';
import { faultsIn, marked } from './mutate/faults.mjs';

ensurePackages();
ensureSystem();
const { values } = parseArgs({
  options: {
    count: { type: 'string', default: '400' },
    seed: { type: 'string', default: '1' },
    folder: { type: 'string', default: 'core' },
  },
});

/**
 * What the copies hold; the made sessions of fuzz/ are too slow to be asked of every fault, as is
 * the advice for whole made ensembles.
 */
const COPIED = [
  'app',
  'core',
  'cli',
  'paper',
  'docs',
  'package.json',
  'tsconfig.json',
  'vitest.config.ts',
];
/** Nothing to get wrong, or content rather than reckoning. */
const LEFT_OUT =
  /(\.test\.ts|\/index\.ts|\.d\.ts|test-\w+\.ts|templates\.ts|instruments\.ts)$|core\/demo\/|\/fixtures\//;
/** Of the tests that reach a fault the likeliest are asked, until they take this long together. */
const ASKED_MS = 15_000;
/** Twice as long as its tests take, and so much more, may a fault take before it has hung. */
const MORE_MS = 20_000;
/** Before it is known how long they take. */
const LONGEST_MS = 1_200_000;
/** One process for all files of a run: most of the time would go into starting more. */
const QUICK = ['--bail=1', '--isolate=false', '--maxWorkers=1', '--reporter=dot'];
/** Every file of tests has all of the core to itself, so that it is seen what it reaches. */
const ALONE = ['--bail=1', '--isolate=true', '--maxWorkers=2', '--reporter=json'];
/** The tests are asked in the order in which they are named. */
const CONFIG = `
import { BaseSequencer } from 'vitest/node';
const asked = JSON.parse(process.env.ASKED ?? '[]');
class Named extends BaseSequencer {
  async sort(files) {
    const rank = ({ moduleId }) => asked.indexOf(moduleId.slice(process.cwd().length + 1));
    return [...files].sort((a, b) => rank(a) - rank(b));
  }
}
export default {
  test: {
    // What has been compiled once is not compiled again for every fault.
    experimental: { fsModuleCache: true },
    testTimeout: 60_000,
    hookTimeout: 60_000,
    setupFiles: ['core/test-setup.ts', 'mutate.setup.ts'],
    include: ['{app,core,cli,paper}/**/*.test.{ts,tsx}'],
    exclude: ['core/analysis/recommend/sense.test.ts', 'cli/built.test.ts'],
    sequence: { sequencer: Named },
  },
};
`;
/** Every file of tests writes down the faults it comes by. */
const SETUP = `
import { appendFileSync } from 'node:fs';
import { afterAll, expect } from 'vitest';
if (process.env.REACHED) {
  const reached = new Set();
  globalThis.reached = (fault) => reached.add(fault);
  afterAll(() => {
    const file = expect.getState().testPath;
    appendFileSync(process.env.REACHED, JSON.stringify({ file, faults: [...reached] }) + '\\n');
  });
}
`;

function filesUnder(path) {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path).flatMap((name) => filesUnder(join(path, name)));
}

/** A small generator of numbers, the same for the same seed. */
function randomOf(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const random = randomOf(Number(values.seed));
const all = filesUnder(join(ROOT, values.folder))
  .filter((file) => file.endsWith('.ts') && !LEFT_OUT.test(file))
  .flatMap(faultsIn);
for (let i = all.length - 1; i > 0; i--) {
  const j = Math.floor(random() * (i + 1));
  [all[i], all[j]] = [all[j], all[i]];
}
const sample = all.slice(0, Number(values.count));
process.stdout.write(`${sample.length} of ${all.length} possible faults\n`);

function copyOfTree() {
  const folder = mkdtempSync(join(tmpdir(), 'rotunda-mutate-'));
  for (const name of COPIED) cpSync(join(ROOT, name), join(folder, name), { recursive: true });
  symlinkSync(join(ROOT, 'node_modules'), join(folder, 'node_modules'));
  writeFileSync(join(folder, 'mutate.config.mjs'), CONFIG);
  writeFileSync(join(folder, 'mutate.setup.ts'), SETUP);
  return folder;
}

/** Whether the tests fail; what takes too long has failed as well. */
function failed(folder, args, env = {}, longestMs = LONGEST_MS) {
  return new Promise((done) => {
    const vitest = join(folder, 'node_modules', 'vitest', 'vitest.mjs');
    const child = spawn(process.execPath, [vitest, ...args, '--config=mutate.config.mjs'], {
      cwd: folder,
      stdio: 'ignore',
      env: { ...process.env, ...env },
    });
    const timer = setTimeout(() => child.kill('SIGKILL'), longestMs);
    child.on('close', (status) => {
      clearTimeout(timer);
      done(status !== 0);
    });
  });
}

/**
 * Which tests come by each fault, the likeliest first, and how long they take. Stops where the
 * tests fail with no fault planted.
 * @returns for each fault of the sample: { files, tookMs }
 */
async function testsReaching(folder) {
  for (const file of new Set(sample.map((fault) => fault.file))) {
    const here = [...sample.entries()].filter(([, fault]) => fault.file === file);
    writeFileSync(join(folder, relative(ROOT, file)), marked(readFileSync(file, 'utf8'), here));
  }
  const [report, seen] = ['report.json', 'reached.jsonl'].map((name) => join(folder, name));
  if (await failed(folder, ['run', ...ALONE, `--outputFile=${report}`], { REACHED: seen })) {
    throw new Error(`The tests fail as they are: mend them first.${failuresOf(report)}`);
  }
  const inside = (name) => relative(folder, name);
  const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
  const took = new Map(
    testResults.map(({ name, startTime, endTime }) => [inside(name), endTime - startTime]),
  );
  const reached = readFileSync(seen, 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line))
    .map(({ file, faults }) => ({ file: inside(file), faults: new Set(faults) }));
  for (const file of new Set(sample.map((fault) => fault.file))) {
    cpSync(file, join(folder, relative(ROOT, file)));
  }
  return sample.map((fault, index) => {
    const folder = dirname(relative(ROOT, fault.file));
    // Those beside the fault come first, then those that pin much, and of each the quickest.
    const cost = (file) =>
      (took.get(file) ?? 0) /
      ((dirname(file) === folder ? 20 : 1) * (file.includes('pinned') ? 10 : 1));
    const files = reached.filter(({ faults }) => faults.has(index)).map(({ file }) => file);
    files.sort((a, b) => cost(a) - cost(b));
    let tookMs = 0;
    const asked = files.filter((file, i) => {
      const whole = tookMs + (took.get(file) ?? 0);
      if (i > 0 && whole > ASKED_MS) return false;
      tookMs = whole;
      return true;
    });
    return { files: asked, tookMs };
  });
}

/** What failed, by name. */
function failuresOf(report) {
  if (!existsSync(report)) return '';
  const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
  return testResults
    .filter(({ status }) => status === 'failed')
    .map(({ name, message }) => `\n${name} ${message}`)
    .join('');
}

/** What the page keeps between two files of tests would be another's. */
const APART = QUICK.map((arg) => (arg.startsWith('--isolate') ? '--isolate=true' : arg));

/** How the tests that reach a fault notice it: by what it does, by pins alone, or not at all. */
async function noticed(folder, fault, { files, tookMs }) {
  const target = join(folder, relative(ROOT, fault.file));
  const text = readFileSync(fault.file, 'utf8');
  writeFileSync(target, text.slice(0, fault.from) + fault.to + text.slice(fault.end));
  const fail = (asked) => {
    if (asked.length === 0) return false;
    const env = { ASKED: JSON.stringify(asked) };
    const how = asked.some((file) => file.startsWith('app/')) ? APART : QUICK;
    return failed(folder, ['run', ...asked, ...how], env, 2 * tookMs + MORE_MS);
  };
  const isPin = (file) => file.includes('pinned');
  try {
    if (await fail(files.filter((file) => !isPin(file)))) return 'seen';
    return (await fail(files.filter(isPin))) ? 'pins' : 'alive';
  } finally {
    writeFileSync(target, text);
  }
}

/** Why a fault may well live: what no test can see, and what none looks at yet. */
function reason({ file, from, was, to }) {
  const pair = [was, to].sort().join(' ');
  if (pair === '< <=' || pair === '> >=') return 'differs only where both sides are equal';
  const before = readFileSync(file, 'utf8').slice(0, from).trimEnd();
  if (before.endsWith('??')) return 'a fallback for what is always there';
  return 'no test looks at it yet';
}

const words = (fault) => {
  const { file, line, was, to } = fault;
  return `alive: ${relative(ROOT, file)}:${line}  ${was} → ${to}  (${reason(fault)})`;
};

const survivors = [];
/** Seen only by a text that says that something is other than before. */
const byPins = [];
let done = 0;
const from = performance.now();
const lanes = Array.from({ length: Math.min(2, cpus().length) }, copyOfTree);
try {
  const [first] = lanes;
  const tests = await testsReaching(first);
  process.stderr.write(`reached: ${tests.filter(({ files }) => files.length > 0).length}\n`);
  await Promise.all(
    lanes.map(async (folder, lane) => {
      for (let i = lane; i < sample.length; i += lanes.length) {
        const how = await noticed(folder, sample[i], tests[i]);
        if (how === 'pins') byPins.push(sample[i]);
        if (how === 'alive') {
          survivors.push(sample[i]);
          process.stderr.write(`${words(sample[i])}\n`);
        }
        done += 1;
        if (done % 20 === 0) {
          const minutes = (performance.now() - from) / 60_000;
          process.stderr.write(
            `${done} of ${sample.length}, ${survivors.length} alive, ${minutes.toFixed(1)} min\n`,
          );
        }
      }
    }),
  );
} finally {
  for (const lane of lanes) rmSync(lane, { recursive: true, force: true });
}

survivors.sort((a, b) => a.file.localeCompare(b.file) || a.line - b.line);
for (const fault of survivors) process.stdout.write(`${words(fault)}\n`);
for (const { file, line, was, to } of byPins) {
  process.stdout.write(`by pins alone: ${relative(ROOT, file)}:${line}  ${was} → ${to}\n`);
}
const killed = sample.length - survivors.length;
process.stdout.write(
  `${killed} of ${sample.length} noticed (${((100 * killed) / Math.max(1, sample.length)).toFixed(0)} %), ${byPins.length} of them by pins alone\n`,
);
