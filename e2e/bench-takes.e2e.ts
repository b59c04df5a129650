import { delayed, pinkNoise } from '../core/audio/signal/generate';
import { channelMap } from '../core/channels';
import { plannedDifferences } from '../core/recorded';
import { file, fourInputs, opened, ownBench, RATE, says } from './recordings';
import { expect, test } from './workbench';

const SECONDS = 6;
const noise = (seed: number, level = 0.05): Float32Array =>
  pinkNoise(SECONDS * RATE, seed).map((v) => v * level);
const NAMES = ['Main pair L', 'Main pair R', 'Spot flute', 'Spot horn'] as const;

test('four files of one take are one recording, bound by the channel list: a take with its plan', async ({
  bench,
}) => {
  const { page } = bench;
  await ownBench(bench);
  await expect(page.getByText('What is on a recording?')).toBeVisible();
  // One of them is turned over, one is a copy of another.
  const left = noise(1);
  const planes = [left, left.map((v, i) => -(v + 0.01 * (noiseB[i] ?? 0))), noise(3), noise(4)];
  planes[3] = (planes[2] as Float32Array).map((v) => v / 2);
  await opened(
    bench,
    NAMES.map((name, i) => file({ name: `T05_${name}.wav`, planes: [planes[i] as Float32Array] })),
  );
  await expect(page.getByRole('heading', { name: 'T05' })).toBeVisible();
  await expect(page.getByText(/^4 channels · .* · 4 files · /)).toBeVisible();
  await expect(page.getByText('It is take 1, with the plan as it stands.')).toBeVisible();
  const list = page.getByRole('list', { name: 'Channels' }).getByRole('listitem');
  await expect(list).toHaveText([...NAMES]);
  await expect(says(bench)).toContainText('Main pair R is turned over against Main pair L, sure');
  await expect(says(bench)).toContainText(
    'Spot horn is the same signal as Spot flute, −6.0 dB: two tracks of one microphone',
  );

  // By hand: the spots are changed over, and the take is said anew.
  await bench.turnTo('Channels');
  await expect(page.getByRole('heading', { name: /^4 of 4 channels .*: take 1$/ })).toBeVisible();
  const input = (channel: number) =>
    page.getByRole('combobox', { name: `Input of channel ${channel}`, exact: true });
  await input(3).selectOption({ label: '4 Spot horn' });
  // Whose input it was gives it up.
  await expect(input(4)).toHaveValue('');
  await expect(list.nth(2)).toHaveText('Spot horn');
  await input(4).selectOption({ label: '3 Spot flute' });
  await bench.saved();
  // Loaded again the files are not here: the browser gave no handle.
  await page.reload();
  const known = page.getByRole('list', { name: 'Recordings of this session' });
  await expect(known.getByRole('listitem')).toHaveCount(1);
  await known.getByRole('button', { name: /^Open/ }).click();
  await expect(known.getByRole('alert')).toContainText('is not where it was');
  const choosing = page.waitForEvent('filechooser');
  await known.getByRole('button', { name: 'Show me the files' }).click();
  // Called otherwise by now: they are told by what is in them.
  await (
    await choosing
  ).setFiles(
    ['a', 'b', 'c', 'd'].map((name, i) =>
      file({ name: `${name}.wav`, planes: [planes[i] as Float32Array] }),
    ),
  );
  await expect(page.getByRole('heading', { name: 'T05' })).toBeVisible();
  await expect(list).toHaveText(['Main pair L', 'Main pair R', 'Spot horn', 'Spot flute']);
  await expect(known).toHaveCount(0);
});

const noiseB = noise(2, 1);

test('left and right that are swapped are told by a player who is alone', async ({ bench }) => {
  const { page } = bench;
  const session = fourInputs();
  const [left, right] = channelMap(session).inputs;
  if (!left || !right) throw new Error('two inputs are expected');
  const flute = plannedDifferences(session, left, right).find(({ name }) => name === 'Flute');
  if (!flute) throw new Error('a flute is expected');
  expect(flute.delayMs).toBeGreaterThan(0.3);
  await ownBench(bench, session);
  const samples = Math.round((flute.delayMs / 1000) * RATE);
  const near = noise(1, 0.06);
  const far = delayed(near, samples).map((v) => v * 10 ** (flute.levelDb / 20));
  // Plugged the wrong way round: what is nearer stands on the right.
  await opened(bench, [
    file({ name: 'Main pair L.wav', planes: [far] }),
    file({ name: 'Main pair R.wav', planes: [near] }),
  ]);
  await bench.turnTo('Delays');
  await page.getByRole('button', { name: /^Compare/ }).click();
  await expect(page.getByRole('status', { name: 'How they stand' })).toHaveText(
    new RegExp(`^Main pair R is ahead of Main pair L: .* ms, ${samples} samples, .*; sure`),
  );
  const planned = page.getByRole('table', { name: 'Planned and measured' });
  await expect(planned.getByRole('row')).toHaveCount(session.sources.length + 1);
  await page.getByLabel('Who plays there').selectOption({ label: 'Flute' });
  await expect(page.getByRole('status', { name: 'Left and right' })).toHaveText(
    /^Left and right are swapped, by Flute: −1\.\d\d ms where the plan has \+1\.\d\d ms/,
  );
  await expect(planned.getByRole('row', { name: /^Flute/ })).toContainText(
    `−${(samples / 48).toFixed(2)}`,
  );
});

test('taps tell which microphone is on which channel', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  // Tapped in the order of the list; the second and third are plugged the wrong way round.
  const order = [0, 2, 1, 3];
  const planes = order.map((turn, c) =>
    noise(c + 1, 0.002).map((v, i) => {
      const since = i - (turn + 0.7) * RATE;
      return since >= 0 && since < 400 ? v + 0.5 * Math.exp(-since / 80) * Math.cos(since / 3) : v;
    }),
  );
  await opened(bench, [file({ name: 'taps.wav', planes, channelNames: [...NAMES] })]);
  await bench.turnTo('Channels');
  await page.getByRole('button', { name: 'Listen for taps in all of it' }).click();
  await expect(page.getByRole('status', { name: 'What the taps say' })).toHaveText(
    'Wrong order, sure: Main pair R is heard on channel 3; Spot flute is heard on channel 2. Change the patch, or bind the channels as they are heard.',
  );
  await page.getByRole('button', { name: 'Bind them as they are heard' }).click();
  await expect(page.getByRole('list', { name: 'Channels' }).getByRole('listitem')).toHaveText([
    'Main pair L',
    'Spot flute',
    'Main pair R',
    'Spot horn',
  ]);
});

test('a recording with a handle is there again after the page was loaded anew; gone, it is asked for', async ({
  bench,
}) => {
  const { page } = bench;
  await ownBench(bench);
  const [one] = [file({ name: 'Main pair L.wav', planes: [noise(7)] })];
  // The browser's own chooser, with a file that it keeps: its handle is stored like any other.
  const give = async (bytes: number[] | null): Promise<void> => {
    await page.evaluate(async (content) => {
      const folder = await navigator.storage.getDirectory();
      if (content === null) {
        await folder.removeEntry('Main pair L.wav');
        return;
      }
      const handle = await folder.getFileHandle('Main pair L.wav', { create: true });
      const writer = await handle.createWritable();
      await writer.write(new Uint8Array(content));
      await writer.close();
      Object.defineProperty(globalThis, 'showOpenFilePicker', {
        value: () => Promise.resolve([handle]),
        configurable: true,
      });
    }, bytes);
  };
  await give([...(one?.buffer ?? [])]);
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  const heading = page.getByRole('heading', { name: 'Main pair L.wav' });
  await expect(heading).toBeVisible();
  await expect(says(bench)).toBeVisible();
  await bench.saved();
  await page.reload();
  await expect(heading).toBeVisible();
  await expect(says(bench)).toBeVisible();

  // Taken away while it is open: what is known stays, and what is asked of it says why it fails.
  await give(null);
  await page.getByRole('textbox', { name: 'From' }).fill('1');
  await page.getByRole('textbox', { name: 'From' }).press('Enter');
  await page.getByRole('button', { name: 'Measure it alone' }).click();
  await expect(page.getByRole('alert')).toContainText('cannot be read any more');
  await page.getByRole('button', { name: 'Of the whole' }).click();
  await expect(says(bench)).toBeVisible();
  await page.reload();
  const known = page.getByRole('list', { name: 'Recordings of this session' });
  await known.getByRole('button', { name: /^Open/ }).click();
  await expect(known.getByRole('alert')).toContainText('is not where it was');
});

test('what the plan would record opens like a recording', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  await page.getByLabel('Try it on the plan').selectOption({ label: 'a clap at every place' });
  await page.getByRole('button', { name: 'Simulate this plan' }).click();
  await expect(page.getByRole('heading', { name: /^Simulated, a clap/ })).toBeVisible();
  await expect(page.getByRole('list', { name: 'Channels' }).getByRole('listitem')).toHaveText([
    ...NAMES,
  ]);
  await expect(says(bench)).toBeVisible();
  // The same once more is the same take.
  await page.getByRole('button', { name: 'Simulate this plan' }).click();
  await expect(page.getByRole('status', { name: 'Being made' })).toHaveCount(0);
  await bench.turnTo('Channels');
  await expect(page.getByRole('heading', { name: /: take 1$/ })).toBeVisible();
  await bench.turnTo('Stereo');
  await expect(page.getByRole('list', { name: 'In short' })).toContainText('Correlation');
  await expect(
    page.getByRole('img', { name: 'Stereo plot of Main pair L and Main pair R, of the stretch' }),
  ).toBeVisible();
  await bench.turnTo('Levels and noise');
  await expect(page.getByRole('table', { name: 'Levels by channel' })).toContainText('Spot horn');
});

test('two fingers zoom about what they hold, and leave the page where it is', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  await opened(bench, [file({ name: 'Main pair.wav', planes: [noise(1), noise(2)] })]);
  await expect(says(bench)).toBeVisible();
  const line = page.getByRole('application');
  const box = await line.boundingBox();
  if (!box) throw new Error('the curve is not on the screen');
  const session = await page.context().newCDPSession(page);
  const [middle, y] = [box.x + box.width / 2, box.y + 40];
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...apart: number[]) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: apart.flatMap((by) => [
        { x: middle - by, y, id: 1 },
        { x: middle + by, y, id: 2 },
      ]),
    });
  await touch('touchStart', 100);
  for (const by of [150, 200, 250, 300]) await touch('touchMove', by);
  await touch('touchEnd');
  // Three times as near, about the middle of six seconds; and no stretch was made.
  await expect(line).toHaveAttribute('aria-label', /, 0:0[12]\.\d\d to 0:0[34]\.\d\d:/);
  const [, from, to] = /0:(\d+\.\d+) to 0:(\d+\.\d+)/.exec(
    (await line.getAttribute('aria-label')) ?? '',
  ) ?? ['', 'NaN', 'NaN'];
  expect(Number(to) - Number(from)).toBeCloseTo(2, 0);
  expect((Number(to) + Number(from)) / 2).toBeCloseTo(3, 0);
  await expect(page.getByRole('textbox', { name: 'From' })).toHaveValue('');
  // One finger makes one.
  await session.send('Input.dispatchTouchEvent', {
    type: 'touchStart',
    touchPoints: [{ x: middle - 100, y }],
  });
  for (const by of [0, 50, 100]) {
    await session.send('Input.dispatchTouchEvent', {
      type: 'touchMove',
      touchPoints: [{ x: middle + by, y }],
    });
  }
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByRole('textbox', { name: 'From' })).toHaveValue(/^0:02\.\d/);
});
