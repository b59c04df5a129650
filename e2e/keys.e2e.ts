import { expect, test, Workbench } from './workbench';
import { heard, playing } from './listening';

// Whole jobs of a hand, one after the other: on a busy machine they take their time.

test('Space is the transport after a click, and the control’s own where Tab led', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  await bench.go('checks');
  await page.getByRole('button', { name: 'Safety', exact: true }).click();
  // A tab that was clicked is not pressed again: the plan plays.
  await page.keyboard.press('Space');
  await playing(page);
  await page.getByRole('button', { name: 'mono', exact: true }).click();
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Listen' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Listen' }).click();
  await playing(page);
  // Letters with Shift everywhere, on the line without it as well.
  await page.keyboard.press('Shift+R');
  await expect(heard(page)).toContainText('room alone');
  await page.keyboard.press('r');
  await expect(heard(page)).not.toContainText('room alone');
  await page.keyboard.press('Shift+O');
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  // By Tab to the next switch: Space presses that.
  await page.getByRole('button', { name: 'mono', exact: true }).focus();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Shift+Tab');
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toBeFocused();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  // How one session was checked says nothing of the next.
  await page.getByRole('link', { name: 'All sessions' }).click();
  await page.getByRole('link', { name: 'Reedmace Voices, evensong pieces' }).click();
  await expect(page.getByRole('button', { name: 'mono', exact: true })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
});

test('Ctrl Z is the field’s while one types, and the plan’s before and after', async ({
  bench,
  page,
}) => {
  await bench.arrayPage('Compare');
  const height = bench.field('Height');
  const was = await height.inputValue();
  await height.fill('1.5 m');
  await height.press('Enter');
  await expect(height).toHaveValue('1.50');
  // The focus is still in the field: it has been left as far as undo goes.
  await expect(height).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(height).toHaveValue(was);
  await page.keyboard.press('Control+Shift+z');
  await expect(height).toHaveValue('1.50');
  // What is half typed is taken back first, and nothing of the plan with it.
  await height.click();
  await page.keyboard.type('2.4');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  await expect(height).toHaveValue('1.50');
  // Entered by Tab and not typed in: what was undone is not put back by leaving.
  await height.focus();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Tab');
  await expect(height).toHaveValue(was);
  // In a list it is the plan's as well.
  const model = page.getByLabel('Model that leads');
  const [before] = [await model.inputValue()];
  const other = before === 'consensus' ? 'interpolated' : 'consensus';
  await model.selectOption({ index: other === 'consensus' ? 0 : 1 });
  await expect(model).not.toHaveValue(before);
  await model.focus();
  await page.keyboard.press('Control+z');
  await expect(model).toHaveValue(before);
});

test('a page begins at its head, and a message covers neither table nor scale', async ({
  bench,
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 640 });
  await bench.arrayPage('Compare');
  await bench.arrayPage('Response');
  const scroller = page.locator('main[aria-label="Array"] nav + div');
  await expect
    .poll(() => scroller.evaluate((box) => box.scrollHeight > box.clientHeight))
    .toBe(true);
  await scroller.evaluate((box) => (box.scrollTop = 400));
  await page.getByRole('button', { name: 'Patterns', exact: true }).click();
  await expect.poll(() => scroller.evaluate((box) => box.scrollTop)).toBe(0);
  await bench.go('floor');
  await bench.player('Flute').click();
  await page.keyboard.press('Delete');
  const message = page.getByRole('status').filter({ hasText: 'Flute removed.' });
  await expect(message).toBeVisible();
  const [note, line, drawing] = await Promise.all([
    message.boundingBox(),
    page.locator('section[aria-label="Stereo image"] svg').first().boundingBox(),
    page.locator('main').boundingBox(),
  ]);
  expect(note && drawing && note.y >= drawing.y + drawing.height - 1).toBe(true);
  expect(line).not.toBeNull();
});

test('the image line is as high as it needs, or as the hand makes it; the scale stays', async ({
  bench,
  page,
}) => {
  await bench.openDemo();
  const panel = page.locator('section[aria-label="Stereo image"]');
  const height = async () => Math.round((await panel.boundingBox())?.height ?? 0);
  const five = await height();
  // Pulled by its upper edge, and by keys; Home makes it as high as it needs again.
  const edge = page.getByRole('separator', { name: 'Height of the stereo image' });
  const at = await edge.boundingBox();
  if (!at) throw new Error('an edge');
  await page.mouse.move(at.x + 400, at.y + 2);
  await page.mouse.down();
  await page.mouse.move(at.x + 400, at.y - 58, { steps: 4 });
  await page.mouse.up();
  await expect.poll(height).toBe(five + 60);
  await edge.focus();
  await page.keyboard.press('ArrowDown');
  await expect.poll(height).toBe(five + 50);
  await page.keyboard.press('Home');
  await expect.poll(height).toBe(five);
  // Lower than its lines: they scroll, the scale does not.
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowDown');
  const scale = panel.locator('svg[data-scale]');
  const before = await scale.boundingBox();
  await panel.locator('svg[data-scale]').evaluate((svg) => {
    if (svg.parentElement) svg.parentElement.scrollTop = 40;
  });
  await expect.poll(async () => (await scale.boundingBox())?.y).toBe(before?.y);
  await page.keyboard.press('Home');
  // One line alone leaves the page its room; pieces have their names.
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('main', { name: 'Floor' }).waitFor();
  await page.keyboard.press('a');
  await page.getByLabel('Instrument').selectOption({ label: 'Drum kit' });
  await expect(bench.player('Drum kit')).toBeVisible();
  await expect.poll(height).toBeLessThan(five - 40);
  await page.getByRole('button', { name: /^Split into/ }).click();
  await expect(panel.getByText('BD', { exact: true })).toBeVisible();
});

test('what is pressed is as large as a finger, and two fingers zoom without an error', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({
    baseURL: baseURL ?? '',
    serviceWorkers: 'block',
    hasTouch: true,
    isMobile: true,
    viewport: { width: 1180, height: 820 },
  });
  const page = await context.newPage();
  const bench = new Workbench(page);
  const errors: string[] = [];
  page.on('console', (message) => {
    const text = message.text();
    if (/error|warning/.test(message.type()) && !text.includes('Service Worker')) errors.push(text);
  });
  page.on('pageerror', (error) => errors.push(String(error)));
  await bench.openDemo();
  const small = await page.evaluate(() => {
    const pressed = document.querySelectorAll<HTMLElement>(
      'header button, header select, header a, section[aria-label="Stereo image"] button, section[aria-label="Stereo image"] select, section[aria-label="Stereo image"] summary',
    );
    return [...pressed].flatMap((element) => {
      const { width, height } = element.getBoundingClientRect();
      return width > 0 && height > 0 && height < 39.5
        ? [`${element.getAttribute('aria-label') ?? element.textContent}: ${height}`]
        : [];
    });
  });
  expect(small).toEqual([]);
  // Nothing stands beside the page.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1180);
  const drawing = page.locator('[data-drawing]').first();
  const box = await drawing.boundingBox();
  if (!box) throw new Error('a drawing');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const client = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart: number | null) =>
    client.send('Input.dispatchTouchEvent', {
      type,
      touchPoints:
        apart === null
          ? []
          : [
              { x: x - apart, y, id: 0 },
              { x: x + apart, y, id: 1 },
            ],
    });
  const mark = bench.player('Flute');
  const before = await mark.boundingBox();
  await touch('touchStart', 60);
  for (let apart = 65; apart <= 120; apart += 5) await touch('touchMove', apart);
  await touch('touchEnd', null);
  await expect
    .poll(async () => Math.abs(((await mark.boundingBox())?.x ?? 0) - (before?.x ?? 0)))
    .toBeGreaterThan(5);
  expect(errors).toEqual([]);
  await context.close();
});
