import { killAgainAndAgain, killWhileEntriesAreWritten, MortalBrowser } from './kill';
import { expect, test, Workbench } from './workbench';
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';

const SOAK = process.env.ROTUNDA_SOAK === '1';

test('after kills of the browser no edit older than a second is gone', async ({ baseURL }) => {
  const kills = SOAK ? 200 : 4;
  test.setTimeout(kills * 20_000 + 60_000);
  const result = await killAgainAndAgain(`${baseURL}/`, kills, SOAK ? 1 : 7);
  expect(result).toMatchObject({ kills, lost: 0 });
  expect(result.edits).toBeGreaterThan(kills * 2);
  if (SOAK) process.stdout.write(`${JSON.stringify(result)}\n`);
});

test('after kills of the browser no entry that stood is gone, and none without its content', async ({
  baseURL,
}) => {
  const kills = SOAK ? 60 : 3;
  test.setTimeout(kills * 20_000 + 60_000);
  const result = await killWhileEntriesAreWritten(`${baseURL}/`, kills);
  expect(result).toMatchObject({ kills, lost: 0, missing: 0, twice: 0 });
  expect(result.entries).toBeGreaterThan(kills * 20);
  if (SOAK) process.stdout.write(`${JSON.stringify(result)}\n`);
});

test('what is typed is stored while one types, as one step of undo', async ({ bench, context }) => {
  await bench.openDemo();
  await bench.briefPage('The job');
  const notes = bench.field('Notes');
  const before = await notes.inputValue();
  await notes.focus();
  await bench.page.keyboard.press('Control+End');
  const more =
    ' Doors at ten. The lift takes two stands at a time; the key hangs at the porter’s desk.';
  await bench.page.keyboard.type(more, { delay: 5 });
  await bench.page.waitForTimeout(1000);
  await bench.saved();
  // The field has not been left; another page reads what the browser has stored.
  const other = new Workbench(await context.newPage());
  await other.page.goto(bench.page.url());
  await expect(other.field('Notes')).toHaveValue(before + more);
  await other.page.close();
  await bench.field('Programme').focus();
  await bench.page.getByTitle('Undo (Ctrl Z)').click();
  await expect(notes).toHaveValue(before);
  // Escape takes back what was typed since the field was entered, and leaves nothing to redo.
  await notes.focus();
  await bench.page.keyboard.type('mistaken');
  await bench.page.waitForTimeout(400);
  await bench.page.keyboard.press('Escape');
  await expect(notes).toHaveValue(before);
  await expect(bench.page.getByRole('button', { name: 'Redo' })).toBeDisabled();
});

test('a large picture under the plan does not cost the last edit at a reload', async ({
  bench,
  browser,
  baseURL,
}) => {
  await bench.openDemo();
  const { page } = bench;
  // Noise does not compress: some megabytes once it is a JPEG of the largest size kept.
  const picture = await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    canvas.width = canvas.height = 2200;
    const pen = canvas.getContext('2d');
    const pixels = pen?.createImageData(2200, 2200);
    if (!pen || !pixels) throw new Error('no canvas');
    for (let i = 0; i < pixels.data.length; i++) {
      pixels.data[i] = i % 4 === 3 ? 255 : (Math.imul(i, 2654435761) >>> 13) & 255;
    }
    pen.putImageData(pixels, 0, 0);
    return canvas.toDataURL('image/jpeg', 0.9).split(',')[1] ?? '';
  });
  expect(picture.length).toBeGreaterThan(4_000_000);
  const file = { name: 'plan.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(picture, 'base64') };
  await page.getByLabel('Picture of the floor plan').setInputFiles(file);
  await expect(page.getByText('Set its scale')).toBeVisible();
  await bench.saved();
  await page.keyboard.press('Escape');
  await bench.player('Horn 1').click();
  const x = () => bench.field('Right of centre').inputValue();
  const before = await x();
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(x).not.toBe(before);
  const after = await x();
  await page.reload();
  await bench.player('Horn 1').click();
  expect(await x()).toBe(after);
  await expect(page.locator('image')).toHaveCount(1);

  // The archive holds the picture, and another browser takes it out again.
  await bench.go('rig');
  const archive = await bench.download(() =>
    page.getByRole('button', { name: 'All in one archive' }).click(),
  );
  const context = await browser.newContext({ baseURL: baseURL ?? '' });
  const empty = new Workbench(await context.newPage());
  await empty.page.goto('/');
  const choosing = empty.page.waitForEvent('filechooser');
  await empty.page.getByRole('button', { name: 'Import a file' }).click();
  const zip = { name: 'rig.zip', mimeType: 'application/zip' };
  await (await choosing).setFiles({ ...zip, buffer: readFileSync(archive.path) });
  await expect(empty.page.locator('image')).toHaveCount(1);
  await context.close();
});

test('undo survives a reload, says what it undid and offers the way there', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  const before = await bench.imageText('Horn 1');
  await bench.drag(bench.player('Horn 1'), 60, -20);
  const moved = await bench.imageText('Horn 1');
  await bench.go('array');
  await bench.type('Spacing', '31 cm');
  await bench.saved();
  await page.reload();
  await expect(bench.field('Spacing')).toHaveValue('31.0');
  await page.getByTitle('Undo (Ctrl Z)').click();
  await expect(page.getByText('Undone: Main pair: spacing.')).toBeVisible();
  await expect(bench.field('Spacing')).not.toHaveValue('31.0');
  await page.getByTitle('Undo (Ctrl Z)').click();
  // The view stays until it is asked to move.
  await expect(page.getByText('Undone: Horn 1 moved.')).toBeVisible();
  await expect(page.getByText('Undone: Main pair: spacing.')).toHaveCount(0);
  await expect(page.getByRole('main', { name: 'Array' })).toBeVisible();
  expect(await bench.imageText('Horn 1')).toBe(before);
  await page.getByRole('status').getByRole('button', { name: 'Show' }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(bench.player('Horn 1')).toHaveAttribute('aria-pressed', 'true');
  await bench.saved();
  await page.reload();
  await page.getByTitle('Redo (Ctrl Shift Z)').click();
  await expect(page.getByText('Done again: Horn 1 moved.')).toBeVisible();
  await expect.poll(() => bench.imageText('Horn 1')).toBe(moved);
});

test('a drag that is left in any way ends: undo, saving and dragging go on', async ({ bench }) => {
  await bench.openDemo();
  const { page } = bench;
  const undo = page.getByTitle('Undo (Ctrl Z)');
  const grab = async () => {
    const box = await bench.player('Horn 1').boundingBox();
    if (!box) throw new Error('not on the screen');
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + 80, box.y + 30, { steps: 5 });
  };
  const works = async () => {
    await bench.player('Flute').focus();
    await page.keyboard.press('ArrowLeft');
    await expect(undo).toBeEnabled();
    await bench.saved();
    while (await undo.isEnabled()) await undo.click();
  };
  // A station key while the hand holds on.
  await grab();
  await page.keyboard.press('3');
  await expect(page.getByRole('main', { name: 'Array' })).toBeVisible();
  await page.mouse.up();
  await bench.go('floor');
  await works();
  // The system takes the pointer away: all is as before.
  const before = await bench.allImages();
  await grab();
  await bench.player('Horn 1').dispatchEvent('pointercancel', { pointerId: 1, isPrimary: true });
  await page.mouse.up();
  await expect.poll(() => bench.allImages()).toBe(before);
  await works();
  // The window loses the focus.
  await grab();
  await page.evaluate(() => dispatchEvent(new Event('blur')));
  await page.mouse.up();
  await works();
  // Undo in the middle takes the drag back.
  await grab();
  await page.keyboard.press('Control+z');
  await page.mouse.up();
  await expect.poll(() => bench.allImages()).toBe(before);
  await works();
  // Another session is opened in the middle.
  await grab();
  await page.evaluate(() => history.pushState({}, '', '/session/demo-choir/floor'));
  await page.goBack();
  await page.mouse.up();
  await works();
});

test('three tabs: a name is no conflict, a deletion asks, all follow', async ({
  bench,
  context,
}) => {
  await bench.openDemo();
  const [second, list] = [new Workbench(await context.newPage()), await context.newPage()];
  await second.page.goto(bench.page.url());
  await list.goto('/');
  await list.getByRole('button', { name: 'Rename Sedge Lane Nonet, serenades' }).click();
  await list.getByRole('textbox', { name: /^New name/ }).fill('Nonet, renamed');
  await bench.player('Horn 1').focus();
  await Promise.all([
    list.keyboard.press('Enter'),
    bench.page.keyboard.press('Shift+ArrowRight'),
    bench.page.keyboard.press('Shift+ArrowRight'),
  ]);
  for (const tab of [bench, second]) {
    await expect(tab.page.getByRole('heading', { name: 'Nonet, renamed' })).toBeVisible();
    await expect(tab.page.getByRole('alert')).toHaveCount(0);
  }
  await bench.saved();
  await expect.poll(() => second.allImages()).toBe(await bench.allImages());

  await list.getByRole('button', { name: 'Delete Nonet, renamed', exact: true }).click();
  for (const tab of [bench, second]) {
    await expect(tab.page.getByText('Another tab deleted this session.')).toBeVisible();
  }
  await second.page.getByRole('button', { name: 'Leave it deleted' }).click();
  await expect(second.page.getByRole('button', { name: 'New session' })).toBeVisible();
  await bench.player('Horn 1').focus();
  await bench.page.keyboard.press('Shift+ArrowLeft');
  await bench.page.getByRole('button', { name: 'Bring it back as it is here' }).click();
  await bench.saved();
  await second.page.reload();
  await expect(second.page.getByRole('link', { name: 'Nonet, renamed' })).toBeVisible();
});

test('an edited demo under Deleted stays there when the demo is opened again', async ({
  bench,
}) => {
  await bench.openDemo();
  const { page } = bench;
  await bench.player('Flute').click();
  await page.keyboard.press('Delete');
  await bench.saved();
  await page.goto('/');
  await page.getByRole('button', { name: /^Delete Sedge Lane/ }).click();
  await page.getByRole('button', { name: 'Open the demo sessions' }).click();
  await expect(bench.player('Flute')).toBeVisible();
  await page.goto('/');
  await page.getByText('Deleted (1)').click();
  await page.getByRole('button', { name: /^Bring back Sedge/ }).click();
  const rows = page.getByRole('row', { name: /Sedge Lane Nonet/ });
  await expect(rows).toHaveCount(2);
  const players = await rows.evaluateAll((list) => list.map((row) => row.children[3]?.textContent));
  expect(players.sort()).toEqual(['8', '9']);
});

test('without a database the page says so, works on, and gives the file out', async ({ bench }) => {
  const { page } = bench;
  await page.addInitScript(() => {
    Object.defineProperty(window, 'indexedDB', { value: undefined });
  });
  await page.goto('/');
  await expect(page.getByRole('alert')).toContainText('this browser gives the page no database');
  await expect(page.getByText('No sessions yet')).toHaveCount(0);
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await page.getByRole('button', { name: 'Add the first player' }).click();
  await expect(page.getByRole('status', { name: 'Save state' })).toHaveText(/^Not saved/);
  const file = await bench.download(() =>
    page.getByRole('button', { name: 'Export the session' }).click(),
  );
  expect((JSON.parse(file.text) as { sources: unknown[] }).sources).toHaveLength(1);
  await page.getByRole('link', { name: 'All sessions' }).click();
  await expect(page.getByText('Not stored: only in this page.')).toBeVisible();
  await page.getByRole('link', { name: 'New session' }).click();
  await expect(bench.player('Player 1')).toBeVisible();
});

test('a database that never answers is said soon, and the page works without it', async ({
  bench,
}) => {
  const { page } = bench;
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => new EventTarget() as IDBOpenDBRequest;
  });
  const begun = Date.now();
  await page.goto('/demo');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('it does not answer');
  // Three seconds of waiting, once; not for each of all that is asked.
  expect(Date.now() - begun).toBeLessThan(15_000);
  await page.keyboard.press('a');
  await expect(page.getByRole('status', { name: 'Save state' })).toHaveText(/^Not saved/);
});

test('a database that is deleted under the page is noticed without an edit', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.saved();
  await page.evaluate(async () => {
    const request = indexedDB.deleteDatabase('rotunda');
    await new Promise((done) => (request.onsuccess = request.onerror = () => done(null)));
  });
  await expect(page.getByRole('alert')).toContainText(/deleted/, { timeout: 12_000 });
});

test('what stands nowhere is not lost by loading the page anew: it is said, and offered', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.saved();
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
    Storage.prototype.setItem = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
  });
  await page.keyboard.press('a');
  await expect(page.getByRole('alert')).toContainText('The browser’s storage is full.');
  const asked = page.waitForEvent('dialog');
  const going = page.evaluate(() => location.reload()).catch(() => undefined);
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.dismiss();
  await going;
  await expect(bench.player('Player 10')).toBeVisible();
});

test('one session that cannot be read hides no other', async ({ bench }) => {
  await bench.openDemo();
  const { page } = bench;
  await page.evaluate(async () => {
    const nested = (levels: number) => {
      let deep: unknown = 1;
      for (let i = 0; i < levels; i++) deep = { deep };
      return { format: 'rotunda-session', version: 1, id: 'deep', title: `Deep ${levels}`, deep };
    };
    const open = indexedDB.open('rotunda');
    await new Promise((done) => (open.onsuccess = done));
    const store = open.result.transaction('sessions', 'readwrite').objectStore('sessions');
    store.put({ session: nested(200), revision: 1 }, 'deep');
    store.put({ session: nested(2500), revision: 1 }, 'very-deep');
    const request = store.put({ session: null, revision: 'x' }, 'empty');
    await new Promise((done) => (request.onsuccess = done));
    open.result.close();
  });
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Sedge/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Deep 2500|very-deep/ })).toBeVisible();
  await expect(page.getByText(/^Cannot be read: nothing is stored/)).toBeVisible();
  await page.getByRole('link', { name: 'Deep 200', exact: true }).click();
  await expect(page.getByText('This session cannot be read')).toBeVisible();
  await expect(page.getByText('nested deeper than 60 levels; allowed: up to 60')).toBeVisible();
  const raw = await bench.download(() =>
    page.getByRole('button', { name: 'Export it as it is' }).click(),
  );
  expect(raw.text).toContain('"title": "Deep 200"');
});

test('from another machine over plain http the product works, and keeps', async () => {
  // In a group of its own, so that all of it ends with the test.
  const asked = ['tsx', 'server/main.ts', '--port', '4687', '--host', '0.0.0.0'];
  const server = spawn('npx', asked, { detached: true });
  const mortal = new MortalBrowser(['--host-resolver-rules=MAP hall.test 127.0.0.1']);
  try {
    // Another port where that one is taken.
    const port = await new Promise<string>((done) => {
      server.stdout.on('data', (data) => {
        const [, found] = /Rotunda: http:\/\/[^\s/]*:(\d+)/.exec(String(data)) ?? [];
        if (found !== undefined) done(found);
      });
    });
    const page = await mortal.open();
    const bench = new Workbench(page);
    await page.goto(`http://hall.test:${port}/`);
    expect(await page.evaluate(() => [isSecureContext, typeof crypto.randomUUID])).toEqual([
      false,
      'undefined',
    ]);
    await page.getByRole('button', { name: 'New session' }).click();
    await page.getByRole('button', { name: 'Begin', exact: true }).click();
    await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
    await page.keyboard.press('a');
    await expect(bench.player('Player 1')).toBeVisible();
    await bench.saved();
    await page.reload();
    await expect(bench.player('Player 1')).toBeVisible();
  } finally {
    await mortal.discard();
    if (server.pid !== undefined) process.kill(-server.pid);
  }
});
