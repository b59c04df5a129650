// Retakes the pictures in docs/screenshots from the demo session.
import { chromium } from '@playwright/test';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensurePackages, ensureSystem, ROOT } from './ensure.mjs';
import { startServer } from './server-process.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
const { address, stop } = await startServer(4691);
const browser = await chromium.launch({ executablePath: CHROMIUM });

async function shots(theme, list) {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    reducedMotion: 'reduce',
    serviceWorkers: 'block',
  });
  await context.addInitScript((name) => localStorage.setItem('rotunda-theme', name), theme);
  const page = await context.newPage();
  await page.goto(`${address}demo`);
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  for (const [name, path, act] of list) {
    await page.goto(`${address}${path}`);
    await page.getByRole('main').waitFor();
    await act?.(page);
    await page.waitForTimeout(500);
    await page.screenshot({ path: join(ROOT, 'docs', 'screenshots', `${name}.png`) });
  }
  await context.close();
}

const station = (name) => `session/demo-nonet/${name}`;
const choosePlayer = (page) => page.getByRole('button', { name: /^Clarinet 1, / }).click();
const both = async (page) => {
  await page.getByRole('button', { name: 'Both', exact: true }).click();
};
const compare = async (page) => {
  await page.getByRole('button', { name: 'Keep the present one as a candidate' }).click();
  await page.getByLabel('Technique', { exact: true }).selectOption('Spaced pair (A-B)');
};
const organ = async (page) => {
  await page.getByLabel('Player', { exact: true }).selectOption('Chest organ');
};
const recommend = async (page) => {
  await page.getByRole('list', { name: 'Recommendations' }).waitFor();
};
const settled = (page) => page.waitForTimeout(1500);
await shots('light', [
  ['sessions', ''],
  ['brief', station('brief?page=picture')],
  ['brief-kit', station('brief?page=kit')],
  ['floor', station('floor'), choosePlayer],
  ['floor-both', 'session/demo-choir/floor', both],
  ['array', station('array'), settled],
  ['array-response', station('array?page=response'), settled],
  ['array-spacing-angle', station('array?page=spacing-angle'), settled],
  ['array-patterns', station('array?page=patterns'), settled],
  ['array-aim', 'session/demo-harpsichord/array?page=aim'],
  ['checks', 'session/demo-choir/checks', settled],
  ['rig', station('rig')],
  ['rig-channels', 'session/demo-choir/rig?page=channels'],
  ['checks-arrivals', 'session/demo-choir/checks?page=arrivals', organ],
  ['checks-mix', 'session/demo-choir/checks?page=mix', settled],
  ['array-recommend', 'session/demo-choir/array?page=recommend', recommend],
]);
await shots('dark', [
  ['floor-dark', station('floor'), choosePlayer],
  ['array-compare', 'session/demo-harpsichord/array?page=compare', compare],
]);
await browser.close();
stop();
