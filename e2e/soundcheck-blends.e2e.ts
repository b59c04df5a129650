import AxeBuilder from '@axe-core/playwright';
import { pinkNoise } from '../core/audio/signal/generate';
import { imported } from './listening';
import { file, fourInputs, opened } from './recordings';
import { beginBlind, listen, option } from './soundcheck';
import { expect, settled, test } from './workbench';

test('blends: faders, kept by name, set again, back to the strips; a sweep that becomes a mark', async ({
  bench,
  page,
}) => {
  await imported(bench, fourInputs());
  await bench.go('soundcheck');
  await bench.turnTo('Blend');
  const layers = page.getByRole('table', { name: 'Layers' });
  const pull = () => layers.getByRole('row').nth(3).getByRole('cell').nth(4).innerText();
  const before = await pull();
  const fader = layers.getByRole('slider').nth(1);
  await fader.focus();
  await page.keyboard.press('End');
  await expect.poll(pull).not.toBe(before);
  await page.getByLabel('The plan’s mix as it is now, as').fill('spots up');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await page.getByRole('button', { name: 'Back to the plan’s strips' }).click();
  await expect.poll(pull).toBe(before);
  await page.getByRole('button', { name: 'Set it again' }).click();
  await expect.poll(pull).not.toBe(before);
  await page.keyboard.press('Control+z');
  await page.getByLabel('The plan’s mix as it is now, as').fill('as planned');
  await page.getByRole('button', { name: 'Keep it' }).click();
  // For somebody else to choose from, blind.
  await page.getByRole('button', { name: 'Compare the kept blends' }).click();
  await expect(listen(page)).toContainText('Blend: spots up');
  await expect(page.getByText('One performance: like for like.')).toBeVisible();
  await beginBlind(page, 'Ada', '1');
  await page.keyboard.press('b');
  await page.getByText('What is heard of B').click();
  const said = page.getByRole('form', { name: 'What is heard' });
  await said.getByLabel('room').selectOption('1');
  await said.getByLabel('Of whom').selectOption({ index: 1 });
  await said.getByRole('button', { name: 'Into the diary' }).click();
  await page.getByRole('button', { name: 'B is better' }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: /^Nobody else listens/ }).click();
  await expect(page.getByRole('list', { name: 'What came of it' })).toContainText(
    'no number of 1 would tell',
  );
  await bench.turnTo('Report');
  await expect(page.getByRole('table', { name: /^What was heard/ })).toContainText(
    /Ada.*Blend: .*room a little too much/,
  );

  await bench.go('bench');
  const noise = [1, 2].map((seed) => pinkNoise(8 * 48_000, seed).map((v) => v * 0.05));
  await opened(bench, [file({ name: 'walk.wav', planes: noise })]);
  await expect(page.getByRole('list', { name: 'What it says' })).toBeVisible();
  await bench.go('soundcheck');
  await bench.turnTo('Sweep');
  await page.keyboard.press('k');
  const moment = page.getByRole('listitem', { name: /^Moment at/ });
  await expect(moment).toHaveCount(1);
  await moment.getByLabel('Rating').selectOption('4');
  await expect(moment).toContainText('the best so far');
  await moment.getByLabel('Where').fill('over the tail');
  await moment.getByLabel('Where').blur();
  await moment.getByRole('button', { name: 'Make it a mark' }).click();
  await expect(page.getByText('The mark is in the session.')).toBeVisible();
});

test('by touch, at 1024 × 768, and nothing that a reader of screens trips over', async ({
  browser,
}) => {
  const context = await browser.newContext({
    ...{ hasTouch: true, viewport: { width: 1024, height: 768 }, serviceWorkers: 'block' },
  });
  const page = await context.newPage();
  await page.goto('/demo');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.getByRole('link', { name: /Soundcheck$/ }).tap();
  await page.getByRole('button', { name: 'Simulate this plan' }).tap();
  await expect(option(page, 'A')).toContainText('Simulated, option A');
  const turn = async (name: string): Promise<void> => {
    const tab = page
      .getByRole('navigation', { name: 'Pages of the soundcheck' })
      .getByRole('button', { name, exact: true });
    await tab.tap();
    await expect(tab).toHaveAttribute('aria-current', 'page');
  };
  await turn('From a symptom');
  await page
    .getByRole('main')
    .getByLabel('What is heard')
    .selectOption({ label: 'Hole in the middle' });
  await expect(page.getByRole('status', { name: 'In figures' })).toBeVisible();
  await turn('Compare');
  await expect(page.getByRole('checkbox', { name: /Option A/ })).toBeChecked();
  await expect(listen(page)).toBeVisible();
  await page.getByRole('button', { name: 'Hear A' }).tap();
  await expect(page.getByRole('button', { name: 'Hear A' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  for (const theme of ['rotunda-light', 'rotunda-dark']) {
    await page.evaluate((name) => (document.documentElement.dataset.theme = name), theme);
    await settled(page);
    for (const name of [
      'Diary',
      'Takes',
      'Compare',
      'From a symptom',
      'Blend',
      'Sweep',
      'Report',
    ]) {
      await turn(name);
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
