// From the pointer's move to the repainted image line, in headless Chromium with 40 players and
// one pair, and with 60 players and 12 pairs;
// and what the page must load before its first use.
import { chromium } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { startServer } from './server-process.mjs';

const MOVES = 120;

function sessionFile(players, pairs) {
  const sources = Array.from({ length: players }, (_, i) => ({
    id: `s${i}`,
    name: `Player ${i + 1}`,
    group: `Section ${1 + (i % 8)}`,
    x: -4.5 + (9 * (i % 10)) / 9,
    y: 1.6 + Math.floor(i / 10) * 1.2,
    widthM: i % 4 === 0 ? 0.5 : 0,
  }));
  const arrays = Array.from({ length: pairs }, (_, i) => ({
    id: `a${i}`,
    name: i === 0 ? 'Main pair' : `Pair ${i + 1}`,
    role: i === 0 ? 'main' : 'ambience',
    x: i === 0 ? 0 : -5 + i,
    y: i === 0 ? -0.6 : -3,
    z: 2.8,
  }));
  return JSON.stringify({
    format: 'rotunda-session',
    version: 1,
    id: `bench-${players}`,
    title: `Bench ${players}`,
    sources,
    arrays,
  });
}

/**
 * Records, inside the page, for each pointer move: from the event's own time stamp (so with the
 * wait for the frame), and from its first handler (the work alone), to the end of the frame.
 */
function watchMoves() {
  window.benchTimes = [];
  let moved = null;
  addEventListener(
    'pointermove',
    (event) => {
      if (event.buttons === 0 || moved !== null) return;
      moved = { stamp: event.timeStamp, handled: performance.now() };
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => {
          const now = performance.now();
          window.benchTimes.push([now - moved.stamp, now - moved.handled]);
          moved = null;
        };
        channel.port2.postMessage(null);
      });
    },
    { capture: true },
  );
}

async function dragAround(page, x, y) {
  await page.evaluate(watchMoves);
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= MOVES; i++) {
    await page.mouse.move(x + 90 * Math.sin(i / 12), y + 40 * Math.sin(i / 7));
  }
}

/** Median and 95th percentile of one column of the recorded times, ms. */
function summary(times, column) {
  const sorted = times.map((time) => time[column]).sort((a, b) => a - b);
  const at = (share) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];
  return [at(0.5), at(0.95)].map((ms) => ms.toFixed(1).padStart(6)).join(' ms ');
}

/** What this machine needs for a page with nothing on it: the least that can be measured. */
async function emptyPage(context) {
  const page = await context.newPage();
  await page.setContent('<body style="margin:0;height:100vh"></body>');
  await dragAround(page, 400, 300);
  const times = await page.evaluate(() => window.benchTimes);
  await page.close();
  return times;
}

/** A drag of one player in a session of a size: the recorded times. */
async function dragIn(page, players, pairs) {
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await choosing
  ).setFiles({
    name: 'b.rotunda.json',
    mimeType: 'application/json',
    buffer: Buffer.from(sessionFile(players, pairs)),
  });
  const mark = page.getByRole('button', { name: /^Player 15, / });
  const box = await mark.boundingBox();
  const place = () =>
    page
      .getByRole('table', { name: 'Stereo image' })
      .getByRole('row', { name: /^Player 15/ })
      .innerText();
  const before = await place();
  // Free of snapping, so that every move changes something.
  await page.keyboard.press('s');
  await dragAround(page, box.x + box.width / 2, box.y + box.height / 2);
  await page.waitForTimeout(400);
  const after = await place();
  await page.mouse.up();
  if (before === after) throw new Error('the image line did not follow the drag');
  return page.evaluate(() => window.benchTimes);
}

/** Memory of the page after its garbage is gone, MB. */
async function heapOf(client) {
  for (let i = 0; i < 3; i++) await client.send('HeapProfiler.collectGarbage');
  const { usedSize } = await client.send('Runtime.getHeapUsage');
  return usedSize / 1e6;
}

const DRAGS = 200;
const CHANGES = 100;
const STATIONS = ['Brief', 'Array', 'Checks', 'Rig', 'Floor'];

/** A day's work in one page: what stays in memory before and after it. */
async function longWork(page) {
  const client = await page.context().newCDPSession(page);
  const mark = page.getByRole('button', { name: /^Player 15, / });
  const main = (name) => page.getByRole('main', { name });
  const drag = async (i) => {
    const box = await mark.boundingBox();
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + (i % 2 === 0 ? 20 : -20), y + 5, { steps: 3 });
    await page.mouse.move(x + (i % 2 === 0 ? 30 : -30), y, { steps: 3 });
    await page.mouse.up();
  };
  const change = async (i) => {
    const name = STATIONS[i % STATIONS.length];
    await page.getByRole('link', { name: new RegExp(`${name}$`) }).click();
    await main(name).waitFor();
  };
  // Once through everything: what is loaded and remembered for good is no leak. The history keeps
  // its last hundred steps, so it is filled first.
  for (let i = 0; i < STATIONS.length; i++) await change(i);
  for (let i = 0; i < 100; i++) await drag(i);
  const before = await heapOf(client);
  for (let i = 0; i < DRAGS; i++) await drag(i);
  for (let i = 0; i < CHANGES; i++) await change(i);
  await page.waitForTimeout(1000);
  const after = await heapOf(client);
  const grown = (100 * (after - before)) / before;
  const text = `${before.toFixed(1)} → ${after.toFixed(1)} MB, ${grown.toFixed(0)} %`;
  print(`${`memory, ${DRAGS} drags, ${CHANGES} changes of station`.padEnd(43)}${text}   ≤ 10 %`);
}

const print = (line) => process.stdout.write(`${line}\n`);

export async function benchPage(executablePath) {
  const { address, stop } = await startServer(4690);
  const browser = await chromium.launch({ executablePath });
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  });
  const page = await context.newPage();
  const bodies = [];
  page.on('response', (response) => {
    if (/\.js$/.test(new URL(response.url()).pathname)) {
      bodies.push(response.body().catch(() => Buffer.alloc(0)));
    }
  });
  const open = async () => {
    await page.goto(address);
    await page.getByRole('button', { name: 'Import a file' }).waitFor();
    await page.waitForLoadState('networkidle');
  };
  await open();
  const loaded = (await Promise.all(bodies)).reduce((sum, body) => sum + gzipSync(body).length, 0);
  print(`\npage, ${MOVES} moves each                        median     95 %    wanted`);
  for (const [players, pairs] of [
    [40, 1],
    [60, 12],
  ]) {
    await open();
    const times = await dragIn(page, players, pairs);
    const name = `pointer to paint, ${players} players, ${pairs} ${pairs === 1 ? 'pair' : 'pairs'}`;
    print(`${name.padEnd(43)}${summary(times, 0)} ms   ≤ 16, ≤ 33`);
    print(`${'of it the work, from handler to paint'.padEnd(43)}${summary(times, 1)} ms`);
  }
  await longWork(page);
  const empty = await emptyPage(context);
  print(`${'the same on an empty page of this machine'.padEnd(43)}${summary(empty, 0)} ms`);
  print(
    `scripts before first use                   ${(loaded / 1000).toFixed(0)} kB gzip         ≤ 250`,
  );
  await browser.close();
  stop();
}
