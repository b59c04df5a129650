import type { Cell } from '../../paper/csv';
import { download, fileName } from './files';

export type { Cell };

/** A table as a CSV file in the browser's downloads; a missing figure is an empty cell. */
export async function downloadTable(
  name: string,
  header: readonly string[],
  rows: readonly (readonly Cell[])[],
): Promise<void> {
  const { csvText } = await import('../../paper/csv');
  const text = csvText(header, rows);
  download(fileName(name, 'csv'), new Blob([`${text}\r\n`], { type: 'text/csv' }));
}

/** The same as a JSON file: a list of objects by the names of the columns; a missing figure is null. */
export function downloadJson(
  name: string,
  header: readonly string[],
  rows: readonly (readonly Cell[])[],
): void {
  const list = rows.map((row) => Object.fromEntries(header.map((key, i) => [key, row[i] ?? null])));
  const text = JSON.stringify(list, null, 2);
  download(fileName(name, 'json'), new Blob([`${text}\n`], { type: 'application/json' }));
}
