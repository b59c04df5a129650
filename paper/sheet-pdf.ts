import { jsPDF } from 'jspdf';
import autoTable from 'jspdf-autotable';
import { rigTables, type RigTable, type TableCell } from '../core/rig';
import type { Session } from '../core/session';
import { lengthText, panText, type UnitSystem } from '../core/units';
import { INKS, planDrawing, sectionDrawing, type Drawing, type Shape } from './sheet-drawing';
import type { SheetModel, SheetTable } from './sheet-model';

const MARGIN_MM = 14;
const INK = INKS.ink;
const MUTED = '#5f6166';
const FONT = 'Inter';
/** Room that a heading and the first rows under it take. */
const KEPT_TOGETHER_MM = 28;
/** A table begins with its head and a row or two, or on the next page. */
const LEAST_TABLE_MM = 18;
const MANY_COLUMNS = 8;
const POINTS_PER_MM = 72 / 25.4;

/** TrueType files of the sheet's face, base64. */
export interface SheetFonts {
  normal: string;
  bold: string;
}

export type Paper = 'a4' | 'letter';

function addFonts(pdf: jsPDF, fonts: SheetFonts): void {
  for (const style of ['normal', 'bold'] as const) {
    pdf.addFileToVFS(`Inter-${style}.ttf`, fonts[style]);
    pdf.addFont(`Inter-${style}.ttf`, FONT, style);
  }
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
    'loudspeaker',
    'for',
  ],
};

/** Raw cells as they are read on paper: lengths in the session's units, pan and polarity in words. */
export function printedTable({ name, head, rows }: RigTable, units: UnitSystem): SheetTable {
  const wanted = PRINTED[name] ?? head;
  // A column that says nothing takes no room.
  const columns = wanted.filter(
    (column) => column !== 'loudspeaker' || rows.some((row) => row[head.indexOf(column)] !== null),
  );
  const cellText = (column: string, cell: TableCell): string => {
    if (cell === null) return '—';
    if (typeof cell === 'string') return cell;
    if (column.endsWith(' m')) return lengthText(cell, units);
    if (column === 'polarity') return cell < 0 ? 'inverted' : 'normal';
    if (column === 'pan') return panText(cell).replaceAll(' ', '\u00a0');
    return `${cell}`.replace('-', '−');
  };
  return {
    head: columns.map((column) => column.replace(/ m$/, '')),
    rows: rows.map((row) =>
      columns.map((column) => cellText(column, row[head.indexOf(column)] ?? null)),
    ),
  };
}

/** Stands for a sign that the face of the sheet does not have. */
const LACKING = '\u25a1';
const LACKING_NOTE = `${LACKING} stands for signs that the face of this sheet does not have; the names are whole on the screen and in the CSV files.`;
/** Joins and variants of signs: nothing by themselves. */
const INVISIBLE = /\p{Cf}|\p{Variation_Selector}/u;

interface FontMetadata {
  characterToGlyph(code: number): number;
}

/** A text with a square for every sign that the embedded face cannot draw. */
export function printable(pdf: jsPDF, words: string): string {
  const { metadata } = pdf.getFont() as unknown as { metadata?: FontMetadata };
  if (!metadata) return words;
  return [...words]
    .map((sign) => {
      const code = sign.codePointAt(0) ?? 0;
      if (code < 0x20) return ' ';
      if (INVISIBLE.test(sign)) return '';
      return code <= 0xffff && metadata.characterToGlyph(code) !== 0 ? sign : LACKING;
    })
    .join('');
}

/** Writes down a page, and on to the next. */
export class SheetWriter {
  private y = MARGIN_MM;
  private readonly width: number;
  private readonly height: number;

  constructor(private readonly pdf: jsPDF) {
    this.width = pdf.internal.pageSize.getWidth() - 2 * MARGIN_MM;
    this.height = pdf.internal.pageSize.getHeight();
  }

  text(words: string, size: number, style: 'normal' | 'bold', colour = INK): void {
    this.pdf.setFont(FONT, style).setFontSize(size).setTextColor(colour);
    const lines = this.pdf.splitTextToSize(printable(this.pdf, words), this.width) as string[];
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

  /**
   * Never alone at the foot of a page.
   * @param withMm what has to stand on one page with it, where a page is high enough
   */
  heading(words: string, withMm = KEPT_TOGETHER_MM): void {
    const most = this.height - 2 * MARGIN_MM;
    if (this.y + Math.min(withMm, most) > this.height - MARGIN_MM) {
      this.pdf.addPage();
      this.y = MARGIN_MM;
    }
    this.text(words, 12, 'bold');
  }

  /** What lines of text take, mm. */
  heightOf(lines: readonly string[], size: number): number {
    this.pdf.setFont(FONT, 'normal').setFontSize(size);
    return lines.reduce((sum, words) => {
      const broken = this.pdf.splitTextToSize(printable(this.pdf, words), this.width) as string[];
      return sum + broken.length * size * 0.46 + size * 0.12;
    }, 0);
  }

  heightOfDrawing({ width, height }: Drawing): number {
    return (height * this.width) / width + 2;
  }

  /** Title and facts; and where signs are lacking, a word about them. @param everything all that is written */
  begin(title: string, facts: string, everything: string): void {
    this.text(title, 16, 'bold');
    this.text(facts, 10, 'normal', MUTED);
    if (printable(this.pdf, everything).includes(LACKING)) {
      this.text(LACKING_NOTE, 9, 'normal', MUTED);
    }
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

  /** As wide as the page, as vectors. */
  drawing({ width, height, shapes }: Drawing): void {
    const scale = this.width / width;
    if (this.y + height * scale > this.height - MARGIN_MM) {
      this.pdf.addPage();
      this.y = MARGIN_MM;
    }
    const at = ([x, y]: readonly [number, number]): [number, number] => [
      MARGIN_MM + x * scale,
      this.y + y * scale,
    ];
    for (const shape of shapes) this.shape(shape, at, scale);
    this.pdf.setLineDashPattern([], 0);
    this.y += height * scale + 2;
  }

  private shape(
    shape: Shape,
    at: (point: readonly [number, number]) => [number, number],
    scale: number,
  ): void {
    const { pdf } = this;
    const colour = INKS[shape.ink];
    if (shape.kind === 'text') {
      pdf.setFont(FONT, 'normal').setFontSize(shape.size * scale * POINTS_PER_MM);
      pdf.setTextColor(colour);
      pdf.text(printable(pdf, shape.words), ...at(shape.at), {
        align: shape.middle ? 'center' : 'left',
      });
      return;
    }
    const dash = shape.kind === 'line' ? (shape.dash ?? []) : [];
    pdf.setDrawColor(colour).setLineDashPattern(
      dash.map((part) => part * scale),
      0,
    );
    if (shape.kind === 'line') {
      pdf.setLineWidth(shape.width * scale).line(...at(shape.from), ...at(shape.to));
    } else {
      pdf.setLineWidth(scale).setFillColor('#ffffff');
      pdf.circle(...at(shape.at), shape.radius * scale, shape.filled ? 'FD' : 'S');
    }
  }

  table({ head, rows }: SheetTable): void {
    this.pdf.setFont(FONT, 'normal');
    if (this.y + LEAST_TABLE_MM > this.height - MARGIN_MM) {
      this.pdf.addPage();
      this.y = MARGIN_MM;
    }
    const printed = (cells: readonly string[]) => cells.map((cell) => printable(this.pdf, cell));
    autoTable(this.pdf, {
      head: [printed(head)],
      body: rows.map(printed),
      startY: this.y + 1,
      margin: { left: MARGIN_MM, right: MARGIN_MM, bottom: MARGIN_MM + 6 },
      theme: 'plain',
      rowPageBreak: 'avoid',
      styles: {
        font: FONT,
        fontSize: head.length > MANY_COLUMNS ? 7.2 : 8.5,
        textColor: INK,
        cellPadding: head.length > MANY_COLUMNS ? 0.9 : 1.1,
      },
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
  footers(model: Pick<SheetModel, 'title' | 'facts'>): void {
    const pages = this.pdf.getNumberOfPages();
    for (let page = 1; page <= pages; page++) {
      this.pdf.setPage(page);
      this.pdf.setFont(FONT, 'normal').setFontSize(8).setTextColor(MUTED);
      const y = this.height - 8;
      this.pdf.text(printable(this.pdf, `${model.title} · ${model.facts}`), MARGIN_MM, y);
      this.pdf.text(`Page ${page} of ${pages}`, MARGIN_MM + this.width, y, { align: 'right' });
    }
  }
}

/** An empty PDF with its fonts, and what writes on it. */
export function beginPdf(
  fonts: SheetFonts,
  paper: Paper,
  title: string,
): { pdf: jsPDF; writer: SheetWriter } {
  const pdf = new jsPDF({ unit: 'mm', format: paper, putOnlyUsedFonts: true });
  addFonts(pdf, fonts);
  pdf.setProperties({ title });
  return { pdf, writer: new SheetWriter(pdf) };
}

/** The sheet with its drawings and all tables as a vector PDF with embedded fonts. */
export function sheetPdf(
  session: Session,
  model: SheetModel,
  fonts: SheetFonts,
  paper: Paper = 'a4',
): Uint8Array {
  const { pdf, writer } = beginPdf(fonts, paper, `${model.title}: position sheet`);
  const tables = rigTables(session);
  const everything = JSON.stringify([
    { ...model, parts: model.parts.map(({ detail: _, ...part }) => part) },
    tables.map(({ rows }) => rows),
  ]);
  writer.begin(model.title, model.facts, everything);
  writer.rule();
  writer.text(model.datum, 9, 'normal');
  if (model.heard !== '') writer.text(model.heard, 9, 'bold');
  writer.drawing(planDrawing(session));
  writer.drawing(sectionDrawing(session));
  if (model.players.rows.length > 0) {
    writer.heading('Players');
    writer.table(model.players);
  }
  for (const { title, lines, detail, positions, bar } of model.parts) {
    // Its lines, its drawing and the first rows of its table are not torn apart.
    writer.heading(
      title,
      writer.heightOf(lines, 9) + writer.heightOfDrawing(detail) + KEPT_TOGETHER_MM,
    );
    for (const line of lines) writer.text(line, 9, 'normal');
    writer.drawing(detail);
    writer.table(positions);
    writer.table(bar);
    writer.gap(2);
  }
  writer.heading('Cautions');
  for (const caution of model.cautions) writer.text(caution, 9, 'normal');
  writer.text(model.deference, 9, 'normal');
  for (const table of tables) {
    const { name, rows } = table;
    if (name === 'positions' || name === 'as-built' || rows.length === 0) continue;
    writer.gap(3);
    writer.heading(TABLE_TITLES[table.name]);
    writer.table(printedTable(table, session.settings.units));
  }
  writer.footers(model);
  return new Uint8Array(pdf.output('arraybuffer'));
}
