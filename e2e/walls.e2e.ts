import AxeBuilder from '@axe-core/playwright';
import type { Locator, Page } from '@playwright/test';
import { expect, settled, test, Workbench } from './workbench';

// Colours are read where they are, not on their way there.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

const PLAN =
  '<svg xmlns="http://www.w3.org/2000/svg" width="1400" height="2200"><rect width="1400" height="2200" fill="#eee"/><path d="M700 2100H1300V100H100V1100H700Z" fill="none" stroke="#000" stroke-width="8"/></svg>';

/** An L around the players: its corners, and its floor in square metres. */
const L = [
  [0, -14],
  [7, -14],
  [7, 8],
  [-7, 8],
  [-7, -4],
  [0, -4],
] as const;
const L_M2 = 14 * 12 + 7 * 10;

const ground = (page: Page): Locator => page.getByRole('group', { name: /^Plan, seen from above/ });
const status = (page: Page): Locator =>
  page.getByRole('region', { name: 'Trace the walls' }).getByRole('status').first();

/** What a field shows, with its own minus. */
const metres = (text: string): number => Number(text.replace('−', '-'));

/** The corners of the hall as they are typed and read, m. */
async function cornersOf(bench: Workbench): Promise<[number, number][]> {
  const { page } = bench;
  const count = await page
    .getByRole('list', { name: 'Corners of the hall' })
    .getByRole('listitem')
    .count();
  const read = (name: string) => bench.field(name).inputValue().then(metres);
  const found: [number, number][] = [];
  for (let i = 1; i <= count; i++) {
    found.push([await read(`Corner ${i}, right`), await read(`Corner ${i}, upstage`)]);
  }
  return found;
}

/** Floor by its corners, m². */
const areaOf = (of: readonly (readonly [number, number])[]): number =>
  Math.abs(
    of.reduce((sum, [x, y], i) => {
      const [u, v] = of[(i + 1) % of.length] ?? [x, y];
      return sum + (x * v - u * y) / 2;
    }, 0),
  );

async function volume(page: Page): Promise<number> {
  return Number.parseFloat(
    (await page.getByRole('status', { name: 'Volume', exact: true }).innerText()).replace(
      /[^\d.]/g,
      '',
    ),
  );
}

test('a hall is traced over its picture by mouse, dragged, and taken back step by step', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await page.getByLabel('Picture of the floor plan', { exact: true }).setInputFiles({
    name: 'plan.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(PLAN),
  });
  await expect(page.getByText(/^Click two points of the picture/)).toBeVisible();
  await page.getByRole('button', { name: 'Walls' }).click();
  await expect(bench.field('Corner 4, upstage')).toBeVisible();
  const box = await cornersOf(bench);
  expect(box).toHaveLength(4);
  const heightM = (await volume(page)) / areaOf(box);

  await page.getByRole('button', { name: 'Trace the walls' }).click();
  await expect(status(page)).toHaveText(/^Click the first corner/);
  const at = [
    [420, 470],
    [640, 474],
    [640, 60],
    [200, 60],
    [200, 300],
    [420, 300],
  ] as const;
  for (const [i, [x, y]] of at.entries()) {
    await ground(page).click({ position: { x, y } });
    if (i < 2) await expect(status(page)).toHaveText(new RegExp(`^${i + 1} of at least 3`));
  }
  await expect(status(page)).toHaveText(/^6 corners\. Click the first one again/);
  // Taken back and set again; then closed where it began.
  await page.getByRole('button', { name: 'Take the last back' }).click();
  await expect(status(page)).toHaveText(/^5 corners/);
  await ground(page).click({ position: { x: 420, y: 300 } });
  await ground(page).click({ position: { x: 420, y: 470 } });
  await expect(bench.field('Corner 6, upstage')).toBeVisible();
  const traced = await cornersOf(bench);
  expect(traced).toHaveLength(6);
  // A wall that was nearly level on the plan is level.
  expect(traced[0]?.[1]).toBe(traced[1]?.[1]);
  expect(await volume(page)).toBeCloseTo(areaOf(traced) * heightM, -1);

  // Two walls that cross are no hall: the field says it, and nothing is changed.
  await bench.field('Corner 6, upstage').fill('40');
  await bench.field('Corner 6, upstage').press('Enter');
  await expect(page.getByText(/Not allowed: .*corner|wall/).first()).toBeVisible();
  await bench.field('Corner 6, upstage').press('Escape');
  expect(await cornersOf(bench)).toEqual(traced);

  const mark = page.getByRole('button', { name: 'Corner 2 of the hall' });
  await bench.drag(mark, 60, 0);
  const right = bench.field('Right of centre');
  await expect
    .poll(async () => metres(await right.inputValue()))
    .toBeGreaterThan((traced[1]?.[0] ?? 0) + 0.3);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => metres(await right.inputValue())).toBe(traced[1]?.[0]);
  await page.getByRole('button', { name: 'All walls' }).click();
  expect(await cornersOf(bench)).toEqual(traced);
  await page.keyboard.press('Control+z');
  await expect(bench.field('Corner 5, upstage')).toHaveCount(0);
  expect(await cornersOf(bench)).toEqual(box);
  await page.keyboard.press('Control+Shift+z');
  await expect(bench.field('Corner 6, upstage')).toBeVisible();
  await bench.saved();
  await page.reload();
  await page.getByRole('button', { name: 'Walls' }).click();
  await expect(bench.field('Corner 6, upstage')).toBeVisible();
  expect(await cornersOf(bench)).toEqual(traced);
});

test('a hall is typed by keys alone; tapes are held to its corners, and the sheet has them', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  const walls = page.getByRole('button', { name: 'Walls' });
  await walls.focus();
  await page.keyboard.press('Enter');
  await expect(bench.field('Corner 4, upstage')).toBeVisible();
  const heightM = (await volume(page)) / areaOf(await cornersOf(bench));
  await page.getByRole('button', { name: 'Trace the walls' }).focus();
  await page.keyboard.press('Enter');
  await bench.field('Right of centre').focus();
  for (const [x, y] of L) {
    await page.keyboard.type(`${x}`);
    await page.keyboard.press('Tab');
    await page.keyboard.type(`${y}`);
    await page.keyboard.press('Tab');
    await expect(page.getByRole('button', { name: 'Add corner' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(bench.field('Right of centre')).toBeFocused();
  }
  await page.getByRole('group', { name: /^Ground of the plan/ }).focus();
  // One too few, and back again.
  await page.keyboard.press('Backspace');
  await expect(status(page)).toHaveText(/^5 corners/);
  await bench.field('Right of centre').focus();
  await page.keyboard.type('0');
  await page.keyboard.press('Tab');
  await page.keyboard.type('-4');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(status(page)).toHaveText(/^6 corners/);
  await page.getByRole('group', { name: /^Ground of the plan/ }).focus();
  await page.keyboard.press('Enter');
  await expect(bench.field('Corner 6, upstage')).toHaveValue('−4.00');
  expect(await volume(page)).toBeCloseTo(L_M2 * heightM, -1);

  // By its arrow keys, and by a key that takes it away; each of them is one step back.
  const last = page.getByRole('button', { name: 'Corner 6 of the hall' });
  await last.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(bench.field('Right of centre')).toHaveValue('0.10');
  await page.keyboard.press('Control+z');
  await expect(bench.field('Right of centre')).toHaveValue('0.00');
  await page.keyboard.press('Delete');
  await expect(last).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(last).toHaveCount(1);

  for (const tape of ['tape point A', 'tape point B']) {
    await page.getByRole('button', { name: tape }).first().focus();
    await page.keyboard.press('Delete');
    await expect(page.getByRole('button', { name: tape })).toHaveCount(0);
  }
  for (const corner of [3, 4]) {
    await page.getByRole('button', { name: `Corner ${corner} of the hall` }).focus();
    await page.getByRole('button', { name: 'Hold a tape to it' }).focus();
    await page.keyboard.press('Enter');
  }
  await bench.go('rig');
  const left = page.getByRole('table', { name: 'Positions of Main pair' }).getByRole('row', {
    name: /^L/,
  });
  // Left capsule at (−0.085, −0.40).
  await expect(left).toContainText(`${Math.hypot(7.085, 8.4).toFixed(2)} m`);
  await expect(left).toContainText(`${Math.hypot(6.915, 8.4).toFixed(2)} m`);
  await expect(page.getByRole('article', { name: 'Position sheet' })).toContainText('corner 3');
});

test('a hall by touch on a tablet, light and dark, in feet, and nothing that a reader of screens trips over', async ({
  browser,
}) => {
  const context = await browser.newContext({
    ...{ hasTouch: true, viewport: { width: 1024, height: 768 }, serviceWorkers: 'block' },
    reducedMotion: 'reduce',
  });
  const page = await context.newPage();
  const bench = new Workbench(page);
  await bench.openDemo();
  await page.getByRole('button', { name: 'Walls' }).tap();
  await page.getByRole('button', { name: 'Trace the walls' }).tap();
  await expect(status(page)).toHaveText(/^Click the first corner/);
  for (const [x, y] of [
    [150, 370],
    [450, 374],
    [450, 60],
    [150, 60],
    [150, 370],
  ] as const) {
    await ground(page).tap({ position: { x, y } });
  }
  await expect(bench.field('Corner 4, upstage')).toBeVisible();
  await expect(bench.field('Corner 5, upstage')).toHaveCount(0);
  const [first, second] = await cornersOf(bench);
  expect(first?.[1]).toBe(second?.[1]);
  await page.getByRole('button', { name: /^Wall 1, .*add a corner in its middle$/ }).tap();
  await expect(page.getByRole('heading', { name: 'Corner 2 of the hall' })).toBeVisible();
  await page.getByRole('button', { name: 'All walls' }).tap();
  await expect(bench.field('Corner 5, upstage')).toBeVisible();
  await page.getByRole('button', { name: 'ft / in' }).tap();
  await expect(bench.field('Corner 5, upstage')).not.toHaveValue(/^-?\d+\.\d\d$/);
  for (const theme of ['Dark theme', 'Light theme']) {
    await page.getByRole('button', { name: theme }).tap();
    await settled(page);
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
  }
  await page.getByRole('button', { name: 'Undo', exact: true }).tap();
  await page.getByRole('button', { name: 'Undo', exact: true }).tap();
  await expect(page.getByRole('button', { name: /^Wall 5, / })).toHaveCount(0);
  await context.close();
});
