// Recordings on the bench in headless Chromium: how soon they are seen, how fast they are read, how the
// curve scrolls, how soon they are heard, and how much memory all of it holds.
import { chromium } from '@playwright/test';
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { memoryOf } from './memory.mjs';
import { startServer } from './server-process.mjs';

const RATE = 96_000;
const FRAME_BYTES = 6;
const PIECE_S = 8;
const GIB = 2 ** 30;

const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

/** Two channels of noise with a slow swell, 24 bits; repeated as often as is wanted. */
function pieceOfNoise() {
  const frames = PIECE_S * RATE;
  const bytes = Buffer.alloc(frames * FRAME_BYTES);
  let state = 1;
  let [low, shared] = [0, 0];
  for (let i = 0; i < frames; i++) {
    const swell = 0.1 + 0.09 * Math.sin((2 * Math.PI * i) / frames);
    for (let c = 0; c < 2; c++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      low = 0.9 * low + 0.1 * (state / 2 ** 31 - 1);
      shared = c === 0 ? low : 0.7 * shared + 0.3 * low;
      bytes.writeIntLE(Math.round(swell * (c === 0 ? low : shared) * 8e6), (2 * i + c) * 3, 3);
    }
  }
  return bytes;
}

/** A WAV file of two channels at 96 kHz; RF64 where it is longer than 4 GiB. */
function writeRecording(path, seconds, piece) {
  const count = Math.round(seconds / PIECE_S);
  const dataBytes = count * piece.length;
  const large = dataBytes > 2 ** 32 - 100;
  const format = Buffer.alloc(16);
  format.writeUInt16LE(1, 0);
  format.writeUInt16LE(2, 2);
  format.writeUInt32LE(RATE, 4);
  format.writeUInt32LE(RATE * FRAME_BYTES, 8);
  format.writeUInt16LE(FRAME_BYTES, 12);
  format.writeUInt16LE(24, 14);
  const chunk = (name, bytes, size = bytes.length) => {
    const head = Buffer.alloc(8);
    head.write(name, 0, 'latin1');
    head.writeUInt32LE(size, 4);
    return Buffer.concat([head, bytes]);
  };
  const sizes = Buffer.alloc(28);
  sizes.writeBigUInt64LE(BigInt(dataBytes + 80), 0);
  sizes.writeBigUInt64LE(BigInt(dataBytes), 8);
  sizes.writeBigUInt64LE(BigInt(dataBytes / FRAME_BYTES), 16);
  const most = 2 ** 32 - 1;
  const riff = Buffer.alloc(12);
  riff.write(large ? 'RF64' : 'RIFF', 0, 'latin1');
  riff.writeUInt32LE(large ? most : dataBytes + 36, 4);
  riff.write('WAVE', 8, 'latin1');
  const file = openSync(path, 'w');
  const head = [riff, ...(large ? [chunk('ds64', sizes)] : []), chunk('fmt ', format)];
  writeSync(
    file,
    Buffer.concat([...head, chunk('data', Buffer.alloc(0), large ? most : dataBytes)]),
  );
  for (let i = 0; i < count; i++) writeSync(file, piece);
  closeSync(file);
  return count * PIECE_S;
}

/** In the page: when the curve was drawn first, tasks that took long, and what goes to the loudspeaker. */
function watch() {
  const seen = { drawnAt: null, long: [], analyser: null };
  Object.assign(globalThis, { seen });
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) seen.long.push(duration);
  }).observe({ type: 'longtask' });
  const look = () => {
    const canvas = document.querySelector('[role=application] canvas');
    if (canvas && canvas.width > 0 && seen.drawnAt === null) {
      const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
      // More than the line in the middle.
      let marked = 0;
      for (let i = 3; i < data.length; i += 4) if (data[i] > 60) marked += 1;
      if (marked > 3 * canvas.width) seen.drawnAt = performance.now();
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
  const connect = AudioNode.prototype.connect;
  AudioNode.prototype.connect = function (to, ...rest) {
    if (to === this.context.destination && !seen.analyser) {
      seen.analyser = new AnalyserNode(this.context, { fftSize: 256 });
      connect.call(this, seen.analyser);
    }
    return connect.call(this, to, ...rest);
  };
}

async function open(page, path) {
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  const chooser = await choosing;
  const from = await page.evaluate(() => {
    globalThis.seen.drawnAt = null;
    return performance.now();
  });
  await chooser.setFiles(path);
  await page.waitForFunction(() => globalThis.seen.drawnAt !== null, null, { timeout: 60_000 });
  return from;
}

const since = (page, from) => page.evaluate((at) => performance.now() - at, from);

/** Wheels over the curve, one a frame: the work of the page's thread for each, ms, sorted. */
async function scrolled(page) {
  const client = await page.context().newCDPSession(page);
  await client.send('Performance.enable', { timeDomain: 'threadTicks' });
  const worked = async () => {
    const { metrics } = await client.send('Performance.getMetrics');
    return 1000 * (metrics.find(({ name }) => name === 'TaskDuration')?.value ?? 0);
  };
  const box = await page.getByRole('application').boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + 30);
  const frame = () =>
    page.evaluate(
      () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
    );
  const measured = async (act) => {
    const before = await worked();
    await act();
    await frame();
    return (await worked()) - before;
  };
  // What asking costs by itself.
  const none = [];
  for (let i = 0; i < 20; i++) none.push(await measured(() => undefined));
  const times = [];
  for (let i = 0; i < 120; i++) {
    const turn = () => (i < 40 ? [0, -60] : [90 * Math.sin(i / 9), 0]);
    times.push((await measured(() => page.mouse.wheel(...turn()))) - median(none));
  }
  await client.detach();
  return times.sort((x, y) => x - y);
}

/** From the key to the first sample that is not silent, ms. */
function heardAfter() {
  return new Promise((done) => {
    let from = 0;
    addEventListener('keydown', ({ timeStamp }) => (from ||= timeStamp), { capture: true });
    const samples = new Float32Array(256);
    const look = () => {
      globalThis.seen.analyser?.getFloatTimeDomainData(samples);
      if (from > 0 && samples.some((v) => Math.abs(v) > 1e-4)) done(performance.now() - from);
      else setTimeout(look, 2);
    };
    look();
  });
}

/** Memory of page and workers together, MiB. */
const ofPages = () =>
  memoryOf(process.pid)
    .filter(({ what }) => what === 'renderer')
    .reduce((sum, { mib }) => sum + mib, 0);

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

export async function benchRecordings(executablePath, port = 4684) {
  const folder = mkdtempSync(join(tmpdir(), 'rotunda-recordings-'));
  const server = await startServer(port);
  try {
    const piece = pieceOfNoise();
    const short = join(folder, 'short.wav');
    const shortS = writeRecording(short, 600, piece);
    const gib = join(folder, 'gib.wav');
    writeRecording(gib, GIB / (RATE * FRAME_BYTES), piece);
    const long = join(folder, 'long.wav');
    const longS = writeRecording(long, (5 * GIB) / (RATE * FRAME_BYTES), piece);
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      executablePath,
      viewport: { width: 1280, height: 800 },
      args: ['--autoplay-policy=no-user-gesture-required'],
    });
    await context.addInitScript(() => {
      Object.defineProperty(globalThis, 'showOpenFilePicker', { value: undefined });
    });
    await context.addInitScript(watch);
    const page = context.pages()[0] ?? (await context.newPage());
    await page.goto(server.address);
    await page.getByRole('button', { name: 'New session' }).first().click();
    await page
      .getByRole('button', { name: /Begin|Create/ })
      .first()
      .click();
    await page.getByRole('link', { name: /Bench$/ }).click();
    await page.getByText('What is on a recording?').waitFor();
    const idle = ofPages();

    const from = await open(page, short);
    await page.getByText(/^Measured: /).waitFor({ timeout: 300_000 });
    const drawnMs = await since(page, from);
    await page.getByRole('list', { name: 'What it says' }).waitFor({ timeout: 300_000 });
    const allMs = await since(page, from);
    say(
      'Ten minutes of stereo at 96 kHz: opened and drawn to the sample',
      `${((shortS * 1000) / drawnMs).toFixed(0)} × real time`,
      'wanted 100',
    );
    say('The same with everything read', `${((shortS * 1000) / allMs).toFixed(0)} ×`, 'wanted 40');

    const heard = [];
    for (let i = 0; i < 5; i++) {
      const waiting = page.evaluate(heardAfter);
      await page.waitForTimeout(300);
      await page.keyboard.press('Space');
      heard.push(await waiting);
      await page.keyboard.press('Space');
      await page.waitForTimeout(600);
    }
    const [first = 0, ...later] = heard;
    say(
      'From the key to the sound of a recording, ms',
      `${median(later).toFixed(0)} (first ${first.toFixed(0)})`,
      'wanted 150',
    );

    await page.getByRole('button', { name: 'Close short.wav' }).click();
    const begun = await open(page, gib);
    const sketched = await page.evaluate((at) => globalThis.seen.drawnAt - at, begun);
    say('Rough curve of 1 GiB, ms', sketched.toFixed(0), 'wanted 1000');
    await page.getByRole('button', { name: 'Close gib.wav' }).click();
    // What was worked on has ended, and its memory is given back.
    await page.waitForTimeout(5000);

    let most = 0;
    const timer = setInterval(() => (most = Math.max(most, ofPages())), 500);
    await open(page, long);
    await page.getByText(/^Measured: /).waitFor({ timeout: 600_000 });
    await page.evaluate(() => globalThis.seen.long.splice(0));
    const times = await scrolled(page);
    const at = (share) => times[Math.floor(times.length * share)] ?? 0;
    say(
      `Scrolling ${(longS / 3600).toFixed(1)} h while it is measured: work of a frame, ms (median, 95 %)`,
      `${at(0.5).toFixed(1)}, ${at(0.95).toFixed(1)}`,
      'wanted 12',
    );
    await page.waitForTimeout(20_000);
    clearInterval(timer);
    const { count, longest } = await page.evaluate(() => ({
      count: globalThis.seen.long.length,
      longest: Math.max(0, ...globalThis.seen.long),
    }));
    say('Tasks of more than 50 ms on the page meanwhile', `${count}`, `longest ${longest} ms`);
    say(
      '5 GiB open and being measured: memory of page and workers',
      `${most.toFixed(0)} MiB`,
      `wanted 286 (300 MB); ${idle.toFixed(0)} with nothing open`,
    );
    await context.close();
  } finally {
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
