import Papa from 'papaparse';

export type Cell = string | number | null;

/** What a spreadsheet would take for a formula instead of a text. */
const FORMULA = /^[=+\-@\t\r\n]/;
const GUARD = "'";

/**
 * A table as CSV. A text that a spreadsheet would run as a formula gets an apostrophe before it;
 * numbers stay numbers, a missing figure is an empty cell.
 */
export function csvText(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  return Papa.unparse(
    { fields: [...head], data: rows.map((row) => [...row]) },
    { escapeFormulae: FORMULA },
  );
}

/** A text as it was before csvText wrote it. */
export function plainCell(text: string): string {
  return text.startsWith(GUARD) && FORMULA.test(text.slice(1)) ? text.slice(1) : text;
}
