import type { Page } from '@playwright/test';
import { expect, type Workbench } from './workbench';

/** What tests do at the Soundcheck. */

export const option = (page: Page, letter: string) =>
  page.getByRole('article', { name: `Option ${letter}`, exact: true });

/** The first option of the plan as it stands, simulated. */
export async function firstOption(bench: Workbench): Promise<void> {
  await bench.openDemo('soundcheck');
  await bench.page.getByRole('button', { name: 'Simulate this plan' }).click();
  await expect(option(bench.page, 'A')).toContainText('Simulated, option A');
}

/** The pair is put otherwise, and that becomes an option. */
export async function anotherOption(
  bench: Workbench,
  spacing: string,
  name: string,
): Promise<void> {
  const { page } = bench;
  await bench.go('array');
  await bench.turnTo('Pair geometry');
  await bench.type('Spacing', spacing);
  await bench.go('soundcheck');
  await bench.turnTo('Diary');
  const form = page.getByRole('form', { name: 'New option' });
  await form.getByLabel('Called').fill(name);
  await form.getByRole('button', { name: 'Into the diary' }).click();
}

export const listen = (page: Page) => page.getByRole('region', { name: 'Listen' });

export async function beginBlind(page: Page, by: string, trials: string | null): Promise<void> {
  const form = page.getByRole('form', { name: 'Blind' });
  if (trials !== null) await form.getByLabel('Trials').fill(trials);
  await form.getByLabel('Who listens').fill(by);
  await form.getByRole('button', { name: 'Listen blind' }).click();
  await expect(page.getByRole('region', { name: 'Blind test' })).toBeVisible();
}

export const trial = (page: Page) => page.getByRole('status', { name: 'Trial' });

/** Answers every trial by keys and a button. */
export async function answerAll(page: Page, count: number): Promise<void> {
  for (let i = 1; i <= count; i++) {
    await expect(trial(page)).toContainText(`Trial ${i} of ${count}`);
    await page.keyboard.press('b');
    await page.getByRole('button', { name: i % 2 ? 'A is better' : 'B is better' }).click();
  }
  await page.getByRole('button', { name: 'Done' }).click();
}
