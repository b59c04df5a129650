import { emptyShelf, HALL, Hand } from './hand';
import { expect, test } from './workbench';

test('a string quartet from nothing to a printed sheet, by mouse', async ({ bench }) => {
  const { page } = bench;
  await page.addInitScript(() => {
    window.print = () => void document.documentElement.setAttribute('data-printed', 'yes');
  });
  await emptyShelf(bench);
  const hand = new Hand(bench);
  await hand.click('New session');
  await hand.fill('Name', 'Four for supper');
  await hand.choose('Begin with', 'String quartet');
  await hand.choose('Hall', HALL);
  await hand.click('Begin');
  await expect(page.getByRole('heading', { name: 'Four for supper' })).toBeVisible();
  // The suggested pair has taken the place of the first one, and leads.
  await expect(
    page.getByRole('button', { name: /^Main pair · 17 cm · 110° · 2.40 m up/ }),
  ).toHaveCount(1);
  expect(await bench.imagePercent('Violin I')).toBeLessThan(-50);
  await hand.click(/Rig$/, 'link');
  await hand.click('Print');
  await expect(page.locator('html')).toHaveAttribute('data-printed', 'yes');
  await expect(page.getByRole('article', { name: 'Position sheet' })).toContainText('Main pair');
  expect(hand.actions).toBeLessThanOrEqual(15);
});

test('and by keys alone', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  await page.getByRole('button', { name: 'New session' }).focus();
  await hand.key('Enter');
  await expect(page.getByRole('textbox', { name: 'Name', exact: true })).toBeFocused();
  await page.keyboard.type('Quartet');
  await hand.key('Enter');
  // Letters choose in a list.
  await page.keyboard.type('String q');
  await hand.key('Enter');
  await expect(page.getByLabel('Hall', { exact: true })).toBeFocused();
  await hand.key('Enter');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await expect(bench.player('Cello')).toBeVisible();
  await hand.key('5');
  await expect(page.getByRole('main', { name: 'Rig' })).toBeFocused();
  await expect(page.getByRole('article', { name: 'Position sheet' })).toContainText('Main pair');
  expect(hand.actions).toBeLessThanOrEqual(15);
});

test('a spot for a player is placed, aimed, named, panned and delayed', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.player('Oboe 1').click();
  await page.getByRole('button', { name: 'Spot for Oboe 1' }).click();
  await expect(page.getByRole('heading', { name: 'Spot Oboe 1' })).toBeVisible();
  const before = await bench.imagePercent('Oboe 1');
  await page.getByRole('combobox', { name: 'The line shows' }).selectOption('mix');
  expect(Math.abs((await bench.imagePercent('Oboe 1')) - before)).toBeLessThanOrEqual(8);
  await bench.go('rig');
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  const row = page.getByRole('row', { name: /Spot Oboe 1/ }).first();
  await expect(row).not.toContainText('Spot Oboe 1 M');
  expect(await row.innerText()).not.toMatch(/\bcentre\b/);
});

test('what is chosen on the floor is what one works on, and looking does not rule it anew', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await page.getByText('Add', { exact: true }).click();
  await page.getByRole('button', { name: 'Outriggers', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Outriggers', exact: true })).toBeVisible();
  // The line and the floor stay with the main pair.
  await expect(page.getByRole('combobox', { name: 'The line shows' })).toHaveValue('main');
  await expect(page.getByRole('button', { name: /^Main pair .*ruled from it/ })).toHaveCount(1);
  await bench.go('array');
  await expect(page.getByRole('heading', { name: 'Outriggers', exact: true })).toBeVisible();
  await bench.go('floor');
  await page
    .getByRole('combobox', { name: 'The line shows' })
    .selectOption({ label: 'Outriggers' });
  await expect(page.getByRole('button', { name: /^Main pair .*ruled from it/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Rule the floor from it' }).click();
  await expect(page.getByRole('button', { name: /^Outriggers .*ruled from it/ })).toHaveCount(1);
});

test('the palette takes every letter and finds pages, things to add and exports', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  const first = page.getByRole('dialog').getByRole('option').first();
  for (const [typed, found] of [
    ['pan', 'Channels, in Rig'],
    ['reverb', 'The hall, in Brief'],
    ['overh', 'Overheads, in Array'],
    ['add: amb', 'Add: Ambience pair'],
    ['channels as', 'Table of channels as CSV'],
    ['performers', 'Perspective of the performers'],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(typed);
    await expect(page.getByRole('combobox', { name: 'Find or do' })).toHaveValue(typed);
    await expect(first).toContainText(found);
    await page.keyboard.press('Escape');
  }
  await page.keyboard.press('Control+k');
  await page.keyboard.type('pan');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('main', { name: 'Rig' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Channels' })).toHaveAttribute(
    'aria-current',
    'page',
  );
  // A station opens on the page that it was left on.
  await page.keyboard.press('2');
  await page.keyboard.press('5');
  await expect(page.getByRole('button', { name: 'Channels' })).toHaveAttribute(
    'aria-current',
    'page',
  );
});

test('a click outside, and one Escape, put a menu away', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  const item = page.getByRole('button', { name: 'Outriggers', exact: true });
  await page.getByText('Add', { exact: true }).click();
  await expect(item).toBeVisible();
  await page.mouse.click(500, 600);
  await expect(item).toHaveCount(0);
  await page.getByText('Add', { exact: true }).click();
  await expect(item).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(item).toHaveCount(0);
});

test('lengths are kept as they were typed, sums and questions too', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.player('Flute').click();
  await bench.type('Sounding height', '0.707');
  await expect(bench.field('Sounding height')).toHaveValue('0.707');
  await bench.field('Sounding height').blur();
  await bench.field('Sounding height').focus();
  await expect(bench.field('Sounding height')).toHaveValue('0.707 m');
  // Not even where the field cannot show all of it: what it shows is not read back.
  await bench.type('Sounding height', '0.70712');
  await expect(bench.field('Sounding height')).toHaveValue('0.71');
  await bench.field('Sounding height').blur();
  await bench.field('Sounding height').focus();
  await expect(bench.field('Sounding height')).toHaveValue('0.70712 m');
  await bench.type('Sounding height', '1.2 m - 10 in');
  await bench.field('Sounding height').blur();
  await expect(bench.field('Sounding height')).toHaveValue('0.946');
  await bench.type('Sounding height', '185');
  await expect(page.getByRole('alert')).toContainText('185 m? Type 185 cm');
  await bench.type('Sounding height', '185 cm');
  await bench.field('Sounding height').blur();
  await expect(bench.field('Sounding height')).toHaveValue('1.85');
});

test('a standard that is altered keeps its name and says what that does', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo('array');
  await page.getByLabel('Named standard').selectOption('NOS');
  await bench.type('Spacing', '15 cm');
  await expect(
    page.getByText(/^NOS, altered: 15.0 cm instead of 30.0 cm. Recording angle ±/),
  ).toBeVisible();
  await expect(page.getByLabel('Named standard')).toHaveValue('NOS');
  await bench.type('Spacing', '20 cm');
  await expect(page.getByLabel('Named standard')).toHaveValue('DIN');
});

test('sessions are found and ordered by hall and date', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await page.goto('/');
  const rows = page.getByRole('row');
  await page.getByRole('button', { name: 'Date' }).click();
  await expect(rows.nth(1)).toContainText('12 Dec 2026');
  // What has no date comes last.
  await expect(rows.last()).toContainText('New session');
  await page.getByRole('searchbox', { name: 'Find' }).fill('granary');
  await expect(rows).toHaveCount(2);
  await page.getByRole('searchbox', { name: 'Find' }).fill('nowhere');
  await expect(page.getByText('No session of that title, hall or date.')).toBeVisible();
});

test('a choir of thirty-two on risers with organ and six microphones', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  const add = async (what: string) => {
    await hand.on(page.getByText('Add', { exact: true }));
    await hand.click(what);
  };
  await hand.click('New session');
  await hand.fill('Name', 'Thirty-two and organ');
  await hand.choose('Hall', 'Church, 18 × 38 m, 14 m high');
  await hand.click('Begin');
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await hand.key('e');
  // The floor has a button of that name as well, behind the dialog.
  await hand.on(page.getByRole('dialog').getByRole('button', { name: 'Arc or rows' }));
  await hand.fill('Players', '32');
  await hand.fill('Rows', '2');
  await hand.fill('From player to player', '65 cm');
  await hand.fill('Riser for each row', '20 cm');
  await hand.click('Put it on the floor');
  await expect(bench.player('Choir 32')).toBeVisible();
  await hand.key('a');
  await expect(bench.player('Player 33')).toBeVisible();
  await hand.choose('Instrument', 'Chest organ');
  await hand.fill('Name', 'Organ');
  await hand.fill('Upstage of edge', '1.8 m');
  await add('Outriggers');
  await add('Ambience pair');
  await hand.click(/Rig$/, 'link');
  await hand.click('Channels');
  const list = page.getByRole('table', { name: 'Channel list' });
  await expect(list.getByRole('row')).toHaveCount(7);
  await hand.click('Positions');
  await expect(page.getByRole('article', { name: 'Position sheet' })).toContainText('Outriggers');
  expect(hand.actions).toBeLessThanOrEqual(40);
  await hand.click(/Floor$/, 'link');
  await expect(bench.player('Organ')).toBeVisible();
});

test('one piano at three places compared, by mouse', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  const type = async (label: string, text: string) => {
    await hand.fill(label, text);
    await hand.key('Enter');
  };
  await hand.click('New session');
  await hand.fill('Name', 'Where to stand');
  await hand.choose('Begin with', 'Grand piano');
  await hand.choose('Hall', HALL);
  await hand.click('Begin');
  await expect(bench.player('Piano')).toBeVisible();
  await hand.click(/Array$/, 'link');
  await hand.click('Compare');
  await type('Name', 'At the tail');
  await hand.click('Keep the present one as a candidate');
  await type('Name', 'Over the hammers');
  await type('Upstage of edge', '1.6');
  await type('Height', '1.9');
  await hand.click('Keep the present one as a candidate');
  await type('Name', 'In the room');
  await type('Upstage of edge', '-2');
  await type('Height', '2.4');
  const table = page.getByRole('table', { name: 'Differences' });
  for (const name of ['At the tail', 'Over the hammers', 'In the room']) {
    await expect(table.getByRole('columnheader', { name: new RegExp(name) })).toHaveCount(1);
  }
  expect(await table.getByRole('row').count()).toBeGreaterThan(4);
  await expect(page.getByRole('status', { name: 'Winner' })).toContainText(/ahead by|level/);
  expect(hand.actions).toBeLessThanOrEqual(45);
});

test('a second of a pair and a bottom microphone land where they are wanted', async ({ bench }) => {
  const { page } = bench;
  await emptyShelf(bench);
  const hand = new Hand(bench);
  await hand.click('New session');
  await hand.choose('Begin with', 'Drum kit');
  await hand.click('Begin');
  await bench.player('Kit').click();
  await hand.click('Set for it: overheads, drums');
  await page.getByRole('button', { name: /^Kit snare drum/ }).click();
  await page.getByRole('button', { name: 'One underneath, inverted' }).click();
  await expect(bench.field('Name')).toHaveValue('Kit snare drum, underneath');
  const tilt = Number((await bench.field('Tilt, up from level').inputValue()).replace('−', '-'));
  expect(tilt).toBeGreaterThan(0);
  expect(Number(await bench.field('Height').inputValue())).toBeLessThan(0.65);
  await bench.go('rig');
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  await expect(
    page.getByRole('button', { name: /^Polarity of Kit snare drum, underneath: inverted/ }),
  ).toBeVisible();
});
