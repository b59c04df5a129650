import { readFileSync } from 'node:fs';
import { expect, test } from './workbench';

test('the day adds up, and breaks that are due can be put in', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await bench.briefPage('The day');
  await page.getByRole('button', { name: 'Begin with a usual day' }).click();
  // 45 + 60 + 20 + (8 + 6 + 8) + 75 + 45
  await expect(bench.readout('All together')).toHaveText('267');
  await expect(bench.readout('Ends')).toHaveText('13:27');
  await expect(page.getByText(/played 81 min without a break; agreed are 75 min/)).toBeVisible();
  await page.getByRole('button', { name: 'Put in the breaks that are due' }).click();
  await expect(page.getByText(/without a break/)).toHaveCount(0);
  await expect(bench.readout('All together')).toHaveText('282');
  await page.getByLabel('Hall to be left by').fill('13:00');
  await expect(page.getByText(/42 min after the hall must be left/)).toBeVisible();
  await page.getByLabel('Begins').fill('08:00');
  await expect(bench.readout('Ends')).toHaveText('12:42');
  await expect(page.getByText(/after the hall must be left/)).toHaveCount(0);
});

test('the timetable goes out as a calendar file', async ({ bench }) => {
  await bench.openDemo();
  await bench.briefPage('The day');
  const saved = await bench.download(() =>
    bench.page.getByRole('button', { name: 'Calendar file' }).click(),
  );
  expect(saved.name).toMatch(/\.ics$/);
  expect(saved.text).toContain('BEGIN:VCALENDAR');
  expect(saved.text).toContain('SUMMARY:First serenade');
  expect(saved.text).toMatch(/DTSTART:20261212T112500\r/);
});

test('the kit goes out and comes back; a bad line is named and the good ones can stay', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.briefPage('The kit');
  const table = page.getByRole('table', { name: 'Microphones' });
  await expect(table.getByRole('row')).toHaveCount(6);
  const saved = await bench.download(() =>
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  );
  const lines = readFileSync(saved.path, 'utf8').trim().split('\r\n');
  expect(lines).toHaveLength(6);
  const spoiled = [
    ...lines.slice(0, 3),
    lines[3]?.replace('figure-eight', 'kidney'),
    ...lines.slice(4),
  ];
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Read a CSV list' }).click();
  await (
    await choosing
  ).setFiles({
    name: 'kit.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(spoiled.join('\r\n')),
  });
  const report = page.getByRole('alert');
  await expect(report).toContainText(
    '4 lines can be read, 1 cannot. Nothing has been changed yet.',
  );
  await expect(report).toContainText('Line 4: patterns: "kidney"; allowed: omni');
  await expect(table.getByRole('row')).toHaveCount(6);
  await report.getByRole('button', { name: 'Replace the list by them' }).click();
  await expect(table.getByRole('row')).toHaveCount(5);

  await table.getByRole('button', { name: 'How many' }).click();
  await expect(table.getByRole('columnheader', { name: 'How many' })).toHaveAttribute(
    'aria-sort',
    /ascending|descending/,
  );
});

test('the kit says what it cannot build, and who goes without', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.briefPage('The kit');
  await expect(page.getByText('needs two supercardioids')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Small cardioid, matched pair 1' }).click();
  await expect(page.getByRole('table', { name: 'Who gets what' })).toContainText('Spot cardioid');
  await page.getByRole('button', { name: 'Remove Spot cardioid' }).click();
  await page.getByRole('button', { name: 'Remove Large switchable' }).click();
  await expect(page.getByText(/2 × cardioid short \(Main pair\): left over are/)).toBeVisible();
  await bench.go('checks');
  await expect(bench.findings(/The kit is 2 microphones short/)).toHaveCount(1);
});

test('a wanted place is met or missed on the image line', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await expect(bench.image('Flute').getByRole('cell').last()).toHaveText('met');
  await bench.briefPage('The picture');
  await bench.type('Flute, wanted from', '-50 %');
  await bench.type('Flute, wanted to', '-30 %');
  const at = Math.abs(await bench.imagePercent('Flute'));
  await expect(bench.image('Flute').getByRole('cell').last()).toHaveText(`${at - 50} % off`);
  await page.getByRole('button', { name: 'Want everybody where they now are' }).click();
  await expect(page.getByRole('table', { name: 'Wanted places' }).getByText('met')).toHaveCount(9);
});

test('storage: bytes, and when a file passes 4 GiB', async ({ bench }) => {
  await bench.openDemo('brief');
  // 4 tracks × 96 kHz × 3 bytes × 3.5 h
  await expect(bench.readout('Room for 4 tracks')).toHaveText('14.5 GB');
  // 2³² / (4 · 96 000 · 3) s
  await expect(bench.readout('One file of all tracks passes 4 GiB')).toHaveText('after 62 min');
  await bench.type('Channels at hand', '1');
  await expect(bench.page.getByText('2 channels needed, 1 there: 1 short')).toBeVisible();
});

test('surfaces give the reverberation time, which can be taken over', async ({ bench }) => {
  await bench.openDemo();
  await bench.briefPage('The hall');
  const table = bench.page.getByRole('table', { name: 'Reverberation time' });
  const row = table.getByRole('row', { name: /^1000 Hz/ });
  await expect(row).toHaveText(/\d\.\d\d s/);
  const eyring = /([\d.]+) s$/.exec((await row.innerText()).trim())?.[1];
  await bench.page.getByRole('button', { name: /^Take Eyring/ }).click();
  await expect(bench.page.getByText('Mean of 500 Hz and 1 kHz')).toBeVisible();
  const shown = Number(await bench.field('Reverberation time').inputValue());
  expect(Math.abs(shown - Number(eyring))).toBeLessThan(0.15);
});

test('a unit of one’s own can be typed everywhere', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo('brief');
  await page.getByLabel('Name of the new unit').fill('feet');
  await expect(page.getByRole('alert')).toHaveText('“feet” is a unit already.');
  await page.getByLabel('Name of the new unit').fill('shoe');
  await page.getByRole('button', { name: 'Add a unit' }).click();
  await bench.type('One shoe', '31 cm');
  await bench.go('floor');
  await bench.pair.click();
  await bench.type('Height', '9 shoes');
  await expect(bench.field('Height')).toHaveValue('2.79');
});

test('the line shows one array or the whole mix, and a candidate as a ghost', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/demo');
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('link', { name: 'Reedmace Voices, evensong pieces' }).click();
  const alone = await bench.imageText('Sopranos 1');
  await page.getByLabel('The line shows').selectOption('mix');
  await expect.poll(() => bench.imageText('Sopranos 1')).not.toBe(alone);
  await page.getByLabel('The line shows').selectOption('Main pair');
  await expect.poll(() => bench.imageText('Sopranos 1')).toBe(alone);
  await page.getByLabel('Candidate beside it').selectOption('keep this one as a candidate');
  await expect(page.getByText('ring: Main pair as kept')).toBeVisible();
});

test('a session goes into the archive and comes out again', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/demo');
  await page.getByRole('link', { name: 'All sessions' }).click();
  const title = 'Harpsichord and viol, three suites';
  await page.getByRole('button', { name: `Archive ${title}` }).click();
  await expect(page.getByText('Archive (1)')).toBeVisible();
  await page.getByText('Archive (1)').click();
  await page.getByRole('button', { name: `Take out of the archive: ${title}` }).click();
  await expect(page.getByText('Archive (1)')).toHaveCount(0);
  await expect(page.getByRole('link', { name: title })).toBeVisible();
});
