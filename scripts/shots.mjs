// Retakes the pictures in docs/screenshots from the demo session.
import { chromium } from '@playwright/test';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensurePackages, ensureSystem, ROOT } from './ensure.mjs';
import { startServer } from './server-process.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
const { address, stop } = await startServer(4691, ['--stage', '--host', '127.0.0.1']);
const browser = await chromium.launch({ executablePath: CHROMIUM });

async function shots(theme, list) {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    reducedMotion: 'reduce',
    serviceWorkers: 'block',
  });
  await context.addInitScript((name) => {
    localStorage.setItem('rotunda-theme', name);
    // The chooser that gives handles asks the desk, which is not there.
    Object.defineProperty(globalThis, 'showOpenFilePicker', { value: undefined });
  }, theme);
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
/** Two microphones of a made-up take: notes that die away, the right one 4 ms late, a clip at 12 s. */
function madeUpTake() {
  const [rate, seconds, late] = [48_000, 24, 192];
  const note = (i) => {
    const [at, n] = [(i % 24_000) / rate, Math.floor(i / 24_000)];
    const hz = 220 * 2 ** ([0, 4, 7, 12, 9, 5, 2, 7][n % 8] / 12);
    return 0.28 * Math.exp(-3 * at) * Math.sin(2 * Math.PI * hz * at) * (0.5 + 0.5 * Math.sin(n));
  };
  const bytes = Buffer.alloc(44 + 4 * rate * seconds);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(2, 22);
  bytes.writeUInt32LE(rate, 24);
  bytes.writeUInt32LE(4 * rate, 28);
  bytes.writeUInt16LE(4, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(bytes.length - 44, 40);
  const sample = (value) => Math.round(32_767 * Math.max(-1, Math.min(1, value)));
  for (let i = 0; i < rate * seconds; i++) {
    const clipped = i >= 12 * rate && i < 12 * rate + 7;
    const hiss = 0.002 * Math.sin(i * i * 1.7);
    bytes.writeInt16LE(clipped ? 32_767 : sample(note(i) + hiss), 44 + 4 * i);
    bytes.writeInt16LE(sample(i < late ? 0 : 0.9 * note(i - late) - hiss), 46 + 4 * i);
  }
  return { name: 'Serenade, take 3.wav', mimeType: 'audio/wav', buffer: bytes };
}
const take = async (page) => {
  // What the demo makes of its plan by itself is there first.
  await page.getByRole('button', { name: 'Close Simulated: claps' }).waitFor({ timeout: 60_000 });
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  await (await choosing).setFiles(madeUpTake());
  await page.getByRole('heading', { name: 'Serenade, take 3.wav' }).waitFor();
  await page.getByRole('list', { name: 'What it says' }).waitFor();
};
/** Two options of the choir, and what is expected of the second. */
const soundcheck = async (page) => {
  const form = page.getByRole('form', { name: 'New option' });
  await form.getByLabel('Called').fill('as planned');
  await form.getByRole('button', { name: 'Into the diary' }).click();
  await page.getByRole('article', { name: 'Option A' }).waitFor();
  const pages = page.getByRole('navigation', { name: 'Pages of the soundcheck' });
  await pages.getByRole('button', { name: 'From a symptom' }).click();
  await page.getByRole('main').getByLabel('What is heard').selectOption('not-spacious');
  await page
    .getByRole('button', { name: /^Try it/ })
    .first()
    .click({ timeout: 60_000 });
  await pages.getByRole('button', { name: 'Diary' }).click();
  const second = page.getByRole('article', { name: 'Option B' });
  await second.getByLabel('Heard').fill('Wider behind the altos, the organ stays where it was.');
  await second.getByLabel('State of option B').selectOption('shortlisted');
  await page.waitForTimeout(10_000);
};
/** The demo’s own claps, held against its plan. */
const against = async (page) => {
  await page.getByRole('button', { name: /^Simulated: claps/ }).click();
  await page.getByRole('status', { name: 'Passages found' }).waitFor();
  await page.getByRole('button', { name: 'Hold it against the plan' }).click();
  await page.getByRole('article', { name: 'Verdict' }).waitFor({ timeout: 60_000 });
  await page.getByRole('article', { name: 'Verdict' }).evaluate((one) => one.scrollIntoView());
};
/** What worked in the chapel, offered to a new session of it. */
/** A place on the line, answered: the truth over the answer. */
const drill = async (page) => {
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  const line = page.getByRole('slider', { name: 'Where it is' });
  await line.waitFor({ timeout: 30_000 });
  const box = await line.boundingBox();
  await page.mouse.click(box.x + box.width * 0.29, box.y + 52);
  await page.getByRole('status', { name: 'Outcome' }).waitFor();
};
const recall = async (page) => {
  const pages = page.getByRole('navigation', { name: 'Pages of recall' });
  await pages.getByRole('button', { name: 'Marks' }).click();
  const form = page.getByRole('form', { name: 'New mark' });
  await form.getByLabel('Called').fill('Low in the aisle');
  await form.getByLabel('How good it was').selectOption('4');
  await form.getByLabel('Said of it').fill('Altos and organ sit well; draught from the west door.');
  await form.getByRole('button', { name: 'Make the mark' }).click();
  await page.getByRole('listitem', { name: 'Low in the aisle' }).waitFor();
  await page
    .getByRole('status', { name: 'Save state' })
    .getByText(/^Saved/)
    .waitFor();
  await page.goto(address);
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Begin' }).click();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.getByRole('link', { name: /Brief$/ }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Vespers, second evening');
  await page.getByRole('textbox', { name: 'Venue' }).fill('Chapel at Withy End');
  await page.getByRole('button', { name: 'Take the hall' }).click();
  await page.getByRole('link', { name: /Recall$/ }).click();
  await page.getByRole('list', { name: 'Halls' }).waitFor();
  await page.waitForTimeout(11_000);
};
/** A phone in the hall has done one thing and not the other. */
const stage = async (page) => {
  await page.getByRole('button', { name: 'Open the stage' }).click();
  const code = await page.getByLabel('Code', { exact: true }).innerText();
  const phone = await (
    await browser.newContext({ viewport: { width: 390, height: 780 } })
  ).newPage();
  await phone.goto(`${address}stage#${code}`);
  await phone.getByLabel('Your name').fill('Ina');
  await phone.getByRole('button', { name: 'Join' }).click();
  await phone.getByText('Nothing is asked just now.').waitFor();
  await page.getByRole('button', { name: 'Up 2.0 cm' }).click();
  await phone.getByRole('button', { name: 'Done', exact: true }).click();
  const words = page.getByRole('textbox', { name: 'In words' });
  await words.fill('Blanket over the window at the left, please');
  await words.press('Enter');
  await phone.getByRole('button', { name: 'Cannot' }).click();
  await page.getByText('Ina: cannot').first().waitFor();
  await page.getByRole('button', { name: 'Ask for 1: Main pair L' }).click();
  // What is said for a moment is no part of the page.
  await page.waitForTimeout(11_000);
};
const settled = (page) => page.waitForTimeout(1500);
await shots('light', [
  ['sessions', ''],
  ['brief', station('brief?page=picture')],
  ['brief-kit', station('brief?page=kit')],
  ['floor', station('floor'), choosePlayer],
  ['floor-both', 'session/demo-choir/floor', both],
  ['array', station('array'), settled],
  ['array-spacing-angle', station('array?page=spacing-angle'), settled],
  ['checks', 'session/demo-choir/checks', settled],
  ['rig', station('rig')],
  ['rig-stage', station('rig?page=stage'), stage],
  ['soundcheck', 'session/demo-choir/soundcheck', soundcheck],
  ['bench-against', station('bench?page=against'), against],
  ['bench', station('bench'), take],
  ['checks-arrivals', 'session/demo-choir/checks?page=arrivals', organ],
  ['array-recommend', 'session/demo-choir/array?page=recommend', recommend],
  ['recall', 'session/demo-choir/recall', recall],
  ['drill', `${station('drill')}?page=due&seed=7`, drill],
]);
await shots('dark', [
  ['floor-dark', station('floor'), choosePlayer],
  ['array-compare', 'session/demo-harpsichord/array?page=compare', compare],
]);
await browser.close();
stop();
