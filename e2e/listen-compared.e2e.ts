import type { Page } from '@playwright/test';
import { LoudnessMeter } from '../core/audio/measure/loudness';
import { pinkNoise } from '../core/audio/signal/generate';
import { captured, imported, type Captured } from './listening';
import { file, fourInputs, opened, RATE } from './recordings';
import { expect, test, type Workbench } from './workbench';

const SECONDS = 24;

declare global {
  interface Window {
    contexts: AudioContext[];
  }
}

/** The clocks of all sound that the page makes. */
const keepClocks = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    window.contexts = [];
    window.AudioContext = class extends AudioContext {
      constructor(options?: AudioContextOptions) {
        super(options);
        window.contexts.push(this);
      }
    };
  });

/** Two takes of one performance, of which the second is 12 dB softer and a little other. */
async function twoTakes(bench: Workbench): Promise<Float32Array[]> {
  const { page } = bench;
  const shared = pinkNoise(SECONDS * RATE, 1);
  const other = pinkNoise(SECONDS * RATE, 2);
  const loud = shared.map((v) => v * 0.08);
  const soft = shared.map((v, i) => v * 0.02 + (other[i] ?? 0) * 0.004);
  await imported(bench, fourInputs());
  await bench.go('bench');
  await opened(bench, [
    file({ name: 'loud.wav', planes: [loud, loud] }),
    file({ name: 'soft.wav', planes: [soft, soft] }),
  ]);
  await expect(page.getByRole('list', { name: 'What it says' })).toBeVisible();
  await bench.go('soundcheck');
  await bench.turnTo('Compare');
  await page.getByRole('checkbox', { name: /loud/ }).check();
  await page.getByRole('checkbox', { name: /soft/ }).check();
  await expect(page.getByRole('status', { name: 'Loudness' })).toContainText('0.00 LU apart');
  return [loud, soft];
}

const heard = (page: Page) => page.getByRole('status', { name: 'What is heard' });

/** Gain of a stretch against a plane at its own place, and how alike they are. */
function against({ left, frames }: Captured, plane: Float32Array, from: number, to: number) {
  let [xy, xx, yy] = [0, 0, 0];
  for (let i = from; i < to; i++) {
    const [y, x] = [left[i] ?? 0, plane[frames[i] ?? 0] ?? 0];
    [xy, xx, yy] = [xy + x * y, xx + x * x, yy + y * y];
  }
  return { gain: xy / xx, likeness: xy / Math.sqrt(xx * yy) };
}

/** What is heard around a press of a key, and when that was on the clock of the sound. */
async function around(page: Page, key: string, count: number) {
  const waiting = captured(page, count, 'mix');
  await page.waitForTimeout(120);
  const pressedS = await page.evaluate((pressed) => {
    const now = window.contexts.at(-1)?.currentTime ?? 0;
    dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true }));
    return now;
  }, key);
  return { heard: await waiting, pressedS };
}

test('letters switch at once, without a gap, at one place and at one loudness', async ({
  bench,
  page,
}) => {
  await keepClocks(page);
  const [loud, soft] = await twoTakes(bench);
  if (!loud || !soft) throw new Error('no takes');
  await page.keyboard.press('a');
  await expect(heard(page)).toHaveText(/^recording: A/);
  await page.waitForTimeout(1500);
  const waits: number[] = [];
  for (const [key, from, to] of [
    ['b', loud, soft],
    ['a', soft, loud],
    ['b', loud, soft],
  ] as const) {
    const { heard: sound, pressedS } = await around(page, key, RATE);
    // One place: it goes on frame by frame.
    const steps = [...sound.frames].slice(1).map((frame, i) => frame - (sound.frames[i] ?? 0));
    expect(new Set(steps)).toEqual(new Set([1]));
    const FINE = 120;
    const left = Array.from({ length: RATE / FINE }, (_, i) =>
      against(sound, from, i * FINE, (i + 1) * FINE),
    ).findIndex(({ likeness }) => likeness < 0.9995);
    waits.push(1000 * (sound.timeS + (left * FINE) / RATE - pressedS));
    const BLOCK = 480;
    const blocks = Array.from({ length: RATE / BLOCK }, (_, i) => ({
      before: against(sound, from, i * BLOCK, (i + 1) * BLOCK).likeness,
      after: against(sound, to, i * BLOCK, (i + 1) * BLOCK).likeness,
    }));
    const switched = blocks.findIndex(({ before, after }) => after > before);
    expect(switched).toBeGreaterThan(0);
    expect(blocks.slice(switched + 4).every(({ after }) => after > 0.999)).toBe(true);
    // No gap: its level never falls.
    const whole = against(sound, to, (switched + 4) * BLOCK, RATE).gain;
    const levels = blocks.map((_, i) => {
      const mine = against(sound, i < switched ? from : to, i * BLOCK, (i + 1) * BLOCK).gain;
      return (
        20 *
        Math.log10(
          mine / (i < switched ? against(sound, from, 0, (switched - 1) * BLOCK).gain : whole),
        )
      );
    });
    expect(Math.min(...levels)).toBeGreaterThan(-1);
  }
  // From the key to the first sample that is other: the fade itself is 20 ms.
  expect(Math.min(...waits), `${waits.join(' ')} ms`).toBeLessThanOrEqual(30);
  expect(Math.min(...waits)).toBeGreaterThan(-5);
  await page.waitForTimeout(300);

  // Over the passage neither is louder; a stretch of it, at the same place for both.
  await page.getByLabel('Passage from').fill('0:04');
  await page.getByRole('textbox', { name: 'to', exact: true }).fill('0:09');
  await page.getByRole('textbox', { name: 'to', exact: true }).press('Enter');
  await expect(page.getByRole('status', { name: 'Loudness' })).toContainText('0.00 LU apart');
  const loudness: number[] = [];
  for (const key of ['a', 'b']) {
    await page.keyboard.press(key);
    await expect(heard(page)).toHaveText(new RegExp(`^recording: ${key.toUpperCase()}`));
    await page.waitForTimeout(1500);
    const { left, right, frames } = await captured(page, 6 * RATE, 'mix');
    const outside = frames.filter((frame) => frame < 4 * RATE - 128 || frame > 9 * RATE + 128);
    expect(outside.length).toBe(0);
    // One round of the passage, from its beginning.
    const begin = frames.findIndex((frame, i) => i > 0 && frame < (frames[i - 1] ?? 0));
    const at = (frame: number): number => (frame + RATE * 5) % (5 * RATE);
    const round = [new Float32Array(5 * RATE), new Float32Array(5 * RATE)] as const;
    for (let i = 0; i < left.length; i++) {
      const place = at((frames[i] ?? 0) - 4 * RATE);
      round[0][place] = left[i] ?? 0;
      round[1][place] = right[i] ?? 0;
    }
    expect(begin).toBeGreaterThan(0);
    const meter = new LoudnessMeter([1, 1], RATE);
    meter.add([...round], 5 * RATE);
    loudness.push(meter.result().integrated ?? NaN);
  }
  expect(Math.abs((loudness[0] ?? 0) - (loudness[1] ?? 9))).toBeLessThanOrEqual(0.1);
});

test('blind every letter comes as fast and as long, and one that changes place with itself is not heard to', async ({
  bench,
  page,
}) => {
  await keepClocks(page);
  const [loud, soft] = await twoTakes(bench);
  if (!loud || !soft) throw new Error('no takes');
  const form = page.getByRole('form', { name: 'Blind' });
  await form.getByLabel('The question').selectOption('identification');
  await form.getByLabel('Trials').fill('10');
  await form.getByRole('button', { name: 'Listen blind' }).click();
  await expect(page.getByRole('region', { name: 'Blind test' })).toBeVisible();
  await page.waitForTimeout(2000);
  const sure: string[] = [];
  for (let trial = 1; trial <= 10; trial++) {
    await expect(page.getByRole('status', { name: 'Trial' })).toContainText(`Trial ${trial} of`);
    // The other one, the unknown one, and the sound of it: a machine with the files can tell.
    for (const key of ['b', 'x']) {
      await page.keyboard.press(key);
      await page.waitForTimeout(120);
    }
    let [isLoud, isSoft] = [false, false];
    // Where the passage goes round it fades for a moment: then once more.
    await expect(async () => {
      const sound = await captured(page, RATE / 4, 'mix');
      isLoud = against(sound, loud, 0, RATE / 4).likeness > 0.9999;
      isSoft = against(sound, soft, 0, RATE / 4).likeness > 0.9999;
      expect(isLoud !== isSoft).toBe(true);
    }).toPass();
    sure.push(isLoud ? 'A' : 'B');
    // From what it is to itself nothing happens: no step, no dip.
    await expect(async () => {
      const { heard: same } = await around(page, isLoud ? 'a' : 'b', RATE / 2);
      const whole = against(same, isLoud ? loud : soft, 0, RATE / 2);
      expect(whole.likeness).toBeGreaterThan(0.9999);
    }).toPass();
    await page.getByRole('button', { name: isLoud ? 'X is A' : 'X is B' }).click();
  }
  expect(new Set(sure).size).toBe(2);
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: /^Nobody else listens/ }).click();
  await expect(page.getByRole('list', { name: 'What came of it' })).toContainText(
    'can tell them apart, sure: 10 of 10 right',
  );
  await expect(page.getByRole('list', { name: 'What came of it' })).toContainText(
    'Another performance',
  );
});
