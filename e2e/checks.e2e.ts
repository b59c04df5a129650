import { expect, test } from './workbench';

test('a planted fault is found with its figure, mended by its fix, and comes back with undo', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo('array');
  await bench.type('Spacing', '40 cm');
  const images = await bench.allImages();
  await bench.go('checks');
  const finding = bench.findings('outside the recording angle');
  await expect(finding).toContainText(/by 1\d\.\d°, so heard at the loudspeaker itself/);
  await finding.click();
  await expect(bench.chosenFinding).toContainText('Physics: Beyond the recording angle');
  await bench.chosenFinding.getByRole('button', { name: /^Set the spacing to/ }).click();
  await expect(finding).toHaveCount(0);
  expect(await bench.allImages()).not.toBe(images);
  await page.keyboard.press('Control+z');
  await expect(finding).toHaveCount(1);
  expect(await bench.allImages()).toBe(images);
});

test('a preference can be switched off and judged again', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.pair.click();
  await bench.type('Upstage of edge', '-9 m');
  await bench.go('checks');
  const narrow = bench.findings('The picture of Main pair is');
  await expect(narrow).toContainText('90 % is wanted');
  await narrow.click();
  await bench.chosenFinding.getByRole('button', { name: 'Not wanted here' }).click();
  await expect(narrow).toHaveCount(0);
  await page.getByRole('button', { name: 'Judge them again' }).click();
  await expect(narrow).toHaveCount(1);
});

test('a recommendation is computed, explained and adopted with one action', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo('array');
  const before = await bench.allImages();
  await page.getByRole('button', { name: 'Recommend', exact: true }).click();
  const ranking = page.getByRole('region', { name: 'Recommendation' });
  await expect(ranking.getByText(/^[\d,]+ arrays measured/)).toBeVisible();
  const first = ranking.getByRole('listitem').first();
  await expect(first).toContainText(/For: .*; 90 % wanted|For: .*direct to room/);
  await expect(ranking.getByText(/^Beside number 1: /).first()).toBeVisible();
  await first.getByText('More like this').click();
  await expect(first.getByRole('list', { name: 'More like number 1' })).toBeVisible();
  await first.getByRole('button', { name: 'Adopt number 1', exact: true }).click();
  expect(await bench.allImages()).not.toBe(before);
  const fill = page.getByLabel('Stage figures').getByRole('definition').first();
  const shown = Number((await fill.innerText()).replace(' %', ''));
  expect(shown).toBeGreaterThanOrEqual(65);
  expect(shown).toBeLessThanOrEqual(100);
  await page.keyboard.press('Control+z');
  expect(await bench.allImages()).toBe(before);
});

test('the ranking can be left while it runs', async ({ bench }) => {
  await bench.openDemo('array');
  const { page } = bench;
  await page.getByRole('button', { name: 'Recommend', exact: true }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await page.getByRole('button', { name: 'Recommend arrays' }).click();
  await expect(page.getByText('Of the plan as it is now.')).toBeVisible();
});

test('a figure leads to its formula and source', async ({ bench, context }) => {
  await bench.openDemo('array');
  await bench.allModels();
  const opening = context.waitForEvent('page');
  await bench.page.getByRole('link', { name: 'Formulas and sources' }).click();
  const page = await opening;
  await expect(page.getByRole('heading', { name: 'Recording angle' })).toBeInViewport();
  await expect(page.getByText(/G\. Simonsen/)).toBeVisible();
});
