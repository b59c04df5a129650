import { readFile } from 'node:fs/promises';
import { expect, test, type Workbench } from './workbench';

async function open({ page }: Workbench): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.keyboard.type('simulated take');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Simulated take' })).toBeVisible();
}

test('a simulated take is made beside the page and marked as one', async ({ bench, page }) => {
  await bench.openDemo();
  await open(bench);
  await expect(page.getByRole('status', { name: 'Size' })).toHaveText(
    '2 channels, 24 bits, 8.2 MiB',
  );
  await page.getByLabel('Length').selectOption({ label: '10 s' });
  await expect(page.getByRole('status', { name: 'Size' })).toContainText('2.7 MiB');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Render' }).click();
  await expect(page.getByRole('progressbar', { name: 'Rendering' })).toBeVisible();
  const file = await readFile(await (await saved).path());
  // Compiled transforms run under the page's own policy.
  await expect(page.getByRole('status', { name: 'Made' })).not.toContainText('the slow way');
  const text = file.subarray(0, 2000).toString('latin1');
  expect(text).toContain('Simulation, nobody played');
  expect(text).toContain('<NAME>Main pair L</NAME>');
  expect(file.length).toBeGreaterThan(10 * 48_000 * 6);
  const samples = file.subarray(file.length - 480_000 * 6);
  expect(samples.some((byte) => byte !== 0)).toBe(true);

  // The very same one is kept, and gone as soon as a session needs the room.
  const again = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Render' }).click();
  await expect(page.getByRole('status', { name: 'Made' })).toContainText('Kept from before');
  expect((await readFile(await (await again).path())).equals(file)).toBe(true);
  await page.evaluate(() => {
    let refusals = 1;
    const stores = IDBObjectStore.prototype as unknown as { put: () => unknown };
    stores.put = new Proxy(stores.put, {
      apply(put, store: IDBObjectStore, args: []) {
        if (store.name === 'sessions' && refusals-- > 0) {
          throw new DOMException('the disk is full', 'QuotaExceededError');
        }
        return Reflect.apply(put, store, args);
      },
    });
  });
  await page.keyboard.press('Escape');
  await bench.player('Flute').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('status', { name: 'Save state' })).toHaveText(/^Saved/);
  await page.keyboard.press('ArrowRight');
  await bench.saved();
  await open(bench);
  await page.getByLabel('Length').selectOption({ label: '10 s' });
  await page.getByRole('button', { name: 'Render' }).click();
  await expect(page.getByRole('status', { name: 'Made' })).toContainText('Made;');
});

test('a take is given up, and nothing is saved; an empty floor says what is missing', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  let saved = 0;
  page.on('download', () => (saved += 1));
  await open(bench);
  await page.getByLabel('Length').selectOption({ label: '10 min' });
  await page.getByLabel('Sample rate').selectOption({ label: '96 kHz' });
  await expect(page.getByRole('status', { name: 'Size' })).toContainText('330 MiB');
  await page.getByRole('button', { name: 'Render' }).click();
  await expect(page.getByRole('progressbar', { name: 'Rendering' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('progressbar', { name: 'Rendering' })).toHaveCount(0);
  await page.getByLabel('Direct sound only').check();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Simulated take' })).toHaveCount(0);
  expect(saved).toBe(0);

  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await open(bench);
  await expect(page.getByRole('alert').filter({ hasText: 'no players yet' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Render' })).toBeDisabled();
});
