import type { ReportModel } from './measurement-report';
import { beginPdf, type Paper, type SheetFonts } from './sheet-pdf';

/** The report as a PDF with embedded fonts. */
export function reportPdf(model: ReportModel, fonts: SheetFonts, paper: Paper = 'a4'): Uint8Array {
  const { pdf, writer } = beginPdf(fonts, paper, model.title);
  writer.begin(model.title, model.facts, JSON.stringify(model));
  writer.rule();
  for (const sentence of model.sentences) writer.text(sentence, 10, 'normal');
  for (const { title, head, rows } of model.tables) {
    writer.gap(2);
    writer.heading(title);
    writer.table({ head, rows });
  }
  writer.footers(model);
  return new Uint8Array(pdf.output('arraybuffer'));
}
