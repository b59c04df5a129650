import AxeBuilder from '@axe-core/playwright';
import { captured, heard, levelDb, playing, seek, type Captured, playingWhole } from './listening';
import { expect, test } from './workbench';

test('Space plays each demo and stops it, from every station', async ({ bench, page }) => {
  await bench.openDemo();
  for (const id of ['demo-nonet', 'demo-choir', 'demo-harpsichord']) {
    await page.goto(`/session/${id}/checks`);
    await page.getByRole('main', { name: 'Checks' }).waitFor();
    await page.keyboard.press('Space');
    await playing(page);
    // Both channels sound, and low: louder is a decision of whoever listens.
    await expect(async () => {
      const { left, right } = await captured(page, 24_000, 'out');
      for (const samples of [left, right]) {
        expect(levelDb(samples)).toBeGreaterThan(-62);
        expect(levelDb(samples)).toBeLessThan(-28);
      }
    }).toPass();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
    await expect(heard(page)).toHaveText(/^a simulation/);
  }
});

test('who is heard, mono, sides, softer, room, head and candidate, by keys alone', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  await page.keyboard.press('F6');
  await expect(page.getByRole('region', { name: 'Stereo image' })).toBeFocused();
  const out = () => captured(page, 72_000, 'out');
  // Always the same second and a half of the phrase.
  const settledOut = async () => {
    await page.waitForTimeout(120);
    await seek(page, 24_000);
    return out();
  };
  // The flute alone, far left.
  await page.getByLabel('Who is heard').selectOption({ label: 'Flute alone' });
  await page.keyboard.press('F6');
  const flute = await settledOut();
  const toLeft = levelDb(flute.left) - levelDb(flute.right);
  expect(toLeft).toBeGreaterThan(0.5);
  await page.keyboard.press('x');
  const swapped = await settledOut();
  expect(levelDb(swapped.right) - levelDb(swapped.left)).toBeGreaterThan(0.5);
  await page.keyboard.press('x');
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: 'mono' })).toHaveAttribute('aria-pressed', 'true');
  const mono = await settledOut();
  expect(mono.left.every((value, i) => Math.abs(value - (mono.right[i] ?? 1)) < 1e-6)).toBe(true);
  await page.keyboard.press('o');
  await page.keyboard.press('h');
  await expect(heard(page)).toContainText('headphones, as from two loudspeakers');
  const head = await settledOut();
  // Both ears hear both loudspeakers: less apart than the channels are.
  const apart = Math.abs(levelDb(head.left) - levelDb(head.right));
  expect(apart).toBeGreaterThan(0.2);
  expect(head.left.some((value) => value !== 0)).toBe(true);
  await page.keyboard.press('h');
  const mixed = async () => {
    await page.waitForTimeout(120);
    await seek(page, 24_000);
    return captured(page, 72_000, 'mix');
  };
  const whole = await mixed();
  await page.keyboard.press('r');
  await expect(heard(page)).toContainText('room alone');
  await playing(page);
  const room = await mixed();
  // Another sound, and not far from it in level: how a tone meets itself is the room's own.
  const [a, b] = [whole.frames.indexOf(60_000), room.frames.indexOf(60_000)];
  const part = whole.left.subarray(a, a + 12_000);
  const other = part.map((value, i) => value - (room.left[b + i] ?? 0));
  expect(levelDb(other)).toBeGreaterThan(levelDb(part) - 20);
  expect(Math.abs(levelDb(room.left) - levelDb(whole.left))).toBeLessThan(9);
  await page.keyboard.press('r');
  await expect(heard(page)).not.toContainText('room alone');
  // Away from the image line the same letters need Shift.
  await bench.player('Flute').focus();
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'dim' })).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('Shift+D');
  await expect(page.getByRole('button', { name: 'dim' })).toHaveAttribute('aria-pressed', 'true');

  // A candidate is as loud as the plan, and where the focus is in a list Space is the list's.
  await page
    .getByLabel('Candidate beside it')
    .selectOption({ label: 'keep this one as a candidate' });
  await page.keyboard.press('F6');
  await page.keyboard.press('b');
  await expect(heard(page)).toContainText('candidate');
  await playing(page);
  await page.keyboard.press('b');
  await expect(heard(page)).not.toContainText('candidate');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
});

for (const theme of ['light', 'dark'] as const) {
  test(`a page that plays has no accessibility violations in the ${theme} theme`, async ({
    bench,
    page,
  }) => {
    await page.addInitScript((name) => localStorage.setItem('rotunda-theme', name), theme);
    await bench.openDemo();
    await page.keyboard.press('Space');
    await playing(page);
    await page.keyboard.press('Shift+O');
    await page.keyboard.press('Shift+H');
    await expect(heard(page)).toContainText('in mono, headphones');
    const { violations } = await new AxeBuilder({ page })
      .include('section[aria-label="Stereo image"]')
      .analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  });
}

test('of a mix one array is heard alone, or all without it, and the page says what is simplified', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.goto('/session/demo-choir/floor');
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.keyboard.press('Space');
  await playing(page);
  // One array is heard, and that is no mix.
  await expect(page.getByLabel('Which arrays are heard')).toHaveCount(0);
  await page.getByLabel('The line shows').selectOption('mix');
  const which = page.getByLabel('Which arrays are heard');
  const names = (await which.locator('optgroup').first().locator('option').allTextContents()).map(
    (text) => text.replace(/ alone$/, ''),
  );
  expect(names.length).toBe(3);
  const heardNow = async (): Promise<Captured> => {
    await playingWhole(page);
    await page.waitForTimeout(200);
    await seek(page, 24_000);
    return captured(page, 72_000, 'mix');
  };
  /** How alike two captures are where both have the same second of the phrase, 0 … 1. */
  const alike = (a: Captured, b: Captured): number => {
    const [i, j] = [a.frames.indexOf(48_000), b.frames.indexOf(48_000)];
    let [both, one, other] = [0, 0, 0];
    for (let k = 0; k < 24_000; k++) {
      const [x, y] = [a.left[i + k] ?? 0, b.left[j + k] ?? 0];
      both += x * y;
      one += x * x;
      other += y * y;
    }
    return both / Math.sqrt(one * other);
  };
  const all = await heardNow();
  await which.selectOption({ label: `${names[1]} alone` });
  const alone = await heardNow();
  await which.selectOption({ label: `without ${names[1]}` });
  const without = await heardNow();
  await which.selectOption({ label: 'all arrays' });
  expect(alike(all, await heardNow())).toBeGreaterThan(0.9999);
  expect(alike(all, alone)).toBeLessThan(0.95);
  expect(alike(alone, without)).toBeLessThan(alike(all, without));
  // Whole sentences for what the line has no room for, by keys as well.
  await page.getByLabel('About what is heard').focus();
  await page.keyboard.press('Enter');
  const about = page.getByRole('list', { name: 'About what is heard' });
  await expect(about).toContainText('place, width and room can be judged, timbre cannot.');
  await expect(about).toContainText('Of several arrays the main one follows the hand');
  await page.keyboard.press('Escape');
  await expect(about).toHaveCount(0);
});

test('where the browser gives no processor, plain sources play, and say what is missing', async ({
  bench,
  page,
}) => {
  await page.addInitScript(() => {
    Object.defineProperty(BaseAudioContext.prototype, 'audioWorklet', { get: () => undefined });
  });
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  await expect(heard(page)).toHaveAttribute('title', /no processor/);
  await expect(page.getByRole('button', { name: 'mono' })).toBeDisabled();
  await page.getByLabel('Who is heard').selectOption({ label: 'Flute alone' });
  await page.keyboard.press('Control+k');
  await page.keyboard.press('Escape');
});

test('another session is opened while one plays: it stops, and the other one plays', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('link', { name: /Harpsichord/ }).click();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
  await expect(page.getByLabel('Who is heard')).toContainText('Viol alone');
  await page.keyboard.press('Space');
  await playing(page);
  const { left } = await captured(page, 48_000, 'out');
  expect(levelDb(left)).toBeGreaterThan(-62);
  // A player more while it plays: heard as soon as it can be, and nothing stops.
  await page.keyboard.press('a');
  await expect(page.getByLabel('Who is heard')).toContainText('Player 3 alone');
  await playing(page);
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
});

test('without sound output, players or microphones there is a message, and no sound', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.evaluate(() => {
    AudioContext.prototype.resume = () => new Promise(() => undefined);
    Object.defineProperty(AudioContext.prototype, 'state', { get: () => 'suspended' });
  });
  await page.keyboard.press('Space');
  await expect(heard(page)).toContainText('No sound');
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
  await page.reload();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.evaluate(() => Reflect.deleteProperty(globalThis, 'AudioContext'));
  await page.keyboard.press('Space');
  await expect(heard(page)).toContainText('this browser has no sound output');
});
