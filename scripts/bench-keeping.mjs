// Three hundred sessions with thirty thousand entries, in headless Chromium.
import { chromium } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './ensure.mjs';
import { pageScript } from './page-script.mjs';
import { startServer } from './server-process.mjs';

const [SESSIONS, ENTRIES, LARGEST] = [300, 30_000, 3000];
const RUNS = 7;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

export async function benchKeeping(executablePath, port = 4683) {
  const folder = mkdtempSync(join(ROOT, 'node_modules', '.bench-keeping-'));
  const server = await startServer(port);
  try {
    const text = await pageScript('scripts/bench-keeping-page.ts');
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      executablePath,
    });
    const page = await context.newPage();
    const begin = async () => {
      await page.goto(server.address);
      await page.evaluate(text);
    };
    await begin();
    await page.evaluate(([s, e, l]) => window.bench.fill(s, e, l), [SESSIONS, ENTRIES, LARGEST]);
    // Another page each time: nothing is remembered.
    const each = async (work) => {
      const runs = [];
      for (let i = 0; i < RUNS; i++) {
        await begin();
        runs.push(await page.evaluate(work));
      }
      return median(runs);
    };
    const of = `${SESSIONS} sessions, ${ENTRIES} entries`;
    const list = await each(() => window.bench.list());
    say(`List of ${of}`, `${list.toFixed(0)} ms`, 'wanted 300');
    const open = await each(() => window.bench.open('s-7'));
    say('One of them opened', `${open.toFixed(0)} ms`, 'wanted 500');
    const large = await each(() => window.bench.open('s-0'));
    say(`The one of ${LARGEST} entries opened`, `${large.toFixed(0)} ms`, 'wanted 500');
    await begin();
    const appends = await page.evaluate(() => window.bench.append('s-0'));
    say('An entry more, stored', `${median(appends).toFixed(0)} ms`, 'wanted 20');
    await begin();
    const { took, longest } = await page.evaluate(() => window.bench.sweep());
    say(
      'Contents swept',
      `${took.toFixed(0)} ms`,
      `beside the page: held up ${longest.toFixed(0)} ms at once`,
    );
    await context.close();
  } finally {
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
