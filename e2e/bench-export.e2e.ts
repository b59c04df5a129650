import { readFileSync } from 'node:fs';
import {
  blobSource,
  measureTake,
  openSound,
  auditMidSide,
  pinkNoise,
  type Sound,
} from '../core/audio';
import { file, opened, ownBench, RATE, says } from './recordings';
import { expect, test } from './workbench';

/** A file that the page wrote, as a recording. */
async function written(path: string): Promise<Sound> {
  const sound = await openSound(blobSource(new Blob([readFileSync(path)])));
  if (!sound.ok) throw new Error(sound.message);
  return sound.value;
}

const noise = (seed: number, seconds = 4) => pinkNoise(seconds * RATE, seed).map((v) => v / 10);
const later = (samples: Float32Array, by: number): Float32Array =>
  samples.map((_, i) => samples[i - by] ?? 0);

test('a channel that is late is aligned, written, read back and measured again at nothing', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  const left = noise(1, 6);
  await opened(bench, [
    file({ name: 'Late.wav', planes: [left, later(left, 192)], channelNames: ['Near', 'Far'] }),
  ]);
  await expect(says(bench)).toContainText('Far is 192 samples behind Near: 4.00 ms');
  await bench.turnTo('Export');
  const region = page.getByRole('region', { name: 'Export' });
  await expect(region).toContainText('The whole, 2 of 2 channels, 1.7 MB.');
  await expect(region).toContainText('nothing is done to it');

  const field = page.getByRole('textbox', { name: 'Far later by' });
  await field.fill('-2000.1');
  await field.press('Enter');
  await expect(region).toContainText('Far later by: Allowed: -2000 to 2000 ms.');
  await field.fill('-4');
  await field.press('Enter');
  await expect(page.getByRole('list', { name: 'What is done' })).toHaveText(
    'Far: 4.000 ms earlier.',
  );
  await expect(page.getByLabel('Hear', { exact: true })).toHaveValue('treated');

  const done = await bench.download(() =>
    region.getByRole('button', { name: 'Write the file' }).click(),
  );
  expect(done.name).toBe('Late treated.wav');
  await expect(page.getByRole('status', { name: 'Export' })).toContainText(
    'Late treated.wav is written and read back: every byte is as it was made.',
  );
  const sound = await written(done.path);
  expect(sound.info.channelNames).toEqual(['Near', 'Far']);
  expect(sound.info.format).toMatchObject({ bits: 24, sampleRateHz: RATE, channels: 2 });
  const { delays } = await measureTake(sound, { what: ['delays'] });
  expect(Math.abs(delays?.[0]?.whole?.delayMs ?? 9)).toBeLessThan(0.02);

  // What is to be done is there after the page was loaded anew and the file was opened again.
  await bench.saved();
  await page.reload();
  await opened(bench, [
    file({ name: 'Late.wav', planes: [left, later(left, 192)], channelNames: ['Near', 'Far'] }),
  ]);
  await expect(page.getByRole('list', { name: 'What is done' })).toHaveText(
    'Far: 4.000 ms earlier.',
  );

  // Too loud for whole numbers: said, with what helps.
  const level = page.getByRole('textbox', { name: 'Level of Near' });
  await level.fill('24');
  await level.press('Enter');
  await bench.download(() => region.getByRole('button', { name: 'Write the file' }).click());
  await expect(page.getByRole('status', { name: 'Export' })).toContainText(
    /samples are beyond full scale and were cut off: take \d+\.\d dB off, or write floats\./,
  );
  await region.getByRole('button', { name: 'Undo all that is done' }).click();
  await expect(region).toContainText('nothing is done to it');
});

test('a stretch of one channel at another rate; a long one is given up and leaves nothing', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  await opened(bench, [file({ name: 'Long.wav', planes: [noise(1, 60), noise(2, 60)] })]);
  await expect(says(bench)).toBeVisible();
  await bench.turnTo('Export');
  await page.getByLabel('Rate', { exact: true }).selectOption({ label: '192.0 kHz' });
  let downloads = 0;
  page.on('download', () => (downloads += 1));
  await page.getByRole('button', { name: 'Write the file' }).click();
  const status = page.getByRole('status', { name: 'Export' });
  await expect(status).toContainText('Writing Long treated.wav');
  await status.getByRole('button', { name: 'Cancel' }).click();
  await expect(status).toHaveText('Long treated.wav was given up: nothing of it is left.');
  expect(downloads).toBe(0);

  await page.getByRole('textbox', { name: 'From' }).fill('2');
  await page.getByRole('textbox', { name: 'From' }).press('Enter');
  await page.getByRole('textbox', { name: 'to', exact: true }).fill('3.5');
  await page.getByRole('textbox', { name: 'to', exact: true }).press('Enter');
  await page.getByRole('checkbox', { name: 'Left' }).uncheck();
  await page.getByLabel('Depth').selectOption({ label: '32 bits, float' });
  await page.getByLabel('Rate', { exact: true }).selectOption({ label: '96.0 kHz' });
  await expect(page.getByRole('region', { name: 'Export' })).toContainText(
    '0:02.000 to 0:03.500, 1 of 2 channels',
  );
  const done = await bench.download(() =>
    page.getByRole('button', { name: 'Write the file' }).click(),
  );
  const { info } = await written(done.path);
  expect(info.frames).toBe(1.5 * 96_000);
  expect(info.format).toMatchObject({ kind: 'float', channels: 1, sampleRateHz: 96_000 });
  // Nobody chosen: said, and nothing to press.
  await page.getByRole('checkbox', { name: 'Right' }).uncheck();
  await expect(page.getByText('Choose a channel at least.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Write the file' })).toBeDisabled();
});

test('mid and side: told, decoded once and heard, the faulty copy mended', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  const [mid, side] = [noise(1), noise(2).map((v) => v / 2)];
  const copy = later(side, 1).map((v) => -v * 10 ** (0.5 / 20));
  await opened(bench, [
    file({
      name: 'Raw.wav',
      planes: [mid, side, copy],
      channelNames: ['Stage M', 'Stage S', 'Stage S inverted'],
    }),
  ]);
  await expect(says(bench)).toBeVisible();
  await bench.turnTo('Mid-side');
  const told = page.getByRole('status', { name: 'Is it to be decoded?' });
  await expect(told).toContainText('Raw mid and side: to be decoded once.');
  await expect(told).toContainText(/the second \d\.\d dB below the first/);
  await expect(told).toContainText('Their names say so too.');
  await expect(page.getByRole('list', { name: 'Faults of the copy' })).toContainText(
    'The copy is 1.00 samples late.',
  );

  await page.getByRole('button', { name: 'Decode once' }).click();
  await expect(page.getByLabel('Hear', { exact: true })).toHaveValue('treated');
  const likeness = page.getByLabel('Likeness of left and right');
  await expect(likeness).toHaveText(/^\+0\.[56]\d$/);
  // By keys: wider is less alike.
  await page.getByLabel('Width, by the level of the side').focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('textbox', { name: 'Level of the side' })).toHaveValue(/^6/);
  await expect(likeness).toHaveText(/^[+−]0\.0\d$/);
  const pass = page.getByRole('textbox', { name: 'High-pass of the side' });
  await pass.fill('9');
  await pass.press('Enter');
  await expect(page.getByText(/10 to 2[ ,]?000 Hz/)).toBeVisible();
  await pass.fill('120');
  await pass.press('Enter');
  await expect(page.getByRole('heading', { name: 'The side against the mid' })).toBeVisible();

  await page.getByRole('button', { name: 'Leave it as it is' }).click();
  await page.getByRole('button', { name: 'Mend Stage S inverted' }).click();
  await bench.turnTo('Export');
  const done = await bench.download(() =>
    page.getByRole('button', { name: 'Write the file' }).click(),
  );
  const audit = await auditMidSide(await written(done.path), [0, 1, 2], { fromS: 0, toS: 4 });
  expect(audit.copy?.faults).toEqual([]);
  expect(audit.copy?.leftInMonoDb).toBeLessThan(-40);
});

test('a spot that is early: what can be done with it is seen first, taken, written, and undone in the plan', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  const [flute, horn] = [noise(1, 6), noise(2, 6)];
  const both = flute.map((v, i) => v + (horn[i] ?? 0));
  // 197 samples are 4.10 ms.
  const main = later(both, 197);
  await opened(bench, [
    file({
      name: 'Spots.wav',
      planes: [main, main, flute, later(horn, 197 + 480)],
      channelNames: ['Main pair L', 'Main pair R', 'Spot flute', 'Spot horn'],
    }),
  ]);
  await expect(says(bench)).toBeVisible();
  await bench.turnTo('Spots');
  const spot = page.getByRole('region', { name: 'Spot flute', exact: true });
  await expect(spot).toContainText('Spot flute is 4.10 ms ahead of Main pair, sure.');
  await expect(spot).toContainText('Delay it by 4.10 ms, or by 9.1 to 24.1 ms');
  await expect(page.getByRole('region', { name: 'Spot horn', exact: true })).toContainText(
    'Spot horn is 10.00 ms behind Main pair, sure.',
  );
  // 500 / 4.104: the comb of leaving it, before anything is done.
  const row = (what: RegExp) => spot.getByRole('row', { name: what }).getByRole('cell');
  await expect(row(/^leave it/).nth(2)).toHaveText('122');
  await expect(row(/^with the main array/).nth(2)).toHaveText('none');
  await expect(row(/^behind it/).nth(0)).toHaveText('+14.10');
  await page.getByLabel('Behind by').selectOption({ label: '20 ms' });
  await expect(row(/^behind it/).nth(0)).toHaveText('+24.10');
  await expect(page.getByRole('table', { name: 'Layers of the mix' })).toContainText('Main pair');

  await spot.getByRole('button', { name: 'Spot flute: take with the main array' }).click();
  await expect(
    spot.getByRole('button', { name: 'Spot flute: take with the main array' }),
  ).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByLabel('Hear', { exact: true })).toHaveValue('treated');
  const csv = await bench.download(() =>
    page.getByRole('button', { name: 'Offsets as CSV' }).click(),
  );
  expect(csv.text).toMatch(/Spot flute,3,-4\.1\d*,sure,4\.1\d*/);

  await spot.getByRole('button', { name: 'Spot flute: with the main array into the plan' }).click();
  await expect(page.getByText('Spot flute: 4.10 ms of delay in the plan.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undone: /)).toBeVisible();

  await bench.turnTo('Export');
  const done = await bench.download(() =>
    page.getByRole('button', { name: 'Write the file' }).click(),
  );
  const { delays } = await measureTake(await written(done.path), { what: ['delays'] });
  expect(Math.abs(delays?.find(({ channel }) => channel === 2)?.whole?.delayMs ?? 9)).toBeLessThan(
    0.02,
  );
});

test('a file that was picked is written in place; given up, the empty one that picking made is gone', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  await opened(bench, [file({ name: 'Pick.wav', planes: [noise(1, 60), noise(2, 60)] })]);
  await expect(says(bench)).toBeVisible();
  await bench.turnTo('Export');
  // The browser’s own files stand for the disk: their handles are of the same kind.
  await page.evaluate(() => {
    const showSaveFilePicker = async ({ suggestedName }: { suggestedName: string }) =>
      (await navigator.storage.getDirectory()).getFileHandle(suggestedName, { create: true });
    Object.defineProperty(globalThis, 'showSaveFilePicker', { value: showSaveFilePicker });
  });
  const bytes = () =>
    page.evaluate(async () => {
      const root = await navigator.storage.getDirectory();
      const handle = await root.getFileHandle('Pick treated.wav').catch(() => null);
      return handle ? (await handle.getFile()).size : null;
    });
  const write = page.getByRole('button', { name: 'Write the file' });
  const status = page.getByRole('status', { name: 'Export' });
  await page.getByLabel('Rate', { exact: true }).selectOption({ label: '192.0 kHz' });
  await write.click();
  await status.getByRole('button', { name: 'Cancel' }).click();
  await expect(status).toContainText('was given up: nothing of it is left.');
  await expect.poll(bytes).toBeNull();
  await page.getByLabel('Rate', { exact: true }).selectOption({ label: '48.0 kHz, as it is' });
  await write.click();
  await expect(status).toContainText('is written and read back');
  expect(await bytes()).toBeGreaterThan(60 * RATE * 6);
});

test('two microphones in one noise are matched and trimmed; a figure-eight is turned', async ({
  bench,
  page,
}) => {
  await ownBench(bench);
  const steady = noise(1, 12);
  // From 6 s on the first microphone is turned: a decibel softer behind.
  const first = steady.map((v, i) => (i < 6 * RATE ? v : v * 10 ** (-1 / 20)));
  const second = steady.map((v) => v * 10 ** (-0.4 / 20));
  await opened(bench, [
    file({ name: 'Noise.wav', planes: [first, second], channelNames: ['A', 'B'] }),
  ]);
  await expect(says(bench)).toBeVisible();
  await bench.turnTo('Microphones');
  const stretch = async (from: string, to: string): Promise<void> => {
    for (const [name, value] of [
      ['to', to],
      ['From', from],
      ['to', to],
    ] as const) {
      const field = page.getByRole('textbox', { name, exact: true });
      await field.fill(value);
      await field.press('Enter');
    }
  };
  await stretch('0', '5.5');
  const front = page.getByRole('button', { name: /^Front:/ });
  await expect(front).toBeEnabled();
  await page.waitForTimeout(500);
  await front.click();
  await page.getByRole('button', { name: 'Match them in the stretch' }).click();
  const match = page.getByRole('list', { name: 'How they match' });
  await expect(match).toContainText('B is 0.4 dB softer than A: trim it by +0.4 dB.');
  await expect(match).toContainText('No equaliser is worth it.');
  await page.getByRole('button', { name: 'Trim B' }).click();

  await stretch('6.5', '11.5');
  await page.waitForTimeout(500);
  await page.getByRole('button', { name: /^Rear:/ }).click();
  await page.getByRole('button', { name: 'Compare the sides' }).click();
  await expect(page.getByRole('list', { name: 'How alike its sides are' })).toContainText(
    /A is (0\.9|1\.0|1\.1) dB softer behind than in front/,
  );
  await bench.turnTo('Export');
  await expect(page.getByRole('list', { name: 'What is done' })).toHaveText('B: +0.40 dB.');
});
