// From a click in the booth to what stands on a phone in the hall, over loopback.
import { chromium } from '@playwright/test';
import { startServer } from './server-process.mjs';

const ROUNDS = 21;
const sorted = (values) => [...values].sort((a, b) => a - b);
const say = (name, figure, wanted) =>
  process.stdout.write(`${name.padEnd(68)}${figure.padStart(28)}   ${wanted}\n`);

/** The demo's booth, and a phone that joined it. */
export async function boothAndPhone(browser, address, options = {}) {
  const booth = await (await browser.newContext(options)).newPage();
  await booth.goto(`${address}demo`);
  await booth.getByRole('main', { name: 'Floor' }).waitFor();
  await booth.goto(booth.url().replace(/\/floor.*$/, '/rig?page=stage'));
  await booth.getByRole('button', { name: 'Open the stage' }).click();
  const code = await booth.getByLabel('Code', { exact: true }).innerText();
  const phone = await (
    await browser.newContext({ ...options, viewport: { width: 390, height: 780 } })
  ).newPage();
  await phone.goto(`${address}stage#${code}`);
  await phone.getByLabel('Your name').fill('Ina');
  await phone.getByRole('button', { name: 'Join' }).click();
  await phone.getByText('Nothing is asked just now.').waitFor();
  return { booth, phone };
}

export async function benchStage(executablePath, port = 4685) {
  const server = await startServer(port, ['--stage', '--host', '127.0.0.1']);
  const browser = await chromium.launch({ executablePath });
  try {
    const { booth, phone } = await boothAndPhone(browser, server.address);
    const took = [];
    const back = [];
    for (let i = 0; i < ROUNDS; i++) {
      // Both pages read one clock: that of this machine.
      const seen = phone.evaluate(
        () =>
          new Promise((done) => {
            const watch = new MutationObserver(() => {
              if (!document.querySelector('[aria-label="Now"]')) return;
              watch.disconnect();
              done(Date.now());
            });
            watch.observe(document.body, { subtree: true, childList: true });
          }),
      );
      await booth.evaluate(() => {
        addEventListener('click', () => (globalThis.clickedAt = Date.now()), {
          capture: true,
          once: true,
        });
      });
      await booth.getByRole('button', { name: 'Up 2.0 cm' }).click();
      took.push((await seen) - (await booth.evaluate(() => globalThis.clickedAt)));
      const from = Date.now();
      await phone.getByRole('button', { name: 'Done', exact: true }).click();
      await booth.getByRole('heading', { name: 'Asked, all answered' }).waitFor();
      back.push(Date.now() - from);
      await phone.getByText('Nothing is asked just now.').waitFor();
    }
    const [middle, worst] = [sorted(took)[Math.floor(ROUNDS / 2)], Math.max(...took)];
    say('an instruction: from the click to the stage', `${middle} ms (worst ${worst})`, '≤ 100 ms');
    say('and its answer, to the booth’s list', `${sorted(back)[Math.floor(ROUNDS / 2)]} ms`, '');
  } finally {
    await browser.close();
    server.stop();
  }
}
