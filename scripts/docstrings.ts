// How many of the core's public functions say what they take and give: a docstring, and where a
// number goes in or comes out its unit or range, what is refused, and the source of a formula.
// Prints a table by folder and, with --missing, the functions without. Fails where one is without.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

const ROOT = new URL('..', import.meta.url).pathname;
const CORE = join(ROOT, 'core');

function filesUnder(path: string): string[] {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path).flatMap((name) => filesUnder(join(path, name)));
}

interface Entry {
  where: string;
  doc: string;
  /** takes a plain number */
  numeric: boolean;
}

const UNIT =
  /\b(m|ms|s|dB|Hz|°|degrees?|radians?|percent|%|kg|N·m|mV|dBu|bits?|shift|fraction)\b|…|°|%/;
const NAMED_UNIT = /(M|Ms|S|Db|Hz|Deg|Pct|Kg|C)$/;

function entriesOf(file: string): Entry[] {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  return source.statements.flatMap((statement): Entry[] => {
    const exported = ts.canHaveModifiers(statement)
      ? ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)
      : false;
    if (!exported) return [];
    const doc = (ts.getJSDocCommentsAndTags(statement) as readonly ts.Node[])
      .map((node) => node.getText(source))
      .join('\n');
    const at = `${relative(ROOT, file)}:${source.getLineAndCharacterOfPosition(statement.getStart(source)).line + 1}`;
    const found = (name: string, parameters: readonly ts.ParameterDeclaration[]): Entry => ({
      where: `${at} ${name}`,
      doc,
      numeric: parameters.some(
        ({ type, name: own }) =>
          type?.kind === ts.SyntaxKind.NumberKeyword && !NAMED_UNIT.test(own.getText(source)),
      ),
    });
    if (ts.isFunctionDeclaration(statement)) {
      return [found(statement.name?.text ?? '', statement.parameters)];
    }
    if (!ts.isVariableStatement(statement)) return [];
    return statement.declarationList.declarations.flatMap(({ name, initializer, type }) => {
      const isFunction =
        (initializer &&
          (ts.isArrowFunction(initializer) || ts.isFunctionExpression(initializer))) ||
        (type && ts.isFunctionTypeNode(type));
      if (!isFunction) return [];
      const { parameters } = (
        initializer && ts.isArrowFunction(initializer) ? initializer : type
      ) as { parameters: readonly ts.ParameterDeclaration[] };
      return [found(name.getText(source), parameters)];
    });
  });
}

const byFolder = new Map<string, Entry[]>();
for (const file of filesUnder(CORE)) {
  if (!file.endsWith('.ts') || /\.(test|d)\.ts$|\/index\.ts$/.test(file)) continue;
  const folder = relative(CORE, file).split('/')[0] ?? '';
  byFolder.set(folder, [...(byFolder.get(folder) ?? []), ...entriesOf(file)]);
}

const missing: string[] = [];
const rows = [...byFolder].map(([folder, entries]) => {
  const without = entries.filter(({ doc }) => doc === '');
  const bare = entries.filter(({ doc, numeric }) => numeric && doc !== '' && !UNIT.test(doc));
  missing.push(...without.map(({ where }) => `no docstring: ${where}`));
  missing.push(...bare.map(({ where }) => `no unit or range: ${where}`));
  const count = (pattern: RegExp) => entries.filter(({ doc }) => pattern.test(doc)).length;
  return {
    folder,
    functions: entries.length,
    docstring: entries.length - without.length,
    'units or ranges': entries.length - without.length - bare.length,
    'says null or errors': count(/null|@throws|@returns|empty/),
    source: count(/Source:|\(\d{4}\)|\b(19|20)\d\d\b/),
  };
});
const [first] = rows;
const heads = Object.keys(first ?? {});
for (const cells of [heads, ...rows.map((row) => Object.values(row).map(String))]) {
  process.stdout.write(`${cells.map((cell) => cell.padEnd(22)).join('')}\n`);
}
if (process.argv.includes('--missing')) process.stdout.write(`${missing.join('\n')}\n`);
process.exitCode = missing.length === 0 ? 0 : 1;
