import { readFileSync } from 'node:fs';
import { expect, test } from './workbench';

test('from a template to a finished floor by mouse', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: 'Begin with a template' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add an ensemble' });
  await dialog.getByRole('button', { name: 'Wind quintet' }).click();
  await dialog.getByRole('button', { name: 'Put it on the floor' }).click();
  await expect(dialog).toBeHidden();
  await expect(bench.player('Bassoon')).toBeVisible();
  expect(await bench.imagePercent('Flute')).toBeLessThan(-50);
  expect(await bench.imagePercent('Clarinet')).toBeGreaterThan(50);

  await bench.drag(bench.player('Horn'), 40, 0);
  await page.getByText('Add', { exact: true }).click();
  await page.getByRole('button', { name: 'Column', exact: true }).click();
  await bench.type('Height', '4 m');
  await page.getByRole('button', { name: 'Side', exact: true }).click();
  await expect(
    page.getByRole('group', { name: 'Side view; the audience is at the left' }),
  ).toBeVisible();
  const inSection = page.getByRole('button', { name: /^Main pair · .*, in the section$/ });
  await inSection.click();
  const before = await bench.field('Height').inputValue();
  await bench.drag(inSection, 0, -40);
  await expect(bench.field('Height')).not.toHaveValue(before);
});

test('the same by keyboard alone', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'New session' })).toBeVisible();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'New session' })).toBeVisible();
  // From the name to what it begins with, to the hall, and on.
  for (const field of ['Name', 'Begin with', 'Hall']) {
    await expect(page.getByLabel(field, { exact: true })).toBeFocused();
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('main', { name: 'Floor' })).toBeVisible();
  await page.keyboard.press('e');
  const dialog = page.getByRole('dialog', { name: 'Add an ensemble' });
  await expect(dialog).toBeVisible();
  const reach = async (name: string) => {
    const target = dialog.getByRole('button', { name, exact: true });
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press('Tab');
      if (await target.evaluate((node) => node === document.activeElement)) return;
    }
    throw new Error(`${name} cannot be reached with Tab`);
  };
  await reach('String quartet');
  await page.keyboard.press('Enter');
  await reach('Put it on the floor');
  await page.keyboard.press('Enter');
  await expect(bench.player('Cello')).toBeVisible();
  // All four are chosen: the arrow keys move them together.
  await page.keyboard.press('Tab');
  for (let i = 0; i < 60; i++) {
    if (await bench.player('Violin I').evaluate((mark) => mark === document.activeElement)) break;
    await page.keyboard.press('Tab');
  }
  const images = await bench.allImages();
  await page.keyboard.press('Shift+ArrowUp');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(() => bench.allImages()).not.toBe(images);
  // Presses in a row are one step.
  await page.keyboard.press('Control+z');
  expect(await bench.allImages()).toBe(images);
});

test('a choir arc: radius from arc length and angle, fall-off of its ends', async ({ bench }) => {
  const { page } = bench;
  await page.goto('/');
  await page.getByRole('button', { name: 'New session' }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: 'Arc or rows' }).click();
  await bench.type('From player to player', '75 cm');
  await bench.type('Opening angle', '140');
  // 16 places of 0.75 m over 140° in radians.
  await expect(bench.readout('Front radius')).toHaveText('4.91 m');
  await bench.type('Front middle, upstage', '4.411 m');
  // The pair stands 0.5 m before the datum: the arc's own centre on the plan, so no fall-off.
  await expect(bench.readout('Ends at Main pair')).toHaveText(/^[−+]?0\.0 dB, 0\.0 ms$/);
  // Straight: ends at √(4.911² + 5.625² + Δz²), middle at √(4.911² + Δz²), Δz = 2.7 − 1.55.
  const middle = Math.hypot(4.911, 1.15);
  const end = Math.hypot(4.911, 5.625, 1.15);
  await expect(bench.readout('The same as a straight row')).toHaveText(
    `−${(20 * Math.log10(end / middle)).toFixed(1)} dB, ${(((end - middle) / 343.2) * 1000).toFixed(1)} ms`,
  );
  await page.getByRole('button', { name: 'Put it on the floor' }).click();
  await expect(page.getByRole('button', { name: /^Choir \d+, / })).toHaveCount(16);

  // All are chosen: the section's figures stand in the inspector and seat them anew.
  await bench.type('Players', '20');
  await expect(page.getByRole('button', { name: /^Choir \d+, / })).toHaveCount(20);
  await bench.type('Players', '1.5');
  await expect(page.getByRole('alert')).toHaveText(/Players: Allowed: a whole number from 1/);
});

test('a wish that is not kept is marked on the floor and found by the checks', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await expect(bench.player('Bassoon 1')).not.toHaveAccessibleName(/wish/);
  await bench.player('Clarinet 1').click();
  await page.getByRole('button', { name: 'Stays near …' }).click();
  await page.getByLabel('Stays near', { exact: true }).selectOption('Flute');
  await expect(bench.player('Clarinet 1')).toHaveAccessibleName(/a wish is not kept$/);
  await bench.go('checks');
  await expect(
    bench.findings(/Clarinet 1 wants to be within 1\.50 m of Flute; it is 4\.20 m\./),
  ).toHaveCount(1);
  await bench.go('floor');
  await bench.player('Clarinet 1').click();
  await bench.type('within', '5 m');
  await expect(bench.player('Clarinet 1')).not.toHaveAccessibleName(/wish/);
});

test('several at once: select with Shift, align, mirror, copy, paste', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.player('Oboe 1').click();
  await bench.player('Clarinet 1').click({ modifiers: ['Shift'] });
  const inspector = page.getByRole('complementary', { name: 'Inspector' });
  await expect(inspector.getByRole('heading', { name: '2 selected' })).toBeVisible();
  // √(3.85² + 0.95²) = 3.97 m; heights differ by 10 cm.
  await expect(bench.readout('Oboe 1 to Clarinet 1')).toHaveText(/^3\.97 m · .*11\.5\d ms$/);
  await page.getByRole('button', { name: 'In a row' }).click();
  await bench.player('Oboe 1').click();
  await expect(bench.field('Upstage of edge')).toHaveValue('1.975');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await expect(bench.player('Oboe 3')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(bench.player('Oboe 3')).toHaveCount(0);
  await page.keyboard.press('Control+a');
  await expect(inspector.getByRole('heading', { name: '9 selected' })).toBeVisible();
  const before = await bench.imagePercent('Flute');
  await page.getByRole('button', { name: 'Mirror', exact: true }).click();
  expect(await bench.imagePercent('Flute')).toBe(-before);
});

test('a hundred steps back restore the session exactly', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  const before = await bench.allImages();
  await bench.player('Horn 1').focus();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Shift+Tab');
  for (let i = 0; i < 100; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(() => bench.allImages()).not.toBe(before);
  await expect(bench.field('Right of centre')).toHaveValue('0.05');
  for (let i = 0; i < 100; i++) await page.keyboard.press('Control+z');
  expect(await bench.allImages()).toBe(before);
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('the tape reads distance and time between two players', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  await page.keyboard.press('m');
  await bench.player('Flute').click();
  await bench.player('Clarinet 1').click();
  await expect(page.getByText(/^4\.20 m · straight 4\.22 m · 12\.\d\d ms$/)).toBeVisible();
});

test('a dragged player settles on the mirror of another, and says so', async ({ bench }) => {
  const { page } = bench;
  await bench.openDemo();
  const own = await bench.player('Horn 2').boundingBox();
  const twin = await bench.player('Horn 1').boundingBox();
  if (!own || !twin) throw new Error('no marks');
  // Beside the place opposite Oboe 2: 1.2 m right of centre, 3.2 m upstage; a metre is known
  // from the horns, which stand 1.9 m apart.
  const metre = (own.x - twin.x) / 1.9;
  const [x, y] = [own.x + own.width / 2, own.y + own.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 10, y + 10);
  await page.mouse.move(x + 0.25 * metre + 3, y + 1.3 * metre - 3, { steps: 4 });
  await expect(page.getByText(/^mirror of Oboe 2$/)).toBeVisible();
  await page.mouse.up();
  await expect(bench.field('Right of centre')).toHaveValue('1.20');
  await expect(bench.field('Upstage of edge')).toHaveValue('3.20');
});

test('a picture of the floor plan is scaled by two points; a broken one changes nothing', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  const file = page.getByLabel('Picture of the floor plan', { exact: true });
  await file.setInputFiles({
    name: 'broken.png',
    mimeType: 'image/png',
    buffer: Buffer.from('this is no picture'),
  });
  await expect(page.getByText(/broken\.png: .*Allowed: a PNG, JPEG or SVG/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();

  // Ten megabytes and 8000 px wide: scaled down, not refused.
  const plan = `<svg xmlns="http://www.w3.org/2000/svg" width="8000" height="4000"><!--${'x'.repeat(1e7)}--><rect width="8000" height="4000" fill="#eee"/><path d="M1000 3000H7000" stroke="#000"/></svg>`;
  await file.setInputFiles({
    name: 'plan.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(plan),
  });
  await expect(page.getByText(/^Click two points of the picture/)).toBeVisible();
  const ground = page.getByRole('group', { name: /^Plan, seen from above/ });
  await ground.click({ position: { x: 300, y: 500 } });
  await ground.click({ position: { x: 500, y: 500 } });
  const picture = page.locator('image');
  const before = (await picture.boundingBox())?.width ?? 0;
  const now = Number(await bench.field('Real distance between them').inputValue());
  await bench.type('Real distance between them', `${now * 2} m`);
  await expect.poll(async () => (await picture.boundingBox())?.width).toBeCloseTo(before * 2, -1);
  await bench.saved();
  await page.reload();
  await expect(picture).toBeVisible();
  const size = await picture.evaluate((node) => {
    const image = new Image();
    image.src = node.getAttribute('href') ?? '';
    return image.decode().then(() => [image.naturalWidth, image.naturalHeight, image.src.length]);
  });
  expect(size.slice(0, 2)).toEqual([2200, 1100]);
  expect(size[2]).toBeLessThan(2e6);
});

test('five hundred players stay usable', async ({ bench }) => {
  const { page } = bench;
  const sources = Array.from({ length: 500 }, (_, i) => ({
    id: `s${i}`,
    name: `Singer ${i + 1}`,
    group: `Block ${1 + (i % 10)}`,
    x: -10 + (20 * (i % 50)) / 49,
    y: 3 + Math.floor(i / 50),
  }));
  const session = { format: 'rotunda-session', version: 1, id: 'big', title: 'Big', sources };
  await page.goto('/');
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  await (
    await choosing
  ).setFiles({
    name: 'big.rotunda.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify({ ...session, arrays: [{ id: 'm', name: 'Main pair' }] })),
  });
  await expect(bench.player('Singer 500')).toBeVisible();
  const before = await bench.imageText('Singer 460');
  await bench.drag(bench.player('Singer 460'), 120, 0);
  await expect.poll(() => bench.imageText('Singer 460')).not.toBe(before);
});

test('the floor table goes out as CSV with the figures of the page', async ({ bench }) => {
  await bench.openDemo();
  await bench.page.getByRole('button', { name: 'Table', exact: true }).click();
  const saved = await bench.download(() =>
    bench.page.getByRole('button', { name: 'Save as CSV' }).click(),
  );
  expect(saved.name).toMatch(/floor\.csv$/);
  const [head, flute] = readFileSync(saved.path, 'utf8').split('\r\n');
  expect(head).toMatch(/^player,section,right of centre m/);
  const image = Number(flute?.split(',').at(-1));
  expect(Math.round(image)).toBe(await bench.imagePercent('Flute'));
});

test('microphones for one instrument are put up for it alone, with the reason', async ({
  bench,
}) => {
  const { page } = bench;
  await bench.openDemo();
  await bench.player('Clarinet 1').click();
  await page.getByLabel('Microphones for it').selectOption('In a band: one large one');
  await expect(page.getByText(/body of the sound, without the room/)).toBeVisible();
  await page.getByRole('button', { name: 'Put them up for Clarinet 1' }).click();
  await expect(page.getByRole('heading', { name: 'Clarinet 1 spot' })).toBeVisible();
  await expect(page.getByRole('checkbox', { name: 'Clarinet 1', exact: true })).toBeChecked();
  await expect(page.getByRole('checkbox', { name: 'Clarinet 2', exact: true })).not.toBeChecked();
  await bench.go('checks');
  await expect(page.getByText(/^Clarinet 1 spot: Clarinet 1 arrives/)).toHaveCount(0);
  // It joins the image of the main pair: delayed, and panned to the player's place.
  await bench.go('rig');
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  const delay = page.getByLabel(/^Delay of Clarinet 1 spot/);
  expect(Number(await delay.inputValue())).toBeGreaterThan(2);
  await expect(page.getByLabel(/^Pan of Clarinet 1 spot/)).toHaveValue(/^\d+ % R$/);
  await page.keyboard.press('Control+z');
  await expect(delay).toHaveCount(0);
});
