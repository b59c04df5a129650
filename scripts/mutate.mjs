// How much of the core the unit tests hold: a seeded sample of small faults is planted, one at a
// time, in copies of the tree, and the tests must notice each. Prints the survivors.
//   npm run mutate -- [--count 400] [--seed 1] [--folder core/analysis]
import { spawn } from 'node:child_process';
import {
  cpSync,
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
import ts from 'typescript';
import { ensurePackages, ensureSystem, ROOT } from './ensure.mjs';

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
  /(\.test\.ts|\/index\.ts|\.d\.ts|test-\w+\.ts|templates\.ts|instruments\.ts)$|core\/(demo|fixtures)\//;
/** Twice as long as all its tests take, and so much more, may a fault take before it has hung. */
const MORE_MS = 20_000;
/** Files of tests that take longer are left out of the runs. */
const SLOW_MS = 3000;
/** Before it is known how long they take. */
const LONGEST_MS = 600_000;
/** One process for all files of a run: most of the time would go into starting more. */
const QUICK = ['--bail=1', '--isolate=false', '--maxWorkers=1', '--config=mutate.config.mjs'];
/** The tests beside the fault come first, and of the others the quickest. */
const CONFIG = `
import { readFileSync } from 'node:fs';
import { BaseSequencer } from 'vitest/node';
const took = JSON.parse(readFileSync('took.json', 'utf8'));
const beside = process.env.BESIDE ?? 'none';
// What takes long by itself is not asked of every fault: a fault that only it would notice lives.
const slow = Object.keys(took).filter((name) => took[name] > ${SLOW_MS});
// What sounds is judged by the tests of sound, and all else by the others: they are the slow ones.
const sound = ['core/audio/**/*.test.ts', 'cli/sound.test.ts'];
const kind = process.env.KIND;
const rank = ({ moduleId }) => (moduleId.includes(beside) ? 0 : 1e9) + (took[moduleId.slice(process.cwd().length)] ?? 0);
class Nearest extends BaseSequencer {
  async sort(files) {
    return [...files].sort((a, b) => rank(a) - rank(b));
  }
}
export default {
  test: {
    // What has been compiled once is not compiled again for every fault.
    experimental: { fsModuleCache: true },
    testTimeout: 60_000,
    setupFiles: ['core/test-setup.ts'],
    include: kind === 'sound' ? sound : ['{core,cli,paper}/**/*.test.ts'],
    exclude: [
      'core/analysis/recommend/sense.test.ts',
      ...(kind === 'rest' ? sound : []),
      ...slow.map((name) => name.slice(1)),
    ],
    sequence: { sequencer: Nearest },
  },
};
`;

function filesUnder(path) {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path).flatMap((name) => filesUnder(join(path, name)));
}

const SWAPS = {
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '&&': '||',
  '||': '&&',
};
const CALLS = { min: 'max', max: 'min', sin: 'cos', cos: 'sin', some: 'every', every: 'some' };

/** What stands for an index that is always there is asked for by the compiler, and never used. */
const FALLBACK = /\[[^\]]+\](\?\.\w+)*$/;
const isFallback = ({ parent }, source) =>
  ts.isBinaryExpression(parent) &&
  parent.operatorToken.kind === ts.SyntaxKind.QuestionQuestionToken &&
  FALLBACK.test(parent.left.getText(source));

/** Every place of a file where a small fault can be planted. */
function faultsIn(file) {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (node, to) => {
    const [from, end] = [node.getStart(source), node.getEnd()];
    const { line } = source.getLineAndCharacterOfPosition(from);
    found.push({ file, from, end, was: text.slice(from, end), to, line: line + 1 });
  };
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const to = SWAPS[node.operatorToken.getText(source)];
      const words = [node.left, node.right].some(
        (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
      );
      if (to && !(words && to === '-')) add(node.operatorToken, to);
    } else if (ts.isNumericLiteral(node)) {
      if (!isFallback(node, source)) add(node, node.text === '0' ? '1' : `(${node.text} * 1.1)`);
    } else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    else if (ts.isPrefixUnaryExpression(node)) {
      if (node.operator === ts.SyntaxKind.ExclamationToken) add(node, node.operand.getText(source));
    } else if (ts.isPropertyAccessExpression(node) && CALLS[node.name.text]) {
      add(node.name, CALLS[node.name.text]);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
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
  return folder;
}

/** Whether the tests fail; what takes too long has failed as well. */
function failed(folder, args, env = {}, longestMs = LONGEST_MS) {
  return new Promise((done) => {
    const vitest = join(folder, 'node_modules', 'vitest', 'vitest.mjs');
    const child = spawn(process.execPath, [vitest, ...args, ...QUICK], {
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

async function noticed(folder, fault, tookMs) {
  const inside = relative(ROOT, fault.file);
  const kind = inside.startsWith('core/audio/') ? 'sound' : 'rest';
  const target = join(folder, inside);
  const text = readFileSync(fault.file, 'utf8');
  writeFileSync(target, text.slice(0, fault.from) + fault.to + text.slice(fault.end));
  try {
    const related = ['related', '--run', target, '--passWithNoTests', '--reporter=dot'];
    const env = { BESIDE: `/${dirname(inside)}/`, KIND: kind };
    return await failed(folder, related, env, 2 * tookMs[kind] + MORE_MS);
  } finally {
    writeFileSync(target, text);
  }
}

/**
 * How long each file of tests takes; stops where they fail with no fault planted.
 * @returns how long those of sound take, and the others, ms
 */
async function timed(folder) {
  const report = join(folder, 'report.json');
  writeFileSync(join(folder, 'mutate.config.mjs'), CONFIG);
  writeFileSync(join(folder, 'took.json'), '{}');
  if (await failed(folder, ['run', '--reporter=json', `--outputFile=${report}`])) {
    throw new Error('The tests fail as they are: mend them first.');
  }
  const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
  const took = testResults.map((file) => [
    file.name.slice(folder.length),
    file.endTime - file.startTime,
  ]);
  writeFileSync(join(folder, 'took.json'), JSON.stringify(Object.fromEntries(took)));
  const tookMs = { sound: 0, rest: 0 };
  for (const [name, ms] of took.filter(([, ms]) => ms <= SLOW_MS))
    tookMs[/\/(core\/audio\/|cli\/sound)/.test(name) ? 'sound' : 'rest'] += ms;
  return tookMs;
}

/** Why a fault may well live: what no test can see, and what none looks at yet. */
function reason({ file, from, was, to }) {
  const pair = [was, to].sort().join(' ');
  if (pair === '< <=' || pair === '> >=') return 'differs only where both sides are equal';
  const before = readFileSync(file, 'utf8').slice(0, from).trimEnd();
  if (before.endsWith('??')) return 'a fallback for what is always there';
  if (/^1e-\d+$/.test(was)) return 'a size that only means next to nothing';
  return 'no test looks at it yet';
}

const words = (fault) => {
  const { file, line, was, to } = fault;
  return `alive: ${relative(ROOT, file)}:${line}  ${was} → ${to}  (${reason(fault)})`;
};

const survivors = [];
let done = 0;
const from = performance.now();
const lanes = Array.from({ length: Math.min(2, cpus().length) }, copyOfTree);
try {
  const [first] = lanes;
  const tookMs = await timed(first);
  for (const name of ['mutate.config.mjs', 'took.json']) {
    for (const lane of lanes.slice(1)) cpSync(join(first, name), join(lane, name));
  }
  await Promise.all(
    lanes.map(async (folder, lane) => {
      for (let i = lane; i < sample.length; i += lanes.length) {
        if (!(await noticed(folder, sample[i], tookMs))) {
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
const killed = sample.length - survivors.length;
process.stdout.write(
  `${killed} of ${sample.length} noticed (${((100 * killed) / Math.max(1, sample.length)).toFixed(0)} %)\n`,
);
