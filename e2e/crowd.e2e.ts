import { demoSession } from '../core/demo';
import { expect, test } from './workbench';
import { captured, heard, imported, levelDb } from './listening';

test.describe.configure({ timeout: 150_000 });

test('five hundred players sound soon, and the page stays free', async ({ bench, page }) => {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const sources = Array.from({ length: 500 }, (_, i) => {
    const player = demo.sources[i % demo.sources.length];
    if (!player) throw new Error('no player');
    const [x, y] = [((i % 25) - 12) * 0.5, 2 + Math.floor(i / 25) * 0.3];
    return { ...player, id: `s${i}`, name: `Player ${i}`, group: `Section ${i % 20}`, x, y };
  });
  await imported(bench, { ...demo, id: 'own-five-hundred', sources });
  await page.evaluate(() => {
    const long: number[] = [];
    Object.assign(globalThis, { long });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) long.push(duration);
    }).observe({ type: 'longtask' });
  });
  await page.keyboard.press('Space');
  await expect(heard(page)).toHaveText(/^simulation/, { timeout: 30_000 });
  await expect(async () => {
    const { left } = await captured(page, 24_000, 'out');
    expect(levelDb(left)).toBeGreaterThan(-62);
  }).toPass({ timeout: 30_000 });
  // What takes long says how far it is.
  await expect(heard(page)).toContainText(/being made, \d+ %/);
  await page.getByLabel('About what is heard').click();
  await expect(page.getByRole('list', { name: 'About what is heard' })).toContainText(
    'While something is dragged every section sounds from its middle.',
  );
  await page.keyboard.press('Escape');
  // Whom to hear, out of so many, is typed.
  const who = page.getByLabel('Who is heard');
  await who.fill('player 77');
  await who.press('Enter');
  await expect(who).toHaveValue('Player 77 alone');
  await who.fill('every');
  await who.press('Enter');
  await expect(who).toHaveValue('everybody');
  const blocked = await page.evaluate(
    () => (globalThis as unknown as { long: number[] }).long.filter((ms) => ms > 1000).length,
  );
  expect(blocked).toBe(0);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
});
