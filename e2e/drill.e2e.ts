import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { answersOf, madeListener } from '../core/drill/fixtures/listeners';
import { EAR, EAR_KINDS } from '../core/drill/ear/kinds';
import { askedImages } from '../core/drill/own/images';
import { expect, test } from './workbench';

const question = (page: Page) => page.getByRole('heading', { level: 2 }).last();
const outcome = (page: Page) => page.getByRole('status', { name: 'Outcome' });
const line = (page: Page) => page.getByRole('slider', { name: /^Where (it is|you hear it)$/ });

/** A page of the drill whose questions are made from a number. */
async function drill(page: Page, name: string, seed: number): Promise<void> {
  await page.goto(`/session/demo-nonet/drill?page=${name}&seed=${seed}`);
  await expect(page.getByRole('main', { name: 'Drill' })).toBeVisible();
}

async function begin(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: `Begin ${name}` }).click();
  await expect(page.getByText(/loud sound harms hearing/)).toBeVisible();
  await expect(page.getByRole('slider', { name: 'Loudness of the exercise' })).toHaveValue('-42');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
}

async function clickAt(page: Page, shift: number): Promise<void> {
  const box = await line(page).boundingBox();
  if (!box) throw new Error('there is no line');
  const [from, to] = [box.x + 44, box.x + box.width - 44];
  await page.mouse.click(from + ((shift + 1) / 2) * (to - from), box.y + 52);
}

test('one exercise of each kind for the ear: heard, answered by a letter, told with its figure', async ({
  bench,
  page,
}) => {
  await bench.openDemo('drill');
  for (const kind of EAR_KINDS) {
    await drill(page, 'ear', 7);
    await begin(page, EAR[kind].name);
    if (kind === 'place') {
      await expect(line(page)).toBeVisible();
      await line(page).focus();
      for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
      await expect(line(page)).toHaveAttribute('aria-valuenow', '30');
      await page.keyboard.press('Enter');
      await expect(outcome(page)).toHaveText(/^\d+ % off\. .* by the consensus/);
      await expect(page.locator('[data-truth]')).toBeVisible();
      await page.getByRole('button', { name: /Hear it where it was/ }).click();
      await expect(page.getByRole('button', { name: /Hear it where it was/ })).toBeEnabled({
        timeout: 30_000,
      });
      continue;
    }
    await expect(page.getByRole('group', { name: 'Answer' })).toBeVisible();
    await page.keyboard.press(kind === 'layer' ? 'h' : 'b');
    await expect(outcome(page)).toHaveText(/^(Right|No)\. .*\d|as loud as/);
    await page.getByRole('button', { name: 'Hear only what differs' }).click();
  }
  await drill(page, 'results', 7);
  await expect(page.getByRole('table', { name: 'Results' }).locator('tbody tr')).toHaveCount(
    EAR_KINDS.length,
  );
  const csv = await bench.download(() =>
    page.getByRole('button', { name: 'CSV', exact: true }).last().click(),
  );
  expect(csv.text.trim().split('\r\n')).toHaveLength(1 + EAR_KINDS.length);
});

test('a whole round with the keyboard: Space plays, letters answer, what is known and what comes next', async ({
  bench,
  page,
}) => {
  await bench.openDemo('drill');
  await drill(page, 'ear', 11);
  await begin(page, EAR.level.name);
  for (let i = 1; i <= 8; i++) {
    await expect(page.getByRole('status', { name: 'Round' })).toContainText(`Question ${i} of 8`);
    await expect(page.getByRole('group', { name: 'Answer' })).toBeVisible();
    if (i === 1) {
      await page.keyboard.press(' ');
      await expect(page.getByRole('button', { name: 'Hear A', exact: true })).toHaveAttribute(
        'aria-pressed',
        'true',
      );
    }
    await page.keyboard.press('a');
    await expect(outcome(page)).toBeVisible();
    // Kept answer by answer: what was said before a reload is there after it.
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('status', { name: 'Round’s outcome' })).toContainText(/of 8 right/);
  await expect(page.getByText(/Level differences comes back/)).toBeVisible();
  await page.reload();
  await bench.turnTo('Results');
  await expect(page.getByRole('row', { name: /^Level differences 1 8 / })).toBeVisible();
  await bench.turnTo('Due now');
  await expect(page.getByText('Where is it? · never practised')).toBeVisible();
  await page.getByRole('button', { name: 'Another one' }).click();
  await expect(page.getByText('Wider or narrower · never practised')).toBeVisible();
  // Digits stay the stations.
  await page.keyboard.press('2');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
});

test('the head: an answer in any unit, the way to it, a claim with its figure and an example', async ({
  bench,
  page,
}) => {
  await bench.openDemo('drill');
  await drill(page, 'head', 7);
  await page.getByRole('button', { name: 'Begin Delays' }).click();
  const answer = page.getByRole('textbox', { name: 'Answer' });
  await answer.fill('3 ells');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('allowed');
  await answer.fill('1');
  await page.keyboard.press('Enter');
  await expect(outcome(page)).toContainText('1 was your answer; it is');
  await expect(page.getByRole('list', { name: 'The way to it' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(answer).toHaveValue('');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('button', { name: 'Begin Claims of the trade' }).click();
  for (let i = 0; i < 5; i++) {
    await expect(question(page)).toHaveText(/^“.*”$/);
    await page.keyboard.press('f');
    await expect(outcome(page)).toContainText(/It is true\.|It is false\.|It depends\./);
    await expect(page.getByText(/decides? this/)).toBeVisible();
    const example = page.getByRole('button', { name: 'Hear an example' });
    if (await example.isVisible()) {
      await example.click();
      await expect(page.getByRole('button', { name: 'Hear A', exact: true })).toBeVisible({
        timeout: 30_000,
      });
    }
    await page.getByRole('button', { name: /^(Next|What came of it)$/ }).click();
  }
  await expect(page.getByRole('status', { name: 'Round’s outcome' })).toContainText(/of 5 right/);
});

test('from one’s own plan: predicted, then seen and heard; the plan stays as it is', async ({
  bench,
  page,
}) => {
  await bench.openDemo('drill');
  await drill(page, 'plan', 7);
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByText(/^On your own plan: /)).toBeVisible();
  await page.keyboard.press('a');
  await expect(outcome(page)).toHaveText(/^(Right|No)\. .*→/);
  await expect(page.getByRole('img', { name: 'Where the players would appear' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Hear both' }).click();
  await expect(page.getByRole('button', { name: 'Hear it moved' })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('a whole model of one’s own: checked, broken off, gone on with, on the line as yours, asked about when it leaves', async ({
  bench,
  page,
}) => {
  await bench.openDemo('drill');
  const seed = 23;
  await drill(page, 'model', seed);
  await page.getByRole('button', { name: 'Measure one' }).click();
  await page.getByLabel('Called').fill('Attic 2026');
  await page.getByLabel('Who listens').fill('Wenna');
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  const check = page.getByRole('region', { name: 'Check of the set-up' });
  await check.getByRole('button', { name: /right$/ }).click();
  await expect(page.getByRole('alert')).toContainText('swapped');
  await check.getByRole('button', { name: /left$/ }).click();
  await expect(check.getByRole('status')).toContainText('Check 2 of 4');
  await check.getByRole('button', { name: /right$/ }).click();
  await expect(check.getByRole('status')).toContainText('Check 3 of 4');
  await check.getByRole('button', { name: /middle$/ }).click();
  await check.getByRole('button', { name: /second$/ }).click();
  const images = askedImages(seed);
  const answers = answersOf(madeListener(12), images, 5);
  const answerFrom = async (from: number, to: number): Promise<void> => {
    for (let i = from; i < to; i++) {
      if (i > from && i % 30 === 0) await page.getByRole('button', { name: 'Go on' }).click();
      await expect(page.getByRole('status', { name: 'Images' })).toContainText(
        `Image ${i + 1} of ${images.length}`,
      );
      await expect(line(page)).toHaveAttribute('aria-disabled', 'false');
      await clickAt(page, answers[i]?.at ?? 0);
    }
  };
  await answerFrom(0, 20);
  await expect(page.getByRole('status', { name: 'Images' })).toContainText('Image 21');
  // Broken off by a reload in the middle of it.
  await page.reload();
  const run = page.getByRole('region', { name: 'Run Attic 2026' });
  await expect(run).toContainText('20 of 120 images answered');
  await run.getByRole('button', { name: 'Make a model of what is there' }).click();
  await expect(run.getByRole('alert')).toContainText('too few for a model');
  await run.getByRole('button', { name: 'Go on' }).click();
  for (const said of [/left$/, /right$/, /middle$/, /second$/]) {
    await check.getByRole('button', { name: said }).click();
  }
  await answerFrom(20, images.length);
  const model = page.getByRole('region', { name: 'Model Attic 2026' });
  await expect(model).toContainText('120 answers through loudspeakers');
  await expect(model).toContainText('about 3 % on average and about 11 % at the worst point');
  await expect(model.getByRole('status')).toHaveText('It is not in this session.');
  await model.getByRole('button', { name: 'Show it beside the others' }).click();
  await expect(model.getByRole('status')).toHaveText(/beside the others/);
  await bench.go('floor');
  const stereo = page.getByRole('region', { name: 'Stereo image' });
  await expect(stereo).toContainText('diamond: yours');
  await expect(stereo.locator('[data-yours]').first()).toBeVisible();
  await bench.go('drill');
  await model.getByRole('button', { name: 'Let it lead here' }).click();
  await bench.go('array');
  await expect(page.getByRole('combobox', { name: 'Model that leads' })).toHaveValue('own');
  await expect(stereo).toContainText('head: yours');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('combobox', { name: 'Model that leads' })).toHaveValue('consensus');
  await page.getByRole('button', { name: 'Redo' }).click();
  // It leaves only where its listener says so.
  const asks = page.getByRole('dialog', { name: 'Your own model goes with it?' });
  await bench.command('Export the session file');
  await asks.getByRole('button', { name: 'Cancel' }).click();
  await bench.command('Export the session file');
  const file = await bench.download(() => asks.getByRole('button', { name: 'Without it' }).click());
  const { settings } = JSON.parse(readFileSync(file.path, 'utf8')) as {
    settings: { model: string; own: unknown };
  };
  expect(settings).toMatchObject({ model: 'own', own: null });
  await bench.command('Export the session file');
  const whole = await bench.download(() =>
    asks.getByRole('button', { name: 'With it', exact: true }).click(),
  );
  const inside = JSON.parse(readFileSync(whole.path, 'utf8')) as { settings: { own: object } };
  expect(inside.settings.own).toMatchObject({ name: 'Attic 2026', by: 'Wenna', answers: 120 });
});
