import { expect, test } from './workbench';

const session = (players: number) =>
  JSON.stringify({
    format: 'rotunda-session',
    version: 1,
    title: 'Many',
    sources: Array.from({ length: players }, (_, i) => ({
      id: `p${i}`,
      name: `Voice ${i + 1}`,
      x: (i % 16) * 0.6 - 5,
      y: 2 + Math.floor(i / 16) * 0.8,
    })),
    arrays: [{ id: 'm', name: 'Main pair', y: -1 }],
  });

test('a session never takes in more than it can hold, whatever the door', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  const buffer = Buffer.from(session(240));
  await (await choosing).setFiles({ name: 'm.rotunda.json', mimeType: 'application/json', buffer });
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Control+v');
  await expect(
    page.getByText('Not done: a session holds up to 500 players, and that would be 720.'),
  ).toBeVisible();
  // A section's field says its limit, and a section that would leave the floor is not made.
  await page.keyboard.press('e');
  await page.getByRole('button', { name: 'Arc or rows' }).click();
  await bench.type('Players', '600');
  await expect(page.getByRole('alert').first()).toContainText('Players: Allowed: 1 to 500.');
  await bench.type('Players', '16');
  await bench.type('From player to player', '40 m');
  await page.getByLabel('Shape').selectOption('straight rows');
  await page.getByRole('button', { name: 'Put it on the floor' }).click();
  await expect(
    page.getByText(/^Not done\. sources\[\d+\]\.x: -?\d+; allowed: a number/),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await bench.saved();
  await page.reload();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(bench.player('Voice 1')).toBeVisible();
});

test('the focus stays in the station: add, remove, station keys, palette', async ({ bench }) => {
  await bench.openDemo();
  const { page } = bench;
  const focused = () =>
    page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? 'nothing');
  await bench.player('Flute').focus();
  await page.keyboard.press('a');
  await expect.poll(focused).toMatch(/^Player 10, /);
  const x = () => bench.field('Right of centre').inputValue();
  const before = await x();
  await page.keyboard.press('ArrowRight');
  await expect.poll(x).not.toBe(before);
  await page.keyboard.press('Delete');
  await expect.poll(focused).toMatch(/^Ground of the plan/);
  await page.keyboard.press('4');
  await expect.poll(focused).toBe('Checks');
  await page.keyboard.press('2');
  await expect.poll(focused).toBe('Floor');
  // Letters typed right behind the key that opens the palette are not lost.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Oboe 2');
  const palette = page.getByRole('dialog', { name: 'Find or do' });
  await expect(palette.getByRole('combobox')).toHaveValue('Oboe 2');
  await page.keyboard.press('Enter');
  await expect.poll(focused).toMatch(/^Oboe 2, /);
  // Twelve presses are one step: beside it, a player was added, moved and removed.
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  const undo = page.getByTitle('Undo (Ctrl Z)');
  for (let step = 0; step < 4; step++) {
    await expect(undo).toBeEnabled();
    await page.keyboard.press('Control+z');
  }
  await expect(undo).toBeDisabled();
});

test('a station that fails leaves the workbench standing', async ({ page }) => {
  const bench = new (await import('./workbench')).Workbench(page);
  await page.route('**/assets/checks-station-*.js', (route) => route.abort());
  await bench.openDemo();
  await bench.player('Horn 1').focus();
  await page.keyboard.press('Shift+ArrowRight');
  const moved = await bench.allImages();
  // The first time the page loads itself anew, with everything stored; then it says what is wrong.
  await page.getByRole('link', { name: /Checks$/ }).click();
  await page.waitForLoadState('load');
  await expect(page.getByRole('alert')).toContainText('Checks stopped');
  await expect(page.getByRole('heading', { name: /Sedge Lane/ })).toBeVisible();
  expect(await bench.allImages()).toBe(moved);
  await page.getByRole('button', { name: 'Copy the session file' }).click();
  await expect(page.getByText(/clipboard/)).toBeVisible();
  await bench.go('rig');
  await expect(page.getByRole('main', { name: 'Rig' })).toBeVisible();
});
