import regularUrl from '@expo-google-fonts/inter/400Regular/Inter_400Regular.ttf?url';
import boldUrl from '@expo-google-fonts/inter/600SemiBold/Inter_600SemiBold.ttf?url';
import type { Session } from '../../core/session';
import { sheetModel } from '../../paper/sheet-model';
import { sheetPdf, type Paper, type SheetFonts } from '../../paper/sheet-pdf';
import { reportPdf } from '../../paper/report-pdf';
import type { ReportModel } from '../../paper/measurement-report';

async function fontText(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
  let binary = '';
  for (let i = 0; i < bytes.length; i += 0x8000) {
    binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  }
  return btoa(binary);
}

const fonts = async (): Promise<SheetFonts> => {
  const [normal, bold] = await Promise.all([fontText(regularUrl), fontText(boldUrl)]);
  return { normal, bold };
};

/** A report as the bytes of a PDF. */
export const reportFile = async (model: ReportModel, paper: Paper): Promise<Uint8Array> =>
  reportPdf(model, await fonts(), paper);

/** The sheet as the bytes of a PDF. */
export async function sheetFile(
  session: Session,
  bothUnits: boolean,
  paper: Paper,
): Promise<Uint8Array> {
  return sheetPdf(session, sheetModel(session, bothUnits), await fonts(), paper);
}
