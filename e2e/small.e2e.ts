import { expect, test } from './workbench';

const PAGES = ['positions', 'channels', 'pack', 'built'];

test('a phone shows the stage sheets in one column, with ticks for a thumb', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  for (const name of PAGES) {
    await page.goto(`/session/demo-choir/rig?page=${name}`);
    await page.getByRole('main', { name: 'Rig' }).waitFor();
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth), { message: name })
      .toBe(390);
    const inside = await page
      .getByRole('main', { name: 'Rig' })
      .evaluate(
        (main) =>
          [...main.querySelectorAll('*')].filter(
            (part) => !part.closest('thead') && part.getBoundingClientRect().right > innerWidth + 1,
          ).length,
      );
    expect(inside, name).toBe(0);
  }
  await page.goto('/session/demo-choir/rig?page=pack');
  const tick = page.getByRole('checkbox').first();
  const box = await tick.boundingBox();
  expect(Math.min(box?.width ?? 0, box?.height ?? 0)).toBeGreaterThanOrEqual(26);
  await tick.check();
  await expect(page.getByText('1 of', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('listitem').first()).toContainText('packed');

  await page.goto('/session/demo-choir/rig?page=built');
  const planned = page.getByRole('button', { name: 'Main pair, height: as planned' });
  const size = await planned.boundingBox();
  expect(Math.min(size?.width ?? 0, size?.height ?? 0)).toBeGreaterThanOrEqual(40);
  await planned.click();
  await expect(planned).toHaveAttribute('aria-pressed', 'true');
});

test('zoomed in twofold every station is usable: nothing sideways, a plan to be seen', async ({
  page,
}) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  for (const [name, path] of [
    ['Brief', 'brief?page=kit'],
    ['Floor', 'floor'],
    ['Array', 'array?page=pair-geometry'],
    ['Checks', 'checks?page=findings'],
    ['Rig', 'rig?page=positions'],
    ['Rig', 'rig?page=channels'],
  ] as const) {
    await page.goto(`/session/demo-choir/${path}`);
    await page.getByRole('main', { name }).waitFor();
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth), { message: name })
      .toBe(640);
    const main = await page.getByRole('main', { name }).boundingBox();
    expect(main?.height ?? 0, name).toBeGreaterThanOrEqual(240);
  }
  await page.goto('/');
  await page.getByRole('table').first().waitFor();
  await expect
    .poll(() => page.evaluate(() => document.documentElement.scrollWidth), { message: 'sessions' })
    .toBe(640);
  // The folded panels open by their own buttons, and a larger window brings them back.
  await page.goto('/session/demo-choir/floor');
  await expect(page.getByRole('complementary', { name: 'Inspector' })).toBeHidden();
  await page.getByRole('button', { name: 'Inspector' }).click();
  await expect(page.getByRole('complementary', { name: 'Inspector' })).toBeVisible();
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect(page.getByRole('button', { name: 'Stereo image large' })).toHaveAttribute(
    'aria-expanded',
    'true',
  );
});

test('on a phone the image line and Listen are there, folded, and open by one tap', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  const line = page.getByRole('region', { name: 'Stereo image' });
  await expect(line.getByRole('button', { name: 'Listen' })).toBeVisible();
  expect((await line.boundingBox())?.height).toBeLessThan(60);
  await line.getByRole('button', { name: 'Stereo image large' }).click();
  await expect(line.getByText('Bassoons', { exact: true })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
});

test('forced colours keep what is pressed apart by a frame', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active', reducedMotion: 'reduce' });
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  const outline = (name: string) =>
    page
      .getByRole('button', { name, exact: true })
      .evaluate((button) => getComputedStyle(button).outlineStyle);
  expect(await outline('Plan')).toBe('solid');
  expect(await outline('Side')).toBe('none');
  const moves = await page.evaluate(() =>
    [...document.querySelectorAll('*')].some(
      (part) => parseFloat(getComputedStyle(part).transitionDuration) > 0.001,
    ),
  );
  expect(moves).toBe(false);
});
