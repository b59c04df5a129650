// An archive of two gigabytes taken in, kept and given out again by the page in headless Chromium: how
// long it takes, and how much memory all processes of the browser hold.
import { chromium } from '@playwright/test';
import { createHash } from 'node:crypto';
import { closeSync, mkdtempSync, openSync, rmSync, statSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { memoryOf } from './memory.mjs';
import { startServer } from './server-process.mjs';

const CONTENTS = 8;
const BYTES = 2 ** 28;
const PIECE = 2 ** 22;

const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

/** Bytes that are the same for the same number, and do not become smaller. */
function pieces(number) {
  const one = Buffer.alloc(PIECE);
  let state = 1 + number;
  for (let i = 0; i < PIECE; i += 4) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    one.writeUInt32LE(state, i);
  }
  return one;
}

/** A zip file of stored files, written piece by piece; all below the limits of the plain form. */
function writeZip(path, files) {
  const file = openSync(path, 'w');
  let at = 0;
  const put = (bytes) => {
    writeSync(file, bytes);
    at += bytes.length;
  };
  const table = [];
  for (const { name, size, each } of files) {
    let crc = 0;
    for (const piece of each()) crc = crc32(piece, crc);
    const fields = Buffer.alloc(26);
    fields.writeUInt16LE(20, 0);
    fields.writeUInt32LE(crc, 10);
    fields.writeUInt32LE(size, 14);
    fields.writeUInt32LE(size, 18);
    fields.writeUInt16LE(name.length, 22);
    table.push({ fields, name, at });
    put(Buffer.concat([Buffer.from('PK\x03\x04'), fields, Buffer.from(name)]));
    for (const piece of each()) put(piece);
  }
  const begins = at;
  for (const { fields, name, at: where } of table) {
    const rest = Buffer.alloc(14);
    rest.writeUInt32LE(where, 10);
    put(Buffer.concat([Buffer.from('PK\x01\x02\x14\x00'), fields, rest, Buffer.from(name)]));
  }
  const end = Buffer.alloc(18);
  end.writeUInt16LE(table.length, 4);
  end.writeUInt16LE(table.length, 6);
  end.writeUInt32LE(at - begins, 8);
  end.writeUInt32LE(begins, 12);
  put(Buffer.concat([Buffer.from('PK\x05\x06'), end]));
  closeSync(file);
}

function made(folder) {
  const contents = Array.from({ length: CONTENTS }, (_, number) => {
    const piece = pieces(number);
    const each = function* () {
      for (let i = 0; i < BYTES / PIECE; i++) yield piece;
    };
    const hash = createHash('sha256');
    for (const part of each()) hash.update(part);
    return { hash: hash.digest('hex'), each };
  });
  const session = JSON.stringify({
    format: 'rotunda-session',
    version: 2,
    id: 'large-archive',
    title: 'Large archive',
    sources: [{ id: 's', name: 'Violin', x: 0, y: 2 }],
    blobs: contents.map(({ hash }, i) => ({
      id: `b-${i}`,
      hash,
      type: 'audio/wav',
      bytes: BYTES,
      name: `Clip ${i + 1}`,
      data: null,
    })),
  });
  const path = join(folder, 'large.zip');
  writeZip(path, [
    {
      name: 'session.rotunda.json',
      size: Buffer.byteLength(session),
      each: () => [Buffer.from(session)],
    },
    ...contents.map(({ hash, each }) => ({ name: `blobs/${hash}`, size: BYTES, each })),
  ]);
  return path;
}

export async function benchArchive(executablePath, port = 4682) {
  const folder = mkdtempSync(join(tmpdir(), 'rotunda-archive-'));
  const server = await startServer(port);
  try {
    const path = made(folder);
    // A profile on the disk: in a private window all that is kept would be in memory.
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      executablePath,
      acceptDownloads: true,
    });
    const page = context.pages()[0] ?? (await context.newPage());
    const root = process.pid;
    await page.goto(server.address);
    await page.getByRole('button', { name: 'Import a file' }).waitFor();
    const sum = () => memoryOf(root);
    const idle = sum().reduce((total, { mib }) => total + mib, 0);
    let most = 0;
    let byKind = {};
    const timer = setInterval(() => {
      const each = sum();
      const total = each.reduce((all, { mib }) => all + mib, 0);
      if (total <= most) return;
      most = total;
      byKind = {};
      for (const { what, mib } of each) byKind[what] = (byKind[what] ?? 0) + mib;
    }, 250);
    const from = performance.now();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a file' }).click();
    await (await chooser).setFiles(path);
    await page.getByRole('heading', { name: 'Large archive' }).waitFor({ timeout: 600_000 });
    const inS = (performance.now() - from) / 1000;
    const mostIn = most;
    most = 0;
    await page.getByRole('link', { name: /Rig$/ }).click();
    const second = performance.now();
    const download = page.waitForEvent('download', { timeout: 600_000 });
    await page.getByRole('button', { name: 'All in one archive' }).click();
    const out = join(folder, 'out.zip');
    await (await download).saveAs(out);
    const outS = (performance.now() - second) / 1000;
    clearInterval(timer);
    const { size } = statSync(out);
    say(
      'An archive of 2 GiB taken in',
      `${inS.toFixed(0)} s`,
      `${(mostIn - idle).toFixed(0)} MiB over ${idle.toFixed(0)}, wanted 300`,
    );
    say(
      'The same given out',
      `${outS.toFixed(0)} s`,
      `${(most - idle).toFixed(0)} MiB, wanted 300; ${(size / 2 ** 30).toFixed(2)} GiB`,
    );
    if (process.env.ROTUNDA_SEEN) console.log(byKind);
    await context.close();
  } finally {
    server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
