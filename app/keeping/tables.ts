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
