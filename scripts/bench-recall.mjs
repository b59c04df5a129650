// Three hundred sessions with three thousand marks, looked through in headless Chromium.
import { chromium } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './ensure.mjs';
import { pageScript } from './page-script.mjs';
import { startServer } from './server-process.mjs';

const [SESSIONS, MARKS] = [300, 10];
const WORDS = ['warm pillar', 'tithe barn', 'hollow', 'cello aisle', 'boomy heting'];
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

export async function benchRecall(executablePath, port = 4684) {
  const folder = mkdtempSync(join(ROOT, 'node_modules', '.bench-recall-'));
  const server = await startServer(port);
  try {
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      executablePath,
      serviceWorkers: 'block',
    });
    const page = await context.newPage();
    await page.goto(server.address);
    await page.evaluate(await pageScript('scripts/bench-recall-page.ts'));
    await page.evaluate(([s, m]) => window.bench.fill(s, m), [SESSIONS, MARKS]);
    await page.goto(`${server.address}session/s7/recall`);
    const from = Date.now();
    await page.getByRole('list', { name: 'Halls' }).waitFor({ timeout: 120_000 });
    say(
      `${SESSIONS} sessions, ${SESSIONS * MARKS} marks read beside the page`,
      `${Date.now() - from} ms`,
      'the page stays free',
    );
    // What a key costs the page until it is drawn, and when the list answers it.
    await page.evaluate(() => {
      const keys = [];
      let [at, frame] = [0, 0];
      Object.assign(globalThis, { keys });
      addEventListener(
        'keydown',
        () => {
          at = performance.now();
          requestAnimationFrame(() => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => (frame = performance.now() - at);
            channel.port2.postMessage(0);
          });
        },
        { capture: true },
      );
      const look = (list) => {
        const said = document.querySelector('[aria-label="How many"]');
        if (at === 0 || !list || said?.getAttribute('aria-busy') !== 'false') return;
        keys.push({ frame, list: performance.now() - at });
        at = 0;
      };
      new MutationObserver(() => look(document.querySelector('[aria-label="Found"]'))).observe(
        document.querySelector('main'),
        { subtree: true, childList: true, attributes: true, characterData: true },
      );
    });
    const session = await page.context().newCDPSession(page);
    await session.send('Performance.enable');
    const busy = async () => {
      const { metrics } = await session.send('Performance.getMetrics');
      return 1000 * (metrics.find(({ name }) => name === 'TaskDuration')?.value ?? 0);
    };
    const costs = [];
    const rests = [];
    for (let i = 0; i < 15; i++) {
      const before = await busy();
      await page.waitForTimeout(200);
      rests.push((await busy()) - before);
    }
    const field = page.getByRole('searchbox', { name: 'Find' });
    for (const words of WORDS) {
      await field.fill('');
      await page.waitForTimeout(300);
      for (const letter of words) {
        const before = await busy();
        await page.keyboard.press(letter === ' ' ? 'Space' : letter);
        await page.waitForTimeout(200);
        costs.push((await busy()) - before);
      }
    }
    const keys = await page.evaluate(() => globalThis.keys);
    const most = (values) => Math.max(...values);
    say(
      'A letter more, until it is drawn',
      `${median(keys.map(({ frame }) => frame)).toFixed(0)} ms`,
      'wanted 16',
    );
    say(
      'All work of the page for it, with drawing the list',
      `${(median(costs) - median(rests)).toFixed(0)} ms (at most ${most(costs).toFixed(0)})`,
      `at rest ${median(rests).toFixed(0)}`,
    );
    const lists = keys.map(({ list }) => list);
    say(
      'From the letter to the list',
      `${median(lists).toFixed(0)} ms (at most ${most(lists).toFixed(0)})`,
      'wanted 60',
    );
    await context.close();
  } finally {
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
