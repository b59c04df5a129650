import { rigTables, type RigTable } from '../../core/rig';
import type { Session } from '../../core/session';
import type { ReportModel } from '../../paper/measurement-report';
import type { Paper } from '../../paper/sheet-pdf';
import { download, fileName } from './files';
import { downloadTable } from './tables';

/** One table of the rig as a CSV file. */
export async function exportTable(session: Session, name: RigTable['name']): Promise<void> {
  const table = rigTables(session).find((entry) => entry.name === name);
  if (table) await downloadTable(`${session.title} ${name}`, table.head, table.rows);
}

/** A report as a PDF file. @param what it is, in its name */
export async function exportReport(
  model: ReportModel,
  paper: Paper = 'a4',
  what = 'measured',
): Promise<void> {
  const { reportFile } = await import('./sheet-file');
  savePdf(`${model.title} ${what}`.trim(), await reportFile(model, paper));
}

const savePdf = (name: string, bytes: Uint8Array): void =>
  download(fileName(name, 'pdf'), new Blob([bytes.slice().buffer], { type: 'application/pdf' }));

/** The position sheet as a PDF file. */
export async function exportSheet(
  session: Session,
  bothUnits = false,
  paper: Paper = 'a4',
): Promise<void> {
  const { sheetFile } = await import('./sheet-file');
  savePdf(`${session.title} positions`, await sheetFile(session, bothUnits, paper));
}
