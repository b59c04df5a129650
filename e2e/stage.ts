import { spawn } from 'node:child_process';
import { connect, createServer, type Socket } from 'node:net';
import type { Browser, BrowserContextOptions, Page } from '@playwright/test';
import { expect } from './workbench';

/** A server of the test's own with a stage, and what can happen to the network between. */

export interface StageServer {
  port: number;
  address: string;
  stop: () => void;
}

export async function stageServer(port: number): Promise<StageServer> {
  const server = spawn(
    'node_modules/.bin/tsx',
    ['server/main.ts', '--stage', '--host', '127.0.0.1', '--port', `${port}`],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  const address = await new Promise<string>((done, fail) => {
    let printed = '';
    server.stdout.on('data', (data) => {
      printed += String(data);
      const found = /Rotunda: (http:\S+)\/\s/.exec(printed)?.[1];
      if (found !== undefined && printed.includes('The stage:')) done(found);
    });
    server.on('exit', () => fail(new Error(`the server did not start: ${printed}`)));
  });
  return { port: Number(new URL(address).port), address, stop: () => void server.kill() };
}

/** A network that can be slow, cut, or open without anything going through. */
export interface Network {
  address: string;
  delayMs: number;
  /** nothing goes through, and nobody is told */
  halfOpen: boolean;
  /** every connection ends; none can be made while down */
  down: (is: boolean) => void;
  stop: () => void;
}

export async function network(to: number): Promise<Network> {
  const pairs = new Set<[Socket, Socket]>();
  let isDown = false;
  const state = { delayMs: 0, halfOpen: false };
  const pass = (from: Socket, into: Socket): void => {
    from.on('data', (data) => {
      if (state.halfOpen) return;
      setTimeout(() => into.writable && into.write(data), state.delayMs);
    });
    from.on('close', () => state.halfOpen || into.destroy());
    from.on('error', () => undefined);
  };
  const server = createServer((near) => {
    if (isDown) return void near.destroy();
    const far = connect(to, '127.0.0.1');
    const pair: [Socket, Socket] = [near, far];
    pairs.add(pair);
    near.on('close', () => pairs.delete(pair));
    pass(near, far);
    pass(far, near);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const end = (): void => pairs.forEach((pair) => pair.forEach((socket) => socket.destroy()));
  return {
    address: `http://127.0.0.1:${port}`,
    get delayMs() {
      return state.delayMs;
    },
    set delayMs(ms) {
      state.delayMs = ms;
    },
    get halfOpen() {
      return state.halfOpen;
    },
    set halfOpen(is) {
      state.halfOpen = is;
      // What was open meanwhile stays dead: only new connections work.
      if (!is) pairs.forEach((pair) => pair.forEach((socket) => socket.removeAllListeners('data')));
    },
    down(is) {
      isDown = is;
      if (is) end();
    },
    stop() {
      end();
      server.close();
    },
  };
}

const PHONE: BrowserContextOptions = {
  viewport: { width: 390, height: 780 },
  hasTouch: true,
  isMobile: true,
  reducedMotion: 'reduce',
};

export class Booth {
  constructor(readonly page: Page) {}

  get asked() {
    return this.page.getByRole('region', { name: 'Asked' });
  }

  get code(): Promise<string> {
    return this.page.getByLabel('Code', { exact: true }).innerText();
  }

  async go(page: string): Promise<void> {
    await this.page.getByRole('button', { name: page, exact: true }).click();
  }

  async ask(words: string): Promise<void> {
    await this.page.getByRole('textbox', { name: 'In words' }).fill(words);
    await this.page.getByRole('textbox', { name: 'In words' }).press('Enter');
    await expect(this.asked).toContainText(words);
  }

  /** Everything is kept: what is loaded anew has it. */
  async saved(): Promise<void> {
    await expect(this.page.getByRole('status', { name: 'Save state' })).toHaveText(/^Saved/);
  }
}

/** The demo's booth, open. */
export async function openBooth(browser: Browser, address: string): Promise<Booth> {
  const context = await browser.newContext({ reducedMotion: 'reduce' });
  const page = await context.newPage();
  await page.goto(`${address}/demo`);
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await page.goto(page.url().replace(/\/floor.*$/, '/rig?page=stage'));
  await page.getByRole('button', { name: 'Open the stage' }).click();
  await expect(page.getByLabel('Code', { exact: true })).toHaveText(/^\d{6}$/);
  return new Booth(page);
}

/** A phone on the stage. */
export async function phone(
  browser: Browser,
  address: string,
  code: string,
  name: string,
  more: BrowserContextOptions = {},
): Promise<Page> {
  const page = await (await browser.newContext({ ...PHONE, ...more })).newPage();
  await page.goto(`${address}/stage#${code}`);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Join' }).tap();
  await expect(page.getByText('Nothing is asked just now.')).toBeVisible();
  return page;
}

export const now = (page: Page) => page.getByRole('article', { name: 'Now' });
