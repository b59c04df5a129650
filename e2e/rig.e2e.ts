import { execFileSync } from 'node:child_process';
import { expect, test } from './workbench';

test('the position sheet has the figures that the geometry gives', async ({ bench }) => {
  await bench.openDemo('rig');
  const positions = bench.page.getByRole('table', { name: 'Positions of Main pair' });
  const left = positions.getByRole('row', { name: /^L/ });
  // Left capsule at (−0.085, −0.40), tape A at (−4, 3), tape B at (4, 3).
  await expect(left).toContainText('0.09 m left');
  await expect(left).toContainText('0.40 m downstage');
  await expect(left).toContainText(`${Math.hypot(3.915, 3.4).toFixed(2)} m`);
  await expect(left).toContainText(`${Math.hypot(4.085, 3.4).toFixed(2)} m`);
  await expect(left).toContainText('2.70 m');
  await expect(left).toContainText('55.9° left');
  await expect(left).toContainText('8.5° down');
  const bar = bench.page.getByRole('table', { name: 'Bar of Main pair' });
  await expect(bar.getByRole('row', { name: /^L/ })).toContainText('8.5 cm left');
  await expect(bar.getByRole('row', { name: /^L/ })).toContainText('55° left');
  await expect(bar.getByRole('row', { name: /^L/ })).toContainText('end-address');
  await expect(bench.page.getByText(/licensed rigger or electrician/)).toBeVisible();

  await bench.page.getByLabel('Metric and imperial').check();
  await expect(bar.getByRole('row', { name: /^L/ })).toContainText('8.5 cm (3 3/8 in) left');
});

test('tapes that meet at a shallow angle are named with their error', async ({ bench }) => {
  await bench.openDemo();
  await bench.briefPage('The hall');
  await bench.type('Tape A, upstage of edge', '0');
  await bench.type('Tape B, upstage of edge', '0');
  await bench.go('rig');
  await expect(
    bench.page.getByText(/tapes meet at 169°: 1 cm of tape is 10 cm on the floor/).first(),
  ).toBeVisible();
});

test('on paper there is the sheet and nothing of the page around it', async ({ bench }) => {
  await bench.openDemo('rig');
  await bench.page.emulateMedia({ media: 'print' });
  await expect(bench.page.getByRole('article', { name: 'Position sheet' })).toBeVisible();
  await expect(bench.page.getByRole('navigation', { name: 'Stations' })).toBeHidden();
  await expect(bench.page.getByRole('region', { name: 'Stereo image' })).toBeHidden();
  await expect(bench.page.getByRole('button', { name: 'Print' })).toBeHidden();
  const size = async () => {
    const paper = await bench.page.pdf({ preferCSSPageSize: true });
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], {
      encoding: 'utf8',
      input: paper,
    });
    // Every printed page says what it belongs to, when, and which page it is.
    const pages = text.split('\f').filter((page) => page.trim() !== '');
    pages.forEach((page, i) => {
      expect(page).toMatch(
        new RegExp(`Sedge Lane Nonet.*2026-12-12.*Page ${i + 1} of ${pages.length}`),
      );
    });
    return /MediaBox ?\[0 0 ([\d.]+)/.exec(paper.toString('latin1'))?.[1];
  };
  expect(Number(await size())).toBeCloseTo(595, 0);
  await bench.page.emulateMedia({ media: 'screen' });
  await bench.page.getByLabel('Paper').selectOption('Letter');
  expect(Number(await size())).toBeCloseTo(612, 0);
});

test('the PDF holds the same figures as text', async ({ bench }) => {
  await bench.openDemo('rig');
  const row = bench.page
    .getByRole('table', { name: 'Positions of Main pair' })
    .getByRole('row', { name: /^R/ });
  const figures = await row.getByRole('cell').allInnerTexts();
  const file = await bench.download(() => bench.page.getByRole('button', { name: 'PDF' }).click());
  expect(file.name).toBe('sedge-lane-nonet-serenades-positions.pdf');
  expect(file.text.startsWith('%PDF-')).toBe(true);
  expect(file.text).toContain('/FontFile2');
  const text = execFileSync('pdftotext', ['-layout', file.path, '-'], { encoding: 'utf8' }).replace(
    /\s+/g,
    ' ',
  );
  for (const figure of [figures[0], figures[2], figures[3], figures[5]]) {
    expect(text).toContain(figure ?? 'missing figure');
  }
  expect(text).toMatch(/Page 1 of \d/);
  expect(text).toContain('Sedge Lane Nonet, serenades · Osier Granary');
});
