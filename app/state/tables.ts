import { download, fileName } from './files';

export type Cell = string | number | null;

/** A table as a CSV file in the browser's downloads; a missing figure is an empty cell. */
export async function downloadTable(
  name: string,
  header: readonly string[],
  rows: readonly (readonly Cell[])[],
): Promise<void> {
  const { default: Papa } = await import('papaparse');
  const text = Papa.unparse({ fields: [...header], data: rows.map((row) => [...row]) });
  download(fileName(name, 'csv'), new Blob([`${text}\r\n`], { type: 'text/csv' }));
}
