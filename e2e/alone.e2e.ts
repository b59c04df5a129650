import { writeFileSync } from 'node:fs';
import { pinkNoise } from '../core/audio/signal/generate';
import { file, ownBench, says } from './recordings';
import { demoSession } from '../core/demo';
import { expect, test } from './workbench';
import {
  captured,
  heard,
  imported,
  levelDb,
  oneOfNoise,
  playing,
  seek,
  type Captured,
} from './listening';

test('five hundred players sound soon, and the page stays free', async ({ bench, page }) => {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const sources = Array.from({ length: 500 }, (_, i) => {
    const player = demo.sources[i % demo.sources.length];
    if (!player) throw new Error('no player');
    const [x, y] = [((i % 25) - 12) * 0.5, 2 + Math.floor(i / 25) * 0.3];
    return { ...player, id: `s${i}`, name: `Player ${i}`, group: `Section ${i % 20}`, x, y };
  });
  await imported(bench, { ...demo, id: 'own-five-hundred', sources });
  await page.evaluate(() => {
    const long: number[] = [];
    Object.assign(globalThis, { long });
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) long.push(duration);
    }).observe({ type: 'longtask' });
  });
  await page.keyboard.press('Space');
  await expect(heard(page)).toHaveText(/^simulation/, { timeout: 30_000 });
  await expect(async () => {
    const { left } = await captured(page, 24_000, 'out');
    expect(levelDb(left)).toBeGreaterThan(-62);
  }).toPass({ timeout: 30_000 });
  // What takes long says how far it is.
  await expect(heard(page)).toContainText(/being made, \d+ %/);
  await page.getByLabel('About what is heard').click();
  await expect(page.getByRole('list', { name: 'About what is heard' })).toContainText(
    'While something is dragged every section sounds from its middle.',
  );
  await page.keyboard.press('Escape');
  // Whom to hear, out of so many, is typed.
  const who = page.getByLabel('Who is heard');
  await who.fill('player 77');
  await who.press('Enter');
  await expect(who).toHaveValue('Player 77 alone');
  await who.fill('every');
  await who.press('Enter');
  await expect(who).toHaveValue('everybody');
  const blocked = await page.evaluate(
    () => (globalThis as unknown as { long: number[] }).long.filter((ms) => ms > 1000).length,
  );
  expect(blocked).toBe(0);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
});

test('what is dragged is heard where it is soon after the pointer', async ({ bench, page }) => {
  // The clock of the sound at every move of the pointer, before the page has heard of it.
  await page.addInitScript(() => {
    const moves: number[] = [];
    const contexts: AudioContext[] = [];
    const Watched = new Proxy(AudioContext, {
      construct: (target, given: [AudioContextOptions?]) => {
        const made = new target(...given);
        contexts.push(made);
        return made;
      },
    });
    Object.assign(globalThis, { AudioContext: Watched, moves });
    // A longer buffer, after one ran dry, is another context with another clock.
    Object.assign(globalThis, { contexts });
    const clock = () => contexts.at(-1)?.currentTime;
    addEventListener('pointermove', () => clock() && moves.push(clock() ?? NaN), true);
  });
  await imported(bench, oneOfNoise());
  await page.keyboard.press('Space');
  await playing(page);
  const box = await bench.pair.boundingBox();
  if (!box) throw new Error('the pair is not on the screen');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  /** The same seconds of the phrase, every time. */
  const seconds = async (): Promise<Captured> => {
    await seek(page, 24_000);
    return captured(page, 120_000, 'mix');
  };
  /** What was captured at a frame of the loop, if it was. */
  const startOf = ({ frames }: Captured): number => frames.indexOf(48_000);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 20, y, { steps: 5 });
  await page.waitForTimeout(300);
  const took: number[] = [];
  /** The same where nothing moves: a capture that began before its seek had arrived is taken again. */
  const still = async (): Promise<Captured> => {
    let one = await seconds();
    for (let i = 0; i < 8 && startOf(one) < 0; i++) one = await seconds();
    return one;
  };
  const clocks = () =>
    page.evaluate(() => (globalThis as unknown as { contexts: unknown[] }).contexts.length);
  let before = await still();
  let missed = 0;
  for (let i = 0; took.length < 6; i++) {
    await page.evaluate(() => (globalThis as unknown as { moves: number[] }).moves.splice(0));
    const clock = await clocks();
    const capturing = seconds();
    await page.waitForTimeout(900);
    await page.mouse.move(x + (i % 2 === 0 ? 30 : 20), y);
    const during = await capturing;
    const [movedS] = await page.evaluate(
      () => (globalThis as unknown as { moves: number[] }).moves,
    );
    if (movedS === undefined) throw new Error('nothing was moved');
    const after = await still();
    const [b, d, a] = [startOf(before), startOf(during), startOf(after)];
    expect(Math.min(b, a)).toBeGreaterThanOrEqual(0);
    const moved = Math.round((movedS - during.timeS) * 48_000) - d;
    // A hand that was late moved outside of what was captured, and a clock may have been changed: again.
    const held = d >= 0 && moved >= 480 && d + moved + 24_240 < during.frames.length;
    if (!held || a + moved + 24_240 > after.frames.length || clock !== (await clocks())) {
      expect((missed += 1), 'moves that cannot be timed').toBeLessThan(12);
      before = after;
      continue;
    }
    /** How far what is heard still is from where it is going, as a share of the whole way. */
    const leftAt = (at: number): number => {
      let [off, way] = [0, 0];
      for (let k = at; k < at + 240; k++) {
        for (const side of ['left', 'right'] as const) {
          const end = after[side][a + k] ?? 0;
          off += ((during[side][d + k] ?? 0) - end) ** 2;
          way += ((before[side][b + k] ?? 0) - end) ** 2;
        }
      }
      return Math.sqrt(off / way);
    };
    expect(leftAt(moved - 480)).toBeGreaterThan(0.95);
    let there = moved;
    while (leftAt(there) > 0.05 && there < moved + 24_000) there += 48;
    took.push((there - moved) / 48);
    before = after;
  }
  await page.mouse.up();
  took.sort((a, b) => a - b);
  const [middle, worst] = [((took[2] ?? NaN) + (took[3] ?? NaN)) / 2, took[5] ?? NaN];
  const figures = `heard behind the pointer after ${middle} ms, at worst ${worst} (${took.join(', ')}; ${missed} made again)`;
  process.stdout.write(`${figures}\n`);
  // Some 60 ms on a calm machine; a stage more on the way, or a wait for the hand to rest, is longer than this.
  expect(took).toHaveLength(6);
  expect(middle).toBeLessThan(120);
  expect(worst).toBeLessThan(250);
});

const MINUTE = process.env.ROTUNDA_SOAK ? 60 : 14;

test(`${MINUTE} s of playing with drags: what goes out never runs dry once the buffer fits`, async ({
  bench,
  page,
}) => {
  await page.addInitScript(() => {
    const contexts: AudioContext[] = [];
    const Watched = new Proxy(AudioContext, {
      construct: (target, given: [AudioContextOptions?]) => {
        const made = new target(...given);
        contexts.push(made);
        return made;
      },
    });
    Object.assign(globalThis, { AudioContext: Watched, contexts });
  });
  /** Of each sound that was given out in turn: how often it ran dry. */
  const dry = () =>
    page.evaluate(() =>
      (
        globalThis as unknown as {
          contexts: { playbackStats: { underrunEvents: number; totalDuration: number } }[];
        }
      ).contexts.map(({ playbackStats }) => ({
        events: playbackStats.underrunEvents,
        seconds: playbackStats.totalDuration,
      })),
    );
  await bench.openDemo();
  await page.keyboard.press('Space');
  await playing(page);
  const box = await bench.pair.boundingBox();
  if (!box) throw new Error('the pair is not on the screen');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  /** Drags it about for so long, and lets go now and then. */
  const drags = async (seconds: number): Promise<void> => {
    for (const end = Date.now() + 1000 * seconds; Date.now() < end;) {
      await page.mouse.move(x, y);
      await page.mouse.down();
      for (let i = 0; i < 40; i++) {
        await page.mouse.move(x + 40 * Math.sin(i / 5), y + 20 * Math.sin(i / 7));
        await page.waitForTimeout(25);
      }
      await page.mouse.move(x, y);
      await page.mouse.up();
      await page.waitForTimeout(600);
    }
  };
  // Each time that it ran dry it grows, so that there comes a time from which on it does no more.
  let [tried, best] = [0, Infinity];
  for (; tried < 5 && best > 0; tried++) {
    const before = await dry();
    await drags(MINUTE);
    await page.waitForTimeout(1200);
    const after = await dry();
    best = after.reduce((sum, { events }, i) => sum + events - (before[i]?.events ?? 0), 0);
    if (after.length > before.length) best = Infinity;
  }
  const all = await dry();
  process.stdout.write(
    `sound of ${all.map(({ events, seconds }) => `${seconds.toFixed(0)} s ran dry ${events} times`).join(', then ')}\n`,
  );
  expect(all.length).toBeLessThanOrEqual(6);
  expect(best).toBe(0);
});

interface Traced {
  ph: string;
  name: string;
  pid: number;
  tid: number;
  /** µs of the thread's own time */
  tdur?: number;
  args?: { name?: string };
}

/** CPU time of every task on the threads of pages, ms. */
function tasksOfPages(trace: Buffer): number[] {
  const { traceEvents } = JSON.parse(trace.toString()) as { traceEvents: Traced[] };
  const threads = new Set(
    traceEvents
      .filter(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain')
      .map(({ pid, tid }) => `${pid} ${tid}`),
  );
  const tasks = traceEvents.filter(
    ({ ph, name, pid, tid }) =>
      ph === 'X' && name.endsWith('RunTask') && threads.has(`${pid} ${tid}`),
  );
  expect(tasks.length).toBeGreaterThan(100);
  return tasks.map(({ tdur = 0 }) => Math.round(tdur / 1000));
}

test('a recording is opened, drawn, scrolled and read without holding the page up', async ({
  bench,
  browser,
  page,
}, info) => {
  await ownBench(bench);
  const planes = [1, 2].map((seed) => pinkNoise(60 * 48_000, seed).map((v) => v / 20));
  await browser.startTracing(page, { categories: ['toplevel'] });
  // From the disk: what is handed over by the test itself goes through the page's thread.
  const path = info.outputPath('Main pair.wav');
  writeFileSync(path, file({ name: 'Main pair.wav', planes }).buffer);
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  await (await choosing).setFiles(path);
  const line = page.getByRole('application');
  const box = await line.boundingBox();
  if (!box) throw new Error('the curve is not on the screen');
  await page.mouse.move(box.x + box.width / 2, box.y + 40);
  for (let i = 0; i < 60; i++) await page.mouse.wheel(i < 20 ? 0 : 60, i < 20 ? -50 : 0);
  await expect(says(bench)).toBeVisible();
  for (const name of ['Levels and noise', 'Stereo', 'Delays', 'Room', 'Channels']) {
    await bench.turnTo(name);
    await page.waitForTimeout(400);
  }
  const long = tasksOfPages(await browser.stopTracing()).filter((ms) => ms > 25);
  // By what a task asks of the core: what else the machine does is not the page's.
  info.annotations.push({ type: 'tasks over 25 ms', description: long.join(', ') });
  expect(long.filter((ms) => ms > 50)).toEqual([]);
});
