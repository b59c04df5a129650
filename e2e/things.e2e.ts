import { demoSession } from '../core/demo';
import { imported } from './listening';
import { expect, test, type Workbench } from './workbench';

/** A session of one's own from a template, named. */
async function begin({ page }: Workbench, template: string, hall?: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByLabel('Name', { exact: true }).fill(`My ${template}`);
  await page.getByLabel(/^Begin with/).selectOption({ label: template });
  if (hall) {
    const option = page.getByRole('option', { name: new RegExp(`^${hall}`) });
    await page.getByLabel(/^Hall/).selectOption((await option.getAttribute('value')) ?? '');
  }
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
}

async function command({ page }: Workbench, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Find or do' })).toBeHidden();
}

const chooseByKeys = async ({ page }: Workbench, name: RegExp): Promise<void> => {
  await page.getByRole('button', { name }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name })).toHaveAttribute('aria-pressed', 'true');
};

test('a kit is split into its pieces and put together again, by keys', async ({ bench, page }) => {
  await begin(bench, 'Drum kit');
  await chooseByKeys(bench, /^Kit, /);
  await command(bench, 'split kit');
  await expect(page.getByRole('button', { name: /^Hi-hat, / })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Kit, / })).toHaveCount(0);

  // What hangs over it is for all of it, and its height is set out from a drum's head.
  await chooseByKeys(bench, /^Overheads/);
  await expect(page.getByText('for everybody')).toBeVisible();
  await page.getByLabel('Measured from').selectOption({ label: 'head of Snare drum' });
  await bench.type('Height above the head', '120 cm');
  await expect(bench.readout('Above the floor')).toHaveText('1.85 m');
  await bench.go('rig');
  await expect(page.getByText('1.20 m above the head of Snare drum')).toBeVisible();
  await page.reload();
  await expect(page.getByText('1.20 m above the head of Snare drum')).toBeVisible();

  await bench.go('floor');
  await chooseByKeys(bench, /^Hi-hat, /);
  await page.getByRole('button', { name: 'Put Kit together again' }).click();
  await expect(page.getByRole('button', { name: /^Kit, / })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Hi-hat, / })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Hi-hat, / })).toBeVisible();
});

test('a grand has a lid and felt, and is as wide as it is seen', async ({ bench, page }) => {
  await begin(bench, 'Grand piano');
  await chooseByKeys(bench, /^Piano, /);
  await expect(bench.readout('Seen from there')).toContainText('1.60 m wide');
  await page.getByLabel('Felt down').check();
  await expect(bench.field('Level at 1 m')).toHaveValue('82');
  await page.getByLabel('Lid').selectOption('closed');
  await expect(bench.field('Level at 1 m')).toHaveValue('77');
  await bench.type('Plays towards', '0');
  await expect(bench.readout('Seen from there')).toContainText('1.50 m wide');
});

test('every piece at every microphone, and both channels seat by seat', async ({ bench, page }) => {
  await bench.openDemo('checks');
  await page.getByRole('button', { name: 'Matrix', exact: true }).click();
  const matrix = page.getByRole('table', { name: 'Matrix' });
  await expect(matrix.getByRole('row')).toHaveCount(10);
  await page.getByLabel('Show').selectOption({ label: 'distance' });
  await expect(matrix.getByRole('cell').first()).toHaveText(/^\d+\.\d\d m$/);
  await page.getByLabel('Players of').selectOption({ label: 'Horns (2)' });
  await expect(matrix.getByRole('row')).toHaveCount(3);

  await page.getByRole('button', { name: 'Seats', exact: true }).click();
  const seats = page.getByRole('table', { name: 'Seats' });
  const flute = seats.getByRole('row', { name: /^Flute/ });
  await expect(flute).toContainText('same');
  await expect(flute).toContainText(/[\d.]+ dB/);

  await page.getByRole('button', { name: 'Spill', exact: true }).click();
  const spill = page.getByRole('table', { name: 'Spill matrix' });
  await expect(spill.getByRole('rowheader', { name: /^Clarinets/ })).toBeVisible();
  const before = await spill.getByRole('row').count();
  await page.getByRole('button', { name: 'Clarinets (2)' }).click();
  await expect(spill.getByRole('row')).toHaveCount(before + 2);
});

test('an emptied spacing gives a question and a range', async ({ bench }) => {
  await bench.openDemo('array');
  await bench.type('Spacing', '');
  const said = bench.page.getByText(/^how far apart\?/);
  await expect(said).toContainText(/the recording angle is ±[\d.]+° to/);
  await bench.type('Spacing', '30 cm');
  await expect(said).toHaveCount(0);
  await bench.type('Included angle', '');
  await expect(bench.page.getByText(/^at which angle\?/)).toBeVisible();
});

test('two of the candidates are told apart, each with a sheet of its own', async ({
  bench,
  page,
}) => {
  await bench.arrayPage('Compare');
  await page.getByRole('button', { name: 'Keep the present one as a candidate' }).click();
  await bench.type('Spacing', '40 cm');
  await expect(page.getByRole('list', { name: 'What changes' })).toContainText('40 cm');
  await expect(page.getByRole('list', { name: 'What changes' })).toContainText('17 cm');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Sheet of .*as kept/ }).click();
  expect((await saved).suggestedFilename()).toContain('as-kept');
});

test('outriggers stand on stands of their own, everywhere', async ({ bench, page }) => {
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.goto('/session/demo-choir/rig?page=build');
  await expect(page.getByRole('listitem').filter({ hasText: 'Outriggers L: mount' })).toBeVisible();
  await expect(page.getByText(/Outriggers.*set the bar/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Positions', exact: true }).click();
  await expect(page.getByText('On 2 stands: Outriggers L, Outriggers R.')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Outriggers at its own scale/ })).toBeVisible();
  await bench.go('checks');
  await page.getByRole('button', { name: 'Stands', exact: true }).click();
  await expect(page.getByRole('row', { name: /^Outriggers R/ })).toBeVisible();
});

test('only the lengths of cable that were asked for stand on the sheet', async ({
  bench,
  page,
}) => {
  await bench.openDemo('rig');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const table = page.getByRole('table', { name: 'Cable lengths' });
  await expect(table).toHaveCount(0);
  await page.getByLabel('Put on the sheet').selectOption({ index: 1 });
  await expect(table.getByRole('row')).toHaveCount(2);
  await page.reload();
  await expect(table.getByRole('row')).toHaveCount(2);
  await page.getByRole('button', { name: /^Leave out / }).click();
  await expect(table).toHaveCount(0);
});

test('an ensemble too wide for a small room bends its rows, and stays inside', async ({
  bench,
  page,
}) => {
  await begin(bench, 'Choir in rows', 'Small room');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  const table = page.getByRole('table', { name: /^Positions from the datum/ });
  await table.waitFor();
  const places = await table.getByRole('row').evaluateAll((rows) =>
    rows.slice(1).map((row) => {
      const text = row.querySelectorAll('td')[1]?.textContent ?? '';
      return parseFloat(text.replace('−', '-'));
    }),
  );
  expect(places.length).toBeGreaterThan(15);
  for (const x of places) expect(Math.abs(x)).toBeLessThanOrEqual(2.51);
  await bench.go('checks');
  await expect(bench.findings(/outside the hall/)).toHaveCount(0);
});

test('the sheet holds metric and imperial side by side on its page', async ({ page }) => {
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.goto('/session/demo-choir/rig');
  const sheet = page.getByRole('article', { name: 'Position sheet' });
  await page.getByLabel('Metric and imperial').check();
  await expect(sheet).toContainText('6.49\u00a0m (21′\u00a03\u00a01/2″)');
  expect(await sheet.evaluate((paper) => paper.scrollWidth - paper.clientWidth)).toBe(0);
});

test('a microphone is put so far from the hammers, and a tree’s at heights above the strings', async ({
  bench,
  page,
}) => {
  await begin(bench, 'Grand piano');
  await chooseByKeys(bench, /^Piano, /);
  await command(bench, 'spot for piano');
  await bench.type('From the hammers of Piano, on the plan', '60 cm');
  await expect(bench.field('From the hammers of Piano, on the plan')).toHaveValue('60.0');
  await bench.type('From the hammers of Piano, on the plan', '250 m');
  await expect(page.getByRole('alert').filter({ hasText: 'Allowed' })).toBeVisible();
  await page.keyboard.press('Escape');
  await bench.go('rig');
  await expect(page.getByText('On the plan 60.0 cm from the hammers of Piano.')).toBeVisible();

  await bench.go('floor');
  await chooseByKeys(bench, /^Main pair/);
  await bench.type('Upstage of edge', '1.5');
  await page.getByLabel('Measured from').selectOption({ label: 'strings of Piano' });
  await bench.go('array');
  await page
    .getByRole('navigation', { name: 'Pages of the array' })
    .getByRole('button', { name: 'Trees and surround', exact: true })
    .click();
  await page.getByRole('button', { name: /^Put it up as / }).click();
  const table = page.getByRole('table', { name: 'Microphones of the layout' }).first();
  await expect(table.getByRole('columnheader', { name: 'above the strings' })).toBeVisible();
  await bench.type('L above the strings', '35 cm');
  await expect(bench.field('L above the strings')).toHaveValue('35.0');
  await bench.go('rig');
  await expect(page.getByText(/Above the strings of Piano: L 35\.0\scm/)).toBeVisible();
});

test('singers of one section who have names are told apart on the image line', async ({
  bench,
  page,
}) => {
  const names = ['Ada', 'Bruno', 'Clara', 'Dora', 'Emil', 'Fritz'];
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [player] = demo.sources;
  if (!player) throw new Error('no player');
  await imported(bench, {
    ...demo,
    id: 'own-singers',
    sources: names.map((name, i) => ({
      ...player,
      id: `singer${i}`,
      name,
      kind: 'voice',
      group: 'Singers',
      x: (i - 2.5) * 0.9,
      y: 2,
      widthM: 0.3,
    })),
  });
  const line = page.getByRole('region', { name: 'Stereo image' });
  await expect(bench.image('Ada')).toBeVisible();
  const written = await line.locator('svg text').allTextContents();
  for (const name of names) expect(written).toContain(name);
});
