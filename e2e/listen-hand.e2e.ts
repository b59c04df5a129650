import { delayBetween } from '../core/audio/measure/delay';
import { directPath } from '../core/audio/render/paths';
import { placeCapsules } from '../core/arrays';
import { speedOfSound } from '../core/units/sound';
import { captured, imported, oneOfNoise, playing } from './listening';
import { expect, test } from './workbench';

test('takes change at the same sample, without a gap, while the page is blocked', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  const count = 768_000;
  await page.evaluate((frames) => {
    const tell = (detail: unknown) => dispatchEvent(new CustomEvent('listen-post', { detail }));
    for (const take of [1, 2, 3]) {
      tell({
        kind: 'open',
        take: `told ${take}`,
        stems: Array.from({ length: 9 }, (_, s) => `s${s}`),
        trim: 1,
      });
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
  const own = oneOfNoise();
  const [player] = own.sources;
  if (!player) throw new Error('no player');
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
