import { expect, test } from './workbench';

test('a dragged player moves between the loudspeakers, and undo brings it back exactly', async ({
  bench,
}) => {
  await bench.openDemo();
  const before = await bench.imagePercent('Bassoon 1');
  expect(before).toBeGreaterThan(0);
  expect(before).toBeLessThan(20);
  const all = await bench.allImages();

  await bench.drag(bench.player('Bassoon 1'), -140, 20);
  const after = await bench.imagePercent('Bassoon 1');
  expect(after).toBeLessThan(-40);
  await expect(bench.field('Right of centre')).toHaveValue(/^−1\.\d{2,3}$/);

  await bench.page.keyboard.press('Control+z');
  expect(await bench.allImages()).toBe(all);
  await bench.page.keyboard.press('Control+Shift+z');
  expect(await bench.imagePercent('Bassoon 1')).toBe(after);
});

test('the image follows while the pointer is still down, and Escape puts the player back', async ({
  bench,
}) => {
  await bench.openDemo();
  const before = await bench.imagePercent('Oboe 2');
  const box = await bench.player('Oboe 2').boundingBox();
  if (!box) throw new Error('no mark');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await bench.page.mouse.move(x, y);
  await bench.page.mouse.down();
  await bench.page.mouse.move(x + 150, y, { steps: 6 });
  await expect.poll(() => bench.imagePercent('Oboe 2')).toBeGreaterThan(before + 40);
  await bench.page.keyboard.press('Escape');
  await expect.poll(() => bench.imagePercent('Oboe 2')).toBe(before);
  await bench.page.mouse.up();
  expect(await bench.imagePercent('Oboe 2')).toBe(before);
  await expect(bench.page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('dragging the pair forward widens the picture', async ({ bench }) => {
  await bench.openDemo();
  const before = await bench.imagePercent('Horn 2');
  await bench.drag(bench.pair, 0, -120);
  expect(await bench.imagePercent('Horn 2')).toBeGreaterThan(before + 3);
});

test('a height typed in feet and inches reads back in both systems', async ({ bench }) => {
  await bench.openDemo();
  await bench.pair.click();
  await bench.type('Height', `6' 8"`);
  await expect(bench.field('Height')).toHaveValue(/2\.03/);
  await bench.field('Right of centre').focus();
  await expect(bench.field('Height')).toHaveAttribute('title', /^6′ 8″, 5\.93 ms of sound\./);
  await bench.page.getByRole('button', { name: 'ft / in' }).click();
  await expect(bench.field('Height')).toHaveValue('6′ 8″');
  await expect(bench.pair).toHaveAccessibleName(/6′ 8″ up/);
  await bench.page.getByRole('button', { name: 'm / cm' }).click();
  // Kept as it was typed, to the millimetre that it is.
  await expect(bench.field('Height')).toHaveValue('2.032');
});

test('distance and angle of a player are what the tape and the protractor say', async ({
  bench,
}) => {
  await bench.openDemo();
  await bench.player('Horn 2').click();
  await bench.type('Right of centre', '3 m');
  await bench.type('Upstage of edge', '3.6 m');
  await bench.type('Sounding height', '2.7 m');
  await expect(bench.readout('Distance')).toHaveText('5.00');
  await expect(bench.readout('On the plan')).toHaveText('5.00');
  await expect(bench.readout('Angle off the aim')).toHaveText('36.9°');
});

test('by keyboard alone: add a player, name it, nudge it, read its image', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New session' })).toBeVisible();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New session' })).toBeVisible();
  // The name, what it begins with, the hall.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Enter');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(page.getByText('Nobody is on the floor yet')).toBeVisible();

  await page.keyboard.press('a');
  await expect(bench.player('Player 1')).toBeVisible();
  for (let i = 0; i < 60; i++) {
    if (await bench.player('Player 1').evaluate((mark) => mark === document.activeElement)) break;
    await page.keyboard.press('Tab');
  }
  await expect(bench.player('Player 1')).toBeFocused();
  expect(await bench.imageText('Player 1')).toBe('centre');
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(bench.field('Right of centre')).toHaveValue('0.51');
  expect(await bench.imagePercent('Player 1')).toBeGreaterThan(10);

  await bench.command('Image by added shifts');
  await expect(page.getByText('head: added shifts')).toBeVisible();
  await page.keyboard.press('3');
  await expect(page.getByRole('main', { name: 'Array' })).toBeVisible();
  await page.keyboard.press('2');
  await expect(bench.player('Player 1')).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('head: consensus')).toBeVisible();
});

test('a removed player comes back with the notice', async ({ bench }) => {
  await bench.openDemo();
  await bench.player('Flute').click();
  await bench.page.keyboard.press('Delete');
  await expect(bench.player('Flute')).toHaveCount(0);
  await expect(bench.image('Flute')).toHaveCount(0);
  await bench.page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(bench.player('Flute')).toBeVisible();
});

test('the table shows the same figures as the plan', async ({ bench }) => {
  await bench.openDemo();
  await expect(bench.player('Clarinet 1')).toHaveAttribute('aria-label', /, [\d.]+ m/);
  const [, distance] =
    /, ([\d.]+ m)/.exec((await bench.player('Clarinet 1').getAttribute('aria-label')) ?? '') ?? [];
  await bench.page.getByRole('button', { name: 'Table', exact: true }).click();
  const row = bench.page.getByRole('main').getByRole('row', { name: /^Clarinet 1/ });
  await expect(row).toContainText(distance ?? 'no distance');
  await expect(row).toContainText(await bench.imageText('Clarinet 1'));
});
