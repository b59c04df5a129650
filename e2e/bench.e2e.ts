import { expect, test } from './workbench';
import { file, opened, ownBench, RATE, says } from './recordings';
import { encodeFrames, wavHeader } from '../core/audio';
import { flacFile } from '../core/audio/fixtures/flac';
import { delayed, makeSignal, pinkNoise } from '../core/audio/signal/generate';

const SECONDS = 12;

/** Two microphones, the right one 4 ms behind; a clip of 7 samples in the left one at 5 s. */
function lateAndClipped(): Float32Array[] {
  const one = pinkNoise(SECONDS * RATE, 1).map((v) => v * 0.04);
  const other = pinkNoise(SECONDS * RATE, 2);
  const right = delayed(one, 192).map((v, i) => 0.9 * v + 0.004 * (other[i] ?? 0));
  one.fill(1, 5 * RATE, 5 * RATE + 7);
  return [one, right];
}

test('a recording says what is on it, worst first, and leads there; what is kept needs no file', async ({
  bench,
}) => {
  const { page } = bench;
  await ownBench(bench);
  await expect(page.getByText('What is on a recording?')).toBeVisible();
  await opened(bench, [
    file({ name: 'Serenade 3.wav', planes: lateAndClipped() }),
    { name: 'letter.wav', mimeType: 'audio/wav', buffer: Buffer.from('no sound at all') },
  ]);
  await expect(page.getByRole('alert')).toContainText('letter.wav was not opened');
  const lines = says(bench).getByRole('listitem');
  await expect(lines.first()).toContainText('Left is clipped once: 7 samples at 0:05.000.');
  await expect(says(bench)).toContainText(
    /Right is 192 samples behind Left: 4\.00 ms, 1\.37 m of air, sure\./,
  );
  await expect(page.getByText('2 channels · 0:12.0 · 48 kHz · 24 bits · WAV')).toBeVisible();

  await page.getByRole('button', { name: /^Show where/ }).click();
  await expect(page.getByText('0:04.750')).toBeVisible();
  await expect(page.getByText('0:05.250')).toBeVisible();

  // A stretch by keys, measured alone: the clip is not in it.
  const line = page.getByRole('application');
  await line.press('0');
  await page.getByRole('textbox', { name: 'From' }).fill('6');
  await page.getByRole('textbox', { name: 'From' }).press('Enter');
  await page.getByRole('textbox', { name: 'to', exact: true }).fill('0:09.5');
  await page.getByRole('textbox', { name: 'to', exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Measure it alone' }).click();
  await expect(page.getByRole('status', { name: 'What was measured' })).toHaveText(
    /^Of 0:06\.000 to 0:09\.500 alone:/,
  );
  await expect(says(bench)).toContainText('Right is 192 samples behind');
  await expect(says(bench)).not.toContainText('clipped');
  await page.getByRole('button', { name: 'Keep these figures' }).click();
  await page.getByRole('button', { name: 'Of the whole' }).click();
  await expect(says(bench)).toContainText('clipped once');
  await bench.saved();

  await page.reload();
  await expect(page.getByText('What is on a recording?')).toBeVisible();
  await bench.turnTo('Kept');
  const kept = page.getByRole('region', { name: 'Kept' });
  await expect(
    kept.getByRole('button', { name: /Serenade 3\.wav, .*0:06\.000 to 0:09\.500/ }),
  ).toBeVisible();
  await expect(kept).toContainText('Right is 192 samples behind Left: 4.00 ms');
  await expect(kept.getByRole('table', { name: 'Levels' })).toContainText('Left');
  await expect(kept.getByRole('table', { name: 'Delays against Left' })).toContainText('+192.0');
  const csv = await bench.download(() => kept.getByRole('button', { name: 'CSV' }).click());
  expect(csv.name).toBe('serenade-3-wav-measured.csv');
  expect(csv.text).toContain('192.0');
  const pdf = await bench.download(() => kept.getByRole('button', { name: 'PDF' }).click());
  expect(pdf.text.slice(0, 5)).toBe('%PDF-');
  // On paper there is the report, and nothing to press.
  await page.emulateMedia({ media: 'print' });
  await expect(kept.getByRole('table', { name: 'Levels' })).toBeVisible();
  await expect(kept.getByRole('button', { name: 'Print' })).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeHidden();
  await page.emulateMedia({ media: null });
  await kept.getByRole('button', { name: 'Strike it' }).click();
  await expect(kept.getByText(/Serenade 3/)).toHaveCount(0);
});

test('a clap gives the hall its time, with what changes said before; undo brings the former back', async ({
  bench,
}) => {
  const { page } = bench;
  await ownBench(bench);
  const [clap] = makeSignal('decay', { sampleRateHz: RATE, seconds: 5, rt60S: 1.4, noiseDb: -110 });
  if (!clap) throw new Error('no clap');
  await opened(bench, [file({ name: 'clap.wav', planes: [clap] })]);
  await bench.turnTo('Room');
  const room = page.getByRole('region', { name: 'Room' });
  const row = room.getByRole('row', { name: /^1000 Hz/ });
  await expect(row.getByRole('cell')).toHaveText([
    /^\d\.\d\d ± 0\.\d\d$/,
    /^\d\.\d\d ± 0\.\d\d$/,
    /^\d\.\d\d ± 0\.\d\d$/,
    'T30',
    /^\d\d$/,
    '',
  ]);
  const found = Number.parseFloat(await row.getByRole('cell').nth(2).innerText());
  expect(Math.abs(found / 1.4 - 1)).toBeLessThan(0.05);
  const words = room.getByRole('status', { name: 'What would change' });
  await expect(words).toHaveText(
    /^Reverberation time at 500 Hz and 1 kHz: .* → 1\.[34]\d s\. Critical distance/,
  );
  await room.getByRole('button', { name: 'Take it as the hall’s' }).click();
  // What was measured is what it has: nothing would change any more.
  await expect(words).toHaveText(/: (1\.[34]\d s) → \1\./);
  await page.getByTitle('Undo (Ctrl Z)').click();
  await expect(words).not.toHaveText(/: (1\.[34]\d s) → \1\./);
});

test('a time that is none is refused with what is allowed', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  await opened(bench, [
    file({ name: 'short.wav', planes: [pinkNoise(RATE, 3).map((v) => v / 20)] }),
  ]);
  await expect(says(bench)).toBeVisible();
  for (const [text, ok] of [
    ['ten', false],
    ['1:00', false],
    ['-1', false],
    ['1', true],
  ] as const) {
    const field = page.getByRole('textbox', { name: 'From' });
    await field.fill(text);
    await field.press('Enter');
    const message = page
      .getByRole('alert')
      .filter({ hasText: 'Allowed: a time from 0:00 to 0:01.000' });
    await expect(message).toHaveCount(ok ? 0 : 1);
  }
});

test.describe('what is opened at its edges', () => {
  const silence = (seconds: number, rate = RATE): Float32Array => new Float32Array(seconds * rate);
  const noise = (count: number, rate: number): Float32Array[] =>
    Array.from({ length: count }, (_, c) => pinkNoise(rate, c + 1).map((v) => v / 20));

  test('silence, one sample, 8 and 384 kHz, 64 channels: each opens, and says what it is', async ({
    bench,
  }) => {
    const { page } = bench;
    await ownBench(bench);
    await opened(bench, [
      file({ name: 'silence.wav', planes: [silence(1), silence(1)] }),
      file({ name: 'one sample.wav', planes: [new Float32Array([0.5])] }),
      file({ name: 'low.wav', planes: noise(1, 8000), rate: 8000 }),
      file({ name: 'high.wav', planes: noise(1, 384_000), rate: 384_000 }),
      file({ name: 'many.wav', planes: noise(64, 8000), rate: 8000 }),
    ]);
    for (const [name, text] of [
      ['silence.wav', 'Left and Right are silent from beginning to end.'],
      ['one sample.wav', ''],
      ['low.wav', 'Loudness'],
      ['high.wav', 'Loudness'],
      ['many.wav', 'Loudness'],
    ] as const) {
      await page.getByRole('button', { name, exact: true }).click();
      await expect(says(bench)).toBeAttached();
      if (text !== '') await expect(says(bench)).toContainText(text);
    }
    await expect(page.getByText(/^64 channels · /)).toBeVisible();
    await expect(
      page.getByRole('listitem').filter({ hasText: 'Channel 64' }).first(),
    ).toBeAttached();
    await page.getByRole('button', { name: 'Close many.wav' }).click();
    await expect(page.getByRole('button', { name: 'many.wav' })).toHaveCount(0);
    await expect(page.getByRole('heading', { name: 'high.wav' })).toBeVisible();
  });
});

test('a recording that was cut off is opened as far as it goes, and says so', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  const seconds = 3;
  const planes = [1, 2].map((seed) => pinkNoise(seconds * RATE, seed).map((v) => v / 20));
  const format = { kind: 'integer', bits: 24, channels: 2, sampleRateHz: RATE } as const;
  // Its head tells of hours, longer than the plain form can be; the machine stopped after three seconds.
  const header = wavHeader(format, 5 * 3600 * RATE);
  expect(Buffer.from(header.subarray(0, 4)).toString()).toBe('RF64');
  const samples = encodeFrames(planes, seconds * RATE, format);
  await opened(bench, [
    {
      name: 'cut off.wav',
      mimeType: 'audio/wav',
      buffer: Buffer.concat(
        [header, samples.subarray(0, samples.length - 100)].map((part) => Buffer.from(part)),
      ),
    },
    { name: 'empty.wav', mimeType: 'audio/wav', buffer: Buffer.alloc(0) },
  ]);
  await expect(page.getByRole('alert')).toContainText('empty.wav was not opened');
  await expect(page.getByText(/^2 channels · 0:03\.0 · 48 kHz · 24 bits · RF64/)).toBeVisible();
  await expect(page.getByRole('note')).toHaveText(
    /^the file ends 4943\.\d MiB before its samples do: what is there is read/,
  );
  await expect(says(bench)).toContainText('Loudness');
  // Of two channels that are asked for there may be one only.
  await opened(bench, [file({ name: 'mono.wav', planes: [planes[0] as Float32Array] })]);
  for (const name of ['Stereo', 'Delays']) {
    await bench.turnTo(name);
    await expect(
      page.getByText(/^One channel alone has no .*two channels are needed/),
    ).toBeVisible();
  }
});

test('by keys alone: opened, looked at, a stretch measured, kept and found again', async ({
  bench,
}) => {
  const { page } = bench;
  await ownBench(bench);
  const focused = () =>
    page.evaluate(() => {
      const { activeElement: on } = document;
      return on?.getAttribute('aria-label') ?? on?.textContent?.trim() ?? '';
    });
  /** By Tab to what is called so. */
  const tabTo = async (name: RegExp, key = 'Tab'): Promise<void> => {
    for (let i = 0; i < 80; i++) {
      await page.keyboard.press(key);
      if (name.test(await focused())) return;
    }
    throw new Error(`Tab does not lead to ${String(name)}`);
  };
  await page.keyboard.press('1');
  await expect(page.getByRole('main', { name: 'Brief' })).toBeVisible();
  await page.keyboard.press('7');
  await expect(page.getByRole('main', { name: 'Bench' })).toBeVisible();
  await tabTo(/^Open recordings$/);
  const choosing = page.waitForEvent('filechooser');
  // Whoever waits for it is there before the key is.
  await page.evaluate(() => undefined);
  await page.keyboard.press('Enter');
  await (await choosing).setFiles([file({ name: 'Serenade 3.wav', planes: lateAndClipped() })]);
  await expect(says(bench)).toContainText('clipped once');
  await tabTo(/^Serenade 3\.wav, /);
  const seen = () => page.getByRole('application').getAttribute('aria-label');
  expect(await seen()).toContain('0:00.00 to 0:12.00');
  for (const key of ['+', '+', 'Home', 'ArrowRight', 'ArrowRight', '[', ']']) {
    await page.keyboard.press(key);
  }
  expect(await seen()).toContain('0:00.60 to 0:03.60');
  await expect(page.getByRole('textbox', { name: 'From' })).toHaveValue('0:00.600');
  await tabTo(/^Measure it alone$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'What was measured' })).toHaveText(
    /^Of 0:00\.600 to 0:03\.600 alone:/,
  );
  await expect(says(bench)).not.toContainText('clipped');
  await tabTo(/^Keep these figures$/);
  await page.keyboard.press('Enter');
  await tabTo(/^Kept$/, 'Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Report' })).toContainText(
    'Right is 192 samples behind Left',
  );
  await tabTo(/^Room$/, 'Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Room' })).toBeVisible();
});

test('FLAC is held against its own sum; a file that was hurt says so', async ({ bench }) => {
  const { page } = bench;
  await ownBench(bench);
  const numbers = (seed: number) =>
    Int32Array.from(pinkNoise(RATE, seed), (v) => Math.round(v * 2000));
  const whole = flacFile([numbers(1), numbers(2)], 16, RATE, 4);
  const hurt = whole.slice();
  // One bit of the sum that was written with them.
  hurt[8 + 20] = (hurt[8 + 20] ?? 0) ^ 1;
  const flac = (name: string, bytes: Uint8Array) => ({
    name,
    mimeType: 'audio/flac',
    buffer: Buffer.from(bytes),
  });
  await opened(bench, [flac('evening.flac', whole), flac('hurt.flac', hurt)]);
  await expect(page.getByText(/^2 channels · .* · FLAC · .*whole, by its own sum/)).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'hurt.flac', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('the file is damaged somewhere');
  await expect(says(bench)).toContainText('Loudness');
});
