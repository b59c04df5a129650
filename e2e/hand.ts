import type { Locator } from '@playwright/test';
import { expect, type Workbench } from './workbench';

/** From nothing to a plan, as a new user would; an action is one click, one key or one filled field. */
export class Hand {
  actions = 0;

  constructor(
    readonly bench: Workbench,
    /** a finger instead of a mouse */
    readonly touch = false,
  ) {}

  async on(target: Locator): Promise<void> {
    this.actions += 1;
    await (this.touch ? target.tap() : target.click());
  }

  async click(name: string | RegExp, role: 'button' | 'link' = 'button'): Promise<void> {
    await this.on(this.bench.page.getByRole(role, { name, exact: true }).first());
  }

  async choose(label: string, option: string): Promise<void> {
    this.actions += 1;
    await this.bench.page.getByLabel(label, { exact: true }).selectOption({ label: option });
  }

  async fill(label: string, text: string): Promise<void> {
    this.actions += 1;
    await this.bench.page.getByRole('textbox', { name: label, exact: true }).fill(text);
  }

  async key(key: string): Promise<void> {
    this.actions += 1;
    await this.bench.page.keyboard.press(key);
  }

  /** Finds or does something by the first letters of its name. */
  async ask(words: string): Promise<void> {
    await this.key('Control+k');
    await this.bench.page.keyboard.type(words);
    this.actions += 1;
    const first = this.bench.page.getByRole('dialog').getByRole('option').first();
    await expect(first).toContainText(new RegExp(words, 'i'));
    await this.key('Enter');
    await expect(this.bench.page.getByRole('dialog')).toHaveCount(0);
  }
}

export const HALL = 'Chamber hall, 14 × 24 m, 8 m high';

export async function emptyShelf({ page }: Workbench): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'No sessions yet' })).toBeVisible();
}
