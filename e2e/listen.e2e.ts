import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { delayBetween } from '../core/audio/measure/delay';
import { directPath } from '../core/audio/render/paths';
import { placeCapsules } from '../core/arrays';
import { demoSession } from '../core/demo';
import type { Session } from '../core/session';
import { speedOfSound } from '../core/units/sound';
import { expect, test, type Workbench } from './workbench';

interface Captured {
  left: Float32Array;
  right: Float32Array;
  /** of the loop, for each sample */
  frames: Int32Array;
}

/** What is heard, as samples: what goes out, or what is mixed before it is listened to in any way. */
async function captured(page: Page, count: number, what: 'out' | 'mix'): Promise<Captured> {
  const { left, right, frames } = await page.evaluate(
    ([count, what]) =>
      new Promise<{ left: number[]; right: number[]; frames: number[] }>((done) => {
        const take = (heard: Captured) =>
          done({ left: [...heard.left], right: [...heard.right], frames: [...heard.frames] });
        dispatchEvent(new CustomEvent('listen-capture', { detail: { frames: count, what, take } }));
      }),
    [count, what] as const,
  );
  return {
    left: Float32Array.from(left),
    right: Float32Array.from(right),
    frames: Int32Array.from(frames),
  };
}

const levelDb = (samples: Float32Array): number =>
  10 * Math.log10(samples.reduce((sum, v) => sum + v * v, 0) / samples.length + 1e-20);

const heard = (page: Page) => page.getByRole('status', { name: 'What is heard' });

/** Playing, with everything made that is to be heard. */
async function playing(page: Page): Promise<void> {
  await expect(heard(page)).toHaveText(/^simulation/, { timeout: 20_000 });
  await expect(heard(page)).not.toContainText('being made', { timeout: 20_000 });
}

async function imported({ page }: Workbench, session: Session): Promise<void> {
  await page.goto('/');
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  const buffer = Buffer.from(JSON.stringify(session));
  await (
    await choosing
  ).setFiles({ name: 'own.rotunda.json', mimeType: 'application/json', buffer });
  await page.getByRole('main', { name: 'Floor' }).waitFor();
}

test.describe.configure({ timeout: 90_000 });

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
    await page.evaluate(() => {
      const detail = { kind: 'seek', frame: 24_000 };
      dispatchEvent(new CustomEvent('listen-post', { detail }));
    });
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
  await page.keyboard.press('r');
  await expect(heard(page)).toContainText('room alone');
  await playing(page);
  const room = await settledOut();
  expect(levelDb(room.left)).toBeLessThan(levelDb(flute.left));
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

test('takes change at the same sample, without a gap, while the page is blocked', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  const count = 360_000;
  await page.evaluate((frames) => {
    const tell = (detail: unknown) => dispatchEvent(new CustomEvent('listen-post', { detail }));
    for (const take of [1, 2, 3]) {
      tell({ kind: 'open', take: `told ${take}`, stems: 9, trim: 1 });
      for (let stem = 0; stem < 9; stem++) {
        const left = new Float32Array(frames).fill(stem === 0 ? take / 100 : 0);
        const right = Float32Array.from({ length: frames }, (_, i) =>
          stem === 0 ? i / 2 ** 20 : 0,
        );
        tell({ kind: 'layer', take: `told ${take}`, stem, name: 'all', loop: [left, right] });
      }
    }
    tell({ kind: 'choose', take: 'told 1' });
  }, count);
  await page.waitForTimeout(300);
  const capturing = captured(page, 6 * 48_000, 'mix');
  await page.evaluate(async () => {
    for (let i = 0; i < 50; i++) {
      dispatchEvent(
        new CustomEvent('listen-post', {
          detail: { kind: 'choose', take: `told ${1 + ((i + 1) % 3)}` },
        }),
      );
      // Four times nothing else happens in the page.
      if (i % 12 === 6) {
        const until = performance.now() + 700;
        while (performance.now() < until);
      }
      await new Promise((done) => setTimeout(done, 50));
    }
  });
  const { left, right, frames } = await capturing;
  const takes = new Set<number>();
  let [wrong, steady] = [0, 0];
  for (let i = 0; i < left.length; i++) {
    if (i > 0 && (frames[i] ?? 0) % count !== ((frames[i - 1] ?? 0) + 1) % count) wrong += 1;
    const take = (left[i] ?? 0) * 100;
    if (Math.abs(take - Math.round(take)) > 1e-6 || Math.round(take) > 3) continue;
    steady += 1;
    takes.add(Math.round(take));
    if (Math.round((right[i] ?? 0) * 2 ** 20) !== (frames[i] ?? 0) % count) wrong += 1;
  }
  expect(wrong).toBe(0);
  expect([...takes].sort()).toEqual([1, 2, 3]);
  // Most of the time one take alone is heard: 50 changes of 20 ms in six seconds.
  expect(steady / left.length).toBeGreaterThan(0.7);
});

test('the pair is dragged while it plays, and level and time are those of where it is', async ({
  bench,
  page,
}) => {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [player] = demo.sources;
  if (!player) throw new Error('no player');
  // Noise, so that a delay can be told; and no room, so that there is one way only.
  const own: Session = {
    ...demo,
    id: 'own-noise',
    sources: [{ ...player, kind: 'waterfall', widthM: 0, depthM: 0 }],
    venue: { ...demo.venue, widthM: null },
  };
  await imported(bench, own);
  await page.keyboard.press('Space');
  await playing(page);
  const [array] = own.arrays;
  if (!array) throw new Error('no array');
  const speed = speedOfSound(own.venue.temperatureC);
  const compare = async (x: number, y: number) => {
    const { left, right } = await captured(page, 24_000, 'mix');
    const found = delayBetween(left, right, 48_000, 5);
    const ways = placeCapsules({ ...array, x, y }).map((receiver) =>
      directPath(player, receiver, speed),
    );
    const [one, other] = ways;
    if (!one || !other) throw new Error('no ways');
    expect(Math.abs((found?.delayMs ?? 9) - (other.delayS - one.delayS) * 1000)).toBeLessThan(
      0.002,
    );
    expect(Math.abs((found?.levelDb ?? 99) - 20 * Math.log10(other.gain / one.gain))).toBeLessThan(
      0.05,
    );
    return found;
  };
  const before = await compare(array.x, array.y);
  const box = await bench.pair.boundingBox();
  if (!box) throw new Error('the pair is not on the screen');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 90, y, { steps: 12 });
  // Held: nothing is released yet, and what is heard is already there.
  const at = async (label: string) =>
    parseFloat((await bench.field(label).inputValue()).replace('−', '-'));
  await page.waitForTimeout(150);
  const during = await captured(page, 12_000, 'mix');
  await page.mouse.up();
  await bench.pair.click();
  await page.waitForTimeout(600);
  const after = await compare(await at('Right of centre'), await at('Upstage of edge'));
  const held = delayBetween(during.left, during.right, 48_000, 5);
  expect(Math.abs((held?.delayMs ?? 9) - (after?.delayMs ?? 0))).toBeLessThan(0.03);
  expect(Math.abs((after?.delayMs ?? 0) - (before?.delayMs ?? 0))).toBeGreaterThan(0.02);
  // And back, with undo.
  await page.keyboard.press('Control+z');
  await page.waitForTimeout(600);
  await compare(array.x, array.y);
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
  await expect(heard(page)).toContainText('No sound', { timeout: 15_000 });
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
  await page.reload();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.evaluate(() => Reflect.deleteProperty(globalThis, 'AudioContext'));
  await page.keyboard.press('Space');
  await expect(heard(page)).toContainText('this browser has no sound output');
});
