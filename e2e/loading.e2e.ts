import { expect, test } from '@playwright/test';

/** What comes when the page rests: the face of the headings, and what looks for faults beside it. */
const WHEN_IDLE = /bricolage|worker/;

test('the floor from nothing: drawn before the analysis is there, and small', async ({
  browser,
}) => {
  const context = await browser.newContext({ serviceWorkers: 'block' });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const seen: Record<string, number> = {};
    Object.assign(globalThis, { seen });
    const look = () => {
      if (document.querySelector('[data-source]')) seen['drawn'] ??= performance.now();
      if (document.querySelector('[aria-label="Stage figures"]'))
        seen['line'] ??= performance.now();
      if (document.querySelector('aside[aria-label="Inspector"]')?.textContent?.includes('°'))
        seen['angle'] ??= performance.now();
      setTimeout(look, 3);
    };
    look();
  });
  await page.goto('/demo');
  await expect(page.getByLabel('Stage figures')).toContainText('%');
  await expect(page.getByRole('complementary', { name: 'Inspector' })).toContainText('°');
  await page.waitForFunction(() => {
    const { seen } = globalThis as unknown as { seen: { line?: number; angle?: number } };
    return seen.line !== undefined && seen.angle !== undefined;
  });
  const { seen, loaded } = await page.evaluate(() => ({
    seen: (globalThis as unknown as { seen: { drawn: number; line: number; angle: number } }).seen,
    loaded: (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).map(
      ({ name, startTime, encodedBodySize }) => ({ name, startTime, encodedBodySize }),
    ),
  }));
  await context.close();
  expect(seen.drawn).toBeLessThan(seen.line);
  const analysis = loaded.find(({ name }) => name.includes('/live-'));
  expect(analysis).toBeDefined();
  // All that was asked for before the first figures stood there.
  const there = Math.max(seen.line, seen.angle);
  const needed = loaded.filter(
    ({ name, startTime }) =>
      startTime <= there && /\.(js|css|woff2)$/.test(name) && !WHEN_IDLE.test(name),
  );
  const bytes = needed.reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0);
  expect(bytes).toBeGreaterThan(100_000);
  expect(bytes, `${bytes} bytes`).toBeLessThan(300_000);
  const worker = loaded.find(({ name }) => name.includes('task.worker'));
  if (worker) expect(worker.startTime).toBeGreaterThan(seen.drawn);
});
