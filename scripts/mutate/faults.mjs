// Where small faults can be planted, and how it is seen which tests come by there.
import { readFileSync } from 'node:fs';
import ts from 'typescript';

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

/** Smaller than this a number only means next to nothing, and a little more of it means the same. */
const NEXT_TO_NOTHING = 1e-5;

/**
 * A number a little larger: a whole one stays whole, as a place in a list or a shift would be cut
 * down to the old one.
 */
function otherNumber(value) {
  if (Number.isInteger(value)) return Math.max(value + 1, Math.round(value * 1.1));
  return value < NEXT_TO_NOTHING ? null : value * 1.1;
}

/** `{ 125: … }`: no number is reckoned there. */
const isName = (node) => ts.isPropertyAssignment(node.parent) && node.parent.name === node;

/** Every place of a file where a small fault can be planted. */
export function faultsIn(file) {
  const text = readFileSync(file, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (node, to) => {
    const [from, end] = [node.getStart(source), node.getEnd()];
    const { line } = source.getLineAndCharacterOfPosition(from);
    found.push({
      file,
      from,
      end,
      was: text.slice(from, end),
      to,
      line: line + 1,
      reach: reachOf(node, source),
    });
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
      const other = otherNumber(Number(node.text));
      if (other !== null && !isFallback(node, source) && !isName(node)) add(node, String(other));
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

/**
 * The expression whose reckoning means that a fault is reached: from where to where it stands.
 * A call stays with its object, and a chain of `?.` is not broken.
 */
function reachOf(node, source) {
  let whole = node;
  const { parent } = node;
  if (ts.isBinaryExpression(parent) && parent.operatorToken === node) whole = parent;
  else if (ts.isPropertyAccessExpression(parent) && parent.name === node) {
    whole = parent;
    if (ts.isCallExpression(parent.parent) && parent.parent.expression === parent)
      whole = parent.parent;
    while (isLinkOf(whole)) whole = whole.parent;
    if (isWritten(whole, whole)) whole = whole.parent;
  }
  return [whole.getStart(source), whole.getEnd()];
}

/** Whether something is what a value is given to. */
const isWritten = ({ parent }, node) =>
  ts.isBinaryExpression(parent) &&
  parent.left === node &&
  parent.operatorToken.kind >= ts.SyntaxKind.FirstAssignment &&
  parent.operatorToken.kind <= ts.SyntaxKind.LastAssignment;

/** Whether something is the beginning of a longer chain: `a?.some(f)` of `a?.some(f).length`. */
const isLinkOf = (node) =>
  (ts.isPropertyAccessExpression(node.parent) ||
    ts.isElementAccessExpression(node.parent) ||
    ts.isCallExpression(node.parent) ||
    ts.isNonNullExpression(node.parent)) &&
  node.parent.expression === node;

/**
 * A file's text that tells, wherever one of these faults would be planted, that it is reached.
 * @param faults [index in the whole sample, fault] of this file
 */
export function marked(text, faults) {
  const marks = faults.flatMap(([index, { reach }]) => [
    { at: reach[0], opens: true, text: `(globalThis.reached?.(${index}), ` },
    { at: reach[1], opens: false, text: ')' },
  ]);
  // Where one ends and another begins, the end comes first.
  marks.sort((a, b) => b.at - a.at || Number(b.opens) - Number(a.opens));
  let told = text;
  for (const mark of marks) told = told.slice(0, mark.at) + mark.text + told.slice(mark.at);
  return told;
}
