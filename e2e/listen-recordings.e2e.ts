import { encodeFrames, wavHeader, type WrittenFormat } from '../core/audio';
import { pinkNoise } from '../core/audio/signal/generate';
import { captured, heard, playing } from './listening';
import { ownBench } from './recordings';
import { expect, test } from './workbench';

const SECONDS = 20;

function wav(planes: Float32Array[], sampleRateHz: number): Buffer {
  const format: WrittenFormat = { kind: 'float', bits: 32, channels: planes.length, sampleRateHz };
  const frames = planes[0]?.length ?? 0;
  const parts = [wavHeader(format, frames), encodeFrames(planes, frames, format)];
  return Buffer.concat(parts.map((part) => Buffer.from(part)));
}

test('a recording is heard sample by sample, one channel alone, and the plan at the same place', async ({
  bench,
  page,
}) => {
  const planes = [1, 2].map((seed) => pinkNoise(SECONDS * 48_000, seed).map((v) => v * 0.05));
  await ownBench(bench);
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  const buffer = wav(planes, 48_000);
  await (await choosing).setFiles({ name: 'Take 1.wav', mimeType: 'audio/wav', buffer });
  await expect(page.getByRole('list', { name: 'What it says' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(heard(page)).toHaveText(/^recording: Take 1\.wav/);
  await expect(heard(page)).toContainText(/dB to one loudness/);

  /** Gain of what is heard against the recording, and how exactly it is that. */
  const against = ({ left, frames }: { left: Float32Array; frames: Int32Array }, plane: number) => {
    let [xy, xx, yy] = [0, 0, 0];
    left.forEach((y, i) => {
      const x = planes[plane]?.[frames[i] ?? 0] ?? 0;
      [xy, xx, yy] = [xy + x * y, xx + x * x, yy + y * y];
    });
    return { gain: xy / xx, likeness: xy / Math.sqrt(xx * yy) };
  };
  // Once all gains have come to where they go.
  await page.waitForTimeout(1500);
  const first = await captured(page, 24_000, 'mix');
  const whole = against(first, 0);
  expect(whole.likeness).toBeGreaterThan(0.999_99);
  const steps = [...first.frames].slice(1).map((frame, i) => frame - (first.frames[i] ?? 0));
  expect(new Set(steps)).toEqual(new Set([1]));

  await page.getByLabel('Hear', { exact: true }).selectOption({ label: 'Right alone' });
  await expect(heard(page)).toContainText(/dB to one loudness/);
  await page.waitForTimeout(1500);
  const right = await captured(page, 24_000, 'mix');
  expect(against(right, 1).likeness).toBeGreaterThan(0.999_99);
  expect(Math.abs(against(right, 0).likeness)).toBeLessThan(0.1);
  // Of equally loud channels one in both loudspeakers is as loud as both, so it is brought as far.
  expect(20 * Math.log10(against(right, 1).gain / whole.gain)).toBeCloseTo(0, 0);

  await page
    .getByLabel('Hear', { exact: true })
    .selectOption({ label: 'the plan in its place, simulated' });
  await playing(page);
  const plan = await captured(page, 24_000, 'mix');
  expect(Math.abs(against(plan, 0).likeness)).toBeLessThan(0.2);
  // At one place: it went on from where the recording was.
  expect(plan.frames[0]).toBeGreaterThan(right.frames[0] ?? Infinity);
  // And back by its key: the channel that was heard.
  await page.keyboard.press('Shift+B');
  await expect(heard(page)).toHaveText(/^recording: Take 1\.wav/);
  await expect(page.getByLabel('Hear', { exact: true })).toHaveValue('1');
  await page.keyboard.press('Shift+B');
  await expect(page.getByLabel('Hear', { exact: true })).toHaveValue('plan');
  await bench.go('floor');
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
});

test('a recording at another rate is heard at its own, and stops at its end', async ({
  bench,
  page,
}) => {
  const rate = 44_100;
  const tone = Float32Array.from(
    { length: 3 * rate },
    (_, i) => 0.2 * Math.sin((2 * Math.PI * 441 * i) / rate),
  );
  await ownBench(bench);
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  const buffer = wav([tone], rate);
  await (await choosing).setFiles({ name: 'tone.wav', mimeType: 'audio/wav', buffer });
  await expect(page.getByRole('list', { name: 'What it says' })).toBeVisible();
  // What is chosen before anything sounds is what is heard.
  await page.getByRole('textbox', { name: 'From' }).fill('1');
  await page.getByRole('textbox', { name: 'From' }).press('Enter');
  await page.keyboard.press('Space');
  await expect(heard(page)).toHaveText(/^recording: tone\.wav/);
  const stretch = await captured(page, 4410, 'mix');
  expect(Math.min(...stretch.frames)).toBeGreaterThanOrEqual(rate);
  await page.getByRole('button', { name: 'The whole', exact: true }).click();
  const { left, frames } = await captured(page, 22_050, 'mix');
  // 441 Hz at 44.1 kHz: one turn is 100 frames.
  for (let i = 15_000; i < 20_000; i += 37) {
    const [a, b] = [left[i] ?? NaN, left[i + 100] ?? NaN];
    expect(Math.abs(a - b)).toBeLessThan(1e-4);
  }
  expect((frames[200] ?? 0) - (frames[0] ?? 0)).toBe(200);
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
});
