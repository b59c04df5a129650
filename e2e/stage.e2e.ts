import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import {
  network,
  now,
  openBooth,
  phone,
  stageServer,
  type Network,
  type StageServer,
} from './stage';
import { expect, test } from './workbench';

let server: StageServer;
const networks: Network[] = [];

test.beforeEach(async () => {
  server = await stageServer(4800 + 20 * test.info().parallelIndex);
});
test.afterEach(() => {
  for (const one of networks.splice(0)) one.stop();
  server.stop();
});

/** A network of its own between a page and the server. */
async function between(): Promise<Network> {
  const made = await network(server.port);
  networks.push(made);
  return made;
}

const panel = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Panels' }).getByRole('button', { name });

test('two devices are asked, answer, tick and write: the log and As built have it, with who and when', async ({
  browser,
}) => {
  const booth = await openBooth(browser, server.address);
  const code = await booth.code;
  const ina = await phone(browser, server.address, code, 'Ina');
  const bo = await phone(browser, server.address, code, 'Bo');
  const there = booth.page.getByRole('list', { name: 'On the stage' }).getByRole('listitem');
  await expect(there).toHaveCount(2);

  // Two centimetres up, to both; one of them does it.
  await booth.page.getByRole('button', { name: 'Up 2.0 cm' }).click();
  await expect(now(ina)).toContainText('2.0 cm up');
  await expect(now(ina)).toContainText('13/16 in up');
  await expect(now(ina)).toContainText('then 2.72 m · 8′ 11″ high');
  await expect(now(bo)).toContainText('2.0 cm up');
  await now(bo).getByRole('button', { name: 'Done', exact: true }).tap();
  await expect(booth.asked).toContainText('Bo: done');
  await expect(booth.asked).toContainText('all answered');
  await expect(ina.getByText('Nothing is asked just now.')).toBeVisible();
  await expect(ina.getByRole('region', { name: 'Answered' })).toContainText('Bo');
  await booth.go('As built');
  await expect(booth.page.getByLabel('Main pair, height as built')).toHaveValue('2.72');
  await booth.go('Stage');

  // To one alone, with another figure than was asked; a figure that cannot be is refused there.
  await booth.page.getByLabel('To whom').selectOption('Ina');
  await booth.page.getByRole('button', { name: 'Down 2.0 cm' }).click();
  await expect(now(ina)).toContainText('then 2.70 m');
  const other = now(ina).getByLabel('Done, but it is now');
  await other.fill('300 m');
  await now(ina).getByRole('button', { name: 'Say it' }).tap();
  await expect(now(ina).getByRole('alert')).toContainText('allowed: -200 to 200 m');
  await other.fill('2.69 m');
  await now(ina).getByRole('button', { name: 'Say it' }).tap();
  await expect(booth.asked).toContainText('Ina: done');
  await expect(bo.getByText('Nothing is asked just now.')).toBeVisible();
  await booth.go('As built');
  await expect(booth.page.getByLabel('Main pair, height as built')).toHaveValue('2.69');
  await booth.go('Stage');

  // In words, with words back; then it cannot be done.
  await booth.page.getByLabel('To whom').selectOption('');
  await booth.ask('Close the door at the back, please');
  await now(bo).getByLabel('Answer in words').fill('Which of the two?');
  await now(bo).getByRole('button', { name: 'Answer', exact: true }).tap();
  await expect(booth.asked).toContainText('Bo: says: Which of the two?');
  await expect(booth.asked).toContainText('1 not answered yet');
  await now(ina).getByRole('button', { name: 'Cannot' }).tap();
  await expect(booth.asked).toContainText('Ina: cannot');

  // A tick for what stands as planned, and what does not.
  await panel(ina, 'Sheet').tap();
  await ina.getByRole('button', { name: 'Main pair, Spacing: as planned' }).tap();
  await expect(ina.getByRole('button', { name: 'Main pair, Spacing: as planned' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await ina.getByRole('button', { name: 'Main pair, Tilt: another figure' }).tap();
  await ina.getByLabel('Tilt is').fill('-20');
  // The plan is not changed from here, unless the booth lets it.
  await expect(ina.getByRole('button', { name: 'Change the plan' })).toHaveCount(0);
  await ina.getByRole('button', { name: 'As built', exact: true }).tap();
  await expect(ina.getByText('as built 20° down, more than the tolerance off')).toBeVisible();
  await booth.page.getByRole('button', { name: 'Ask for it as planned' }).last().click();
  await panel(ina, 'Asked').tap();
  await expect(now(ina)).toContainText('5° tilted up');
  await booth.page.getByRole('button', { name: /^Take back: Main pair: 5° tilted up/ }).click();
  await expect(ina.getByText('Nothing is asked just now.')).toBeVisible();

  // A word, and microphone 1 tapped and heard.
  await panel(bo, 'Say').tap();
  await bo.getByLabel('A word to the booth').fill('The heating hums');
  await bo.getByRole('button', { name: 'Say it' }).tap();
  await expect(booth.page.getByText('Bo: The heating hums')).toBeVisible();
  await booth.page.getByRole('button', { name: 'Ask for 1: Main pair L' }).click();
  await panel(bo, 'Asked').tap();
  await expect(now(bo)).toContainText('Tap microphone');
  await now(bo).getByRole('button', { name: 'Tapped' }).tap();
  await booth.page.getByRole('button', { name: 'Heard on 1', exact: true }).click();
  await expect(booth.page.getByText('1 of 2 microphones heard')).toBeVisible();
});

test('the stage changes the plan only where the booth lets it', async ({ browser }) => {
  const booth = await openBooth(browser, server.address);
  const ina = await phone(browser, server.address, await booth.code, 'Ina');
  await booth.page.getByLabel('The stage may change the plan').check();
  await panel(ina, 'Sheet').tap();
  await ina.getByRole('button', { name: 'Main pair, Height: another figure' }).tap();
  await ina.getByLabel('Height is').fill('2.9');
  const change = ina.getByRole('button', { name: 'Change the plan' });
  await expect(change).toBeVisible();
  await change.tap();
  await expect(ina.getByRole('list', { name: 'Figures of Main pair' })).toContainText('2.90 m');
  await expect(
    booth.page.getByText(/Ina has changed the plan: Main pair, height 2.90 m/),
  ).toBeVisible();
  // One that says so all the same, after it was forbidden, is refused.
  await ina.getByRole('button', { name: 'Main pair, Height: another figure' }).tap();
  await ina.getByLabel('Height is').fill('3.5');
  await ina.evaluate(() => {
    const { prototype } = WebSocket;
    const send = Object.getOwnPropertyDescriptor(prototype, 'send')?.value as (
      this: WebSocket,
      data: string,
    ) => void;
    WebSocket.prototype.send = function (this: WebSocket, data) {
      if (typeof data !== 'string') return;
      // What is said was allowed when it was said: it is held until that is no longer so.
      if (data.includes('\\"kind\\":\\"plan\\"')) setTimeout(() => send.call(this, data), 1500);
      else send.call(this, data);
    };
  });
  await change.tap();
  await booth.page.getByLabel('The stage may change the plan').uncheck();
  await expect(ina.getByRole('alert')).toContainText('does not let the stage change the plan');
  await expect(ina.getByRole('list', { name: 'Figures of Main pair' })).toContainText('2.90 m');
});

test('a link that is cut, slow or dead loses nothing, and order is kept; the booth is loaded anew in the middle', async ({
  browser,
}) => {
  const net = await between();
  const booth = await openBooth(browser, server.address);
  const ina = await phone(browser, net.address, await booth.code, 'Ina');
  const link = ina.getByRole('status', { name: 'Link' });
  await booth.ask('First');
  await expect(now(ina)).toContainText('First');
  net.down(true);
  await expect(link).toContainText('The link is lost');
  // Said without a link, and asked without one.
  await now(ina).getByRole('button', { name: 'Done', exact: true }).tap();
  await expect(link).toContainText('1 of yours is not there yet');
  await booth.ask('Second');
  await booth.ask('Third');
  // The phone is loaded anew as soon as there is something to load: what it said is not gone.
  net.down(false);
  await expect(link).toContainText('All you said is in the booth’s log');
  await expect(booth.asked).toContainText('Ina: done');
  await expect(now(ina)).toContainText('Second');
  await expect(ina.getByRole('region', { name: 'Next' })).toContainText('Third');

  // A link that is dead without a word is noticed and made anew.
  net.halfOpen = true;
  await now(ina).getByRole('button', { name: 'Done', exact: true }).tap();
  await expect(link).toContainText('The link is lost');
  net.halfOpen = false;
  net.delayMs = 200;
  await expect(booth.asked.getByText('Ina: done')).toHaveCount(2);
  await expect(now(ina)).toContainText('Third');
  net.delayMs = 0;

  // The booth goes and comes back; what is asked and said meanwhile is there.
  await booth.saved();
  await booth.page.goto('about:blank');
  await expect(link).toContainText('The booth is away');
  await now(ina).getByRole('button', { name: 'Done', exact: true }).tap();
  await ina.reload();
  await expect(link).toContainText('not there yet');
  await booth.page.goBack();
  await expect(booth.asked.getByText('Ina: done')).toHaveCount(3);
  await expect(ina.getByText('Nothing is asked just now.')).toBeVisible();
  await expect(booth.asked.getByRole('listitem')).toHaveCount(3);
});

test('wrong codes are refused, and after five of them the right one for a while', async ({
  browser,
}) => {
  const booth = await openBooth(browser, server.address);
  const right = await booth.code;
  const page = await (await browser.newContext()).newPage();
  await page.goto(`${server.address}/stage`);
  const [code, name] = [page.getByLabel('Code'), page.getByLabel('Your name')];
  const join = page.getByRole('button', { name: 'Join' });
  const alert = page.getByRole('alert');
  await join.click();
  await expect(alert).toContainText('Code: allowed: six digits');
  await code.fill('12345');
  await join.click();
  await expect(alert).toContainText('Code: allowed: six digits');
  await code.fill(right);
  await join.click();
  await expect(alert).toContainText('Your name: allowed');
  await name.fill('X');
  for (let i = 0; i < 10; i++) {
    await code.fill(String((Number(right) + 1 + i) % 1_000_000).padStart(6, '0'));
    await join.click();
    await expect(alert).toContainText(i < 5 ? 'That is not the code' : 'wait a minute');
  }
  await code.fill(right);
  await join.click();
  await expect(alert).toContainText('wait a minute');
  await expect(booth.page.getByRole('status', { name: 'Booth' })).toHaveText(
    'Nobody is on the stage yet.',
  );
});

test('photographs are made small and arrive; what is none is said. A second booth, and a device that answers by itself', async ({
  browser,
}) => {
  const booth = await openBooth(browser, server.address);
  // As over a plain link in a hall: none of what a browser keeps for secure pages.
  const ina = await phone(browser, server.address, await booth.code, 'Ina');
  await ina.addInitScript(() => {
    Object.defineProperty(globalThis, 'isSecureContext', { value: false });
    for (const name of ['randomUUID', 'subtle']) Reflect.deleteProperty(Crypto.prototype, name);
    for (const name of ['locks', 'serviceWorker', 'storage', 'clipboard', 'wakeLock']) {
      Reflect.deleteProperty(Navigator.prototype, name);
    }
  });
  await ina.reload();
  expect(await ina.evaluate(() => 'serviceWorker' in navigator || 'subtle' in crypto)).toBe(false);
  await panel(ina, 'Say').tap();
  await expect(ina.getByText(/no page keep the screen on/)).toBeVisible();
  const photo = ina.getByLabel('Photograph to the log');
  await photo.setInputFiles({
    name: 'wall.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('no picture at all'),
  });
  await expect(ina.getByRole('alert')).toContainText('wall.jpg: the browser cannot read it');
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="3000" height="2000"><rect width="3000" height="2000" fill="teal"/></svg>';
  await photo.setInputFiles({
    name: 'bar.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(svg),
  });
  const pictures = booth.page.getByRole('region', { name: 'Photographs from the stage' });
  await expect(pictures).toContainText('Ina: A photograph from the stage.');
  const size = await pictures
    .getByRole('img')
    .evaluate((picture: HTMLImageElement) => [picture.naturalWidth, picture.naturalHeight]);
  expect(size).toEqual([1600, 1067]);

  // Another booth has nobody, and the first goes on.
  const second = await openBooth(browser, server.address);
  await expect(second.page.getByRole('status', { name: 'Booth' })).toHaveText(
    'Nobody is on the stage yet.',
  );
  expect(await second.code).not.toBe(await booth.code);
  const [simulated] = await Promise.all([
    second.page.waitForEvent('popup'),
    second.page.getByRole('link', { name: 'A simulated device' }).click(),
  ]);
  await expect(simulated.getByText('A simulated device: it answers by itself')).toBeVisible();
  await expect(second.page.getByRole('list', { name: 'On the stage' })).toContainText(
    'Simulated device',
  );
  for (const words of ['One', 'Two', 'Three', 'Four']) await second.ask(words);
  await expect(second.asked).toContainText('all answered');
  await expect(second.asked).toContainText('Simulated device: cannot: The cable is too short.');
  await expect(booth.page.getByRole('list', { name: 'On the stage' })).toContainText('Ina');
  await second.page.getByRole('button', { name: 'Let Simulated device go' }).click();
  await expect(simulated.getByRole('alert')).toContainText('The booth has let this device go.');
  await booth.page.getByRole('button', { name: 'Close the stage' }).click();
  await expect(ina.getByRole('alert')).toContainText('The booth is closed');
});

test('without --stage both pages say how to have one', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.go('rig');
  await bench.turnTo('Stage');
  await page.getByRole('button', { name: 'Open the stage' }).click();
  await expect(page.getByRole('alert')).toContainText('npm start -- --stage');
  await page.goto('/stage');
  await expect(page.getByRole('heading', { name: 'The stage is not open' })).toBeVisible();
});

for (const theme of ['light', 'dark'] as const) {
  test(`nothing of the stage that a reader of screens trips over, in the ${theme} theme`, async ({
    browser,
  }) => {
    const found: unknown[] = [];
    const look = async (page: Page, where: string): Promise<void> => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      found.push(...violations.map(({ id, nodes }) => [where, id, nodes.map(({ html }) => html)]));
    };
    const booth = await openBooth(browser, server.address);
    const dark = (page: Page) =>
      page.evaluate((name) => {
        localStorage.setItem('rotunda-theme', name);
        document.documentElement.dataset.theme = `rotunda-${name}`;
      }, theme);
    const door = await (
      await browser.newContext({ viewport: { width: 390, height: 780 } })
    ).newPage();
    await door.goto(`${server.address}/stage`);
    await dark(door);
    await look(door, 'door');
    const ina = await phone(browser, server.address, await booth.code, 'Ina');
    await dark(ina);
    await dark(booth.page);
    await booth.page.getByRole('button', { name: 'Up 2.0 cm' }).click();
    await booth.page.getByRole('button', { name: 'Ask for 1: Main pair L' }).click();
    await expect(now(ina)).toContainText('2.0 cm up');
    await look(ina, 'asked');
    // Nothing runs out sideways on a phone.
    const wide = await ina.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(wide).toBe(0);
    await panel(ina, 'Sheet').tap();
    await expect(ina.getByRole('heading', { name: 'Main pair 1 of 1' })).toBeVisible();
    await look(ina, 'sheet');
    await panel(ina, 'Say').tap();
    await look(ina, 'say');
    await now(ina)
      .getByRole('button', { name: 'Done', exact: true })
      .waitFor({ state: 'attached' });
    await look(booth.page, 'booth');
    expect(found).toEqual([]);
  });
}
