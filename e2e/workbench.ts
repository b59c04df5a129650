import {
  expect,
  test as base,
  type BrowserContext,
  type Locator,
  type Page,
} from '@playwright/test';
import { readFileSync } from 'node:fs';

/** What a user sees and does, in a user's words; the tests read results only through this. */
export class Workbench {
  constructor(readonly page: Page) {}

  /** The demo session, opened as the first visitor of an empty browser. */
  async openDemo(station = 'floor'): Promise<void> {
    await this.page.goto('/demo');
    await expect(this.page.getByRole('main', { name: 'Floor' })).toBeVisible();
    if (station !== 'floor') await this.go(station);
  }

  async go(station: string): Promise<void> {
    const name = station.charAt(0).toUpperCase() + station.slice(1);
    await this.page.getByRole('link', { name: new RegExp(`${name}$`) }).click();
    await expect(this.page.getByRole('main', { name })).toBeVisible();
  }

  /** A page of a station, once it is the one that is shown. */
  async turnTo(name: string, pages: string | RegExp = /^Pages of/): Promise<void> {
    const tab = this.page
      .getByRole('navigation', { name: pages })
      .getByRole('button', { name, exact: true });
    await tab.click();
    await expect(tab).toHaveAttribute('aria-current', 'page');
  }

  async briefPage(name: string): Promise<void> {
    await this.go('brief');
    await this.turnTo(name);
  }

  /** A page of the Array station, in a fresh demo session. */
  async arrayPage(name: string): Promise<void> {
    await this.openDemo('array');
    await this.turnTo(name, 'Pages of the array');
  }

  player(name: string): Locator {
    return this.page.getByRole('button', { name: new RegExp(`^${name}, `) });
  }

  get pair(): Locator {
    return this.page.getByRole('button', { name: /^Main pair · / });
  }

  /** The lines of the list of findings. */
  findings(text?: string | RegExp): Locator {
    const lines = this.page.getByRole('list', { name: /^Findings/ }).getByRole('listitem');
    return text === undefined ? lines : lines.filter({ hasText: text });
  }

  /** The finding that is chosen, whole; chosen by its line. */
  get chosenFinding(): Locator {
    return this.page.getByRole('region', { name: 'The chosen finding' });
  }

  field(label: string): Locator {
    return this.page.getByRole('textbox', { name: label, exact: true });
  }

  async type(label: string, text: string): Promise<void> {
    await this.field(label).fill(text);
    await expect(this.field(label)).toHaveValue(text);
    await this.field(label).press('Enter');
  }

  readout(label: string): Locator {
    return this.page.getByRole('status', { name: label, exact: true });
  }

  /** Waits until the table of the image line has caught up with the drawing. */
  private async settled(): Promise<void> {
    // A frame for the change to be drawn; then the table says itself whether it is behind.
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => done(null))));
    await expect(this.page.locator('table[aria-label="Stereo image"]')).toHaveAttribute(
      'aria-busy',
      'false',
    );
  }

  /** A player's row of the image line: place, extent, spread. */
  image(name: string): Locator {
    const table = this.page.getByRole('table', { name: 'Stereo image' });
    return table
      .getByRole('row')
      .filter({ has: this.page.getByRole('rowheader', { name, exact: true }) });
  }

  async imageText(name: string): Promise<string> {
    await this.settled();
    return this.image(name).getByRole('cell').first().innerText();
  }

  /** "95 % R" as +95 */
  async imagePercent(name: string): Promise<number> {
    const text = await this.imageText(name);
    const match = /^(\d+) % ([LR])$/.exec(text);
    if (text === 'centre') return 0;
    if (!match) throw new Error(`no place: ${text}`);
    return Number(match[1]) * (match[2] === 'L' ? -1 : 1);
  }

  /** All rows of the image line as text, to compare whole states. */
  async allImages(): Promise<string> {
    await this.settled();
    return this.page.getByRole('table', { name: 'Stereo image' }).innerText();
  }

  async drag(mark: Locator, dx: number, dy: number): Promise<void> {
    const box = await mark.boundingBox();
    if (!box) throw new Error('the mark is not on the screen');
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await this.page.mouse.move(x, y);
    await this.page.mouse.down();
    await this.page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 });
    await this.page.mouse.move(x + dx, y + dy, { steps: 4 });
    await this.page.mouse.up();
  }

  async saved(): Promise<void> {
    await expect(this.page.getByRole('status', { name: 'Save state' })).toHaveText(/^Saved/);
  }

  /** Unfolds the recording angles in all models on the pair's page. */
  async allModels(): Promise<void> {
    const fold = this.page.getByRole('button', { name: 'Recording angle in all models' });
    if ((await fold.getAttribute('aria-expanded')) === 'false') await fold.click();
  }

  async download(act: () => Promise<void>): Promise<{ name: string; path: string; text: string }> {
    const waiting = this.page.waitForEvent('download');
    await act();
    const file = await waiting;
    const path = await file.path();
    return { name: file.suggestedFilename(), path, text: readFileSync(path, 'latin1') };
  }

  async command(name: string): Promise<void> {
    await this.page.keyboard.press('Control+k');
    const dialog = this.page.getByRole('dialog', { name: 'Find or do' });
    await dialog.getByRole('combobox').fill(name);
    await dialog.getByRole('option', { name }).first().waitFor();
    await this.page.keyboard.press('Enter');
    await expect(dialog).toBeHidden();
  }
}

interface Own {
  bench: Workbench;
}
interface Shared {
  /** the browser that the tests of a worker share: what it has loaded once it need not load again */
  warm: BrowserContext;
}

/**
 * Empties what the browser keeps of the product, and looks whether it is empty. A page that was left
 * may still write while the next one stands already: until it is gone it holds its lock.
 */
async function emptied(page: Page, origin: string): Promise<void> {
  const blank = `${origin}/blank-page`;
  // Without an icon of its own the browser would ask the server for one.
  const body = '<link rel="icon" href="data:,">';
  await page.route(blank, (route) => route.fulfill({ contentType: 'text/html', body }));
  await page.goto(blank);
  await page.unrouteAll();
  const session = await page.context().newCDPSession(page);
  await expect(async () => {
    const held = await page.evaluate(async () => (await navigator.locks.query()).held?.length);
    expect(held, 'pages that still write').toBe(0);
    await session.send('Storage.clearDataForOrigin', {
      origin,
      storageTypes: 'indexeddb,local_storage,cache_storage',
    });
    const left = await page.evaluate(async () => {
      sessionStorage.clear();
      return (await indexedDB.databases()).length + localStorage.length;
    });
    expect(left, 'what is still stored').toBe(0);
  }).toPass();
  await session.detach();
}

/** A chooser that tests can answer: the one that gives handles asks the desk, which is not there. */
async function plainChoosers(context: BrowserContext): Promise<void> {
  await context.addInitScript(() => {
    for (const name of ['showOpenFilePicker', 'showDirectoryPicker', 'showSaveFilePicker']) {
      Object.defineProperty(globalThis, name, { value: undefined, configurable: true });
    }
  });
}

/** Whether something was done to a page that the next test would feel. */
function watched(page: Page): () => boolean {
  let changed = false;
  const add = page.addInitScript.bind(page);
  page.addInitScript = (...given) => {
    changed = true;
    return add(...given);
  };
  return () => changed;
}

/**
 * A workbench whose page must stay free of errors and of requests to anywhere else. Tests share a
 * browser and its page, never what is stored: each begins with an empty store.
 */
export const test = base.extend<Own, Shared>({
  warm: [
    async ({ browser }, run, { project }) => {
      const { viewport, locale, serviceWorkers, baseURL } = project.use;
      const options = { viewport, locale, serviceWorkers, baseURL, acceptDownloads: true };
      const context = await browser.newContext(
        Object.fromEntries(Object.entries(options).filter(([, value]) => value !== undefined)),
      );
      await plainChoosers(context);
      await run(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: ({ warm }, run) => run(warm),
  page: async ({ context, baseURL, viewport }, run, test) => {
    const page = context.pages()[0] ?? (await context.newPage());
    await emptied(page, baseURL ?? '');
    // Where samples are counted, the sound begins with all that it may hold back: growing it takes a pause.
    if (test.project.name === 'sound') {
      await page.addInitScript(() => localStorage.setItem('rotunda-sound-buffer', '4'));
    }
    await page.mouse.move(0, 0);
    const changed = watched(page);
    await run(page);
    page.removeAllListeners();
    for (const other of context.pages()) if (other !== page) await other.close();
    if (changed() || test.status !== test.expectedStatus || page.isClosed()) {
      await page.close();
      return;
    }
    await page.unrouteAll({ behavior: 'ignoreErrors' });
    await page.emulateMedia({ media: null });
    if (viewport) await page.setViewportSize(viewport);
  },
  bench: async ({ page, baseURL }, run) => {
    const wrong: string[] = [];
    page.on('pageerror', (error) => wrong.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error') wrong.push(message.text());
    });
    page.on('request', (request) => {
      const own = request.url().startsWith(baseURL ?? '') || /^(blob|data):/.test(request.url());
      if (!own) wrong.push(`request to ${request.url()}`);
    });
    await run(new Workbench(page));
    expect(wrong).toEqual([]);
  },
});

/** The same in a browser of its own, for what a browser keeps beyond its storage. */
export const aloneTest = test.extend({
  context: async ({ browser, baseURL, serviceWorkers, hasTouch, viewport }, run) => {
    const context = await browser.newContext({
      baseURL: baseURL ?? '',
      serviceWorkers,
      hasTouch,
      viewport,
    });
    await plainChoosers(context);
    await run(context);
    await context.close();
  },
  page: async ({ context }, run) => run(await context.newPage()),
});

export { expect };

/** Colours on their way from one state to the next are not what anybody reads. */
export const settled = (page: Page): Promise<unknown> =>
  page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter(({ effect }) => effect?.getTiming().iterations !== Infinity)
        .map(({ finished }) => finished.catch(() => undefined)),
    ),
  );
