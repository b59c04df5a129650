// From the pointer's move to the repainted playback line, in headless Chromium with 40 players;
// and what the page must load before its first use.
import { chromium } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { startServer } from './server-process.mjs';

const MOVES = 120;
const PLAYERS = 40;

function sessionFile() {
  const sources = Array.from({ length: PLAYERS }, (_, i) => ({
    id: `s${i}`,
    name: `Player ${i + 1}`,
    group: `Section ${1 + (i % 8)}`,
    x: -4.5 + (9 * (i % 10)) / 9,
    y: 1.6 + Math.floor(i / 10) * 1.2,
    widthM: i % 4 === 0 ? 0.5 : 0,
  }));
  const arrays = [{ id: 'main', name: 'Main pair', y: -0.6, z: 2.8 }];
  return JSON.stringify({
    format: 'rotunda-session',
    version: 1,
    id: 'bench',
    title: 'Bench',
    sources,
    arrays,
  });
}

/** Records, inside the page, the time from each pointer move to the frame that shows its result. */
function watchMoves() {
  window.benchTimes = [];
  let moved = null;
  addEventListener(
    'pointermove',
    (event) => {
      if (event.buttons === 0 || moved !== null) return;
      moved = event.timeStamp;
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => {
          window.benchTimes.push(performance.now() - moved);
          moved = null;
        };
        channel.port2.postMessage(null);
      });
    },
    { capture: true },
  );
}

export async function benchPage(executablePath) {
  const { address, stop } = await startServer(4690);
  const browser = await chromium.launch({ executablePath });
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  let scripts = 0;
  page.on('response', async (response) => {
    if (!/\.js$/.test(new URL(response.url()).pathname)) return;
    scripts += gzipSync(await response.body().catch(() => Buffer.alloc(0))).length;
  });
  await page.goto(address);
  await page.getByRole('button', { name: 'Import a file' }).waitFor();
  await page.waitForLoadState('networkidle');
  const loaded = scripts;
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await choosing
  ).setFiles({
    name: 'b.rotunda.json',
    mimeType: 'application/json',
    buffer: Buffer.from(sessionFile()),
  });
  const mark = page.getByRole('button', { name: /^Player 15, / });
  const box = await mark.boundingBox();
  await page.evaluate(watchMoves);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const place = () =>
    page
      .getByRole('table', { name: 'Playback line' })
      .getByRole('row', { name: /^Player 15/ })
      .innerText();
  const before = await place();
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= MOVES; i++)
    await page.mouse.move(x + 90 * Math.sin(i / 12), y + 40 * Math.sin(i / 7));
  await page.waitForTimeout(400);
  const after = await place();
  await page.mouse.up();
  if (before === after) throw new Error('the playback line did not follow the drag');
  const times = (await page.evaluate(() => window.benchTimes)).sort((a, b) => a - b);
  await browser.close();
  stop();
  const at = (share) =>
    times[Math.min(times.length - 1, Math.floor(times.length * share))].toFixed(1);
  process.stdout.write(`\npage, ${times.length} painted moves with ${PLAYERS} players\n`);
  process.stdout.write(`pointer to paint, median           ${at(0.5)} ms   ≤ 16\n`);
  process.stdout.write(`pointer to paint, 95th percentile  ${at(0.95)} ms   ≤ 33\n`);
  process.stdout.write(
    `scripts before first use           ${(loaded / 1000).toFixed(0)} kB gzip   ≤ 250\n`,
  );
}
