import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { unzipSync, strFromU8 } from 'fflate';
import type { ArrayPlacement } from '../core/arrays';
import { farField, halfAngle, prepareArray, modelById } from '../core/localisation';
import { speedOfSound } from '../core/units';
import { expect, test, type Workbench } from './workbench';

async function openRig(bench: Workbench, name: string): Promise<void> {
  await bench.openDemo('rig');
  await bench.turnTo(name, 'Pages of the rig');
}

async function goToChannels(bench: Workbench): Promise<void> {
  await bench.go('rig');
  await bench.turnTo('Channels', 'Pages of the rig');
}

async function openChecks(bench: Workbench, name: string): Promise<void> {
  await bench.go('checks');
  await bench.turnTo(name, 'Pages of the checks');
}

test('phantom power on a ribbon blocks, and the fix lifts it', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo('array');
  await page.getByLabel('Technique', { exact: true }).selectOption('Mid-side');
  await bench.go('rig');
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  await page.getByLabel('Microphone of Main pair S+').selectOption('Passive ribbon');
  const row = page.getByRole('row', { name: /Main pair S\+/ });
  await expect(row).toContainText('off');
  await page.getByLabel('Phantom power of Main pair').selectOption('on');
  await expect(row).toContainText('on: never on this ribbon');
  await bench.go('checks');
  const first = bench.findings().first();
  await expect(first).toContainText('Stop');
  await expect(first).toContainText('Passive ribbon must not have it');
  // The first is chosen without a click.
  await bench.chosenFinding
    .getByRole('button', { name: 'Phantom as each microphone needs it' })
    .click();
  await expect(bench.findings('must not have it')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(bench.findings('must not have it')).toHaveCount(1);
});

test('a spot that leads is found, delayed and panned in one step, and undone in one', async ({
  bench,
}) => {
  const { page } = bench;
  await page.goto('/demo');
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('link', { name: 'Reedmace Voices, evensong pieces' }).click();
  await openChecks(bench, 'Arrivals');
  await page.getByLabel('Player', { exact: true }).selectOption('Chest organ');
  const arrivals = page.getByRole('table', { name: 'Arrivals' });
  await expect(arrivals.getByRole('row').nth(1)).toContainText('Organ spot');
  const said = await page.getByText(/^Organ spot leads the main array by/).innerText();
  const lead = Number(/by ([\d.]+) ms/.exec(said)?.[1]);
  expect(lead).toBeGreaterThan(4);
  await page.getByRole('button', { name: 'Set these delays and pans' }).click();
  await expect(
    page.getByText(/^Organ spot (leads|follows) the main array by 0\.00 ms/),
  ).toBeVisible();
  await bench.go('rig');
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  const list = page.getByRole('table', { name: 'Channel list' });
  await expect(list.getByRole('row', { name: /Organ spot/ })).toContainText(
    `${Math.round((lead / 1000) * 96000)} samples`,
  );
  await expect(bench.field('Delay of Organ spot')).toHaveValue(lead.toFixed(2));
  await page.keyboard.press('Control+z');
  await expect(list.getByRole('row', { name: /Organ spot/ })).not.toContainText('samples');
});

test('what was really set moves the prediction and is named when it is off', async ({ bench }) => {
  const { page } = bench;
  await openRig(bench, 'As built');
  const images = await bench.allImages();
  await page.getByRole('button', { name: 'Main pair, height: as planned' }).click();
  await expect(bench.field('Main pair, height as built')).toHaveValue('2.70');
  await bench.type('Main pair, spacing as built', '20 cm');
  await expect(page.getByRole('alert')).toHaveText(/Outside the tolerance of ±1\.0 cm/);
  const effect = page.getByRole('status', { name: 'Main pair as built' });
  const technique = { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 110 };
  const ready = prepareArray({
    x: 0,
    y: 0,
    z: 0,
    aimDeg: 0,
    tiltDeg: 0,
    technique,
  } as ArrayPlacement);
  const half = halfAngle(farField(ready, speedOfSound(19)), modelById('consensus'), 1);
  await expect(effect).toContainText(
    `Recording angle ±47.8° planned, ±${half?.toFixed(1)}° as built`,
  );
  await expect(effect).toContainText(/moves most: by \d+ %/);
  // The plan itself stays.
  expect(await bench.allImages()).toBe(images);
  await page.setViewportSize({ width: 400, height: 800 });
  await expect(bench.field('Main pair, spacing as built')).toBeInViewport();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(page.getByText(/^Not yet\. Missing: /)).toContainText(
    'Main pair: included angle as built',
  );
});

test('ticks of the pack list stay, and the day gives the build its times', async ({ bench }) => {
  const { page } = bench;
  await openRig(bench, 'Pack');
  await page.getByRole('checkbox', { name: /Tall stand/ }).check();
  await expect(page.getByText(/^1 of \d+ lines packed\.$/)).toBeVisible();
  await bench.saved();
  await page.reload();
  await expect(page.getByRole('checkbox', { name: /Tall stand/ })).toBeChecked();
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(page.getByRole('listitem').first()).toContainText('10:10');
});

test('cautions are read by name, and stand on the printed sheet', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await openChecks(bench, 'Safety');
  await page.getByLabel('Read by').fill('Tobin Marsh');
  await page.getByRole('button', { name: /^Read ?: Cables across the floor/ }).click();
  await expect(page.getByText(/Tobin Marsh, 20\d\d-/)).toBeVisible();
  await bench.go('rig');
  await expect(page.getByText(/Cables across the floor\. .* Read by Tobin Marsh/)).toBeVisible();
  // Taken back it does not count, but stays on record; undo has nothing to do with it.
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await openChecks(bench, 'Safety');
  await page.getByRole('button', { name: /^Take back ?: Cables across the floor/ }).click();
  await page.getByText('Taken back (1)').click();
  await expect(page.getByText(/read by Tobin Marsh, .*; taken back by/)).toBeVisible();
  await bench.saved();
  await page.reload();
  await expect(page.getByText('Taken back (1)')).toBeVisible();
  await bench.go('rig');
  await expect(page.getByText(/Cables across the floor\. Keep/)).not.toContainText('Read by');
});

test('stands that are short, and separate microphones too close, are found with their figures', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.pair.click();
  await bench.type('Height', '4.6 m');
  await openChecks(bench, 'Findings');
  await expect(bench.findings(/the kit has no stand for it: needs 4\.60 m up/)).toHaveCount(1);
  await bench.go('floor');
  for (const at of ['-0.4 m', '0.4 m']) {
    await page.getByText('Add', { exact: true }).click();
    await page.getByRole('button', { name: 'Spot', exact: true }).click();
    await bench.type('Right of centre', at);
    await bench.type('Upstage of edge', '2.2 m');
  }
  await openChecks(bench, 'Spill');
  const table = page.getByRole('table', { name: 'Three to one' });
  await expect(table.getByRole('row', { name: /^Spot and Spot 2/ })).toContainText('not kept');
});

test('every table and the session in one archive; the PDF has the channels of the page', async ({
  bench,
}) => {
  const { page } = bench;
  await openRig(bench, 'Channels');
  const row = page.getByRole('row', { name: /Main pair L/ });
  const gain = /\+(\d+) dB$/.exec((await row.innerText()).trim())?.[1];
  expect(Number(gain)).toBeGreaterThan(20);
  await page.getByRole('button', { name: 'Positions', exact: true }).click();
  const zip = await bench.download(() =>
    page.getByRole('button', { name: 'All in one archive' }).click(),
  );
  const files = unzipSync(new Uint8Array(readFileSync(zip.path)));
  expect(Object.keys(files).sort()).toEqual([
    'as-built.csv',
    'build.csv',
    'cables.csv',
    'channels.csv',
    'pack.csv',
    'positions.csv',
    'session.rotunda.json',
    'sheet.pdf',
  ]);
  expect(strFromU8(files['channels.csv'] ?? new Uint8Array())).toContain(`,${gain},stereo`);
  const pdf = await bench.download(() =>
    page.getByRole('button', { name: 'PDF', exact: true }).click(),
  );
  const text = execFileSync('pdftotext', ['-layout', pdf.path, '-'], { encoding: 'utf8' });
  expect(text).toMatch(new RegExp(`Main pair L +Small cardioid.* ${gain} +stereo`));
  expect(text).toContain('licensed rigger');
  // The archive holds the same sheet.
  const inside = execFileSync('pdftotext', ['-layout', '-', '-'], {
    encoding: 'utf8',
    input: files['sheet.pdf'] ?? new Uint8Array(),
  });
  expect(inside).toBe(text);
});

test('a microphone in a bow arm is found, raised with one action, and put back', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  const name = 'Bassoon 1';
  await bench.player(name).click();
  const [x, y] = [
    await bench.field('Right of centre').inputValue(),
    await bench.field('Upstage of edge').inputValue(),
  ];
  await bench.pair.click();
  await bench.type('Right of centre', x);
  await bench.type('Upstage of edge', y);
  await bench.type('Height', '1.1 m');
  await openChecks(bench, 'Findings');
  const found = bench.findings(`from ${name}. Keep 0.25 m at least`);
  await expect(found).toHaveCount(1);
  await found.click();
  const whole = bench.chosenFinding;
  await expect(whole.getByRole('link', { name: 'Go to the stands and distances' })).toBeVisible();
  const before = await bench.allImages();
  await whole.getByRole('button', { name: /^Raise it by/ }).click();
  await expect(found).toHaveCount(0);
  expect(await bench.allImages()).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect(found).toHaveCount(1);
  expect(await bench.allImages()).toBe(before);
});

async function openChoir(bench: Workbench): Promise<void> {
  const { page } = bench;
  await page.goto('/demo');
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('link', { name: 'Reedmace Voices, evensong pieces' }).click();
}

test('a finding shows what it was judged by', async ({ bench }) => {
  const { page } = bench;
  await openChoir(bench);
  await openChecks(bench, 'Findings');
  const wall = bench.findings('Wall 5 (behind the stage) answers 4 players');
  const level = /the worst with (−[\d.]+) dB/.exec(await wall.innerText())?.[1];
  await wall.click();
  const table = bench.chosenFinding.getByRole('table', { name: 'Reflections of Altos 4' });
  const rows = table.getByRole('row', { name: /^wall 5 / }).filter({ hasText: `${level} dB` });
  await expect(rows).toHaveCount(1);
  await page.getByLabel('By player').check();
  await expect(page.getByRole('heading', { name: 'Altos 4' })).toBeVisible();
});

test('the checks are of the whole session: filtered, and the same whichever array is looked at', async ({
  bench,
}) => {
  const { page } = bench;
  await openChoir(bench);
  await openChecks(bench, 'Findings');
  const list = page.getByRole('list', { name: 'Findings' }).getByRole('listitem');
  const heading = page.getByRole('heading', { name: /^\d+ findings$/ });
  await expect(heading).toBeVisible();
  const all = await list.allInnerTexts();
  await bench.go('array');
  await page.getByRole('group', { name: 'Arrays' }).getByText('Outriggers').click();
  await openChecks(bench, 'Findings');
  await expect(heading).toBeVisible();
  await expect.poll(() => list.allInnerTexts()).toEqual(all);
  await page.getByLabel('Array', { exact: true }).selectOption('Organ spot');
  await expect(page.getByRole('heading', { name: /^2 of \d+ findings$/ })).toBeVisible();
  await expect(bench.chosenFinding).toContainText('Organ spot, for Chest organ');
  await page.getByLabel('Severity').selectOption('2 cautions');
  await expect(list).toHaveCount(1);
});

test('an array is for whom it is told to be, and judged for them', async ({ bench }) => {
  const { page } = bench;
  await openChoir(bench);
  await openChecks(bench, 'Findings');
  const leads = bench.findings(/Organ spot: Chest organ arrives .* before Main pair/);
  await expect(leads).toHaveCount(1);
  await bench.go('array');
  await page.getByRole('group', { name: 'Arrays' }).getByText('Organ spot').click();
  await expect(page.getByText('for Chest organ', { exact: true })).toBeVisible();
  await page.getByLabel('For whom').selectOption('chosen players');
  const organ = page.getByRole('checkbox', { name: 'Chest organ' });
  await expect(organ).toBeChecked();
  await organ.uncheck();
  await page.getByRole('checkbox', { name: 'Tenors 2' }).check();
  await openChecks(bench, 'Findings');
  await expect(leads).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(leads).toHaveCount(1);
});

test('the mono sum of every array and of the whole mix, player by player', async ({ bench }) => {
  const { page } = bench;
  await openChoir(bench);
  await openChecks(bench, 'Mono');
  const table = page.getByRole('table', { name: 'Mono sums' });
  await expect(table.getByRole('row', { name: /^Chest organ, left end/ })).toBeVisible();
  const whole = await table.getByRole('row', { name: /^Sopranos 1/ }).innerText();
  await page.getByLabel('Mono sum of').selectOption('Outriggers');
  await expect
    .poll(() => table.getByRole('row', { name: /^Sopranos 1/ }).innerText())
    .not.toBe(whole);
  await table.getByRole('button', { name: 'Sopranos 2' }).click();
  await expect(page.getByText('Sopranos 2: mono sum against both channels')).toBeVisible();
});

test('strips are set in the channel list: pan, polarity, delay, fader, and back', async ({
  bench,
}) => {
  const { page } = bench;
  await openRig(bench, 'Channels');
  const list = page.getByRole('table', { name: 'Channel list' });
  await bench.type('Pan of Main pair L', '40 % L');
  await bench.type('Delay of Main pair R', '1.5');
  await bench.type('Strip gain of Main pair R', '-3');
  await expect(list.getByRole('row', { name: /Main pair R/ })).toContainText(/\d+ samples/);
  await list.getByRole('button', { name: 'Polarity of Main pair L: normal' }).click();
  await expect(
    list.getByRole('button', { name: /^Polarity of Main pair L: inverted/ }),
  ).toBeVisible();
  await bench.type('Pan of Main pair L', '120 L');
  await expect(page.getByText('Allowed: 100 % L to 100 % R.').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await openChecks(bench, 'Mix');
  const mix = page.getByRole('table', { name: 'The whole mix' });
  await expect(mix).toContainText('no stable image: antiphase');
  await goToChannels(bench);
  await page.getByRole('button', { name: 'Usual strips for Main pair' }).click();
  await openChecks(bench, 'Mix');
  await expect(mix).toContainText('Main pair 100 %');
  await expect(mix).not.toContainText('antiphase');
});

test('the whole mix names who pulls each player, and a fader takes the pull away', async ({
  bench,
}) => {
  const { page } = bench;
  await openChoir(bench);
  await openChecks(bench, 'Mix');
  const row = page
    .getByRole('table', { name: 'The whole mix' })
    .getByRole('row', { name: /^Chest organ/ });
  await expect(row).toContainText(/Organ spot \d+ %/);
  const before = Number(/Organ spot (\d+) %/.exec(await row.innerText())?.[1]);
  await goToChannels(bench);
  await bench.type('Fader of Organ spot', '-40');
  await openChecks(bench, 'Mix');
  await expect
    .poll(async () => Number(/Organ spot (\d+) %/.exec(await row.innerText())?.[1] ?? 0))
    .toBeLessThan(before / 2);
  await openChecks(bench, 'Arrivals');
  await page.getByLabel('Player', { exact: true }).selectOption('Chest organ');
  await expect(page.getByLabel('In the whole mix')).toContainText('Who pulls: Main pair');
});
