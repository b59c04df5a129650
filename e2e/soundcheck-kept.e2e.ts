import { pinkNoise } from '../core/audio/signal/generate';
import { imported } from './listening';
import { file, fourInputs, opened, RATE } from './recordings';
import { expect, test, type Workbench } from './workbench';

const option = ({ page }: Workbench, letter: string) =>
  page.getByRole('article', { name: `Option ${letter}`, exact: true });

async function ownOption(bench: Workbench, name: string): Promise<void> {
  const form = bench.page.getByRole('form', { name: 'New option' });
  await form.getByLabel('Called').fill(name);
  await form.getByRole('button', { name: 'Into the diary' }).click();
}

test('what is being typed when the page goes is kept; another tab has it as well', async ({
  bench,
  page,
  context,
}) => {
  await imported(bench, fourInputs());
  await bench.go('soundcheck');
  await ownOption(bench, 'as planned');
  await option(bench, 'A').getByLabel('Heard').fill('the spots are late');
  await bench.saved();
  await page.reload();
  await expect(option(bench, 'A').getByLabel('Heard')).toHaveValue('the spots are late');
  // A second tab writes into the same diary, and both have all of it.
  const second = await context.newPage();
  await second.goto(page.url());
  await second.getByRole('form', { name: 'New option' }).getByLabel('Called').fill('from beside');
  await second.getByRole('button', { name: 'Into the diary' }).click();
  await expect(option(bench, 'B')).toContainText('from beside');
  await second.close();
});

test('what is compared can be struck, closed or gone: the rest goes on', async ({
  bench,
  page,
}) => {
  await imported(bench, fourInputs());
  await bench.go('soundcheck');
  await ownOption(bench, 'as planned');
  await bench.turnTo('Compare');
  const noise = [1, 2].map((seed) => pinkNoise(6 * RATE, seed).map((v) => v * 0.05));
  const slow = [3, 4].map((seed) => pinkNoise(6 * 44_100, seed).map((v) => v * 0.02));
  await opened(bench, [
    file({ name: 'one.wav', planes: noise }),
    // Another rate, and one that holds nothing.
    file({ name: 'other.wav', planes: slow, rate: 44_100 }),
    file({ name: 'silent.wav', planes: [new Float32Array(6 * RATE)] }),
  ]);
  for (const name of ['Option A', 'one.wav', 'other.wav']) {
    await page.getByRole('checkbox', { name: new RegExp(name) }).check();
  }
  await expect(page.getByRole('status', { name: 'Loudness' })).toContainText('0.00 LU apart');
  await expect(page.getByText(/Not one performance/)).toBeVisible();
  await page.keyboard.press('c');
  await expect(page.getByRole('status', { name: 'What is heard' })).toContainText(/^recording: C/);
  // A silent one is said, and nobody listens blind to it.
  await page.getByRole('checkbox', { name: /silent/ }).check();
  await expect(page.getByText('silent in this passage', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Listen blind' })).toBeDisabled();
  await page.getByRole('checkbox', { name: /silent/ }).uncheck();
  await bench.turnTo('Diary');
  await option(bench, 'A')
    .getByRole('button', { name: /^Strike/ })
    .click();
  await bench.turnTo('Compare');
  await expect(page.getByRole('checkbox', { name: /Option A/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Hear B' })).toBeVisible();
  await bench.go('bench');
  await page.getByRole('button', { name: 'Close one.wav' }).click();
  await bench.go('soundcheck');
  await bench.turnTo('Compare');
  await expect(page.getByRole('button', { name: 'Hear A' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hear B' })).toHaveCount(0);
  // A damaged file is refused by name, and what is there stays.
  const whole = file({ name: 'broken.wav', planes: noise });
  await opened(bench, [{ ...whole, buffer: whole.buffer.subarray(0, 20) }]);
  await expect(page.getByText(/broken\.wav was not opened/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hear A' })).toBeVisible();
});

test('without a sound output the page says so, and everything else works', async ({
  bench,
  page,
}) => {
  await page.addInitScript(() => {
    Object.assign(window, { AudioContext: undefined, webkitAudioContext: undefined });
  });
  await imported(bench, fourInputs());
  await bench.go('soundcheck');
  await ownOption(bench, 'as planned');
  await bench.turnTo('Compare');
  await page.getByRole('checkbox', { name: /Option A/ }).check();
  await page.getByRole('button', { name: 'Hear A' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'No sound' })).toBeVisible();
  await page.getByText(/What is heard of/).click();
  await page.getByRole('form', { name: 'What is heard' }).getByLabel('width').selectOption('2');
  await page.getByRole('form', { name: 'What is heard' }).getByLabel('Who says it').fill('Ada');
  await page
    .getByRole('form', { name: 'What is heard' })
    .getByRole('button', { name: 'Into the diary' })
    .click();
  await expect(page.getByText('Ada of the whole: width far too much')).toBeVisible();
  await bench.turnTo('Diary');
  await expect(option(bench, 'A')).toContainText('Ada of the whole: width far too much');
  await bench.turnTo('Report');
  await expect(page.getByRole('table', { name: /^What was heard/ })).toContainText(
    'width far too much',
  );
});

test('a candidate and what was really built become options', async ({ bench, page }) => {
  const session = fourInputs();
  const [main] = session.arrays;
  if (!main) throw new Error('no array');
  await imported(bench, {
    ...session,
    candidates: [{ id: 'k', name: 'Lower', array: { ...main, id: 'k-a', z: 2 }, setUp: [] }],
    rig: { ...session.rig, asBuilt: [{ arrayId: main.id, field: 'z', value: main.z + 0.25 }] },
  });
  await bench.go('soundcheck');
  await ownOption(bench, 'as planned');
  const form = page.getByRole('form', { name: 'New option' });
  await form.getByLabel('From').selectOption({ label: 'as it was built' });
  await expect(form.getByRole('status')).toContainText('height');
  await ownOption(bench, 'as built');
  await expect(option(bench, 'B').getByRole('list', { name: 'What changed' })).toContainText(
    /height .* → /,
  );
  await form.getByLabel('From').selectOption({ label: 'candidate: Lower' });
  await ownOption(bench, 'the lower one');
  await expect(option(bench, 'C').getByRole('list', { name: 'What changed' })).toContainText(
    '→ 2.00 m',
  );
  // What was noted since stays; adopted it is the plan.
  await bench.go('brief');
  await bench.turnTo('The job');
  await page.getByLabel('Notes').fill('said later');
  await page.getByLabel('Notes').blur();
  await bench.go('soundcheck');
  await option(bench, 'C')
    .getByRole('button', { name: /^Adopt as the plan/ })
    .click();
  await expect(page.getByText(/^The plan is Option C/)).toBeVisible();
  await bench.go('brief');
  await expect(page.getByLabel('Notes')).toHaveValue('said later');
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone/)).toBeVisible();
});
