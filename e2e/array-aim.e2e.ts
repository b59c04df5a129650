import { offsetNotchHz } from '../core/arrays';
import { speedOfSound } from '../core/units';
import { expect, test } from './workbench';

const number = (text: string | null, pattern: RegExp): number =>
  Number(pattern.exec(text ?? '')?.[1] ?? NaN);

test('another pattern of the same microphone has the figures that it was shown with', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.arrayPage('Patterns');
  const table = page.getByRole('table', { name: 'Patterns' });
  await expect(table.getByRole('row', { name: /^cardioid/ })).toContainText('as it is');
  await expect(table.getByRole('row', { name: /^omni/ })).toContainText('1.00 ×');
  await expect(table.getByRole('row', { name: /^hypercardioid/ })).toContainText('2.00 ×');
  const row = table.getByRole('row', { name: /^supercardioid/ });
  const promised = number(await row.innerText(), /±([\d.]+)°/);
  await row.getByRole('button', { name: /Use it/ }).click();
  await expect(page.getByLabel('Pattern, both')).toHaveValue('supercardioid');
  await expect(row).toContainText('as it is');
  await page
    .getByRole('navigation', { name: 'Pages of the array' })
    .getByRole('button', { name: 'Pair geometry', exact: true })
    .click();
  await bench.allModels();
  const inPlace = page.getByRole('table', { name: 'Recording angle, in place' });
  await expect(inPlace.getByRole('row', { name: /consensus/ })).toContainText(`±${promised}°`);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Pattern, both')).toHaveValue('cardioid');
});

test('a switchable microphone of the kit offers its own patterns only', async ({ bench }) => {
  const { page } = bench;
  await bench.arrayPage('Patterns');
  const rows = page.getByRole('table', { name: 'Patterns' }).getByRole('rowheader');
  await expect(rows).toHaveCount(6);
  const choice = page.getByLabel('Microphone', { exact: true });
  const names = await choice.getByRole('option').allInnerTexts();
  expect(names.length).toBeGreaterThan(1);
  await choice.selectOption(names[1] ?? '');
  expect(await rows.count()).toBeLessThan(6);
});

test('the axes land on the two points that were asked for', async ({ bench }) => {
  const { page } = bench;
  await bench.arrayPage('Aim');
  await page.getByLabel('Aimed at').selectOption('a row of players');
  await page.getByLabel('From', { exact: true }).selectOption('Horn 1');
  await page.getByLabel('To', { exact: true }).selectOption('Clarinet 1');
  const lands = page.getByRole('table', { name: 'Where the axes land' });
  await expect(lands.getByRole('row', { name: /^L/ })).not.toContainText('20 % from the left');
  await bench.type('Left axis, from the left', '20');
  await bench.type('Right axis, from the left', '90');
  const angle = number(await bench.readout('Included angle for them').textContent(), /([\d.]+)/);
  await page.getByRole('button', { name: 'Turn Main pair so' }).click();
  await expect(lands.getByRole('row', { name: /^L/ })).toContainText('20 % from the left');
  await expect(lands.getByRole('row', { name: /^R/ })).toContainText('90 % from the left');
  expect(Number(await bench.field('Included angle').inputValue())).toBeCloseTo(angle, 1);

  // By the keys along the row as well.
  const grip = page.getByRole('slider', { name: 'Where the left axis shall land' });
  await grip.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(bench.field('Left axis, from the left')).toHaveValue('30');
});

test('a row divided into quarters stands on the Floor as sources', async ({ bench }) => {
  const { page } = bench;
  await bench.arrayPage('Aim');
  await page.getByLabel('Aimed at').selectOption('Flute');
  await page.getByLabel('Divide into').selectOption('quarters');
  const points = page.getByRole('table', { name: 'Points on the row' });
  await expect(points.getByRole('row')).toHaveCount(4);
  await page.getByRole('button', { name: 'Put them on the Floor as sources' }).click();
  await expect(bench.image('Flute 2 of 3')).toHaveCount(1);
  const [whole, middle] = [
    await bench.imagePercent('Flute'),
    await bench.imagePercent('Flute 2 of 3'),
  ];
  expect(Math.abs(whole - middle)).toBeLessThan(2);
  await page.keyboard.press('Control+z');
  await expect(bench.image('Flute 2 of 3')).toHaveCount(0);
});

test('the centre of a tree is set to close the gap', async ({ bench }) => {
  const { page } = bench;
  await bench.arrayPage('Trees and surround');
  await page.getByRole('button', { name: 'Put it up as Main pair' }).click();
  const said = page.getByRole('status', { name: 'Centre fill' });
  await expect(said).toContainText('Now: largest gap');
  // The same figure as on the image line.
  const line = page.getByLabel('Stage figures');
  const gap = number(await line.innerText(), /largest gap\s+(\d+) %/);
  expect(number(await said.innerText(), /Now: largest gap (\d+) %/)).toBe(gap);
  await bench.type('Centre against the sides', '-30');
  await expect(said).toContainText('Better at');
  const better = number(await said.innerText(), /Better at .* gap (\d+) %/);
  await page.getByRole('button', { name: /^Set it to/ }).click();
  await expect(said).toContainText(`Now: largest gap ${better} %`);
  await expect(line).toContainText(`largest gap${better} %`);
  // Nobody changes sides for it.
  expect(await bench.imagePercent('Flute')).toBeLessThan(0);
  expect(await bench.imagePercent('Clarinet 1')).toBeGreaterThan(0);
});

test('capsules one above the other: the notch by the offset', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo('array');
  await expect(page.getByText('Capsules one above the other')).toHaveCount(0);
  await page.getByLabel('Technique', { exact: true }).selectOption('Coincident, crossed (XY)');
  await page.getByText('Capsules one above the other').click();
  await bench.type('Height between them', '12 cm');
  const row = page
    .getByRole('table', { name: 'Notch by player' })
    .getByRole('row', { name: /^Bassoon 1/ });
  const text = await row.innerText();
  const off = number(text.replace('−', ''), /([\d.]+)°/);
  const notch = offsetNotchHz(0.12, off, speedOfSound(19)) ?? NaN;
  // The angle is written to a tenth of a degree.
  const written = number(text, /(\d+) Hz/);
  expect(Math.abs(written - notch) / notch).toBeLessThan(0.02);
  await expect(page.getByRole('status', { name: 'Capsule offset' })).toContainText('First notch');
});

test('anchors are chosen on the floor', async ({ bench }) => {
  const { page } = bench;
  await bench.arrayPage('Overheads');
  const plan = page.getByRole('group', { name: /^Anchors on the floor/ });
  await plan.getByRole('button', { name: 'Horn 2' }).click();
  await expect(page.getByLabel('Anchor', { exact: true }).locator('option:checked')).toHaveText(
    'Horn 2',
  );
  await plan.getByRole('button', { name: 'Bassoon 1' }).click({ modifiers: ['Shift'] });
  await expect(plan.getByRole('button', { name: 'Bassoon 1, second anchor' })).toBeVisible();
  const table = page.getByRole('table', { name: 'Distances to both microphones' });
  await expect(table.getByRole('row', { name: /^Horn 2/ })).toContainText('0 mm');
  await expect(table.getByRole('row', { name: /^Bassoon 1/ })).toContainText('0 mm');
});
