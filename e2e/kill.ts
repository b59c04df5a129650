import { chromium, expect, type Browser, type Page } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seededRandom } from '../core/units/random';
import { pageScript } from '../scripts/page-script.mjs';
import { Workbench } from './workbench';

/** A browser of its own on a profile of its own, which can be killed like a power cut kills it. */
export class MortalBrowser {
  private readonly profile = mkdtempSync(join(tmpdir(), 'rotunda-profile-'));
  private running: { process: ChildProcess; browser: Browser } | null = null;

  constructor(private readonly extra: readonly string[] = []) {}

  async open(): Promise<Page> {
    const child = spawn(
      '/usr/bin/chromium',
      [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--remote-debugging-port=0',
        '--window-size=1280,800',
        `--user-data-dir=${this.profile}`,
        ...this.extra,
        'about:blank',
      ],
      { detached: true, stdio: ['ignore', 'ignore', 'pipe'] },
    );
    const endpoint = await new Promise<string>((resolve, reject) => {
      let said = '';
      child.stderr.on('data', (data) => {
        said += String(data);
        const found = /DevTools listening on (ws:\S+)/.exec(said)?.[1];
        if (found) resolve(found);
      });
      child.on('exit', () => reject(new Error(`the browser did not start: ${said}`)));
    });
    const browser = await chromium.connectOverCDP(endpoint);
    this.running = { process: child, browser };
    const [context] = browser.contexts();
    if (!context) throw new Error('the browser has no context');
    return context.pages()[0] ?? (await context.newPage());
  }

  /** Ends every process of the browser at once; nothing in the page runs any more. */
  async kill(): Promise<void> {
    if (!this.running) return;
    const { process: child, browser } = this.running;
    this.running = null;
    const gone = new Promise((done) => child.once('exit', done));
    if (child.pid !== undefined) process.kill(-child.pid, 'SIGKILL');
    await gone;
    await browser.close().catch(() => undefined);
  }

  async discard(): Promise<void> {
    await this.kill();
    rmSync(this.profile, { recursive: true, force: true, maxRetries: 5 });
  }
}

const PLAYER = 'Horn 1';
const centimetres = async (bench: Workbench): Promise<number> =>
  Math.round(Number((await bench.field('Right of centre').inputValue()).replace('−', '-')) * 100);

export interface KillResult {
  kills: number;
  edits: number;
  /** edits older than a second that were gone */
  lost: number;
  /** how old the oldest edit was that was gone, ms */
  oldestLostMs: number;
}

/**
 * Moves a player by 1 cm again and again, at a pace of 30 to 1,000 ms, kills the browser at a
 * random moment, opens it again and looks how far the player got.
 */
export async function killAgainAndAgain(
  address: string,
  kills: number,
  seed: number,
): Promise<KillResult> {
  const random = seededRandom(seed);
  const mortal = new MortalBrowser();
  const result: KillResult = { kills: 0, edits: 0, lost: 0, oldestLostMs: 0 };
  try {
    let page = await mortal.open();
    await page.goto(`${address}demo`);
    for (let kill = 0; kill < kills; kill++) {
      const bench = new Workbench(page);
      await bench.player(PLAYER).focus();
      await bench.player(PLAYER).click();
      await bench.saved();
      const from = await centimetres(bench);
      const direction = from > 0 ? -1 : 1;
      const pace = 30 * (1000 / 30) ** random();
      const until = Date.now() + 1200 + random() * 1800;
      const made: number[] = [];
      while (Date.now() < until) {
        await page.keyboard.press(direction > 0 ? 'ArrowRight' : 'ArrowLeft');
        made.push(Date.now());
        await page.waitForTimeout(pace);
      }
      const killedAt = Date.now();
      await mortal.kill();
      page = await mortal.open();
      await page.goto(`${address}session/demo-nonet/floor`);
      const again = new Workbench(page);
      await again.player(PLAYER).click();
      await expect(again.field('Right of centre')).toBeVisible();
      const kept = Math.abs((await centimetres(again)) - from);
      const gone = made.slice(kept);
      const oldest = Math.max(0, ...gone.map((at) => killedAt - at));
      result.kills += 1;
      result.edits += made.length;
      result.lost += gone.filter((at) => killedAt - at > 1000).length;
      result.oldestLostMs = Math.max(result.oldestLostMs, oldest);
    }
  } finally {
    await mortal.discard();
  }
  return result;
}

const KILLS_EACH = 8;

export interface EntriesKilled {
  kills: number;
  /** that stood when the browser was killed */
  entries: number;
  /** that had stood for more than a second, and were gone */
  lost: number;
  /** contents that entries name and that are not there */
  missing: number;
  /** entries that were there more than once */
  twice: number;
}

interface EntriesPage {
  found: (id: string) => Promise<{ numbers: number[]; missing: number }>;
  write: (id: string, said: (number: number) => void) => Promise<void>;
}

/** Writes entries with a content each as fast as they are stored, and kills the browser in the middle. */
export async function killWhileEntriesAreWritten(
  address: string,
  kills: number,
): Promise<EntriesKilled> {
  const random = seededRandom(3);
  const script = await pageScript('e2e/entries-page.ts');
  const mortal = new MortalBrowser();
  const result: EntriesKilled = { kills: 0, entries: 0, lost: 0, missing: 0, twice: 0 };
  const opened = async (): Promise<Page> => {
    const page = await mortal.open();
    await page.goto(address);
    await page.evaluate(script);
    return page;
  };
  try {
    let page = await opened();
    for (let kill = 0; kill < kills; kill++) {
      const stood = new Map<number, number>();
      // No session holds more contents than some kills' worth.
      const id = `entries-${Math.floor(kill / KILLS_EACH)}`;
      await page.exposeFunction('said', (number: number) => stood.set(number, Date.now()));
      await page.evaluate((id) => {
        const { entriesPage, said } = globalThis as unknown as {
          entriesPage: EntriesPage;
          said: (number: number) => void;
        };
        void entriesPage.write(id, said);
      }, id);
      await page.waitForTimeout(1500 + 1500 * random());
      const killedAt = Date.now();
      await mortal.kill();
      page = await opened();
      const { numbers, missing } = await page.evaluate(
        (id) => (globalThis as unknown as { entriesPage: EntriesPage }).entriesPage.found(id),
        id,
      );
      const there = new Set(numbers);
      result.kills += 1;
      result.entries += stood.size;
      result.missing += missing;
      result.twice += numbers.length - there.size;
      for (const [number, at] of stood) {
        if (killedAt - at > 1000 && !there.has(number)) result.lost += 1;
      }
    }
  } finally {
    await mortal.discard();
  }
  return result;
}
