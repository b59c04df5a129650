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
  /** refuses arguments itself */
  refuses: boolean;
  /** may give null */
  nullable: boolean;
}

const UNIT =
  /\b(m|ms|s|dB|Hz|°|degrees?|radians?|percent|%|kg|N·m|mV|dBu|bits?|shift|fraction)\b|…|°|%/;
const REFUSING = /^(inRange|checkSpeed|checkCues|checkChannels)$/;

/** Whether a function throws, or checks an argument, itself: not inside a function of its own. */
function refusesIn(body: ts.Node | undefined): boolean {
  if (!body) return false;
  let found = false;
  const visit = (node: ts.Node): void => {
    if (ts.isThrowStatement(node)) found = true;
    if (ts.isCallExpression(node) && REFUSING.test(node.expression.getText())) found = true;
    if (!ts.isFunctionLike(node)) ts.forEachChild(node, visit);
  };
  ts.forEachChild(body, visit);
  if (ts.isExpression(body)) visit(body);
  return found;
}

const mayBeNull = (type: ts.TypeNode | undefined): boolean =>
  type !== undefined &&
  ts.isUnionTypeNode(type) &&
  type.types.some((part) => part.getText() === 'null');

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
    const found = (
      name: string,
      parameters: readonly ts.ParameterDeclaration[],
      result: ts.TypeNode | undefined,
      body: ts.Node | undefined,
    ): Entry => ({
      where: `${at} ${name}`,
      doc,
      refuses: refusesIn(body),
      nullable: mayBeNull(result),
      numeric: parameters.some(
        ({ type, name: own }) =>
          type?.kind === ts.SyntaxKind.NumberKeyword && !NAMED_UNIT.test(own.getText(source)),
      ),
    });
    if (ts.isFunctionDeclaration(statement)) {
      const { name, parameters, type, body } = statement;
      return [found(name?.text ?? '', parameters, type, body)];
    }
    if (!ts.isVariableStatement(statement)) return [];
    return statement.declarationList.declarations.flatMap(({ name, initializer, type }) => {
      const isFunction =
        (initializer &&
          (ts.isArrowFunction(initializer) || ts.isFunctionExpression(initializer))) ||
        (type && ts.isFunctionTypeNode(type));
      if (!isFunction) return [];
      const arrow = initializer && ts.isArrowFunction(initializer) ? initializer : null;
      const shape = arrow ?? (type && ts.isFunctionTypeNode(type) ? type : null);
      if (!shape) return [];
      return [found(name.getText(source), shape.parameters, shape.type, arrow?.body)];
    });
  });
}

const byFolder = new Map<string, Entry[]>();
for (const file of filesUnder(CORE)) {
  if (!file.endsWith('.ts') || /\.(test|d)\.ts$|\/(index|test-\w+)\.ts$|\/fixtures\//.test(file))
    continue;
  const folder = relative(CORE, file).split('/')[0] ?? '';
  byFolder.set(folder, [...(byFolder.get(folder) ?? []), ...entriesOf(file)]);
}

const missing: string[] = [];
const rows = [...byFolder].map(([folder, entries]) => {
  const without = entries.filter(({ doc }) => doc === '');
  const bare = entries.filter(({ doc, numeric }) => numeric && doc !== '' && !UNIT.test(doc));
  missing.push(...without.map(({ where }) => `no docstring: ${where}`));
  missing.push(...bare.map(({ where }) => `no unit or range: ${where}`));
  const silent = entries.filter(({ refuses, doc }) => refuses && !/@throws/.test(doc));
  missing.push(...silent.map(({ where }) => `not said what is refused: ${where}`));
  const empty = entries.filter(({ nullable, doc }) => nullable && !/\bnull\b/.test(doc));
  missing.push(...empty.map(({ where }) => `not said when it is null: ${where}`));
  const refusing = entries.filter(({ refuses }) => refuses).length;
  const nullable = entries.filter((entry) => entry.nullable).length;
  const count = (pattern: RegExp) => entries.filter(({ doc }) => pattern.test(doc)).length;
  return {
    folder,
    functions: entries.length,
    docstring: entries.length - without.length,
    'units or ranges': entries.length - without.length - bare.length,
    refusals: `${refusing - silent.length} of ${refusing}`,
    'null explained': `${nullable - empty.length} of ${nullable}`,
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
