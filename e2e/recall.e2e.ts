import { expect, test, Workbench } from './workbench';
import { sessionInside } from '../paper/attached-session';
import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from '@playwright/test';

const mark = (page: Page, name: string) => page.getByRole('listitem', { name, exact: true });
const offered = (page: Page) => page.getByRole('region', { name: 'What worked here before' });

const PLAYERS = ['Flute', 'Oboe 1', 'Clarinet 1', 'Horn 1', 'Horn 2', 'Bassoon 2'];

/** A mark of the pair as it is planned. */
async function marked(bench: Workbench, name: string, rating: string): Promise<void> {
  const { page } = bench;
  await bench.go('recall');
  await bench.turnTo('Marks');
  const form = page.getByRole('form', { name: 'New mark' });
  await form.getByLabel('Called').fill(name);
  await form.getByLabel('How good it was').selectOption(rating);
  await form.getByLabel('By', { exact: true }).fill('Ada');
  await form.getByLabel('Said of it').fill('Oboes blend, horns behave.');
  await form.getByRole('button', { name: 'Make the mark' }).click();
  await expect(mark(page, name)).toBeVisible();
}

async function anotherSession(bench: Workbench, venue: string): Promise<void> {
  const { page } = bench;
  await bench.saved();
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await bench.briefPage('The job');
  await page.getByRole('textbox', { name: 'Venue' }).fill(venue);
}

/** Gives a file to whatever the button opens. */
async function give(page: Page, button: string, path: string): Promise<void> {
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: button }).click();
  await (await choosing).setFiles(path);
}

test('a mark is made, offered in the next session of the hall, put up, and on its sheet', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await marked(bench, 'Warm and wide', '4');
  await expect(mark(page, 'Warm and wide')).toContainText('5.25 m from A, 5.25 m from B');
  const places = await Promise.all(PLAYERS.map((name) => bench.imagePercent(name)));

  await anotherSession(bench, 'osier granary upper floor');
  // First the hall itself, which this session knows only by its name.
  await expect(offered(page)).toContainText('14.00 m × 22.00 m × 5.80 m, 1.5 s');
  await expect(offered(page)).toContainText('stand otherwise to each other than then');
  await expect(page.getByRole('button', { name: 'Put up Warm and wide' })).toBeDisabled();
  await page.getByRole('button', { name: 'Take the hall' }).click();
  await expect(offered(page)).toContainText(
    'Last here: today, 4 of 5, stands 5.25 m from A, 5.25 m from B (downstage), 2.70 m up.',
  );
  // The same on the page that recommends, and first thing in Recall.
  await bench.go('array');
  await bench.turnTo('Recommend');
  await expect(offered(page)).toContainText('Warm and wide');
  await bench.go('recall');
  await expect(page.getByRole('searchbox', { name: 'Find' })).toBeFocused();
  await offered(page).getByRole('button', { name: 'Put up Warm and wide' }).press('Enter');
  await expect(page.getByText('Main pair stands at the mark “Warm and wide”.')).toBeVisible();
  // The untouched pair of the new session made room for it.
  await bench.go('rig');
  const sheet = page.getByRole('table', { name: 'Positions of Main pair' });
  await expect(sheet.getByRole('row').nth(1)).toContainText('5.19 m');
  const pdf = await bench.download(() => page.getByRole('button', { name: 'PDF' }).click());
  expect(pdf.text).toMatch(/^%PDF-/);
  await page.keyboard.press('Control+z');
  await expect(sheet.getByRole('row').nth(1)).not.toContainText('5.19 m');
  await page.keyboard.press('Control+Shift+z');

  // With the players of then the figures are those of then.
  await page.goto('/demo');
  await bench.go('recall');
  await bench.turnTo('Kept pieces');
  await page.getByRole('combobox', { name: 'What', exact: true }).selectOption('ensemble');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await bench.saved();
  await page.goto('/');
  await page.getByRole('link', { name: /^New session/ }).click();
  await bench.go('recall');
  await bench.turnTo('Kept pieces');
  await page.getByRole('button', { name: /^Put it in.*9 players/ }).click();
  await expect(page.getByText('9 players came.')).toBeVisible();
  expect(await Promise.all(PLAYERS.map((name) => bench.imagePercent(name)))).toEqual(places);
});

test('everything is found as one types, narrowed, and opens where it is', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await marked(bench, 'By the pillar', '2');
  await marked(bench, 'Near the door', '5');
  await bench.turnTo('Find');
  const find = page.getByRole('searchbox', { name: 'Find' });
  const found = page.getByRole('list', { name: 'Found' }).getByRole('listitem');
  await expect(page.getByRole('list', { name: 'Halls' }).getByRole('listitem')).toHaveCount(3);
  // Two letters are wrong.
  await find.fill('pilar');
  await expect(found).toHaveCount(1);
  await expect(found.first()).toContainText('By the pillar');
  await expect(found.first()).toContainText('this session');
  await find.fill('door pillar');
  await expect(page.getByRole('status', { name: 'How many' })).toContainText('Nothing has all');
  await find.press('Escape');
  await expect(find).toHaveValue('');
  await page.getByRole('combobox', { name: 'What', exact: true }).selectOption('mark');
  await page.getByLabel('Rated at least').selectOption('3');
  await expect(found).toHaveCount(1);
  await expect(found.first()).toContainText('Near the door');
  await page.locator('input[type=date]').first().fill('2100-01-01');
  await expect(page.getByRole('status', { name: 'How many' })).toContainText('Nothing');
  await page.getByRole('button', { name: 'Show the halls' }).click();
  // Enter opens the best: a mark is looked at on its plan.
  await find.fill('near dooor');
  await expect(found).toHaveCount(1);
  await find.press('Enter');
  await expect(mark(page, 'Near the door')).toHaveAttribute('aria-current', 'true');
  await bench.turnTo('Find');
  // By keys alone, into another session.
  await find.fill('harpsicord viol');
  await expect(found.filter({ hasText: 'ensemble' })).toBeVisible();
  const other = found.filter({ hasText: 'ensemble' }).getByRole('button');
  await other.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(page.getByText('Harpsichord and viol, three suites').first()).toBeVisible();
  // A hall of the drawer is what one narrows to.
  await bench.go('recall');
  await page.getByRole('list', { name: 'Halls' }).getByText('Osier Granary, upper floor').click();
  await expect(page.getByRole('combobox', { name: 'Hall', exact: true })).toHaveValue(
    'Osier Granary, upper floor',
  );
  await expect(found.filter({ hasText: 'By the pillar' })).toHaveCount(1);
});

test('a mark by two tapes, with a photograph; what is said is kept over a reload, struck, and exported', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await bench.go('recall');
  await bench.turnTo('Marks');
  const form = page.getByRole('form', { name: 'New mark' });
  await form.getByRole('combobox', { name: 'Of', exact: true }).selectOption('hand');
  await form.getByLabel('Called').fill('Over the horns');
  await form.getByRole('button', { name: 'Make the mark' }).click();
  await expect(page.getByText('Type both tapes and the height first.')).toBeVisible();
  await bench.type('From A', '1 m');
  await bench.type('From B', '1 m');
  await expect(form.getByRole('alert')).toContainText('These two tapes do not meet');
  await bench.type('From A', '5 m');
  await bench.type('From B', '6.5 m');
  await form.getByLabel('Of their line').selectOption('upstage');
  await bench.type('Height', '3.2 m');
  await expect(form.getByRole('status', { name: 'Where it is' })).toHaveText(
    /^5\.00 m from A, 6\.50 m from B \(upstage\), 3\.20 m up/,
  );
  await form.getByLabel('Photographs').setInputFiles({
    name: 'stand.png',
    mimeType: 'image/png',
    buffer: await page.screenshot(),
  });
  await form.getByRole('button', { name: 'Make the mark' }).click();
  const own = mark(page, 'Over the horns');
  await expect(own.getByRole('img', { name: 'Photograph of Over the horns' })).toBeVisible();
  await own.getByLabel('Rating').selectOption('3');
  await own.getByLabel('Tags').fill('high, horns');
  await own.getByLabel('Tags').blur();
  await bench.saved();
  await page.reload();
  await expect(own.getByLabel('Tags')).toHaveValue('high, horns');
  await expect(own.getByRole('img', { name: 'Photograph of Over the horns' })).toBeVisible();
  await expect(own).toContainText('3 of 5');
  const csv = await bench.download(() => page.getByRole('button', { name: 'CSV' }).click());
  expect(csv.text).toMatch(/Over the horns.*5\.00 m from A, 6\.50 m from B/);
  // Only its place is known: an array that is there goes to it.
  await own.getByRole('button', { name: 'Put up Over the horns' }).click();
  await expect(page.getByText('Main pair stands at the mark “Over the horns”.')).toBeVisible();
  await own.getByRole('button', { name: /^Strike/ }).click();
  await expect(own).toHaveCount(0);
});

test('listening spots of two are averaged where they agree, shown apart where not, and the best is named', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await bench.go('recall');
  await bench.turnTo('Listening spots');
  const best = page.getByRole('status', { name: 'Best spot' });
  await expect(best).toHaveText('Nobody has rated a spot yet.');
  const form = page.getByRole('form', { name: 'Rate a spot' });
  await expect(form.getByRole('button', { name: 'Enter it' })).toBeDisabled();
  const rate = async (name: string, by: string, rating: string, x: string): Promise<void> => {
    await bench.type('Right of datum', x);
    await form.getByLabel('Called').fill(name);
    await form.getByLabel('By', { exact: true }).fill(by);
    await form.getByLabel('How good it is').selectOption(rating);
    await form.getByRole('button', { name: 'Enter it' }).click();
    await expect(form.getByLabel('How good it is')).toHaveValue('');
  };
  await rate('Row 3', 'Ada', '4', '0.00');
  await rate('Row 3', 'Tobin', '5', '0.20');
  await rate('Aisle', 'Ada', '1', '3.00');
  await rate('Aisle', 'Tobin', '5', '3.00');
  await expect(best).toHaveText(
    'Best: Row 3, 4.5 of 5; 2 listeners agree. The listeners do not agree on “Aisle”.',
  );
  const table = page.getByRole('table', { name: 'Spots' });
  await expect(table.getByRole('row', { name: /^Aisle/ })).toContainText('they do not agree');
  const csv = await bench.download(() => page.getByRole('button', { name: 'CSV' }).click());
  expect(csv.text.trim().split('\n')).toHaveLength(5);
  const svg = await bench.download(() => page.getByRole('button', { name: 'SVG' }).click());
  expect(svg.text).toContain('4.5');
  const pdf = await bench.download(() => page.getByRole('button', { name: 'PDF' }).click());
  expect(pdf.text).toMatch(/^%PDF-/);
  // By a click on the plan.
  const plan = page.getByRole('img', { name: /^Where it was listened from/ });
  const box = await plan.boundingBox();
  if (!box) throw new Error('no plan');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height - 30);
  await expect(bench.field('Upstage')).toHaveValue(/^−(1[0-4])\./);
  await page.getByRole('button', { name: 'Strike Aisle' }).click();
  await expect(table.getByRole('row', { name: /^Aisle/ })).toHaveCount(0);
});

test('pieces go from one session into another, as copies, in one step of undo', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await marked(bench, 'Warm and wide', '4');
  await bench.turnTo('Kept pieces');
  for (const kind of ['hall', 'rig', 'kit', 'blend', 'seating']) {
    await page.getByRole('combobox', { name: 'What', exact: true }).selectOption(kind);
    await page.getByLabel('Called', { exact: true }).fill(`My ${kind}`);
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByRole('row', { name: new RegExp(`My ${kind}`) })).toBeVisible();
  }
  await anotherSession(bench, '');
  await bench.go('recall');
  await bench.turnTo('Kept pieces');
  await page.getByRole('button', { name: /^Put it in.*My hall/ }).click();
  await expect(
    page.getByText('The hall is Osier Granary, upper floor now, with 1 mark.'),
  ).toBeVisible();
  await bench.turnTo('Marks');
  await expect(mark(page, 'Warm and wide')).toHaveCount(1);
  await bench.turnTo('Kept pieces');
  await page.getByRole('button', { name: /^Put it in.*My rig/ }).click();
  await expect(page.getByText('1 array came, first in the list.')).toBeVisible();
  await page.getByRole('button', { name: /^Put it in.*My seating/ }).click();
  await expect(page.getByText(/0 players have a place of the seating\. 9 places/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: /)).toBeVisible();
  await page.getByRole('button', { name: 'Remove My kit' }).click();
  await expect(page.getByRole('row', { name: /My kit/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Keep it after all' }).click();
  await expect(page.getByRole('row', { name: /My kit/ })).toBeVisible();
});

test('what is missing is named with a way to it; the sheet brings its session back exactly', async ({
  bench,
  page,
  browser,
  baseURL,
}) => {
  await bench.openDemo();
  await bench.go('recall');
  await bench.turnTo('What is missing');
  const said = page.getByRole('status', { name: 'Complete' });
  await expect(said).toHaveText(/^It can be put up again; \d things would be good to know/);
  await page.getByRole('button', { name: /^Give it.*What was really set/ }).click();
  await expect(page.getByRole('main', { name: 'Rig' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'As built', exact: true })).toHaveAttribute(
    'aria-current',
    'page',
  );
  await bench.go('recall');
  const images = await bench.allImages();
  const pdf = await bench.download(() =>
    page.getByRole('button', { name: 'Sheet as PDF, with the session in it' }).click(),
  );
  const inside = await sessionInside(new Uint8Array(readFileSync(pdf.path)));
  expect(inside.ok).toBe(true);

  const context = await browser.newContext({ baseURL: baseURL ?? '' });
  const empty = new Workbench(await context.newPage());
  await empty.page.goto('/');
  await give(empty.page, 'Import a file', pdf.path);
  await expect(empty.page.getByRole('main', { name: 'Floor' })).toBeVisible();
  expect(await empty.allImages()).toBe(images);
  const again = await empty.download(() => empty.command('Position sheet as PDF'));
  expect(await sessionInside(new Uint8Array(readFileSync(again.path)))).toEqual(inside);
  await context.close();
});

test('a named version is compared figure by figure, with what each change does, and restored', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await bench.go('recall');
  await bench.turnTo('Difference');
  const images = await bench.allImages();
  const form = page.getByRole('textbox', { name: 'Name of the version' });
  await form.fill('As sent to the hall');
  await form.press('Enter');
  await expect(
    page.getByText('The plan as it stands is kept as “As sent to the hall”.'),
  ).toBeVisible();
  const said = page.getByRole('status', { name: 'Difference' });
  await expect(said).toHaveText('Nothing is other: they are one plan.');
  await bench.go('array');
  await bench.turnTo('Pair geometry');
  await bench.type('Spacing', '40 cm');
  await bench.type('Height', '3.5 m');
  await bench.go('recall');
  await expect(said).toHaveText('2 things are other; 2 can be heard.');
  const table = page.getByRole('table', { name: 'What changed' });
  await expect(table.getByRole('row', { name: /spacing 17\.0 cm → 40\.0 cm/ })).toContainText(
    /% further (left|right)/,
  );
  await expect(table.getByRole('row', { name: /^All of it together/ })).toBeVisible();
  const csv = await bench.download(() => page.getByRole('button', { name: 'CSV' }).click());
  expect(csv.text).toContain('17.0 cm');
  await page.getByRole('button', { name: 'The other way round' }).click();
  await expect(table.getByRole('row', { name: /spacing 40\.0 cm → 17\.0 cm/ })).toBeVisible();
  await page.getByRole('button', { name: /^Restore/ }).click();
  await expect(page.getByText('The plan is “As sent to the hall” again.')).toBeVisible();
  expect(await bench.allImages()).toBe(images);
  await expect(said).toHaveText('Nothing is other: they are one plan.');
  // Another session is held against this one by names.
  await page
    .getByRole('combobox', { name: 'From', exact: true })
    .selectOption({ label: 'Harpsichord and viol, three suites' });
  await expect(said).toHaveText(/^\d+ things are other; \d+ can be heard\.$/);
  await expect(table.getByRole('row', { name: /and 7 others: added/ })).toBeVisible();
});

test('everything out, the browser wiped, everything in: equal byte for byte; and one is reminded', async ({
  bench,
  page,
  browser,
  baseURL,
}) => {
  await bench.openDemo('soundcheck');
  await page.getByRole('button', { name: 'Simulate this plan' }).click();
  await expect(page.getByText('Simulated, option A')).toBeVisible();
  await marked(bench, 'Warm and wide', '4');
  await bench.turnTo('Difference');
  await page.getByRole('textbox', { name: 'Name of the version' }).fill('First');
  await page.getByRole('button', { name: 'Keep the version' }).click();
  await bench.turnTo('Kept pieces');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('row', { name: /hall/ }).nth(0)).toBeVisible();
  await bench.turnTo('Copies');
  const kept = page.getByRole('status', { name: 'Kept outside' });
  await expect(kept).toHaveText('Nothing has been kept outside this browser yet.');
  const out = await bench.download(() =>
    page.getByRole('button', { name: 'Copy of everything' }).click(),
  );
  await expect(kept).toHaveText('Everything was kept outside this browser today.');

  const context = await browser.newContext({ baseURL: baseURL ?? '' });
  const empty = new Workbench(await context.newPage());
  await empty.openDemo('recall');
  // Another machine, with the same demo sessions: they are left, and the rest comes.
  await empty.turnTo('Copies');
  await empty.page.goto('/');
  for (let left = 3; left > 0; left--) {
    await empty.page
      .getByRole('button', { name: /^Delete/ })
      .first()
      .click();
  }
  await expect(empty.page.getByText('No sessions yet')).toBeVisible();
  await give(empty.page, 'Import a file', out.path);
  await expect(
    empty.page.getByText(/^3 sessions came in; 1 piece of the library\.$/),
  ).toBeVisible();
  const back = await empty.download(() =>
    empty.page.getByRole('button', { name: 'Copy of everything' }).click(),
  );
  const [before, after] = [out.path, back.path].map((path) => unzipSync(readFileSync(path)));
  expect(Object.keys(after ?? {}).sort()).toEqual(Object.keys(before ?? {}).sort());
  for (const [name, content] of Object.entries(before ?? {})) {
    expect(Buffer.from(after?.[name] ?? []).equals(Buffer.from(content)), name).toBe(true);
  }
  await context.close();

  // A fortnight later, after something changed.
  await page.evaluate(() => {
    const outside = JSON.parse(localStorage.getItem('rotunda-outside') ?? '{}') as object;
    const lastAt = new Date(Date.now() - 15 * 86_400_000).toISOString();
    localStorage.setItem('rotunda-outside', JSON.stringify({ ...outside, lastAt }));
  });
  await page.reload();
  const reminder = page.getByRole('note', { name: 'Reminder' });
  await expect(reminder).toContainText(
    'Nothing was kept outside this browser for 15 days; 3 sessions have changed',
  );
  await page.goto('/');
  await expect(reminder).toBeVisible();
  await reminder.getByRole('button', { name: 'Tomorrow' }).click();
  await expect(reminder).toHaveCount(0);
});
