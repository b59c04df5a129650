// Lint and types in one go: reading and checking the tree is most of the work of both, and three
// sets of compiler options can share what was read.
import { ESLint } from 'eslint';
import ts from 'typescript';
import { join } from 'node:path';
import { ROOT } from './ensure.mjs';

const host = ts.createCompilerHost({}, true);
const read = host.getSourceFile.bind(host);
const files = new Map();
host.getSourceFile = (name, language, ...rest) => {
  const known = files.get(name);
  if (known) return known;
  const file = read(name, language, ...rest);
  files.set(name, file);
  return file;
};

function programOf(folder) {
  const path = join(ROOT, folder, 'tsconfig.json');
  const { config, error } = ts.readConfigFile(path, ts.sys.readFile);
  if (error) throw new Error(ts.flattenDiagnosticMessageText(error.messageText, '\n'));
  const { fileNames, options } = ts.parseJsonConfigFileContent(config, ts.sys, join(ROOT, folder));
  return ts.createProgram(fileNames, options, host);
}

function typesAreRight(folder, program) {
  const wrong = ts.getPreEmitDiagnostics(program);
  if (wrong.length === 0) return true;
  process.stdout.write(`Types of ${folder || 'all'}:\n`);
  process.stdout.write(ts.formatDiagnosticsWithColorAndContext(wrong, host));
  return false;
}

const whole = programOf('');
const eslint = new ESLint({
  cwd: ROOT,
  overrideConfig: [
    {
      files: ['**/*.{ts,tsx}'],
      languageOptions: { parserOptions: { project: null, programs: [whole] } },
    },
  ],
});
const results = await eslint.lintFiles('.');
const formatter = await eslint.loadFormatter('stylish');
process.stdout.write(await formatter.format(results));
const lintOk = results.every(({ errorCount, warningCount }) => errorCount + warningCount === 0);

const typesOk = [
  typesAreRight('', whole),
  ...['core', 'server'].map((folder) => typesAreRight(folder, programOf(folder))),
].every(Boolean);
process.exit(lintOk && typesOk ? 0 : 1);
