import regularUrl from '@expo-google-fonts/inter/400Regular/Inter_400Regular.ttf?url';
import boldUrl from '@expo-google-fonts/inter/600SemiBold/Inter_600SemiBold.ttf?url';
import { jsPDF } from 'jspdf';
import autoTable from 'jspdf-autotable';
import type { ReactElement } from 'react';
import { flushSync } from 'react-dom';
import { createRoot } from 'react-dom/client';
import { svg2pdf } from 'svg2pdf.js';
import { rigTables, type RigTable } from '../../core/rig';
import type { Session } from '../../core/session';
import { download, fileName } from '../state/files';
import type { SheetModel, SheetTable } from './sheet-model';
import { SheetPlan } from './sheet-plan';
import { SheetSection } from './sheet-section';

const MARGIN_MM = 14;
const INK = '#22262d';
const MUTED = '#5f6166';
const FONT = 'Inter';

async function fontText(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
  let binary = '';
  for (let i = 0; i < bytes.length; i += 0x8000) {
    binary += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  }
  return btoa(binary);
}

async function addFonts(pdf: jsPDF): Promise<void> {
  const styles = [
    ['normal', regularUrl],
    ['bold', boldUrl],
  ] as const;
  for (const [style, url] of styles) {
    pdf.addFileToVFS(`Inter-${style}.ttf`, await fontText(url));
    pdf.addFont(`Inter-${style}.ttf`, FONT, style);
  }
}

/** A drawing as a detached SVG element. */
function drawn(drawing: ReactElement): SVGElement {
  const holder = document.createElement('div');
  const root = createRoot(holder);
  flushSync(() => root.render(drawing));
  const svg = holder.querySelector('svg');
  if (!svg) throw new TypeError('the drawing was not made');
  for (const text of svg.querySelectorAll('text')) text.setAttribute('font-family', FONT);
  return svg;
}

const TABLE_TITLES: Readonly<Record<RigTable['name'], string>> = {
  positions: 'Positions',
  channels: 'Channels',
  pack: 'Pack',
  build: 'Build',
  cables: 'Cable lengths',
  'as-built': 'As built',
};

/** Columns that fit a page, where a table has more. */
const PRINTED: Readonly<Partial<Record<RigTable['name'], string[]>>> = {
  channels: [
    'number',
    'name',
    'microphone',
    'phantom',
    'pad dB',
    'polarity',
    'pan',
    'delay ms',
    'peak dB SPL',
    'gain dB',
    'track',
  ],
};

class SheetWriter {
  private y = MARGIN_MM;
  private readonly width: number;
  private readonly height: number;

  constructor(private readonly pdf: jsPDF) {
    this.width = pdf.internal.pageSize.getWidth() - 2 * MARGIN_MM;
    this.height = pdf.internal.pageSize.getHeight();
  }

  text(words: string, size: number, style: 'normal' | 'bold', colour = INK): void {
    this.pdf.setFont(FONT, style).setFontSize(size).setTextColor(colour);
    const lines = this.pdf.splitTextToSize(words, this.width) as string[];
    const step = size * 0.46;
    for (const line of lines) {
      if (this.y + step > this.height - MARGIN_MM) {
        this.pdf.addPage();
        this.y = MARGIN_MM;
      }
      this.y += step;
      this.pdf.text(line, MARGIN_MM, this.y);
    }
    this.y += size * 0.12;
  }

  rule(): void {
    this.y += 1.5;
    this.pdf.setDrawColor(INK).setLineWidth(0.5);
    this.pdf.line(MARGIN_MM, this.y, MARGIN_MM + this.width, this.y);
    this.y += 1.5;
  }

  gap(millimetres: number): void {
    this.y += millimetres;
  }

  async drawing(svg: SVGElement, ratio: number): Promise<void> {
    const height = this.width * ratio;
    await svg2pdf(svg, this.pdf, { x: MARGIN_MM, y: this.y, width: this.width, height });
    this.y += height + 2;
  }

  table({ head, rows }: SheetTable): void {
    autoTable(this.pdf, {
      head: [head],
      body: rows,
      startY: this.y + 1,
      margin: { left: MARGIN_MM, right: MARGIN_MM, bottom: MARGIN_MM + 6 },
      theme: 'plain',
      styles: { font: FONT, fontSize: 8.5, textColor: INK, cellPadding: 1.1 },
      headStyles: { fontStyle: 'normal', textColor: MUTED },
      didDrawCell: ({ cell }) => {
        this.pdf.setDrawColor('#d6d0c2').setLineWidth(0.2);
        this.pdf.line(cell.x, cell.y + cell.height, cell.x + cell.width, cell.y + cell.height);
      },
    });
    const last = (this.pdf as jsPDF & { lastAutoTable?: { finalY: number } }).lastAutoTable;
    this.y = (last?.finalY ?? this.y) + 2;
  }

  /** Session, date and page number at the foot of every page. */
  footers(model: SheetModel): void {
    const pages = this.pdf.getNumberOfPages();
    for (let page = 1; page <= pages; page++) {
      this.pdf.setPage(page);
      this.pdf.setFont(FONT, 'normal').setFontSize(8).setTextColor(MUTED);
      const y = this.height - 8;
      this.pdf.text(`${model.title} · ${model.facts}`, MARGIN_MM, y);
      this.pdf.text(`Page ${page} of ${pages}`, MARGIN_MM + this.width, y, { align: 'right' });
    }
  }
}

/** The position sheet as a vector PDF with embedded fonts. */
export async function sheetPdf(
  session: Session,
  model: SheetModel,
  paper: 'a4' | 'letter',
): Promise<Blob> {
  const pdf = new jsPDF({ unit: 'mm', format: paper, putOnlyUsedFonts: true });
  await addFonts(pdf);
  pdf.setProperties({ title: `${model.title}: position sheet` });
  const writer = new SheetWriter(pdf);
  writer.text(model.title, 16, 'bold');
  writer.text(model.facts, 10, 'normal', MUTED);
  writer.rule();
  writer.text(model.datum, 9, 'normal');
  await writer.drawing(drawn(<SheetPlan session={session} width={640} height={300} />), 300 / 640);
  await writer.drawing(
    drawn(<SheetSection session={session} width={640} height={190} />),
    190 / 640,
  );
  for (const { title, lines, positions, bar } of model.sections) {
    writer.text(title, 12, 'bold');
    for (const line of lines) writer.text(line, 9, 'normal');
    writer.table(positions);
    writer.table(bar);
    writer.gap(2);
  }
  writer.text('Cautions', 12, 'bold');
  for (const caution of model.cautions) writer.text(caution, 9, 'normal');
  writer.text(model.deference, 9, 'normal');
  for (const { name, head, rows } of rigTables(session)) {
    if (name === 'positions' || name === 'as-built' || rows.length === 0) continue;
    writer.gap(3);
    writer.text(TABLE_TITLES[name], 12, 'bold');
    const columns = PRINTED[name] ?? head;
    writer.table({
      head: columns,
      rows: rows.map((row) => columns.map((column) => `${row[head.indexOf(column)] ?? '—'}`)),
    });
  }
  writer.footers(model);
  return pdf.output('blob');
}

export async function downloadSheetPdf(
  session: Session,
  model: SheetModel,
  paper: 'a4' | 'letter',
): Promise<void> {
  download(fileName(`${session.title} positions`, 'pdf'), await sheetPdf(session, model, paper));
}
