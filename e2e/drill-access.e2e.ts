import AxeBuilder from '@axe-core/playwright';
import { expect, settled, test } from './workbench';

// Colours are read where they are, not on their way there.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

const PAGES = ['Due now', 'Ear', 'Your own model', 'Head', 'From your plan', 'Results'];

test('the drill by touch, at 1024 × 768, and nothing that a reader of screens trips over', async ({
  browser,
}) => {
  const context = await browser.newContext({
    ...{ hasTouch: true, viewport: { width: 1024, height: 768 }, serviceWorkers: 'block' },
  });
  const page = await context.newPage();
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.goto('/session/demo-nonet/drill?page=due&seed=5');
  await page.getByRole('button', { name: 'Begin', exact: true }).tap();
  const line = page.getByRole('slider', { name: 'Where it is' });
  await expect(line).toBeVisible();
  const turn = async (name: string): Promise<void> => {
    const tab = page
      .getByRole('navigation', { name: 'Pages of the drill' })
      .getByRole('button', { name, exact: true });
    await tab.tap();
    await expect(tab).toHaveAttribute('aria-current', 'page');
  };
  const looked = async (what: string): Promise<void> => {
    for (const theme of ['Dark theme', 'Light theme']) {
      await page.getByRole('button', { name: theme }).tap();
      await settled(page);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${what}: ${id} ${nodes[0]?.html ?? ''}`)).toEqual(
        [],
      );
    }
  };
  await looked('a question');
  const box = await line.boundingBox();
  if (!box) throw new Error('no line');
  await page.touchscreen.tap(box.x + box.width * 0.4, box.y + 50);
  await expect(page.getByRole('status', { name: 'Outcome' })).toContainText('% off');
  await looked('an answer');
  await turn('Head');
  await page.getByRole('button', { name: 'Begin Claims of the trade' }).tap();
  await page.getByRole('button', { name: /False$/ }).tap();
  await expect(page.getByRole('status', { name: 'Outcome' })).toBeVisible();
  await looked('a claim');
  await turn('Your own model');
  await page.getByRole('button', { name: 'Measure one' }).tap();
  await looked('before a model');
  await page.getByRole('button', { name: 'Begin', exact: true }).tap();
  await expect(page.getByRole('region', { name: 'Check of the set-up' })).toBeVisible();
  await looked('a check');
  for (const name of PAGES) {
    await turn(name);
    await expect(page.getByText('The results are read …')).toBeHidden();
    await looked(name);
    const wider = await page.evaluate(
      () => document.documentElement.scrollWidth > document.documentElement.clientWidth,
    );
    expect(wider, name).toBe(false);
  }
  await context.close();
});

test('an empty session: what to do first is said, and the rest of the drill works', async ({
  page,
}) => {
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  // A file without players and arrays, taken in as any other.
  const file = { format: 'rotunda-session', version: 2, id: 'bare', title: 'Bare' };
  await page.goto('/');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await chooser
  ).setFiles({
    ...{ name: 'bare.rotunda.json', mimeType: 'application/json' },
    buffer: Buffer.from(JSON.stringify(file)),
  });
  await page.waitForURL(/session\/bare/);
  await page.goto('/session/bare/drill?page=plan');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByText(/put at least one player and one array in use/)).toBeVisible();
  await page.goto('/session/bare/drill?page=results');
  await expect(page.getByText('Nothing was practised yet.')).toBeVisible();
});
