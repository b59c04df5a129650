import { rigTables, type RigTable } from '../../core/rig';
import type { Session } from '../../core/session';
import type { Paper } from '../../paper/sheet-pdf';
import { download, fileName } from './files';
import { downloadTable } from './tables';

/** One table of the rig as a CSV file. */
export async function exportTable(session: Session, name: RigTable['name']): Promise<void> {
  const table = rigTables(session).find((entry) => entry.name === name);
  if (table) await downloadTable(`${session.title} ${name}`, table.head, table.rows);
}

/** The position sheet as a PDF file. */
export async function exportSheet(
  session: Session,
  bothUnits = false,
  paper: Paper = 'a4',
): Promise<void> {
  const { sheetFile } = await import('./sheet-file');
  const bytes = await sheetFile(session, bothUnits, paper);
  download(
    fileName(`${session.title} positions`, 'pdf'),
    new Blob([bytes.slice().buffer], { type: 'application/pdf' }),
  );
}
