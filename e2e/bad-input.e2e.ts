import { expect, test } from './workbench';

test('a number out of range: message at the field, figures missing, Escape restores', async ({
  bench,
}) => {
  await bench.openDemo('array');
  await bench.allModels();
  const rows = bench.page.getByRole('table', { name: 'Recording angle, distant sources' });
  await expect(rows).toContainText('±47.8°');
  await bench.type('Spacing', '80 m');
  await expect(bench.page.getByRole('alert')).toHaveText('Spacing: Allowed: 0 to 50 m.');
  await expect(rows).not.toContainText('47.8');
  await expect(rows).not.toContainText('NaN');
  await expect(rows.getByRole('row', { name: /traded/ })).toContainText('—');
  await expect(bench.page.getByText(/^No figures: Allowed/).first()).toBeVisible();
  await bench.field('Spacing').press('Escape');
  await expect(bench.page.getByRole('alert')).toHaveCount(0);
  await expect(rows).toContainText('±47.8°');
  await expect(bench.field('Spacing')).toHaveValue('17.0');
});

test('an included angle that is none is refused where it is typed', async ({ bench }) => {
  await bench.openDemo('array');
  const table = bench.page.getByRole('table', { name: 'Stereo image' });
  for (const [typed, message] of [
    ['wide', /Included angle: “wide” is not understood\. Type a number such as/],
    ['400', /Included angle: Allowed: 0 to 360°\./],
    ['-5', /Included angle: Allowed: 0 to 360°\./],
  ] as const) {
    await bench.type('Included angle', typed);
    await expect(bench.page.getByRole('alert')).toHaveText(message);
    await expect(bench.field('Included angle')).toHaveValue(typed);
    await expect(table).toHaveCount(0);
    await bench.type('Included angle', '90');
    await expect(bench.page.getByRole('alert')).toHaveCount(0);
    await expect(table).toHaveCount(1);
  }
});

test('a cleared included angle is asked for, with the range of what it may give', async ({
  bench,
}) => {
  await bench.openDemo('array');
  const table = bench.page.getByRole('table', { name: 'Stereo image' });
  await bench.type('Included angle', '');
  await expect(
    bench.page.getByText(/at which angle\? Over the customary 0° to 120°/),
  ).toBeVisible();
  await expect(table).toHaveCount(0);
  await bench.page.reload();
  await expect(bench.field('Included angle')).toHaveValue('');
  await bench.go('checks');
  await expect(bench.findings('Main pair: the included angle is not known')).toHaveCount(1);
  await bench.go('array');
  await bench.type('Included angle', '90');
  await expect(table).toHaveCount(1);
});

test('an invalid field of one player leaves the others’ figures alone', async ({ bench }) => {
  await bench.openDemo();
  const other = await bench.imageText('Horn 1');
  await bench.player('Flute').click();
  await bench.type('Sounding height', 'high');
  await expect(bench.page.getByRole('alert')).toContainText('“high” is not a length');
  expect(await bench.imageText('Flute')).toBe('no figure');
  await expect(bench.readout('Distance')).toHaveText('—');
  expect(await bench.imageText('Horn 1')).toBe(other);
});

test('two capsules at one point and direction: said at the field and in Checks', async ({
  bench,
}) => {
  await bench.openDemo('array');
  await bench.type('Included angle', '0');
  await bench.type('Spacing', '0');
  await expect(
    bench.page.getByText(/Both capsules at one point and one direction give the same signal/),
  ).toBeVisible();
  await bench.allModels();
  const rows = bench.page.getByRole('table', { name: 'Recording angle, distant sources' });
  await expect(rows.getByRole('row', { name: /traded/ })).toContainText('not reached');
  await bench.go('checks');
  await expect(bench.findings(/both channels are the same/)).toHaveCount(1);
});

test('a player at a capsule has no figures, and is told so', async ({ bench }) => {
  await bench.openDemo();
  await bench.player('Flute').click();
  await bench.type('Right of centre', '8.5 cm');
  await bench.type('Upstage of edge', '-0.4');
  await bench.type('Sounding height', '2.7');
  await expect(
    bench.page.getByText(/At a capsule of Main pair: keep at least 1 cm away/),
  ).toBeVisible();
  expect(await bench.imageText('Flute')).toBe('no figure');
  await expect(bench.readout('Distance')).toHaveText(/^0\.0[89]$/);
  await expect(bench.page.getByText('NaN')).toHaveCount(0);
});

test('an ensemble without width says what is missing', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByText('there is no ensemble to compare with')).toBeVisible();
  await page.getByRole('button', { name: 'Add the first player' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByText('All players lie in one direction')).toBeVisible();
  await expect(page.getByText('NaN')).toHaveCount(0);
});
