import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { jsPDF } from 'jspdf';
import autoTable from 'jspdf-autotable';
import { DEFERENCE, rigTables, safetyCautions, type RigTable } from '../core/rig';
import type { Session } from '../core/session';

const FONT = 'Inter';
const MARGIN_MM = 14;
const TITLES: Readonly<Record<RigTable['name'], string>> = {
  positions: 'Positions',
  channels: 'Channels',
  pack: 'Pack',
  build: 'Build',
  cables: 'Cable lengths',
  'as-built': 'As built',
};

function addFonts(pdf: jsPDF): void {
  const require = createRequire(import.meta.url);
  for (const [style, file] of [
    ['normal', '400Regular/Inter_400Regular.ttf'],
    ['bold', '600SemiBold/Inter_600SemiBold.ttf'],
  ] as const) {
    const bytes = readFileSync(require.resolve(`@expo-google-fonts/inter/${file}`));
    pdf.addFileToVFS(`Inter-${style}.ttf`, bytes.toString('base64'));
    pdf.addFont(`Inter-${style}.ttf`, FONT, style);
  }
}

/** Every table of the rig and its cautions as a PDF with embedded fonts and numbered pages. */
export function rigPdf(session: Session): Uint8Array {
  const pdf = new jsPDF({ unit: 'mm', format: 'a4', orientation: 'landscape' });
  addFonts(pdf);
  const width = pdf.internal.pageSize.getWidth();
  const height = pdf.internal.pageSize.getHeight();
  pdf
    .setFont(FONT, 'bold')
    .setFontSize(15)
    .text(session.title, MARGIN_MM, MARGIN_MM + 4);
  const facts = [session.venue.name, session.brief.date].filter(Boolean).join(' · ');
  pdf
    .setFont(FONT, 'normal')
    .setFontSize(9)
    .text(facts, MARGIN_MM, MARGIN_MM + 10);
  let y = MARGIN_MM + 14;
  const table = (title: string, head: string[], body: string[][]) => {
    autoTable(pdf, {
      head: [
        [{ content: title, colSpan: head.length, styles: { fontStyle: 'bold', fontSize: 11 } }],
        head,
      ],
      body,
      startY: y,
      margin: { left: MARGIN_MM, right: MARGIN_MM, bottom: MARGIN_MM + 4 },
      theme: 'plain',
      styles: { font: FONT, fontSize: 7.5, cellPadding: 0.9 },
      headStyles: { fontStyle: 'normal' },
    });
    y = ((pdf as jsPDF & { lastAutoTable?: { finalY: number } }).lastAutoTable?.finalY ?? y) + 5;
  };
  for (const { name, head, rows } of rigTables(session)) {
    if (rows.length > 0)
      table(
        TITLES[name],
        head,
        rows.map((row) => row.map((cell) => `${cell ?? '—'}`)),
      );
  }
  table(
    'Cautions',
    ['what', 'to do'],
    [...safetyCautions(session).map(({ what, todo }) => [what, todo]), ['always', DEFERENCE]],
  );
  const pages = pdf.getNumberOfPages();
  for (let page = 1; page <= pages; page++) {
    pdf.setPage(page);
    pdf.setFont(FONT, 'normal').setFontSize(8);
    pdf.text(`${session.title} · ${facts}`, MARGIN_MM, height - 7);
    pdf.text(`Page ${page} of ${pages}`, width - MARGIN_MM, height - 7, { align: 'right' });
  }
  return new Uint8Array(pdf.output('arraybuffer'));
}
