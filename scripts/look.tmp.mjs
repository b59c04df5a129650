import { chromium } from '@playwright/test';
import { CHROMIUM, ensureBuild } from './ensure.mjs';
import { startServer } from './server-process.mjs';
import { readFileSync } from 'node:fs';
ensureBuild();
const { address, stop } = await startServer(4699);
const browser = await chromium.launch({ executablePath: CHROMIUM });
const [, , file, ...steps] = process.argv;
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', reducedMotion: 'reduce', serviceWorkers: 'block' });
const page = await context.newPage();
page.on('pageerror', (e) => console.log('ERR', e.message));
await page.goto(address);
await page.getByRole('button', { name: /New session/ }).first().waitFor();
const [ch] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: /Import a file/ }).first().click()]); await ch.setFiles(file);
await page.waitForTimeout(1500);
const m = /session\/([^/]+)/.exec(page.url());
console.log(page.url());
for (const s of steps) {
  const [path, name, ...clicks] = s.split('|');
  await page.goto(`${address}session/${m?.[1] ?? JSON.parse(readFileSync(file, 'utf8')).id}/${path}`);
  await page.getByRole('main').waitFor();
  for (const c of clicks) c.startsWith('@') ? await page.getByRole('button', { name: new RegExp(c.slice(1)) }).first().click() : await page.getByText(c, { exact: false }).first().click();
  await page.waitForTimeout(1200);
  await page.screenshot({ path: `/tmp/look-${name}.png` });
}
await browser.close(); stop();
