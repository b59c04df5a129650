import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { demoSessions } from '../core/demo';
import { newArray, newSource, sessionFrom } from '../core/session';
import { planDrawing, sectionDrawing, type Drawing } from './sheet-drawing';
import { sheetModel } from './sheet-model';
import { printedTable, sheetPdf } from './sheet-pdf';

const { resolve } = createRequire(import.meta.url);
const face = (file: string) =>
  readFileSync(resolve(`@expo-google-fonts/inter/${file}`)).toString('base64');
const fonts = {
  normal: face('400Regular/Inter_400Regular.ttf'),
  bold: face('600SemiBold/Inter_600SemiBold.ttf'),
};

const points = ({ shapes }: Drawing) =>
  shapes.flatMap((shape) => (shape.kind === 'line' ? [shape.from, shape.to] : [shape.at]));
const words = ({ shapes }: Drawing) =>
  shapes.flatMap((shape) => (shape.kind === 'text' ? [shape.words] : []));

const small = {
  ...sessionFrom({ title: 'Two players', venue: { heightM: 7 } }),
  sources: [
    newSource({ id: 'a', name: 'Viola', group: 'Strings', x: -2, y: 2, z: 1.2 }),
    newSource({ id: 'b', name: 'Cello', group: 'Strings', x: 2, y: 3, z: 0.8 }),
  ],
  arrays: [
    newArray({ id: 'm', name: 'Main pair', x: 0, y: -1, z: 3 }),
    newArray({ id: 'off', name: 'Not used', enabled: false }),
  ],
};

describe('drawings for paper', () => {
  it('the plan shows who stands where, to the scale that it draws', () => {
    const plan = planDrawing(small);
    expect(words(plan)).toEqual(
      expect.arrayContaining(['stage edge', 'Main pair', 'St 1', 'St 2', '1 m']),
    );
    expect(words(plan)).not.toContain('Not used');
    const circles = plan.shapes.flatMap((s) => (s.kind === 'circle' && s.filled ? [s.at] : []));
    const metre = plan.shapes.flatMap((s) =>
      s.kind === 'line' && s.from[1] === plan.height - 10 && s.to[1] === plan.height - 10
        ? [s.to[0] - s.from[0]]
        : [],
    )[0];
    const [[ax, ay] = [NaN, NaN], [bx, by] = [NaN, NaN]] = circles;
    expect((bx - ax) / (metre ?? NaN)).toBeCloseTo(4, 9);
    // Upstage is up on the paper.
    expect((ay - by) / (metre ?? NaN)).toBeCloseTo(1, 9);
  });

  it('the section shows heights above the floor', () => {
    const section = sectionDrawing(small);
    const [a, b] = section.shapes.flatMap((s) => (s.kind === 'circle' ? [s.at] : []));
    expect((a?.[0] ?? NaN) < (b?.[0] ?? NaN)).toBe(true);
    expect((a?.[1] ?? NaN) < (b?.[1] ?? NaN)).toBe(true);
  });

  it.each(demoSessions('2026-01-01T00:00:00.000Z'))('“$title” stays on its paper', (session) => {
    for (const drawing of [planDrawing(session), sectionDrawing(session)]) {
      for (const [x, y] of points(drawing)) {
        expect(x).toBeGreaterThanOrEqual(-1);
        expect(x).toBeLessThanOrEqual(641);
        expect(y).toBeGreaterThanOrEqual(-1);
        expect(y).toBeLessThanOrEqual(drawing.height + 1);
      }
    }
  });

  it.each(demoSessions('2026-01-01T00:00:00.000Z'))(
    '“$title” fills the width, and no words cover others',
    (session) => {
      const plan = planDrawing(session);
      const xs = points(plan).map(([x]) => x);
      expect(plan.height === 620 || Math.max(...xs) - Math.min(...xs) > 0.7 * plan.width).toBe(
        true,
      );
      for (const { shapes } of [plan, sectionDrawing(session)]) {
        const boxes = shapes.flatMap((s) => {
          if (s.kind !== 'text' || !s.middle) return [];
          const half = (s.words.length * s.size * 0.5) / 2;
          return [{ left: s.at[0] - half, right: s.at[0] + half, y: s.at[1], words: s.words }];
        });
        for (const a of boxes) {
          const over = boxes.filter(
            (b) => b !== a && b.left < a.right && a.left < b.right && Math.abs(a.y - b.y) < 8,
          );
          expect(over.map(({ words }) => `${a.words} over ${words}`)).toEqual([]);
        }
      }
    },
  );

  it('an empty session has its stage', () => {
    expect(words(planDrawing(sessionFrom({})))).toContain('stage edge');
  });
});

describe('the sheet as PDF', () => {
  it('says pan and polarity in words, lengths in the session’s units', () => {
    const channels = {
      name: 'channels' as const,
      head: ['number', 'polarity', 'pan', 'gain dB', 'output mV'],
      rows: [[1, -1, -1, -3.5, 20]],
    };
    const { head, rows } = printedTable(channels, 'metric');
    const of = (name: string) => rows[0]?.[head.indexOf(name)];
    expect([of('polarity'), of('pan'), of('gain dB')]).toEqual([
      'inverted',
      '100\u00a0%\u00a0L',
      '−3.5',
    ]);
    // Columns without a place on the page are left to the CSV, missing ones are a dash.
    expect(head).not.toContain('output mV');
    expect(of('microphone')).toBe('—');
    const cables = { name: 'cables' as const, head: ['from to', 'cable m'], rows: [['a', 3.048]] };
    expect(printedTable(cables, 'imperial')).toEqual({
      head: ['from to', 'cable'],
      rows: [['a', '10′ 0″']],
    });
  });

  const pdf = (paper: 'a4' | 'letter') =>
    Buffer.from(sheetPdf(small, sheetModel(small, false), fonts, paper)).toString('latin1');

  it.each([
    ['a4', /MediaBox \[0 0 595\.2\d* 841\.8\d*\]/],
    ['letter', /MediaBox \[0 0 612\.?0* 792\.?0*\]/],
  ] as const)('%s has its size, embedded fonts and vectors', (paper, box) => {
    const text = pdf(paper);
    expect(text.startsWith('%PDF-')).toBe(true);
    expect(text).toMatch(box);
    expect(text).toContain('/FontFile2');
    // No picture stands in for a drawing.
    expect(text).not.toContain('/Subtype /Image');
  });
});

describe('names that the face of the sheet does not have', () => {
  const pdfText = (title: string) => {
    const session = { ...small, title };
    const bytes = sheetPdf(session, sheetModel(session, false), fonts);
    const file = join(mkdtempSync(join(tmpdir(), 'rotunda-pdf-')), 'sheet.pdf');
    writeFileSync(file, bytes);
    return execFileSync('pdftotext', ['-l', '1', file, '-'], { encoding: 'utf8' });
  };

  it('are said to be left out, sign by sign', () => {
    const text = pdfText('合唱 مرحبا 👩‍🎤 Übung');
    expect(text).toMatch(/^□□ □□□□□ □□ Übung\n/);
    expect(text).toContain('□ stands for signs that the face of this sheet does not have');
  });

  it('are whole in every alphabet that it has, and then nothing is said', () => {
    const text = pdfText('Ünïcode Ξύλο Зал −½°');
    expect(text).toMatch(/^Ünïcode Ξύλο Зал −½°\n/);
    expect(text).not.toContain('stands for signs');
  });
});
