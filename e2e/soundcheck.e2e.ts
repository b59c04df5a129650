import { readFileSync } from 'node:fs';
import { pinkNoise } from '../core/audio/signal/generate';
import { demoSession } from '../core/demo';
import { imported } from './listening';
import { file, fourInputs, opened } from './recordings';
import { answerAll, anotherOption, beginBlind, firstOption, listen, option } from './soundcheck';
import { expect, test } from './workbench';

test('two options are made, heard, chosen blind by three, kept, adopted and reported', async ({
  bench,
  page,
}) => {
  await firstOption(bench);
  await anotherOption(bench, '45 cm', 'wide apart');
  const b = option(page, 'B');
  await expect(b.getByRole('list', { name: 'What changed' })).toContainText(
    /^Main pair: spacing .* → 45\.0 cm$/,
  );
  await expect(b).toContainText(/Expected: .*% further (left|right)/);
  // What is frozen with it is the change of what the line says.
  await b.getByText('Player by player').click();
  const row = b.getByRole('table', { name: 'What is expected' }).getByRole('row', {
    name: /^Flute /,
  });
  expect(await row.getByRole('cell').first().innerText()).toBe(await bench.imageText('Flute'));
  await b.getByRole('button', { name: 'Compare A and B' }).click();
  await expect(listen(page)).toContainText(/A, |Option A: the plan/);
  await expect(page.getByRole('status', { name: 'Loudness' })).toContainText('0.00 LU apart');
  await expect(page.getByText('One performance: like for like.')).toBeVisible();

  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Hear B' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await beginBlind(page, 'Ada', '6');
  await answerAll(page, 6);
  // Each is blind to the others: nothing of the first is said.
  await expect(page.getByRole('region', { name: 'Comparisons' })).toContainText('Listened: Ada');
  await expect(page.getByRole('region', { name: 'Comparisons' })).not.toContainText(/p =|rather/);
  for (const by of ['Bo', 'Cy']) {
    await beginBlind(page, by, null);
    await answerAll(page, 6);
  }
  await page.getByRole('button', { name: /^Nobody else listens/ }).click();
  const came = page.getByRole('list', { name: 'What came of it' });
  await expect(came.getByRole('listitem').first()).toContainText(/^3 listeners, a voice each/);
  await expect(came).toContainText(/Ada, by 6 trials of a pair/);
  await expect(came).toContainText(/p [=<]/);

  await bench.turnTo('Diary');
  await b.getByLabel('State of option B').selectOption('kept');
  await b.getByLabel('Reason').fill('more air');
  await b.getByLabel('Reason').blur();
  // Adopting the other one changes the plan, and is one step that can be taken back.
  await option(page, 'A')
    .getByRole('button', { name: /^Adopt as the plan/ })
    .click();
  await expect(page.getByText(/^The plan is Option A/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await bench.go('array');
  await expect(bench.field('Spacing')).toHaveValue(/^45/);
  await bench.go('soundcheck');
  await bench.turnTo('Report');
  const report = page.getByRole('article', { name: 'Report' });
  await expect(report).toContainText('Kept: Option B: wide apart, because more air.');
  await expect(report).toContainText('3 listeners, a voice each');
  const csv = await bench.download(() => page.getByRole('button', { name: 'CSV' }).click());
  expect(readFileSync(csv.path, 'utf8')).toMatch(/option, kept/);
  const json = await bench.download(() => page.getByRole('button', { name: 'JSON' }).click());
  const rows = JSON.parse(readFileSync(json.path, 'utf8')) as { What: string; By: string }[];
  expect(rows.filter(({ What }) => What === 'vote').map(({ By }) => By)).toEqual([
    ...['Ada', 'Bo', 'Cy'],
  ]);
  const pdf = await bench.download(() => page.getByRole('button', { name: 'PDF' }).click());
  expect(pdf.text.slice(0, 5)).toBe('%PDF-');
  // Everything of it is in the session: it is there again.
  await bench.saved();
  await page.reload();
  await expect(report).toContainText('because more air');
});

test('a blind test tells nothing, broken off it has no key, and a reload in the middle loses nothing', async ({
  bench,
  page,
}) => {
  const asked: string[] = [];
  await firstOption(bench);
  await anotherOption(bench, '60 cm', 'very wide apart');
  await option(page, 'B').getByRole('button', { name: 'Compare A and B' }).click();
  await expect(listen(page)).toBeVisible();
  page.on('request', (request) => asked.push(request.url()));
  await beginBlind(page, 'Ada', '8');
  /** Everything that anybody or anything could read, but for which letter was pressed. */
  const told = async (): Promise<string> => {
    const names = await page.evaluate(async () => [
      ...Object.keys(localStorage),
      ...Object.keys(sessionStorage),
      ...(await indexedDB.databases()).map(({ name }) => name ?? ''),
      ...(await caches.keys()),
      document.title,
      location.href,
    ]);
    const body = await page.locator('body').ariaSnapshot();
    const html = await page.evaluate(() => document.body.outerHTML);
    expect(html).not.toMatch(/very wide|Option [AB]|the plan, B|LUFS| dB to one/);
    return (
      [body, ...names]
        .join('\n')
        .replace(/Trial \d/, 'Trial')
        .replace(/ \[pressed\]/g, '')
        .replace(/What is heard of [AB]/g, 'What is heard of it')
        // Whether it is just being stored, by the session's own name.
        .replace(/status "Save state".*/g, 'status "Save state"')
        .replace(/^rotunda-(summary|left)[^\n]*\n/gm, '')
    );
  };
  // In every trial, with either letter, the page is the same.
  const seen = new Set<string>();
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('b');
    await expect(page.getByRole('button', { name: 'A is better' })).toBeEnabled();
    // The second in which something is heard for the first time says that it is being read.
    await expect(page.getByRole('status', { name: 'What is heard' })).not.toContainText('read');
    seen.add(await told());
    await page.keyboard.press('a');
    await expect(page.getByRole('status', { name: 'What is heard' })).not.toContainText('read');
    seen.add(await told());
    await page.getByRole('button', { name: 'No difference' }).click();
  }
  const [first = '', ...others] = [...seen];
  const lines = first.split('\n');
  expect(others.map((text) => text.split('\n').filter((line) => !lines.includes(line)))).toEqual(
    [],
  );
  expect(asked.filter((url) => !url.startsWith('blob:') && !/assets|icon\.svg/.test(url))).toEqual(
    [],
  );
  // Keys that would tell do nothing.
  for (const key of ['Shift+B', 'Shift+R']) await page.keyboard.press(key);
  await expect(page.getByRole('button', { name: 'room' })).toHaveCount(0);
  await expect(page.getByRole('status', { name: 'What is heard' })).toHaveText(
    'for two loudspeakers',
  );

  await bench.saved();
  await page.reload();
  await expect(page.getByRole('main', { name: 'Soundcheck' })).toBeVisible();
  const comparisons = page.getByRole('region', { name: 'Comparisons' });
  await expect(comparisons).toContainText('broken off: Ada after 3 of 8');
  await expect(comparisons).not.toContainText(/p =|rather/);
  // Nor does a file that is taken along have its key.
  await bench.turnTo('Report');
  const json = await bench.download(() => page.getByRole('button', { name: 'JSON' }).click());
  expect(readFileSync(json.path, 'utf8')).not.toContain('vote');
});

test('two changes in one step are said, and the step between is made', async ({ bench, page }) => {
  await firstOption(bench);
  await bench.go('array');
  await bench.turnTo('Pair geometry');
  await bench.type('Included angle', '70');
  await anotherOption(bench, '30 cm', 'both at once');
  await expect(option(page, 'B')).toContainText('Two changes in one step');
  await option(page, 'B').getByRole('button', { name: 'Make the step between' }).click();
  const c = option(page, 'C');
  await expect(c).toContainText('between A and B');
  // It is held against the one that both were made from: one thing is other.
  await expect(c).toContainText('Against option A');
  await expect(c.getByRole('list', { name: 'What changed' }).getByRole('listitem')).toHaveCount(1);
  await expect(c).not.toContainText('in one step');
  // A struck option keeps its letter: the next one is D.
  await c.getByRole('button', { name: /^Strike/ }).click();
  await expect(page.getByRole('heading', { name: 'Option D' })).toBeVisible();
});

test('from a symptom to a move that is heard beside what is up, by keys alone', async ({
  bench,
  page,
}) => {
  await bench.openDemo('soundcheck');
  await bench.turnTo('From a symptom');
  const heard = page.getByRole('main').getByLabel('What is heard');
  await heard.focus();
  await heard.selectOption({ label: 'Not spacious, no air around' });
  const moves = page.getByRole('list', { name: 'Moves' }).getByRole('listitem');
  await expect(moves.first()).toBeVisible();
  await expect(page.getByRole('status', { name: 'In figures' })).toContainText(
    'correlation in the bass',
  );
  const label = (await moves.first().innerText()).split('\n')[0] ?? '';
  await moves.first().getByRole('button').focus();
  await page.keyboard.press('Enter');
  await expect(listen(page)).toBeVisible({ timeout: 90_000 });
  await bench.turnTo('Diary');
  await expect(option(page, 'A')).toContainText('as it stands');
  await expect(option(page, 'B').getByLabel('Why')).toHaveValue('Not spacious, no air around');
  expect(label.length).toBeGreaterThan(5);
  // Nothing of the plan itself was changed.
  await expect(page.getByRole('button', { name: /^Undo/ }).first()).toBeDisabled();
});

test('takes: slate, states, edits, files, and one that is damaged', async ({ bench, page }) => {
  await imported(bench, fourInputs());
  await bench.go('soundcheck');
  await bench.turnTo('Takes');
  const next = page.getByRole('form', { name: 'Next take' });
  await next.getByLabel('What is played').fill('Serenade 2');
  await expect(next.getByRole('status', { name: 'Slate' })).toHaveText('“Serenade two, take one.”');
  await next.getByRole('button', { name: 'Enter it' }).click();
  await bench.go('brief');
  await bench.turnTo('The hall');
  await bench.type('Temperature', '24');
  await bench.go('soundcheck');
  await page
    .getByRole('form', { name: 'Next take' })
    .getByRole('button', { name: 'Enter it' })
    .click();
  const second = page.getByRole('listitem', { name: 'Take 2' });
  await expect(second).toContainText(/→ 24 °C/);
  await second.getByRole('button', { name: /^Take 2/ }).click();
  await second.getByLabel('Comment').fill('a chair');
  await second.getByLabel('Comment').blur();
  await second.getByLabel('Comment').fill('a chair creaked');
  await second.getByLabel('Comment').blur();
  await second.getByText('Said anew 2 times').click();
  await expect(second.getByRole('list', { name: 'What was said before' })).toContainText('a chair');

  await bench.go('bench');
  const noise = [1, 2].map((seed) => pinkNoise(4 * 48_000, seed).map((v) => v * 0.05));
  const whole = file({ name: 'whole.wav', planes: noise });
  const damaged = { ...whole, name: 'damaged.wav', buffer: whole.buffer.subarray(0, 30) };
  await opened(bench, [whole, damaged]);
  await expect(page.getByText(/damaged\.wav was not opened/)).toBeVisible();
  await bench.go('soundcheck');
  await bench.turnTo('Takes');
  await page
    .getByRole('listitem', { name: 'Take 2' })
    .getByRole('button', { name: /^Take 2/ })
    .click();
  await page.getByRole('button', { name: 'whole.wav is of it' }).click();
  await expect(page.getByRole('listitem', { name: 'Take 2' })).toContainText('whole.wav');
  // It is heard under its number; of unlike performances that is said.
  await bench.turnTo('Compare');
  await page.getByRole('checkbox', { name: /Take 2/ }).check();
  await expect(listen(page)).toContainText('Take 2');
});

test('an empty station says what to do first; bad figures name what is allowed', async ({
  bench,
  page,
}) => {
  await imported(bench, {
    ...demoSession('2026-01-01T00:00:00Z'),
    id: 'own-empty',
    sources: [],
    arrays: [],
  });
  await bench.go('soundcheck');
  await expect(page.getByText('Which of these, and why?')).toBeVisible();
  await expect(page.getByText(/no players yet/)).toBeVisible();
  for (const [name, words] of [
    ['Takes', 'No takes yet'],
    ['Compare', 'Nothing to compare yet'],
    ['From a symptom', 'add some on the Floor first'],
    ['Blend', 'No array is in use'],
    ['Sweep', 'Record while somebody moves one microphone'],
    ['Report', 'Nothing to report yet'],
  ] as const) {
    await bench.turnTo(name);
    await expect(page.getByText(words)).toBeVisible();
  }
  await firstOption(bench);
  await bench.turnTo('Compare');
  await page.getByRole('checkbox', { name: /Option A/ }).check();
  await expect(listen(page)).toBeVisible();
  const from = page.getByLabel('Passage from');
  for (const bad of ['', 'soon', '-1', '0:29.5', '0:31']) {
    await from.fill(bad);
    await from.press('Enter');
    await expect(page.getByRole('alert')).toContainText(/allowed: two times from 0:00/);
  }
  await from.fill('0:05');
  await from.press('Enter');
  await expect(page.getByRole('alert')).toHaveCount(0);
});
