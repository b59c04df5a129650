import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, Workbench } from './workbench';

test('a reload finds everything at the same station', async ({ bench }) => {
  await bench.openDemo();
  await bench.drag(bench.player('Bassoon 2'), 60, -30);
  await bench.go('array');
  await bench.type('Spacing', '23 cm');
  const images = await bench.allImages();
  const address = bench.page.url();
  // At once, before any delay of the saving has passed.
  await bench.page.reload();
  await expect(bench.page.getByRole('main', { name: 'Array' })).toBeVisible();
  expect(bench.page.url()).toBe(address);
  await expect(bench.field('Spacing')).toHaveValue('23.0');
  expect(await bench.allImages()).toBe(images);
});

test('export, wipe the browser, import: the same figures', async ({ bench, browser, baseURL }) => {
  await bench.openDemo();
  await bench.drag(bench.player('Horn 1'), -40, 30);
  await bench.saved();
  const images = await bench.allImages();
  const address = bench.page.url();
  const file = await bench.download(() => bench.command('Export the session file'));
  expect(file.name).toBe('sedge-lane-nonet-serenades.rotunda.json');

  const context = await browser.newContext({ baseURL: baseURL ?? '' });
  const empty = new Workbench(await context.newPage());
  await empty.page.goto(address);
  await expect(empty.page.getByText('This session is not in this browser')).toBeVisible();
  await empty.page.goto('/');
  await expect(empty.page.getByText('No sessions yet')).toBeVisible();
  const choosing = empty.page.waitForEvent('filechooser');
  await empty.page.getByRole('button', { name: 'Import a file' }).click();
  await (await choosing).setFiles(file.path);
  await expect(empty.page.getByRole('main', { name: 'Floor' })).toBeVisible();
  expect(empty.page.url()).toBe(address);
  expect(await empty.allImages()).toBe(images);
  await context.close();
});

test('a copy of everything comes back in an empty browser, and changes nothing that is here', async ({
  bench,
  browser,
  baseURL,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.drag(bench.player('Horn 1'), -40, 30);
  await bench.saved();
  const images = await bench.allImages();
  await page.goto('/');
  const rows = (of: Workbench) => of.page.getByRole('row').allInnerTexts();
  await expect(page.getByRole('row').nth(1)).toBeVisible();
  const file = await bench.download(() =>
    page.getByRole('button', { name: 'Copy of everything' }).click(),
  );
  expect(file.name).toMatch(/^rotunda-\d{4}-\d{2}-\d{2}\.zip$/);

  // Told by its first bytes, whatever it is called.
  const context = await browser.newContext({ baseURL: baseURL ?? '' });
  const empty = new Workbench(await context.newPage());
  const give = async (to: Workbench) => {
    await to.page.goto('/');
    const choosing = to.page.waitForEvent('filechooser');
    await to.page.getByRole('button', { name: 'Import a file' }).click();
    await (
      await choosing
    ).setFiles({
      name: 'everything.bin',
      mimeType: 'application/octet-stream',
      buffer: readFileSync(file.path),
    });
  };
  await give(empty);
  await expect(empty.page.getByText(/^\d sessions came in\.$/)).toBeVisible();
  expect((await rows(empty)).length).toBe((await rows(bench)).length);
  await empty.page.getByRole('link', { name: /Sedge Lane/ }).click();
  await expect(empty.page.getByRole('main', { name: 'Floor' })).toBeVisible();
  expect(await empty.allImages()).toBe(images);
  await context.close();

  await give(bench);
  await expect(page.getByText(/^0 sessions came in; \d were here already\.$/)).toBeVisible();
});

test('a damaged or wrong file is refused with reasons, and changes nothing', async ({
  bench,
}, info) => {
  await bench.openDemo();
  const { page } = bench;
  await page.goto('/');
  const take = async (name: string, content: string) => {
    const path = info.outputPath(name);
    writeFileSync(path, content);
    const choosing = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a file' }).click();
    await (await choosing).setFiles(path);
  };
  await take('cut.rotunda.json', '{"format":"rotunda-session","version":1,"sour');
  await expect(page.getByRole('alert')).toContainText('“cut.rotunda.json” was not imported');
  await expect(page.getByRole('alert')).toContainText('not JSON');
  await take(
    'far.rotunda.json',
    JSON.stringify({ format: 'rotunda-session', version: 1, sources: [{ x: 900 }] }),
  );
  await expect(page.getByRole('alert')).toContainText(
    'sources[0].x: 900; allowed: a number from -200 to 200 m',
  );
  await expect(page.getByRole('row', { name: /Sedge Lane Nonet/ })).toHaveCount(1);
  await expect(page.getByRole('link', { name: /Sedge/ })).toHaveCount(1);
});

test('importing what is already here asks: keep both, replace or cancel', async ({ bench }) => {
  await bench.openDemo();
  const { page } = bench;
  await bench.saved();
  const file = await bench.download(() => bench.command('Export the session file'));
  await bench.player('Flute').click();
  await page.keyboard.press('Delete');
  await bench.saved();
  await page.goto('/');
  const take = async (choice: string) => {
    const choosing = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a file' }).click();
    await (await choosing).setFiles(file.path);
    await page.getByRole('dialog').getByRole('button', { name: choice }).click();
  };
  await take('Cancel');
  await expect(page.getByRole('row', { name: /Sedge/ }).getByRole('cell').nth(3)).toHaveText('8');
  await take('Keep both');
  await expect(bench.player('Flute')).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Sedge/ })).toHaveCount(2);
  await take('Replace the stored one');
  await expect(bench.player('Flute')).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Sedge/ })).toHaveCount(2);
});

test('create, rename, duplicate, delete with undo', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'New session' })).toBeVisible();
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('button', { name: 'Rename New session' }).click();
  await page.getByRole('textbox', { name: 'New name for New session' }).fill('Chapel test');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Chapel test' })).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate Chapel test' }).click();
  await expect(page.getByRole('link', { name: 'Chapel test (copy)' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete Chapel test', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Chapel test', exact: true })).toHaveCount(0);
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Chapel test', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Chapel test', exact: true }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
});

test('a session that is deleted by key leaves the focus on the one in its place', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await page.goto('/');
  const rows = page.locator('tbody tr');
  await expect(rows).toHaveCount(3);
  const names = (await rows.getByRole('link').allInnerTexts()).map((name) => name.trim());
  const focused = () => page.evaluate(() => document.activeElement?.textContent?.trim() ?? '');
  await rows.nth(1).getByTitle('Delete').focus();
  await page.keyboard.press('Enter');
  await expect(rows).toHaveCount(2);
  await expect.poll(focused).toBe(names[2]);
  // The last one leaves it on what is the last then.
  await rows.nth(1).getByTitle('Delete').focus();
  await page.keyboard.press('Enter');
  await expect(rows).toHaveCount(1);
  await expect.poll(focused).toBe(names[0]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeFocused();
});

test('a second tab follows the first', async ({ bench, context }) => {
  await bench.openDemo();
  const other = new Workbench(await context.newPage());
  await other.page.goto(bench.page.url());
  await expect(other.player('Horn 1')).toBeVisible();
  await bench.drag(bench.player('Horn 1'), 200, 0);
  await bench.saved();
  const moved = await bench.imageText('Horn 1');
  await expect.poll(() => other.imageText('Horn 1')).toBe(moved);

  // It is told what is done, and does nothing of its own until it is asked for.
  await other.player('Flute').focus();
  await other.page.keyboard.press('Shift+ArrowRight');
  await expect(other.page.getByText(/^Not done: another tab edits/)).toBeVisible();
  expect(await other.allImages()).toBe(await bench.allImages());
  await other.page.getByRole('note').getByRole('button', { name: 'Edit here' }).click();
  await expect(bench.page.getByText('Another tab edits this session.')).toBeVisible();
  await expect(other.page.getByText('Another tab edits this session.')).toHaveCount(0);
  // With its history: the step of the other tab is undone here, and followed there.
  await other.page.keyboard.press('Control+z');
  await expect(other.page.getByText('Undone: Horn 1 moved.')).toBeVisible();
  await expect.poll(() => other.imageText('Horn 1')).not.toBe(moved);
  const back = await other.imageText('Horn 1');
  await expect.poll(() => bench.imageText('Horn 1')).toBe(back);
  await other.saved();
  // The tab that writes goes: the other one writes on.
  await other.page.close();
  await expect(bench.page.getByText('Another tab edits this session.')).toHaveCount(0);
  await bench.player('Flute').focus();
  await bench.page.keyboard.press('Shift+ArrowRight');
  await bench.saved();
  await expect.poll(() => bench.imageText('Horn 1')).toBe(back);
});

test('without locks two tabs may change the same session: neither overwrites the other', async ({
  bench,
  context,
}) => {
  // As in a browser that has none.
  const noLocks = () => void delete (Navigator.prototype as { locks?: unknown }).locks;
  await bench.page.addInitScript(noLocks);
  await bench.openDemo();
  const other = new Workbench(await context.newPage());
  await other.page.addInitScript(noLocks);
  await other.page.goto(bench.page.url());
  await other.player('Horn 1').focus();
  await bench.player('Flute').focus();
  await Promise.all([
    bench.page.keyboard.press('Shift+ArrowRight'),
    other.page.keyboard.press('Shift+ArrowLeft'),
  ]);
  const banner = (b: Workbench) => b.page.getByText('Another tab changed this session too.');
  await expect
    .poll(async () => (await banner(bench).count()) + (await banner(other).count()))
    .toBe(1);
  const loser = (await banner(bench).count()) === 1 ? bench : other;
  const winner = loser === bench ? other : bench;
  const [mine, theirs] = [await loser.allImages(), await winner.allImages()];
  expect(mine).not.toBe(theirs);

  await loser.page.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect.poll(() => loser.allImages()).toBe(theirs);
  await loser.page.goto('/');
  await loser.page.getByRole('link', { name: /from this tab/ }).click();
  await expect(loser.player('Flute')).toBeVisible();
  expect(await loser.allImages()).toBe(mine);
});

test('storage that is full says so, and the session can still be exported', async ({ bench }) => {
  await bench.openDemo();
  await bench.page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
  });
  await bench.player('Horn 1').focus();
  await bench.page.keyboard.press('Shift+ArrowRight');
  await expect(bench.page.getByText('The browser’s storage is full.')).toBeVisible();
  const file = await bench.download(() =>
    bench.page.getByRole('button', { name: 'Export the session' }).click(),
  );
  expect(JSON.parse(file.text)).toMatchObject({ format: 'rotunda-session' });
});
