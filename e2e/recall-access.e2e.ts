import AxeBuilder from '@axe-core/playwright';
import { expect, settled, test } from './workbench';

// Colours are read where they are, not on their way there.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

const PAGES = [
  ...['Find', 'Marks', 'Listening spots', 'Kept pieces', 'What is missing', 'Difference', 'Copies'],
];

test('recall by touch, at 1024 × 768, and nothing that a reader of screens trips over', async ({
  browser,
}) => {
  const context = await browser.newContext({
    ...{ hasTouch: true, viewport: { width: 1024, height: 768 }, serviceWorkers: 'block' },
  });
  const page = await context.newPage();
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.getByRole('link', { name: /Recall$/ }).tap();
  const turn = async (name: string): Promise<void> => {
    const tab = page
      .getByRole('navigation', { name: 'Pages of recall' })
      .getByRole('button', { name, exact: true });
    await tab.tap();
    await expect(tab).toHaveAttribute('aria-current', 'page');
  };
  await turn('Marks');
  await page.getByRole('button', { name: 'Make the mark' }).tap();
  await expect(page.getByRole('listitem', { name: 'Main pair' })).toBeVisible();
  await page.getByRole('button', { name: 'Put up Main pair' }).tap();
  await expect(page.getByText(/stands at the mark “Main pair”/)).toBeVisible();
  await turn('Listening spots');
  const plan = page.getByRole('img', { name: /^Where it was listened from/ });
  const box = await plan.boundingBox();
  if (!box) throw new Error('no plan');
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height - 20);
  await page.getByLabel('How good it is').selectOption('4');
  await page.getByRole('button', { name: 'Enter it' }).tap();
  await expect(page.getByRole('status', { name: 'Best spot' })).toContainText('somebody alone');
  await turn('Difference');
  await page.getByRole('textbox', { name: 'Name of the version' }).fill('First');
  await page.getByRole('button', { name: 'Keep the version' }).tap();
  await turn('Kept pieces');
  await page.getByRole('button', { name: 'Keep it' }).tap();
  for (const theme of ['rotunda-light', 'rotunda-dark']) {
    await page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
    await settled(page);
    for (const name of PAGES) {
      await turn(name);
      if (name === 'Difference')
        await expect(page.getByRole('status', { name: 'Difference' })).toBeVisible();
      await settled(page);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${name} ${id}: ${nodes[0]?.html}`)).toEqual([]);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(over).toBeLessThanOrEqual(0);
    }
  }
  await context.close();
});
