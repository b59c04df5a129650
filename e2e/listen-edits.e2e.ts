import { demoSession } from '../core/demo';
import type { Session } from '../core/session';
import { captured, imported, playing, type Captured } from './listening';
import { expect, test } from './workbench';

test.describe.configure({ timeout: 300_000 });

/** Four double basses: nothing in what they play is as steep as a click. */
function basses(): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [player] = demo.sources;
  if (!player) throw new Error('no player');
  return {
    ...demo,
    id: 'own-basses',
    sources: [-1.2, -0.4, 0.4, 1.2].map((x, i) => ({
      ...player,
      id: `bass${i}`,
      name: `Bass ${i + 1}`,
      kind: 'double bass',
      x,
      widthM: 0,
      depthM: 0,
    })),
  };
}

/** The steepest step from one sample to the next, of either channel. */
const steepest = ({ left, right }: Captured): number =>
  [left, right].reduce(
    (most, channel) =>
      channel.reduce(
        (so, value, i) => Math.max(so, i > 0 ? Math.abs(value - (channel[i - 1] ?? 0)) : 0),
        most,
      ),
    0,
  );

test('thirty edits while it plays: none clicks, and nobody stays silent', async ({
  bench,
  page,
}) => {
  await imported(bench, basses());
  await page.keyboard.press('Space');
  await playing(page);
  const steady = await captured(page, 9 * 48_000, 'out');
  const usual = steepest(steady);
  expect(usual).toBeGreaterThan(1e-4);
  // What is asked for below is not true of anything: a loop that is cut anywhere does click.
  const cut = { ...steady, left: steady.left.map((v, i) => (i % 4_800 < 2_400 ? v : 0)) };
  expect(steepest(cut) / usual).toBeGreaterThan(2);

  const who = page.getByLabel('Who is heard');
  const onPlan = () => bench.player('Bass 1').focus();
  const edits: (() => Promise<unknown>)[] = [
    async () => {
      await bench.player('Bass 1').click();
      await page.keyboard.press('Control+c');
      await page.keyboard.press('Control+v');
    },
    async () => {
      const names = await who.locator('option').allTextContents();
      const copy = names.findLast((name) => name.endsWith(' alone') && !/section/i.test(name));
      await who.selectOption({ label: copy ?? '' });
    },
    // Whoever is heard alone goes: everybody is heard again.
    () => page.keyboard.press('Delete'),
    async () => {
      await onPlan();
      await page.keyboard.press('Control+z');
    },
    async () => {
      await bench.player('Bass 2').click();
      await page.keyboard.press('Shift+ArrowRight');
    },
    async () => {
      await bench.pair.click();
      await page.keyboard.press('Shift+ArrowDown');
    },
  ];
  let [done, worst] = [0, 0];
  for (let round = 0; round < 5; round++) {
    const capturing = captured(page, 7 * 48_000, 'out');
    for (const edit of edits) {
      await edit();
      done += 1;
      await page.waitForTimeout(600);
    }
    worst = Math.max(worst, steepest(await capturing) / usual);
  }
  expect(done).toBe(30);
  expect(worst).toBeLessThan(2);
  await playing(page);
  const level = (samples: Float32Array) => samples.reduce((sum, v) => sum + v * v, 0);
  expect(level((await captured(page, 9 * 48_000, 'out')).left)).toBeGreaterThan(
    level(steady.left) / 2,
  );
});
