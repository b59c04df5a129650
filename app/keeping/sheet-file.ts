import regularUrl from '@expo-google-fonts/inter/400Regular/Inter_400Regular.ttf?url';
import boldUrl from '@expo-google-fonts/inter/600SemiBold/Inter_600SemiBold.ttf?url';
import { writeSessionText, type Session } from '../../core/session';
import { sheetModel } from '../../paper/sheet-model';
import { sheetPdf, type Paper, type SheetFonts } from '../../paper/sheet-pdf';
import { withSessionInside } from '../../paper/attached-session';
import { reportPdf } from '../../paper/report-pdf';
import type { ReportModel } from '../../paper/measurement-report';
import { withoutOwn } from './ask-own';
import { withContents } from './blobs';

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

/** The sheet as the bytes of a PDF, with its session in it. */
export async function sheetFile(
  session: Session,
  bothUnits: boolean,
  paper: Paper,
): Promise<Uint8Array> {
  const pdf = sheetPdf(session, sheetModel(session, bothUnits), await fonts(), paper);
  // Photographs and kept clips go with it as far as a file holds them; how somebody hears does not.
  const inside = withoutOwn(session);
  return withSessionInside(pdf, writeSessionText(await withContents(inside)));
}
